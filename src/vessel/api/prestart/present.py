"""What is done before anything is switched on, as a view."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

from vessel.api.choices import ChoiceView
from vessel.api.prestart.views import BeforeView, CheckGroupView, CheckView, HitView, NoiseView, PassiveView
from vessel.api.retyped_text import length_typed
from vessel.core.model.pre_start import SOURCE_LABEL
from vessel.core.prestart.checks_and_noise import (
    ITEMS,
    FrequencyNoise,
    Group,
    Met,
    Readiness,
    against_plan,
    noise_advice,
    noise_here,
    passive_text,
    readiness,
)
from vessel.core.text.figures import show_hz, show_ma
from vessel.core.text.route_text import show_route
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_of
from vessel.formats.before_doc import BeforeDoc, ambients_of, before_doc, checks_of, passive_of
from vessel.formats.site_plan import site_plan_of
from vessel.store.tables import JobRow

_TITLE: dict[Group, str] = {"safety": "Safety sheet", "function": "Function check"}


def readiness_of(job: JobRow) -> Readiness:
    """Return how far the sheet of a stored job is."""
    return readiness(checks_of(before_doc(job)))


def count_text(r: Readiness) -> str:
    """Return how far the sheet is, for a button."""
    return f"{r.answered} of {r.asked}"


def before_view(job: JobRow) -> BeforeView:
    """Return everything that is done before on a stored job."""
    doc, units = before_doc(job), cast(Units, job.units)
    r = readiness(checks_of(doc))
    noise = noise_here(kit_of(job.kit.data), ambients_of(doc))
    return BeforeView(
        state=r.state,
        headline=r.headline,
        advice=r.advice,
        groups=[_group(g, doc) for g in _TITLE],
        noise=[_noise(f, doc) for f in noise],
        noise_text=noise_advice(noise),
        passive=_passive(job, doc, units),
    )


def _group(group: Group, doc: BeforeDoc) -> CheckGroupView:
    given = {c.id: c for c in doc.checks}
    checks = []
    for i in (i for i in ITEMS if i.group == group):
        c = given.get(i.id)
        checks.append(
            CheckView(
                id=i.id,
                text=i.text,
                why=i.why,
                otherwise=i.otherwise,
                answer="" if c is None else c.answer,
                note="" if c is None else c.note,
                by="" if c is None else c.technician,
                answered_at="" if c is None else c.answered_at,
            )
        )
    return CheckGroupView(id=group, title=_TITLE[group], checks=checks)


def _noise(f: FrequencyNoise, doc: BeforeDoc) -> NoiseView:
    typed = next((a.typed for a in doc.noise if a.freq_hz == f.freq_hz), {})
    needs = f"a line 1 m down needs {show_ma(f.least_a)}"
    if f.times is not None:
        text = f"{f.times:.1f} times the quiet level: {needs}"
    elif "here" in typed:
        text = f"Kept, not reckoned with: the quiet level is missing. By the kit, {needs}"
    else:
        text = f"Not read. By the kit, {needs}"
    return NoiseView(
        freq_hz=f.freq_hz,
        freq_text=show_hz(f.freq_hz),
        here=typed.get("here", ""),
        quiet=typed.get("quiet", ""),
        noisiness=f.noisiness,
        text=text,
    )


def hits_of(job: JobRow) -> tuple[Met, ...]:
    """Return the passive hits of a stored job against its plan."""
    return against_plan(passive_of(before_doc(job)), site_plan_of(job))


def _hits(met: Sequence[Met], units: Units) -> list[HitView]:
    return [
        HitView(
            source=m.hit.source,
            place="" if m.hit.at is None else show_route([m.hit.at], units=units),
            note=m.hit.note,
            text=m.text(units),
            explained=m.near is not None,
        )
        for m in met
    ]


def _passive(job: JobRow, doc: BeforeDoc, units: Units) -> PassiveView:
    passive, met = passive_of(doc), hits_of(job)
    headline, advice = passive_text(passive, met)
    spacing = passive.spacing_m
    return PassiveView(
        first=passive.first,
        second=passive.second,
        spacing="" if spacing is None else length_typed(None, spacing, quantity="distance", units=units),
        headline=headline,
        advice=advice,
        sources=[ChoiceView(id=s, label=label) for s, label in SOURCE_LABEL.items()],
        hits=_hits(met, units),
    )
