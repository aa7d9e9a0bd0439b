"""Stake advice and what-if for a line."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Query

from vessel.api.job_answers import (
    lines_together,
    plan_of,
)
from vessel.api.requests import REFUSALS, Db, load_line
from vessel.api.what_if.forms import WhatIfForm
from vessel.api.what_if.present import board_view, spots_view, what_if_view
from vessel.api.what_if.views import BoardView, SpotsView, UnknownsView, WhatIfView
from vessel.core.base.cached import remembered
from vessel.core.base.errors import VesselError
from vessel.core.hookup.transmitter_forecast import require_clear_stake, require_place, stake_away_m
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.methods import METHOD_TABLE
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.model.soil import Soil
from vessel.core.plan.close_setups import rivals, sounder
from vessel.core.plan.option_order import in_order
from vessel.core.plan.plan_option import Option
from vessel.core.plan.unknowns import unknowns
from vessel.core.plan.what_if import what_if, without_bonds
from vessel.core.simulate.hookup_places import require_pair
from vessel.core.simulate.stake_spots import spot_at
from vessel.core.text.entry import understand
from vessel.formats.loaded_job import LoadedLine
from vessel.words.what_if_sentences import find_out_text, sounder_text, spot_text, unknown_text

_LEAST_AWAY_M = 0.5
# setups that stay as they are while something is dragged are asked about again and again
_remembered = remembered(64)(what_if)
router = APIRouter(prefix="/api/lines/{line_id}", tags=["what-if"], responses=REFUSALS)


def _planned(line: Line, kit: Kit, form: WhatIfForm) -> Setup:
    at_m = form.position_m if form.planned_position_m is None else form.planned_position_m
    return _setup(line, kit, form, at_m, form.planned_stake_at)


def _setup(line: Line, kit: Kit, form: WhatIfForm, at_m: float, stake_at: tuple[float, float] | None) -> Setup:
    frequency = kit.frequency(form.freq_hz)
    setup = Setup(form.hookup, frequency.freq_hz, form.output_a, usual_stake(kit.lead_m), position_m=at_m)
    setup.require_on(line.length_m)
    require_pair(line, setup.method)
    if stake_at is None or not METHOD_TABLE[form.hookup].connects:
        return setup
    placed = replace(setup, stake_at=stake_at)
    # dragged right up to the hookup it is still an answer, with the reason why not
    away_m = max(stake_away_m(line, placed), _LEAST_AWAY_M)
    return replace(placed, stake=replace(placed.stake, away_m=away_m))


@router.get("/spots")
def spots(line_id: int, db: Db, at_m: Annotated[float, Query(ge=0, le=20000)] = 0.0) -> SpotsView:
    """Return the places for the stake round a hookup at a place along the line."""
    return spots_view(load_line(db, line_id), at_m)


@router.post("/unknowns")
def find_out(line_id: int, form: WhatIfForm, db: Db) -> UnknownsView:
    """Return what is not known of a line and how much it matters to a setup as planned."""
    line = load_line(db, line_id)
    job = line.job
    soil, kit = job.soil, job.kit
    lines, own = lines_together(line)
    setup = _planned(lines[own], kit, form)
    found = unknowns(lines, own, soil, kit, setup, measured=job.measured)
    units, plan = job.units, plan_of(line)
    others = rivals(plan, setup)
    better = sounder(lines, own, soil, kit, setup, others, measured=job.measured, wanted_m=plan.wanted_m)
    return UnknownsView(
        find_out=find_out_text(found),
        each=[unknown_text(u, units) for u in found],
        sound=sounder_text(better, others, units),
    )


@router.post("/what-if")
def ask(line_id: int, form: WhatIfForm, db: Db) -> WhatIfView:
    """Return a setup as planned and as asked; nothing is stored."""
    case = _Case(load_line(db, line_id), form)
    return what_if_view(case.line, case.before(), case.after(), case.units, stake=case.stake, refused=case.refused)


@router.post("/what-if/board")
def board(line_id: int, form: WhatIfForm, db: Db) -> BoardView:
    """Return what else could be set up under the same change; where the stake is dragged to does not matter to it."""
    case = _Case(load_line(db, line_id), form)
    plan = plan_of(case.loaded)
    others = [case.under_change(o.setup) for o in rivals(plan, case.asked)]
    after = case.after()
    ranked = in_order([after, *others], wanted_m=plan.wanted_m, school=case.loaded.job.drawing.school)
    return board_view(ranked, after, case.units)


class _Case:
    """What is asked about a stored line, understood."""

    def __init__(self, loaded: LoadedLine, form: WhatIfForm) -> None:
        self.loaded, self.units = loaded, loaded.job.units
        self.soil, self.kit = loaded.job.soil, loaded.job.kit
        self.together, self.own = lines_together(loaded)
        self.line = self.together[self.own]
        self.planned = _planned(self.line, self.kit, form)
        self.asked = _setup(self.line, self.kit, form, form.position_m, form.stake_at)
        self.stake, self.refused = self._against_stake()
        self.far = FarEnd(form.far) if form.far else None
        self.other_soil, rho = self.soil, form.soil_resistivity
        if rho:
            told = understand(rho, quantity="resistivity", units=self.units, field="soil_resistivity").value
            self.other_soil = Soil(told, self.soil.rel_permittivity)
        self.apart = without_bonds(self.together, form.without_bonds)

    def _against_stake(self) -> tuple[str, bool]:
        """What speaks against the stake, and whether it cannot stand there at all."""
        asked = self.asked
        if not asked.by.connects or asked.stake_at is None:
            return "", False
        try:
            require_place(self.line, asked)
            require_clear_stake(self.line, self.soil, asked)
            self.kit.require_lead(asked.stake.away_m)
        except VesselError as e:
            return str(e), True
        spot = spot_at(self.line, at_m=asked.position_m, stake_at=asked.stake_at)
        return (spot_text(spot, self.units) if spot is not None and spot.against is not None else ""), False

    def before(self) -> Option:
        return _remembered(self.together, self.own, self.soil, self.kit, self.planned)

    def after(self) -> Option:
        return what_if(self.apart, self.own, self.other_soil, self.kit, self.asked, far=self.far)

    def under_change(self, setup: Setup) -> Option:
        return _remembered(self.apart, self.own, self.other_soil, self.kit, setup, far=self.far)
