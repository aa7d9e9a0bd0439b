"""What was read: at the transmitter and at a station."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import fsum, sqrt
from statistics import median
from typing import Any, Literal

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.entry_fields import READING_FIELDS, STATION_FIELDS

Change = Literal["stake", "clip", "far", "bond"]
"""What is done to a hookup between readings: stake deeper or wetter, clip cleaned, far end earthed, bond opened."""


Beside = Literal["", "quiet", "carries"]
"""Whether lines beside were seen to carry much of a line's current where a bond could be; empty if not read."""

Heading = Literal["", "away", "towards"]
"""Which way the current of a line runs, seen from the hookup; empty if it was not read."""


@dataclass(frozen=True)
class TransmitterReading:
    """Volts [V] and current [A] shown by the transmitter at `freq_hz` [Hz], after all of `changes` were made.

    `beside`: what the receiver found on the lines beside then.
    """

    volts: float
    amps: float
    freq_hz: float
    changes: tuple[Change, ...] = ()
    beside: Beside = ""

    def __post_init__(self) -> None:
        if self.amps < 0:
            raise BadInput("current_below_zero", field="milliamps")
        if self.amps == 0:
            raise BadInput("reads_nothing", field="milliamps")
        for field in READING_FIELDS:
            if hasattr(self, field.column):
                field.check(self)

    @property
    def ohms(self) -> float:
        """Magnitude of the loop impedance as the transmitter shows it [ohm]."""
        return self.volts / self.amps


def last_at(readings: Sequence[TransmitterReading], freq_hz: float) -> TransmitterReading | None:
    """Return the last reading at a frequency.

    Args:
        readings: Readings of the transmitter, in the order they were taken.
        freq_hz: Signal frequency [Hz].

    Returns:
        The reading; None without any.
    """
    return next((r for r in reversed(readings) if r.freq_hz == freq_hz), None)


MIN_ACROSS = 5
"""Readings across a line that tell its place at least."""
_MOST_ACROSS = 60
_MOST_BESIDE = 12


@dataclass(frozen=True)
class NeighbourReading:
    """A centre line met beside a station: how far aside [m], left positive, its current [A], its signal.

    None means not taken. The signal was read at the gain of the station's own.
    """

    offset_m: float
    current_a: float | None = None
    signal: float | None = None

    def __post_init__(self) -> None:
        require_range(self.offset_m, low=-50, high=50, field="neighbours", name="Way to a neighbour", unit="m")
        if self.current_a is not None:
            require_range(self.current_a, low=0, high=10, field="neighbours", name="Current on a neighbour", unit="A")
        if self.signal is not None:
            require_range(self.signal, low=0, high=1e9, field="neighbours", name="Signal of a neighbour", unit="")


@dataclass(frozen=True)
class StationReading:
    """Receiver readings at one station: `distance_m` along the line [m], repeated currents [A], depths [m].

    None means not taken. `neighbour_a` is the best current found on a neighbour [A], 0 when looked and found none.
    `direction`: which way the current runs, where the receiver tells; `lost`: signal and guidance were gone there.
    `profile`: (offset [m], left positive, signal at one gain) of readings across the line. `signal` at the peak, at the
    gain of the stations before and of `neighbours`, which were met beside the station one by one. `placed`: how far
    left of the line as drawn it is by tapes or device, and how well that is known [m]; None: not placed or not drawn.
    """

    distance_m: float
    currents_a: tuple[float, ...] = ()
    depth_m: float | None = None
    lift_height_m: float | None = None
    depth_lifted_m: float | None = None
    peak_null_m: float | None = None
    neighbour_a: float | None = None
    direction: Heading = ""
    lost: bool = False
    profile: tuple[tuple[float, float], ...] = ()
    signal: float | None = None
    neighbours: tuple[NeighbourReading, ...] = ()
    placed: tuple[float, float] | None = None

    def __post_init__(self) -> None:
        for field in STATION_FIELDS:
            if hasattr(self, field.column):
                field.check(self)
        if len(self.neighbours) > _MOST_BESIDE:
            raise BadInput("too_many_neighbours", field="neighbours", count=len(self.neighbours), most=_MOST_BESIDE)
        for offset_m, signal in self.profile:
            require_range(offset_m, low=-20, high=20, field="profile", name="Offset", unit="m")
            require_range(signal, low=0, high=1e9, field="profile", name="Signal", unit="")
        if 0 < len(self.profile) < MIN_ACROSS:
            raise BadInput("too_few_across", field="profile", count=len(self.profile), least=MIN_ACROSS)
        if len(self.profile) > _MOST_ACROSS:
            raise BadInput("too_many_across", field="profile", count=len(self.profile), most=_MOST_ACROSS)
        if self.depth_lifted_m is not None and self.lift_height_m is None:
            raise BadInput("lift_without_height", field="lift_height_m")

    @cached_property
    def current_a(self) -> float | None:
        """Median of the repeated currents [A], None when none was read."""
        return median(self.currents_a) if self.currents_a else None

    @cached_property
    def best_neighbour_a(self) -> float | None:
        """The most current [A] read on any neighbour, 0 when looked and found none; None when not looked."""
        read = [self.neighbour_a, *(n.current_a for n in self.neighbours)]
        return max((amps for amps in read if amps is not None), default=None)

    @property
    def loudest_neighbour(self) -> float | None:
        """The greatest signal of a neighbour against that of the station's own, None without both."""
        heard = [n.signal for n in self.neighbours if n.signal is not None]
        return max(heard) / self.signal if heard and self.signal else None

    def corrected(self, **values: Any) -> StationReading:
        """Return the same with some values corrected; they have to be within range, and are not checked again.

        Args:
            **values: New values by field.

        Returns:
            The reading.
        """
        found = object.__new__(StationReading)
        found.__dict__.update({f: self.__dict__[f] for f in StationReading.__dataclass_fields__} | values)
        return found

    @cached_property
    def current_off(self) -> float:
        """Standard deviation of the mean of the repeated currents, against their median; 0 where it does not tell."""
        count, middle = len(self.currents_a), self.current_a
        if not middle or count < 2:
            return 0.0
        mean = fsum(self.currents_a) / count
        return sqrt(fsum((a - mean) ** 2 for a in self.currents_a)) / count / middle
