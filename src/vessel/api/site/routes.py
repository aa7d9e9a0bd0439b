"""The site plan of a job: read it, save it as a whole, read tracks of a file."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.meanwhile import changed, seen_of, since
from vessel.api.requests import REFUSALS, Db, Saving, get, load_job, stored
from vessel.api.site.findings_views import FoundView
from vessel.api.site.forms import RouteTextForm, SiteForm, TracksForm
from vessel.api.site.merging import BothChanged, merged_plan, merged_routes
from vessel.api.site.plan_findings import found_view
from vessel.api.site.present import site_view, tracks_view
from vessel.api.site.views import RouteUnderstood, SiteView, TracksView
from vessel.core.base.errors import BadInput, VesselError
from vessel.core.hookup.transmitter_forecast import require_sound
from vessel.core.model.drawn_line import check_corners, length_m, snapped
from vessel.core.model.vicinity import MOST_DRAWN
from vessel.core.text.figures import counted, show_length
from vessel.core.text.route_text import Xy, understand_route
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.plan_doc import SitePlanDoc
from vessel.formats.site_plan_doc import plan_doc, route_length_m
from vessel.formats.tracks import read_tracks
from vessel.store.tables import JobRow, LineRow
from vessel.words.refusals import refusal

Corners = tuple[Xy, ...]
router = APIRouter(prefix="/api/jobs/{job_id}/site", tags=["site"], responses=REFUSALS)


@router.get("")
def site(job_id: int, db: Db) -> SiteView:
    """Return the plan of a job."""
    return site_view(load_job(db, job_id), seen=seen_of(db, job_id))


@router.put("")
def save_site(job_id: int, form: SiteForm, db: Saving) -> SiteView:
    """Save the plan as a whole; nothing is stored if any part of it is refused."""
    job = get(db, JobRow, job_id, "job")
    with db.no_autoflush:
        done = _drawn(db, job, form)
    stored(db)
    return site_view(LoadedJob(job), seen=seen_of(db, job_id), done=tuple(done))


@router.post("/consequences")
def consequences_of_site(job_id: int, form: SiteForm, db: Db) -> Consequences:
    """Return which verdicts another plan would alter; nothing is stored."""

    def change(job: JobRow) -> None:
        _drawn(db, job, form)

    return consequences(db, [job_id], change)


def _drawn(db: Db, job: JobRow, form: SiteForm) -> list[str]:
    """Put a plan on a job and return what was moved; raise `BadInput` for one that could not be computed.

    What others drew since the form was filled stays: two plans are put together thing by thing.
    """
    units = cast(Units, job.units)
    corners, document = form.corners(units), form.document(units)
    lines = {line.id: line for line in job.lines if line.deleted_at is None}
    unknown = set(corners) - set(lines)
    if unknown:
        raise BadInput("A route is given for a line not in the job.", field="routes", fix="Load the plan again.")
    points = [(a.name, a.at) for a in document.access]
    done: list[str] = []
    routes: dict[int, Corners] = {}
    for key, (route, _) in corners.items():
        on_plan, where = snapped(route, points)
        routes[key] = tuple(on_plan)
        if where:
            done.append(f"{lines[key].name}: a corner was moved onto {', '.join(where)}.")
    texts = {key: text for key, (_, text) in corners.items()}
    if form.seen is not None:
        document, routes = _put_together(db, job, form.seen, document, routes)
    job.site = document.model_dump(mode="json")
    for line in lines.values():
        route = routes.get(line.id, ())
        if route != _route_of(line):
            line.route = [list(c) for c in route]
            line.typed = {**line.typed, "route": texts.get(line.id, "")}
        if route:
            line.length_m = route_length_m(line)
    _require_computable(LoadedJob(job), [r.line_id for r in form.routes])
    return done


def _route_of(line: LineRow) -> Corners:
    return tuple((float(x), float(y)) for x, y in line.route)


def _put_together(
    db: Db, job: JobRow, seen: int, mine: SitePlanDoc, routes: dict[int, Corners]
) -> tuple[SitePlanDoc, dict[int, Corners]]:
    """A plan and its routes with what others changed since `seen`; raise `ChangedMeanwhile` where both changed one."""
    plans = [r for r in since(db, job.id, seen, kind="jobs") if "site" in r.changes]
    drawn = [r for r in since(db, job.id, seen, kind="lines") if "route" in r.changes]
    if not plans and not drawn:
        return mine, routes
    lines = {line.id: line for line in job.lines if line.deleted_at is None}
    theirs = {k: _route_of(line) or None for k, line in lines.items()}
    base = dict(theirs)
    for r in reversed(drawn):
        if r.entry_id in base:
            base[r.entry_id] = tuple((float(x), float(y)) for x, y in r.changes["route"][0] or ()) or None
    now = plan_doc(job)
    before = SitePlanDoc.model_validate(plans[0].changes["site"][0] or {}) if plans else now
    try:
        own: dict[int, Corners | None] = {k: routes.get(k) for k in lines}
        found = merged_routes(base, own, theirs, {k: line.name for k, line in lines.items()})
        return merged_plan(before, mine, now), {k: route for k, route in found.items() if route}
    except BothChanged as e:
        refusal = changed(db, job, [*plans, *drawn])
        refusal.what = f"You and somebody else both changed {e.name}. {refusal.what}"
        raise refusal from e


def _require_computable(job: LoadedJob, sent: list[int]) -> None:
    """Refuse a plan on which a line of the job could no longer be computed, naming the line and its entry."""
    if job.site is not None and len(job.site.drawn) > MOST_DRAWN:
        raise BadInput(
            f"There are {len(job.site.drawn)} lines and structures on this plan; it holds {MOST_DRAWN}.",
            field="routes",
            fix="Split the job: put the lines of one part of the site into a job of their own.",
        )
    for line in job.drawn:
        try:
            for setup in line.setups:
                setup.setup.require_on(line.row.length_m)
            if line.has_metal:
                require_sound(line.line, job.soil)
        except VesselError as e:
            field = f"routes.{sent.index(line.row.id)}.route"
            message, fix = refusal(e, job.units)
            raise BadInput(f"{line.row.name}: {message}", field=field, fix=fix) from e


@router.post("/understand")
def understand(job_id: int, form: RouteTextForm, db: Db) -> RouteUnderstood:
    """Return how a route's text is understood; never an error, so that it can follow typing and tapping."""
    units = cast(Units, get(db, JobRow, job_id, "job").units)
    try:
        corners = understand_route(form.text, units=units)
        if len(corners) > 1:
            check_corners(corners, what="The route", field="route")
    except VesselError as e:
        message, fix = refusal(e, units)
        return RouteUnderstood(ok=False, corners=[], shown=message, fix=fix)
    return RouteUnderstood(ok=True, corners=list(corners), shown=_route_shown(corners, units), fix="")


def _route_shown(corners: Sequence[Xy], units: Units) -> str:
    """How corners are understood: a route by its legs, a single one as a place, nothing without any."""
    if len(corners) == 1:
        east, north = (show_length(abs(v), units) for v in corners[0])
        x, y = corners[0]
        return f"{east} {'east' if x >= 0 else 'west'}, {north} {'north' if y >= 0 else 'south'}"
    return f"{counted(len(corners) - 1, 'leg')}, {show_length(length_m(corners), units)}" if corners else ""


@router.get("/found")
def found(job_id: int, db: Db) -> FoundView:
    """Return what was found so far, where it lies on the plan."""
    return found_view(load_job(db, job_id))


@router.post("/tracks")
def tracks(job_id: int, form: TracksForm, db: Db) -> TracksView:
    """Read the tracks of a file as routes on this plan; nothing is stored."""
    job = get(db, JobRow, job_id, "job")
    return tracks_view(read_tracks(form.text, system=form.system, origin=plan_doc(job).origin), cast(Units, job.units))
