"""The site plan as a view."""

from __future__ import annotations

from typing import Any

from vessel.api.background.present import background_view
from vessel.api.choices import ChoiceView
from vessel.api.on_the_plan import hits_of
from vessel.api.site.forms import AccessForm, AreaForm, BondForm, RouteForm, SiteForm, StructureForm
from vessel.api.site.views import (
    AccessView,
    DrawnLineView,
    PlacedHitView,
    SiteView,
    ThingView,
    TracksView,
    TrackView,
    UndrawnView,
)
from vessel.core.base.errors import BadInput
from vessel.core.model.construction import preset
from vessel.core.model.drawn_line import Xy
from vessel.core.model.hum import HUMS
from vessel.core.model.line import ACCESS_TICKS
from vessel.core.model.vicinity import MOST_TOGETHER, all_in_one
from vessel.core.plan.frequency_order import SCHOOLS
from vessel.core.signal.layout.line_on_site import assumed
from vessel.core.text.figures import show_length
from vessel.core.text.route_text import show_route, understand_route
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.formats.plan_doc import AccessDoc
from vessel.formats.site_plan_doc import accesses_on
from vessel.formats.tracks import Tracks
from vessel.store.tables import LineRow
from vessel.words.access_sentences import access_text, hum_text
from vessel.words.labels import ACCESS_LABEL, SCHOOL_LABEL, SCHOOL_NOTE
from vessel.words.prestart_sentences import hit_text

_CLOSE_M = 0.02
_LONG_M = 3.0


def _ohm(value: float | None) -> str:
    return "" if value is None else f"{value:g}"


def _place(at: Any, units: Units) -> str:
    return show_route([(float(at[0]), float(at[1]))], units=units)


def _route(line: LineRow, units: Units) -> str:
    """The route as it was typed, if it still means the same; else its corners."""
    corners: list[Xy] = [(float(x), float(y)) for x, y in line.route]
    text = line.typed.get("route", "")
    try:
        told = understand_route(text, units=units)
    except BadInput:
        told = ()
    same = len(told) == len(corners) and all(
        abs(a - b) + abs(c - d) < _CLOSE_M for (a, c), (b, d) in zip(told, corners, strict=True)
    )
    return text if same else show_route(corners, units=units)


def site_typed(job: LoadedJob) -> SiteForm:
    """Return the plan of a job as its form takes it."""
    doc, units = job.drawing, job.units
    return SiteForm(
        routes=[RouteForm(line_id=line.row.id, route=_route(line.row, units)) for line in job.drawn],
        access=[
            AccessForm(
                name=a.name,
                kind=a.kind,
                at=_place(a.at, units),
                **{k: getattr(a, k) for k in ACCESS_TICKS},
                earth=_ohm(a.earth_ohm),
                solenoid=_ohm(a.solenoid_ohm),
                inductance="" if a.solenoid_h is None else f"{1e3 * a.solenoid_h:g}",
            )
            for a in doc.access
        ],
        structures=[
            StructureForm(
                name=s.name,
                preset=s.preset,
                route=show_route(s.corners, units=units),
                depth=f"{s.depth_m:g}m",
                start_earth=_ohm(s.start_earth_ohm),
                end_earth=_ohm(s.end_earth_ohm),
            )
            for s in doc.structures
        ],
        hard=[AreaForm(name=a.name, outline=show_route(a.corners, units=units)) for a in doc.hard],
        dig=show_route(doc.dig, units=units),
        bonds=[BondForm(a=b.a, a_at=f"{b.a_m:g}m", b=b.b, b_at=f"{b.b_m:g}m", ohm=_ohm(b.ohm)) for b in doc.bonds],
        school=doc.school,
        origin=doc.origin,
    )


def _line(loaded: LoadedLine) -> DrawnLineView:
    line, u, units = loaded.row, loaded.utility, loaded.job.units
    low, high = (show_length(d, units, fine=True) for d in (line.depth_min_m, line.depth_max_m))
    return DrawnLineView(
        id=line.id,
        name=line.name,
        hex=u.hex,
        letter=u.letter,
        pattern=u.pattern,
        corners=[(x, y) for x, y in line.route],
        metal=line.construction is not None,
        text=f"{preset(line.preset).label}, {show_length(line.length_m, units)}, {low} to {high} deep",
    )


def point_text(a: AccessDoc, units: Units) -> str:
    """Return an access point of the plan in words."""
    found = access_text(**{k: getattr(a, k) for k in ACCESS_TICKS}, earth_ohm=a.earth_ohm)
    coil = "" if a.solenoid_ohm is None else f", a solenoid of {a.solenoid_ohm:g} ohm in the valve wires"
    hums = f", {hum_text(HUMS[a.kind], units)}" if a.kind in HUMS else ""
    return f"{ACCESS_LABEL[a.kind]}, {found}{coil}{hums}"


def _notices(job: LoadedJob) -> list[str]:
    plan, units = job.site, job.units
    if plan is None:
        return []
    found = []
    for d in assumed(plan):
        depth, at = show_length(d.depth_m, units, fine=True), show_length(0.5 * (d.start_m + d.end_m), units)
        long = d.end_m - d.start_m
        if long > _LONG_M:
            found.append(
                f"{d.line} is drawn on {d.other} for {show_length(long, units)} and is taken to run under it, {depth} "
                "deep: correct a route or the depths."
            )
        else:
            found.append(f"{d.line} is taken to pass under {d.other} at {at}, {depth} deep: depths allow either.")
    if not all_in_one(plan):
        found.append(
            f"There is a lot on this plan: each line is computed with what it is bonded to and with what runs closest, "
            f"{MOST_TOGETHER} in all. Split the job where lines far apart are bonded."
        )
    names = {d.name for d in plan.drawn}
    for b in job.drawing.bonds:
        lost = sorted({b.a, b.b} - names)
        if lost:
            found.append(f"The bond of {b.a} with {b.b} is left out: “{lost[0]}” is not on the plan.")
    return found


def site_view(job: LoadedJob, *, seen: int = 0, done: tuple[str, ...] = ()) -> SiteView:
    """Return the plan of a job; `seen`: the job's newest change, `done` says what saving it changed."""
    units, doc, plan = job.units, job.drawing, job.site
    reach: dict[str, list[str]] = {a.name: [] for a in doc.access}
    for k, line in enumerate(job.drawn):
        if plan is not None:
            for a in accesses_on(plan.drawn[k], doc.access, coils=False):
                reach[a.name].append(line.row.name)
    return SiteView(
        job_id=job.row.id,
        units=units,
        lines=[_line(line) for line in job.drawn],
        structures=[
            ThingView(name=s.name, text=preset(s.preset).label, corners=list(s.corners)) for s in doc.structures
        ],
        access=[
            AccessView(
                name=a.name,
                kind=a.kind,
                at=a.at,
                live=a.live,
                text=point_text(a, units),
                lines=reach[a.name],
                hums_m=HUMS[a.kind].reach_m if a.kind in HUMS else None,
            )
            for a in doc.access
        ],
        hard=[ThingView(name=a.name, text="No stake here", corners=list(a.corners)) for a in doc.hard],
        dig=list(doc.dig),
        hits=[
            PlacedHitView(at=m.hit.at, text=hit_text(m, units), explained=m.near is not None)
            for m in hits_of(job)
            if m.hit.at is not None
        ],
        background=background_view(job.row),
        undrawn=[UndrawnView(id=line.row.id, name=line.row.name) for line in job.lines if not line.row.route],
        notices=[*done, *_notices(job)],
        access_kinds=[ChoiceView(id=k, label=label) for k, label in ACCESS_LABEL.items()],
        schools=[ChoiceView(id=s, label=SCHOOL_LABEL[s], note=SCHOOL_NOTE[s]) for s in SCHOOLS],
        typed=site_typed(job),
        seen=seen,
    )


def tracks_view(found: Tracks, units: Units) -> TracksView:
    """Return imported tracks as routes for the form."""
    return TracksView(
        tracks=[
            TrackView(
                name=t.name,
                route=show_route(t.corners, units=units),
                corners=list(t.corners),
                length_text=show_length(t.length_m, units),
                notice=t.notice,
            )
            for t in found.tracks
        ],
        system=found.system,
        origin=found.origin,
    )
