"""The grid of the passive sweep on the plan, as a view."""

from __future__ import annotations

from vessel.api.prestart.views import GridView, StripView, WayView
from vessel.api.retyped_text import length_typed
from vessel.core.prestart.grid_walk import USUAL_SPACING_M, WAYS, GridWalk, Strip, WayId, grid_walk
from vessel.core.text.units import Units
from vessel.formats.before_doc import WalkedDoc, passive_of
from vessel.formats.loaded_job import LoadedJob, asked_once
from vessel.formats.site_plan_doc import dig_area
from vessel.words.grid_sentences import GRID_LACKS, WAY_HOW, WAY_LABEL, WAY_WHOLE, count_text, strip_text, walked_text


@asked_once
def walk_of(job: LoadedJob) -> GridWalk:
    """Return how far the grid of a stored job is walked."""
    return grid_walk(passive_of(job.pre_start), dig_area(job.drawing))


def grid_view(job: LoadedJob) -> GridView:
    """Return the grid with what is walked of it."""
    walk, doc = walk_of(job), job.pre_start.passive
    lacks = "" if walk.strips else "area" if not job.drawing.dig else "spacing" if doc.spacing_m is None else "closer"
    offered = length_typed(None, USUAL_SPACING_M, quantity="distance", units=job.units) if lacks == "spacing" else ""
    following = walk.next
    return GridView(
        ways=[_way(w, walk, doc.walked, job.units) for w in WAYS],
        next_id="" if following is None else following.id,
        next_text="" if following is None else strip_text(following, job.units),
        next_how="" if following is None else WAY_HOW[following.way],
        lacks=GRID_LACKS[lacks],
        usual_spacing=offered,
    )


def _way(way: WayId, walk: GridWalk, docs: list[WalkedDoc], units: Units) -> WayView:
    ticked, following = walk.whole[WAYS.index(way)], walk.next
    own = [(s, by) for s, by in zip(walk.strips, walk.by, strict=True) if s.way == way]
    return WayView(
        id=way,
        label=(WAY_LABEL if own else WAY_WHOLE)[way],
        done=walk.done(way),
        count_text=count_text(len(own) if ticked else sum(by is not None for _, by in own), len(own)),
        strips=[_strip(s, None if by is None else docs[by], ticked, s == following, units) for s, by in own],
    )


def _strip(s: Strip, by: WalkedDoc | None, ticked: bool, following: bool, units: Units) -> StripView:
    who = "" if by is None else walked_text(by.technician, by.walked_at)
    return StripView(
        id=s.id,
        start=s.start,
        end=s.end,
        walked=ticked or by is not None,
        next=following,
        text=": ".join(t for t in (f"{s.id}, {strip_text(s, units)}", who) if t),
    )
