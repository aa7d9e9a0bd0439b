"""Looking for a ground fault with a two-spike frame: how the cable was made ready, and what was read on the route."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.kit import FRAME_M
from vessel.core.model.special_fields import FRAME_FIELDS

Arrow = Literal["on", "back", "null"]
"""Which way the frame points in line with the route: on towards the far end, back, or neither."""
Across = Literal["", "null", "left", "right"]
"""Which way it points turned across the route; empty where it was not turned."""

FAULT_STEPS = ("dead", "near_off", "far_off", "bonds_off", "stake_off", "lowest")
"""Steps before the walk, in their order; their sentences are in `words.fault_sentences`."""
EARTHS_OFF = ("near_off", "far_off", "bonds_off")
"""Steps that lift every earth: each that stays on is a fault to the frame."""

REF_GAP_M = 0.5
"""The reference is read with the nearer spike so far from the stake, the frame pointing at it [m]."""


@dataclass(frozen=True)
class FaultWalk:
    """One walk with the frame: signal at `freq_hz` [Hz] put on at `start_m` along the line [m].

    `volts`, `amps`: the transmitter's reading of the loop. `frame_m`: distance between the spikes [m]. The stake stands
    `stake_along_m` along the line (below zero: beyond the near end) and `stake_away_m` off it [m]. `reference`: the
    level at the stake. `done`: the steps that are done.
    """

    freq_hz: float
    start_m: float = 0.0
    volts: float | None = None
    amps: float | None = None
    frame_m: float = FRAME_M
    stake_along_m: float = -5.0
    stake_away_m: float = 10.0
    reference: float | None = None
    done: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        require_range(self.freq_hz, low=1, high=500e3, field="freq_hz", name="Frequency", unit="Hz")
        require_range(self.start_m, low=0, high=2e4, field="start_m", name="Connection", unit="m")
        require_range(self.frame_m, low=0.2, high=3, field="frame_m", name="Distance between the spikes", unit="m")
        require_range(self.stake_along_m, low=-200, high=2e4, field="stake_along_m", name="Stake", unit="m")
        require_range(self.stake_away_m, low=0.5, high=500, field="stake_away_m", name="Stake distance", unit="m")
        for field, value, high in (
            ("volts", self.volts, 5000.0),
            ("amps", self.amps, 10.0),
            ("reference", self.reference, 1e9),
        ):
            if value is not None:
                require_range(value, low=1e-6, high=high, field=field, name=field.capitalize(), unit="")
        if (self.volts is None) != (self.amps is None):
            raise BadInput("half_a_loop", field="amps" if self.amps is None else "volts")

    @property
    def ohms(self) -> float | None:
        """The loop as the transmitter shows it [ohm], None where it was not read."""
        return None if self.volts is None or self.amps is None else self.volts / self.amps

    @property
    def earths_on(self) -> int:
        """How many of the steps that lift an earth are not done."""
        return sum(step not in self.done for step in EARTHS_OFF)


@dataclass(frozen=True)
class FrameReading:
    """What the frame showed `distance_m` along the line [m]: which way, its level, and which way turned across."""

    distance_m: float
    arrow: Arrow
    level: float | None = None
    across: Across = ""

    def __post_init__(self) -> None:
        for field in FRAME_FIELDS:
            field.check(self)

    @property
    def sign(self) -> int:
        """1 where it points on, -1 back, 0 neither."""
        return {"on": 1, "back": -1, "null": 0}[self.arrow]
