"""Stake advice and what-if for a line."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import Annotated, Literal, cast

from fastapi import APIRouter, Query
from pydantic import Field

from vessel.api import views
from vessel.api.compute import lines_together, plan_of, world
from vessel.api.inputs import Form, Typed
from vessel.api.present.what_if import spots_view, what_if_view
from vessel.api.routes import REFUSALS, Db, get
from vessel.core.model.ends import FarEnd
from vessel.core.model.entry import Units, understand
from vessel.core.model.errors import VesselError
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.model.soil import Soil
from vessel.core.plan.hookup import require_clear_stake, require_place, stake_away_m
from vessel.core.plan.options import in_order
from vessel.core.plan.rivals import rivals, sounder
from vessel.core.plan.stake import spot_at
from vessel.core.plan.unknowns import unknowns
from vessel.core.plan.what_if import what_if, without_bonds
from vessel.core.plan.what_if_wording import find_out_text, sounder_text, spot_text, unknown_text
from vessel.formats.site_plan import plan_doc
from vessel.formats.to_core import soil_of
from vessel.store.tables import LineRow

_LEAST_AWAY_M = 0.5
# the setup as planned is asked about again and again while something is dragged
_remembered = lru_cache(maxsize=64)(what_if)
router = APIRouter(prefix="/api/lines/{line_id}", tags=["what-if"], responses=REFUSALS)


class WhatIfForm(Form):
    """A setup and what is thought otherwise: place, stake, soil, far end, bonds away (their numbers on the plan)."""

    hookup: Literal["direct", "clamp", "induction"]
    freq_hz: float
    output_a: float
    position_m: float = 0.0
    planned_position_m: float | None = None
    planned_stake_at: tuple[float, float] | None = None
    stake_at: tuple[float, float] | None = None
    soil_resistivity: Typed = ""
    far: Literal["", "open", "earthed"] = ""
    without_bonds: Annotated[list[int], Field(max_length=50)] = Field(default_factory=list)


def _planned(row: LineRow, form: WhatIfForm) -> Setup:
    at_m = form.position_m if form.planned_position_m is None else form.planned_position_m
    return _setup(row, form, at_m, form.planned_stake_at)


def _setup(row: LineRow, form: WhatIfForm, at_m: float, stake_at: tuple[float, float] | None) -> Setup:
    line, _, kit = world(row)
    frequency = kit.frequency(form.freq_hz)
    setup = Setup(form.hookup, frequency.freq_hz, form.output_a, usual_stake(kit.lead_m), position_m=at_m)
    setup.require_on(line.length_m)
    if stake_at is None or form.hookup != "direct":
        return setup
    placed = replace(setup, stake_at=stake_at)
    # dragged right up to the hookup it is still an answer, with the reason why not
    away_m = max(stake_away_m(line, placed), _LEAST_AWAY_M)
    return replace(placed, stake=replace(placed.stake, away_m=away_m))


@router.get("/spots")
def spots(line_id: int, db: Db, at_m: Annotated[float, Query(ge=0, le=20000)] = 0.0) -> views.SpotsView:
    """Return the places for the stake round a hookup at a place along the line."""
    return spots_view(get(db, LineRow, line_id, "line"), at_m)


@router.post("/unknowns")
def find_out(line_id: int, form: WhatIfForm, db: Db) -> views.UnknownsView:
    """Return what is not known of a line and how much it matters to a setup as planned."""
    row = get(db, LineRow, line_id, "line")
    _, soil, kit = world(row)
    lines, own = lines_together(row)
    setup = _planned(row, form)
    measured = row.job.soil_resistivity_ohm_m is not None
    found = unknowns(lines, own, soil, kit, setup, measured=measured)
    units, plan = cast(Units, row.job.units), plan_of(row)
    others = rivals(plan, setup)
    better = sounder(lines, own, soil, kit, setup, others, measured=measured, wanted_m=plan.wanted_m)
    return views.UnknownsView(
        find_out=find_out_text(found),
        each=[unknown_text(u, units) for u in found],
        sound=sounder_text(better, others, units),
    )


@router.post("/what-if")
def ask(line_id: int, form: WhatIfForm, db: Db) -> views.WhatIfView:
    """Return a setup as planned and as asked, with the best of the others under the same change; nothing is stored."""
    row = get(db, LineRow, line_id, "line")
    line, soil, kit = world(row)
    planned, asked = _planned(row, form), _setup(row, form, form.position_m, form.stake_at)
    other_soil, units = soil, cast(Units, row.job.units)
    stake, refused = "", False
    if asked.method == "direct" and asked.stake_at is not None:
        spot = spot_at(line, at_m=asked.position_m, stake_at=asked.stake_at)
        stake = spot_text(spot, units) if spot is not None and spot.against is not None else ""
        try:
            require_place(line, asked)
            require_clear_stake(line, soil, asked)
            kit.require_lead(asked.stake.away_m)
        except VesselError as e:
            stake, refused = f"{e.message} {e.fix}", True
    if form.soil_resistivity:
        rho = understand(form.soil_resistivity, quantity="resistivity", units=units, field="soil_resistivity").value
        other_soil = Soil(rho, soil_of(row.job).rel_permittivity)
    far = FarEnd(form.far) if form.far else None
    together, own = lines_together(row)
    before = _remembered(together, own, soil, kit, planned)
    apart, plan = without_bonds(together, form.without_bonds), plan_of(row)
    after = what_if(apart, own, other_soil, kit, asked, far=far)
    # while the stake is dragged the others stay as they are
    others = [_remembered(apart, own, other_soil, kit, o.setup, far=far) for o in rivals(plan, asked)]
    board = in_order([after, *others], wanted_m=plan.wanted_m, school=plan_doc(row.job).school)
    return what_if_view(row, line, before, board, after, stake=stake, refused=refused)
