"""The safe order for each hookup, as data."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from vessel.core.model.line import Line
from vessel.core.model.setup import Method, Setup
from vessel.core.signal.layout import lines_beside, square_to, stake_side


@dataclass(frozen=True)
class Step:
    """One step of the safe order; `protects` marks a step that protects a person."""

    id: str
    text: str
    protects: bool = False


_OFF = Step("off", "Transmitter OFF while anything is connected, moved or removed.", True)
_MATCH = Step("match", "Set transmitter and receiver to the same frequency; check both batteries.")
_ON = Step("on", "Transmitter on, lowest output first, then up to the planned step.")
_READ = Step("read", "Read volts and milliamps below before walking away.")

CHECKLISTS: dict[Method, tuple[Step, ...]] = {
    "direct": (
        _OFF,
        Step("dead", "Not a live conductor: the owner's staff isolate and prove dead, or do not connect.", True),
        _MATCH,
        Step(
            "stake",
            "Drive the stake in its own soil, about 90 degrees off the line and away from your walk; not beside "
            "another line, steel or a fence. No lead across another line.",
        ),
        Step("stake_lead", "Stake lead first.", True),
        Step("line_lead", "Scrape the metal bright, then the line lead. Reverse the order to disconnect.", True),
        _ON,
        _READ,
    ),
    "clamp": (
        _OFF,
        Step(
            "insulated",
            "Approach only insulated, undamaged plant; local rules and the owner decide on live lines.",
            True,
        ),
        _MATCH,
        Step("earths", "Check that the line is earthed on both sides of the clamp; the signal ends at the next earth."),
        Step("jaws", "Jaws fully shut round the line, nothing between the faces."),
        _ON,
        _READ,
    ),
    "induction": (
        _OFF,
        _MATCH,
        Step("place", "Transmitter over the line, its axis turned to the line; at 90 degrees it puts on nothing."),
        _ON,
        Step("away", "Walk off beyond the stand-off distance before the first station."),
        Step("air", "Lift the receiver straight up: signal must fall smoothly. Unchanged or rising means air."),
    ),
}


def stake_side_text(line: Line, setup: Setup) -> str:
    """Return on which side the forecast has the stake, empty where nothing beside the line makes a difference."""
    if not lines_beside(line):
        return ""
    if setup.stake_at is not None and line.course is not None:
        here, left = square_to(line, setup.position_m)
        on_left = float((np.asarray(setup.stake_at) - here) @ left) > 0
        return f"on the {'left' if on_left else 'right'} seen along the line, where the site plan has it"
    side = "left" if stake_side(line, setup) > 0 else "right"
    return f"on the {side} seen along the line, the side further from what runs beside it"


def checklist(line: Line, setup: Setup) -> tuple[Step, ...]:
    """Return the steps for a hookup on `line`; a live line gets its own first step, the stake its own side."""
    steps = CHECKLISTS[setup.method]
    where = stake_side_text(line, setup)
    if where:
        steps = tuple(
            replace(s, text=f"{s.text} The forecast has it {where}.") if s.id == "stake" else s for s in steps
        )
    if line.near.live:
        live = Step(
            "live", "LIVE line: touch nothing bare. Clamp or induction only, by people authorised for it.", True
        )
        return (live, *steps)
    return steps
