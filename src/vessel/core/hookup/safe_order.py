"""The safe order for each hookup, as data."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.model.line import Line
from vessel.core.model.methods import Method
from vessel.core.model.setup import Setup
from vessel.core.signal.layout.line_on_site import lines_beside, square_to, stake_side

Part = Literal["", "transmitter", "stake", "stake_lead", "line", "line_lead", "clamp", "coil", "walk"]


@dataclass(frozen=True)
class Step:
    """One step of the safe order; `protects` marks a step that protects a person, `part` what it is done with."""

    id: str
    text: str
    protects: bool = False
    part: Part = ""


_OFF = Step("off", "Transmitter OFF while anything is connected, moved or removed.", True, "transmitter")
_MATCH = Step("match", "Set transmitter and receiver to the same frequency; check both batteries.", part="transmitter")
_ON = Step("on", "Transmitter on, lowest output first, then up to the planned step.", part="transmitter")
_READ = Step("read", "Read volts and milliamps below before walking away.", part="transmitter")

CHECKLISTS: dict[Method, tuple[Step, ...]] = {
    "direct": (
        _OFF,
        Step(
            "dead", "Not a live conductor: the owner's staff isolate and prove dead, or do not connect.", True, "line"
        ),
        _MATCH,
        Step(
            "stake",
            "Drive the stake in its own soil, about 90 degrees off the line and away from your walk; not beside "
            "another line, steel or a fence. No lead across another line.",
            part="stake",
        ),
        Step("stake_lead", "Stake lead first.", True, "stake_lead"),
        Step(
            "line_lead",
            "Scrape the metal bright, then the line lead. Reverse the order to disconnect.",
            True,
            "line_lead",
        ),
        _ON,
        _READ,
    ),
    "clamp": (
        _OFF,
        Step(
            "insulated",
            "Approach only insulated, undamaged plant; local rules and the owner decide on live lines.",
            True,
            "line",
        ),
        _MATCH,
        Step(
            "earths",
            "Check that the line is earthed on both sides of the clamp; the signal ends at the next earth.",
            part="line",
        ),
        Step("jaws", "Jaws fully shut round the line, nothing between the faces.", part="clamp"),
        _ON,
        _READ,
    ),
    "induction": (
        _OFF,
        _MATCH,
        Step(
            "place",
            "Transmitter over the line, its axis turned to the line; at 90 degrees it puts on nothing.",
            part="coil",
        ),
        _ON,
        Step("away", "Walk off beyond the stand-off distance before the first station.", part="walk"),
        Step(
            "air",
            "Lift the receiver straight up: signal must fall smoothly. Unchanged or rising means air.",
            part="walk",
        ),
    ),
}


def blocked(steps: Sequence[Step], done: Sequence[str]) -> dict[str, Step]:
    """Return what must not be done yet: each step's id with the first one before it that protects a person, undone."""
    found: dict[str, Step] = {}
    guard: Step | None = None
    for step in steps:
        if guard is not None:
            found[step.id] = guard
        elif step.protects and step.id not in done:
            guard = step
    return found


def require_order(steps: Sequence[Step], done: Sequence[str]) -> None:
    """Refuse a tick on a step while one before it that protects a person is not done."""
    for step_id, guard in blocked(steps, done).items():
        if step_id in done:
            raise BadInput(
                f"A step is ticked before one that protects you: “{guard.text}”",
                field="steps_done",
                fix="Do that one first, then tick on.",
            )


def stake_on(line: Line, setup: Setup) -> Literal["left", "right"]:
    """Return on which side of the line, seen along it, the forecast has the stake."""
    if setup.stake_at is not None and line.course is not None:
        here, left = square_to(line, setup.position_m)
        return "left" if float((np.asarray(setup.stake_at) - here) @ left) > 0 else "right"
    return "left" if stake_side(line, setup) > 0 else "right"


def stake_side_text(line: Line, setup: Setup) -> str:
    """Return on which side the forecast has the stake, empty where nothing beside the line makes a difference."""
    if not lines_beside(line):
        return ""
    planned = setup.stake_at is not None and line.course is not None
    why = "where the site plan has it" if planned else "the side further from what runs beside it"
    return f"on the {stake_on(line, setup)} seen along the line, {why}"


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
            "live", "LIVE line: touch nothing bare. Clamp or induction only, by people authorised for it.", True, "line"
        )
        return (live, *steps)
    return steps
