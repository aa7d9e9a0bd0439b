"""A hookup as an explanation of its readings has it: the line, the stake, the far end and what else is wrong."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from vessel.core.diagnose.diagnosis import Hypothesis
from vessel.core.diagnose.hypotheses import after
from vessel.core.model.line import Line
from vessel.core.model.readings import Change
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.core.signal.physics.stake_resistance import stake_ohm


@dataclass(frozen=True)
class Explained:
    """The `line` as far as it carries signal and its `setup` as it stands; `far_ohm` [ohm], None: not earthed."""

    line: Line
    setup: Setup
    far_ohm: float | None
    faults: tuple[LineFault, ...] = ()


def explained(h: Hypothesis, line: Line, soil: Soil, setup: Setup, changes: Sequence[Change] = ()) -> Explained:
    """Return a direct connection as one explanation has it after all changes.

    Args:
        h: One explanation of the transmitter readings.
        line: The line to locate.
        soil: Soil of the site.
        setup: Method, place, frequency and output.
        changes: What was changed at the hookup, in order.

    Returns:
        Line and setup with that explanation's far end, stake, fault and soil.
    """
    now = after(h.best, changes, line, far_ohm=h.far_ohm)
    factor = h.stake_factor * (h.stake_left if "stake" in changes else 1.0)
    stake = replace(setup.stake, measured_ohm=stake_ohm(setup.stake, soil) * factor)
    clip_ohm = setup.clip_ohm if now.clip_ohm is None else now.clip_ohm
    return Explained(now.line, replace(setup, stake=stake, clip_ohm=clip_ohm), now.far_ohm, now.faults)
