"""Stake advice and what-if as views."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from vessel.api.plan.present import forecast_views, option_key
from vessel.api.what_if.views import BoardRow, BoardView, BondChoice, SpotsView, SpotView, WhatIfView
from vessel.core.model.line import Line
from vessel.core.model.network import Bond
from vessel.core.plan.plan_option import Option
from vessel.core.signal.layout.placed_hookup import hookup_on, square_to
from vessel.core.simulate.stake_spots import Spot, spots
from vessel.core.text.figures import show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedLine
from vessel.words.labels import METHOD_LABEL
from vessel.words.what_if_sentences import board_text, change_text, spot_advice, spot_text
from vessel.words.work_sentences import place_text, setup_words


def _spot(s: Spot, best: Sequence[Spot], units: Units) -> SpotView:
    return SpotView(at=s.at, ok=s.against is None, best=s in best[:1], text=spot_text(s, units))


def spots_view(loaded: LoadedLine, at_m: float) -> SpotsView:
    """Return the places for the stake round a hookup of a stored line."""
    line, units = loaded.line, loaded.job.units
    here, _ = square_to(line, at_m)
    found = spots(line, at_m=at_m, lead_m=loaded.job.kit.lead_m)
    best = [s for s in found if s.against is None]
    return SpotsView(
        here=(float(here[0]), float(here[1])),
        spots=[_spot(s, best, units) for s in found],
        advice=spot_advice(found, units),
    )


def _bond(b: Bond, units: Units) -> str:
    ends = [
        name if at_m == 0 else f"{name} ({show_length(at_m, units)})" for name, at_m in ((b.a, b.a_m), (b.b, b.b_m))
    ]
    return " – ".join(ends)


def _row(o: Option, role: Literal["planned", "asked", "rival"], units: Units) -> BoardRow:
    return BoardRow(
        key=f"{role}-{option_key(o)}",
        role=role,
        hookup_label=METHOD_LABEL[o.setup.method],
        freq_text=show_hz(o.setup.freq_hz),
        output_text=show_ma(o.setup.output_a),
        place_text=place_text(o, units),
        forecasts=forecast_views(o, units),
    )


def board_view(ranked: Sequence[Option], asked: Option, units: Units) -> BoardView:
    """Return what `asked` stands against, the best first, and whether one of them is now better."""
    rows = [_row(o, "rival", units) for o in ranked if o is not asked]
    return BoardView(rows=rows, text=board_text(ranked, asked, units))


def what_if_view(line: Line, planned: Option, asked: Option, units: Units, *, stake: str, refused: bool) -> WhatIfView:
    """Return a setup as planned and as asked.

    `stake` says what speaks against the stake, empty if nothing; `refused`: it cannot stand there.
    """
    drawn = line.course is not None
    hookup = hookup_on(line, asked.setup)
    plan = None if line.course is None else line.course.plan
    return WhatIfView(
        hookup=asked.setup.method,
        title=f"{place_text(asked, units)}, {setup_words(asked.setup)}",
        board=[_row(planned, "planned", units), _row(asked, "asked", units)],
        change_text=change_text(planned, asked, units),
        stake_text=stake,
        refused=refused,
        here=hookup.coil_at if drawn else None,
        stake_at=hookup.stake_at if drawn and asked.setup.by.connects else None,
        bonds=[BondChoice(index=k, text=_bond(b, units)) for k, b in enumerate([] if plan is None else plan.bonds)],
    )
