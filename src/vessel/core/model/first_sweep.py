"""The first sweep: centre lines logged on a circle round the hookup, and those to expect."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.base.errors import BadInput
from vessel.core.model.entry_fields import CANDIDATE_FIELDS

Direction = Literal[-1, 0, 1]
"""Current running away from the hookup (+1) or towards it (-1); 0: the receiver does not tell."""


@dataclass(frozen=True)
class Candidate:
    """A centre line met on the circle, `bearing_deg` from the hookup, with what was read there. SI; None: not taken.

    `seen`: what is to be seen that way, in words. `signal`: reading at locked gain, any unit, the same for all
    candidates of one sweep; `signal_lifted`: the same with the receiver lifted straight up by `lift_m`.
    """

    bearing_deg: float
    current_a: float | None = None
    depth_m: float | None = None
    signal: float | None = None
    direction: Direction = 0
    signal_lifted: float | None = None
    lift_m: float | None = None
    seen: str = ""

    def __post_init__(self) -> None:
        if not -360 <= self.bearing_deg <= 360:
            raise BadInput("bearing_out", field="bearing", degrees=self.bearing_deg)
        for field in CANDIDATE_FIELDS:
            if hasattr(self, field.column):
                field.check(self)
        if self.signal_lifted is not None and not (self.signal and self.lift_m):
            raise BadInput("lifted_signal_alone", field="signal" if not self.signal else "lift_m")


@dataclass(frozen=True)
class OnCircle:
    """Where a line of the site should be met on the circle: bearing [deg], depth and current from low to high. SI.

    `ours`: it is the target line. `outward`: its current's direction as `Direction`, 0 where the cases differ.
    `clear`: least signal against noise over the cases.
    """

    name: str
    ours: bool
    bearing_deg: float
    depth_m: tuple[float, float]
    current_a: tuple[float, float]
    outward: Direction
    clear: float


def turn_deg(a_deg: float, b_deg: float) -> float:
    """Return how far apart two bearings are.

    Args:
        a_deg: One bearing [deg].
        b_deg: The other [deg].

    Returns:
        The angle between them, 0 to 180 [deg].
    """
    return abs((a_deg - b_deg + 180.0) % 360.0 - 180.0)
