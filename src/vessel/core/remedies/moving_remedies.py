"""What would help moving induction: other frequencies and distances apart, each walked in the model."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.moving_induction import ways_of_moving
from vessel.core.remedies.remedy_search import WORTH
from vessel.core.simulate.forecast import Moving
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.solved_world import World


@dataclass(frozen=True)
class MovingRemedies:
    """Moving induction as it is walked `now`, and other ways to walk it that would gain something, best first.

    `wanted_m`: length to be located [m].
    """

    wanted_m: float
    now: Moving
    helping: tuple[Moving, ...]
    useless: tuple[Moving, ...]


def moving_remedies(lines: Sequence[Line], own: int, soil: Soil, kit: Kit, setup: Setup) -> MovingRemedies:
    """Return what another frequency or distance apart would do for moving induction.

    Args:
        lines: Lines that share one site plan.
        own: Index of the line in question among `lines`.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Moving induction as it is walked; its `apart_m` is set.

    Returns:
        The best of each frequency, against what is walked now.
    """
    line, apart_m = lines[own], setup.apart_m or 0.0
    sim = Simulator(line, World(lines if line.course is not None else [line], soil, kit))
    walked = ways_of_moving(sim, (setup.freq_hz, apart_m))
    now = walked.pop((setup.freq_hz, apart_m))
    wanted_m = sum(b - a for a, b in line.wanted_m)
    best: dict[float, Moving] = {}
    for m in sorted(walked.values(), key=lambda m: (-round(m.proved_m), -m.plain_m)):
        best.setdefault(m.freq_hz, m)
    helping = [m for m in best.values() if m.proved_m - now.proved_m >= WORTH * wanted_m]
    return MovingRemedies(wanted_m, now, tuple(helping), tuple(m for m in best.values() if m not in helping))
