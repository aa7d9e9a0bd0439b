"""The safe order for each hookup, as data."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.model.identity import EvidenceId, LineEnd
from vessel.core.model.line import Line
from vessel.core.model.methods import Method
from vessel.core.model.opened_bonds import drawn_bonds
from vessel.core.model.setup import Setup
from vessel.core.signal.layout.placed_hookup import square_to, stake_side

Part = Literal["", "transmitter", "stake", "stake_lead", "line", "line_lead", "clamp", "coil", "walk"]


@dataclass(frozen=True)
class Step:
    """One step of the safe order; `protects` marks a step that protects a person, `part` what it is done with.

    `asks`: what is answered instead of ticked; None: it is ticked. Its words are in `words.safe_order_sentences`.
    """

    id: str
    protects: bool = False
    part: Part = ""
    asks: EvidenceId | None = None


_OFF = Step("off", True, "transmitter")
_LOOK = Step("look", part="line", asks="access")
"""What shows best which line it is, and costs least: a look at what else is connected, before a lead goes on."""
_MATCH, _ON, _READ = (Step(name, part="transmitter") for name in ("match", "on", "read"))

CHECKLISTS: dict[Method, tuple[Step, ...]] = {
    "direct": (
        _OFF,
        Step("dead", True, "line"),
        _LOOK,
        _MATCH,
        Step("stake", part="stake"),
        Step("stake_lead", True, "stake_lead"),
        Step("line_lead", True, "line_lead"),
        _ON,
        _READ,
    ),
    "clamp": (
        _OFF,
        Step("insulated", True, "line"),
        _LOOK,
        _MATCH,
        Step("earths", part="line"),
        Step("jaws", part="clamp"),
        _ON,
        _READ,
    ),
    "pair": (
        _OFF,
        Step("dead", True, "line"),
        Step("both_ends", True, "line"),
        _MATCH,
        Step("far_joined", part="line"),
        Step("both_leads", True, "line_lead"),
        _ON,
        _READ,
    ),
    "induction": (
        _OFF,
        _MATCH,
        Step("place", part="coil"),
        _ON,
        Step("away", part="walk"),
        Step("air", part="walk"),
    ),
}

_CONTROLLER = Step("controller", True, "line")
_BONDS_KEPT: dict[LineEnd, Step] = {
    "far": Step("far_bond_kept", True, "line"),
    "here": Step("bond_kept", True, "line"),
}
_MOVING = (_OFF, _MATCH, Step("place", part="coil"), _ON, Step("carry", part="walk"), Step("air", part="walk"))
"""The order of moving induction: the coil is carried along instead of left behind."""


def blocked(steps: Sequence[Step], done: Sequence[str]) -> dict[str, Step]:
    """Return the steps that must not be done yet.

    Args:
        steps: All steps, in order.
        done: Ids of steps that are done.

    Returns:
        By id of a blocked step: the first undone step before it that protects a person.
    """
    found: dict[str, Step] = {}
    guard: Step | None = None
    for step in steps:
        if guard is not None:
            found[step.id] = guard
        elif step.protects and step.id not in done:
            guard = step
    return found


def require_order(steps: Sequence[Step], done: Sequence[str]) -> None:
    """Check that a step's protecting steps are done first.

    Args:
        steps: All steps, in order.
        done: Ids of the steps that would be done.

    Raises:
        BadInput: If a step is ticked while one before it that protects a person is not done.
    """
    for step_id, guard in blocked(steps, done).items():
        if step_id in done:
            raise BadInput("step_before_guard", field="steps_done", guard=guard.id)


def receiver_set(
    freq_hz: float, rx_freq_hz: float | None, *, before: Sequence[str], after: Sequence[str]
) -> float | None:
    """Return what the receiver is set to once steps were ticked or taken back.

    Ticking that both were set alike says so, unless another frequency was read off it; taking that back leaves it
    unchecked.

    Args:
        freq_hz: The transmitter's frequency [Hz].
        rx_freq_hz: What the receiver was known to be set to [Hz]; None if not checked.
        before: Ids of the steps that were done.
        after: Ids of the steps done now.

    Returns:
        Frequency [Hz]; None if not checked.
    """
    if (_MATCH.id in before) == (_MATCH.id in after):
        return rx_freq_hz
    if _MATCH.id in after:
        return freq_hz if rx_freq_hz is None else rx_freq_hz
    return None if rx_freq_hz == freq_hz else rx_freq_hz


def stake_on(line: Line, setup: Setup) -> Literal["left", "right"]:
    """Return the side of the line on which the forecast has the stake.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.

    Returns:
        Left or right, looking along the line.
    """
    if setup.stake_at is not None and line.course is not None:
        here, left = square_to(line, setup.position_m)
        return "left" if float((np.asarray(setup.stake_at) - here) @ left) > 0 else "right"
    return "left" if stake_side(line, setup) > 0 else "right"


def checklist(line: Line, setup: Setup, *, bonds_open: Collection[LineEnd] = ()) -> tuple[Step, ...]:
    """Return the steps for a hookup in their safe order.

    A live line gets a first step of its own; wires of a controller are lifted off it before a lead goes on; a bond that
    is kept open is opened as soon as the line may be touched. Where a bond is entered no look for one is asked.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.
        bonds_open: The ends of the line at which what else is connected is kept off it while it is traced.

    Returns:
        Steps in order.
    """
    steps = _MOVING if setup.moving else CHECKLISTS[setup.method]
    if setup.by.touches and (line.controlled or line.solenoids):
        steps = _after("dead", _CONTROLLER, steps)
    for end, step in _BONDS_KEPT.items():
        if end in bonds_open:
            steps = _after("look", step, steps)
    if "here" in drawn_bonds(line, setup):
        steps = tuple(step for step in steps if step is not _LOOK)
    return (Step("live", True, "line"), *steps) if line.near.live else steps


def _after(name: str, step: Step, steps: Sequence[Step]) -> tuple[Step, ...]:
    at = 1 + next((k for k, s in enumerate(steps) if s.id == name), 0)
    return (*steps[:at], step, *steps[at:])
