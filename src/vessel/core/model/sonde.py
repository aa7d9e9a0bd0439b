"""A sonde run: a small transmitter pushed through a pipe on a rod, and what was read over it at each stop."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.special_fields import STOP_FIELDS

Way = Literal["on", "back"]
"""Which way along the line the rod is pushed: on towards its far end, or back towards its near end."""
SondeMode = Literal["", "sonde", "line"]
"""What the receiver took the signal for when it worked out depth; empty if not looked at."""


SONDE_STEPS = ("agreed", "clear", "checked", "zeroed", "mode")
"""Steps before the rod goes in, in their order; their sentences are in `words.sonde_sentences`."""


@dataclass(frozen=True)
class SondeRun:
    """One run: sonde at `freq_hz` [Hz], put in `start_m` along the line [m] and pushed one way.

    `check_m`, `check_signal`: the function check out of the ground, how far from the receiver's lower coil the sonde
    lay [m] and the signal then, at the gain of the run. `fall`: the fall the pipe should have on that way [m/m].
    """

    freq_hz: float
    start_m: float = 0.0
    way: Way = "on"
    check_m: float | None = None
    check_signal: float | None = None
    fall: float | None = None

    def __post_init__(self) -> None:
        require_range(self.freq_hz, low=100, high=500e3, field="freq_hz", name="Frequency", unit="Hz")
        require_range(self.start_m, low=0, high=2e4, field="start_m", name="Entry", unit="m")
        if self.way not in ("on", "back"):
            raise BadInput("no_such_way", field="way", name=self.way)
        if self.check_m is not None:
            require_range(self.check_m, low=0.3, high=10, field="check_m", name="Distance of the check", unit="m")
        if self.check_signal is not None:
            require_range(self.check_signal, low=1e-6, high=1e9, field="check_signal", name="Signal then", unit="")
        if (self.check_m is None) != (self.check_signal is None):
            raise BadInput("half_a_check", field="check_signal" if self.check_signal is None else "check_m")
        if self.fall is not None:
            require_range(self.fall, low=0, high=1, field="fall", name="Fall", unit="m/m")

    @property
    def forward(self) -> int:
        """1 where the rod goes the way distances grow, -1 where it goes back."""
        return 1 if self.way == "on" else -1


@dataclass(frozen=True)
class SondeStop:
    """What was read at one stop; None means not taken, SI.

    `distance_m`, `null_before_m`, `null_after_m`: main peak and the nulls on either side as distances along the line,
    "before" on the side of the line's near end. `rod_m`: rod out since the head left the mouth of the pipe. `signal`
    and the ghost peaks at one gain; `signal_turned` with the receiver turned a quarter. `off_m` to `side`: how far the
    peak lies beside the line as drawn.
    """

    distance_m: float
    rod_m: float | None = None
    null_before_m: float | None = None
    null_after_m: float | None = None
    depth_m: float | None = None
    mode: SondeMode = ""
    signal: float | None = None
    lift_height_m: float | None = None
    depth_lifted_m: float | None = None
    ghost_before: float | None = None
    ghost_after: float | None = None
    signal_turned: float | None = None
    off_m: float | None = None
    side: Literal["left", "right"] = "left"

    def __post_init__(self) -> None:
        for field in STOP_FIELDS:
            field.check(self)
        if self.depth_lifted_m is not None and self.lift_height_m is None:
            raise BadInput("lift_without_height", field="lift_height_m")

    @property
    def nulls_apart_m(self) -> float | None:
        """How far the nulls lie from each other [m], None unless both were found."""
        if self.null_before_m is None or self.null_after_m is None:
            return None
        return abs(self.null_after_m - self.null_before_m)

    @property
    def left_m(self) -> float:
        """How far left of the line as drawn the peak lies [m], right below zero."""
        return (self.off_m or 0.0) * (1 if self.side == "left" else -1)
