"""What is done before anything is switched on, as a view."""

from __future__ import annotations

from vessel.api.choices import ChoiceView
from vessel.api.on_the_plan import hits_of
from vessel.api.prestart.grid_view import grid_view, walk_of
from vessel.api.prestart.views import BeforeView, CheckGroupView, CheckView, HitLine, HitView, NoiseView, PassiveView
from vessel.api.retyped_text import length_typed
from vessel.core.prestart.checks_and_noise import (
    ITEMS,
    FrequencyNoise,
    Group,
    Met,
    Readiness,
    noise_here,
    readiness,
)
from vessel.core.text.figures import show_hz, show_ma
from vessel.core.text.route_text import show_route
from vessel.core.text.units import Units
from vessel.formats.before_doc import BeforeDoc, ambients_of, checks_of, passive_of
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.plan_doc import known_points
from vessel.words.prestart_sentences import (
    CHECK_WORDS,
    GROUP_TITLE,
    PASSIVE_CAUTION,
    SOURCE_LABEL,
    hit_text,
    noise_advice,
    noise_text,
    passive_text,
    readiness_text,
)


def readiness_of(job: LoadedJob) -> Readiness:
    """Return how far the sheet of a stored job is."""
    return readiness(checks_of(job.pre_start))


def count_text(r: Readiness) -> str:
    """Return how far the sheet is, for a button."""
    return f"{r.answered} of {r.asked}"


def before_view(job: LoadedJob) -> BeforeView:
    """Return everything that is done before on a stored job."""
    doc = job.pre_start
    r = readiness(checks_of(doc))
    headline, advice = readiness_text(r)
    noise = noise_here(job.stock_kit, ambients_of(doc))
    return BeforeView(
        state=r.state,
        headline=headline,
        advice=advice,
        groups=[_group(g, doc) for g in GROUP_TITLE],
        noise=[_noise(f, doc) for f in noise],
        noise_text=noise_advice(noise),
        passive=_passive(job, doc),
    )


def _group(group: Group, doc: BeforeDoc) -> CheckGroupView:
    given = {c.id: c for c in doc.checks}
    checks = []
    for i in (i for i in ITEMS if i.group == group):
        c = given.get(i.id)
        checks.append(
            CheckView(
                id=i.id,
                text=CHECK_WORDS[i.id].text,
                why=CHECK_WORDS[i.id].why,
                otherwise=CHECK_WORDS[i.id].otherwise,
                answer="" if c is None else c.answer,
                note="" if c is None else c.note,
                by="" if c is None else c.technician,
                answered_at="" if c is None else c.answered_at,
            )
        )
    return CheckGroupView(id=group, title=GROUP_TITLE[group], checks=checks)


def _noise(f: FrequencyNoise, doc: BeforeDoc) -> NoiseView:
    typed = next((a.typed for a in doc.noise if a.freq_hz == f.freq_hz), {})
    text = noise_text(f, show_ma(f.least_a), typed="here" in typed)
    return NoiseView(
        freq_hz=f.freq_hz,
        freq_text=show_hz(f.freq_hz),
        here=typed.get("here", ""),
        quiet=typed.get("quiet", ""),
        noisiness=f.noisiness,
        text=text,
    )


def _hit(m: Met, units: Units) -> HitView:
    place = "" if m.hit.at is None else show_route([m.hit.at], units=units)
    mains = m.hit.source == "mains"
    return HitView(
        source=m.hit.source,
        place=place,
        note=m.hit.note,
        text=hit_text(m, units),
        explained=m.near is not None,
        line=HitLine(
            name=f"Unknown, {SOURCE_LABEL[m.hit.source].lower()}",
            utility="power" if mains else "unknown",
            preset="armoured_cable" if mains else "coated_steel_pipe",
            live=mains,
            bare_metal=False,
            near_note=": ".join(t for t in (f"Passive hit at {place}", m.hit.note) if t),
        ),
    )


def _passive(job: LoadedJob, doc: BeforeDoc) -> PassiveView:
    passive, met = passive_of(doc), hits_of(job)
    headline, advice = passive_text(walk_of(job), met)
    spacing = passive.spacing_m
    return PassiveView(
        spacing="" if spacing is None else length_typed(None, spacing, quantity="distance", units=job.units),
        grid=grid_view(job),
        headline=headline,
        advice=advice,
        caution=PASSIVE_CAUTION,
        sources=[ChoiceView(id=s, label=label) for s, label in SOURCE_LABEL.items()],
        points=list(known_points(job.drawing)),
        hits=[_hit(m, job.units) for m in met],
    )
