"""What is done before anything is switched on: checks answered, ambient noise read, the passive sweep."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.drawn_line import FURTHEST_M, Xy

Answer = Literal["yes", "no", "not_needed"]
Source = Literal["mains", "radio", "rectifier"]
Leg = tuple[Xy, Xy]
"""A straight walk: from and to, east and north on the plan [m]."""
_TIMES = (0.1, 1000.0)


@dataclass(frozen=True)
class Check:
    """The answer to one check of the sheet; what is said not to be needed says why."""

    id: str
    answer: Answer
    note: str = ""

    def __post_init__(self) -> None:
        if self.answer == "not_needed" and not self.note.strip():
            raise BadInput("no_reason", field="note")


@dataclass(frozen=True)
class Ambient:
    """What the display shows with the transmitter off at `freq_hz` [Hz]: here, and in a quiet place at the same gain.

    `quiet` None: not known, so that `here` cannot be turned into noise.
    """

    freq_hz: float
    here: float
    quiet: float | None

    def __post_init__(self) -> None:
        if self.here <= 0:
            raise BadInput("no_ambient_level", field="here")
        if self.quiet is not None:
            if self.quiet <= 0:
                raise BadInput("no_quiet_level", field="quiet")
            low, high = _TIMES
            require_range(self.here / self.quiet, low=low, high=high, field="here", name="Here against quiet", unit="")

    @property
    def times(self) -> float | None:
        """How many times the quiet level it is, None where that is not known."""
        return None if self.quiet is None else self.here / self.quiet


@dataclass(frozen=True)
class Hit:
    """A place where the passive sweep heard something, east and north [m] on the plan; None: in words only."""

    source: Source
    at: Xy | None
    note: str = ""

    def __post_init__(self) -> None:
        if self.at is None and not self.note.strip():
            raise BadInput("hit_without_place", field="at")
        if self.at is not None:
            for value in self.at:
                require_range(value, low=-FURTHEST_M, high=FURTHEST_M, field="at", name="Place", unit="m")


@dataclass(frozen=True)
class PassiveSweep:
    """The grid walked with the receiver alone: once, and again with the receiver turned 90 degrees.

    `spacing_m` [m] between the walks, None if not given. `walked`: what was walked strip by strip.
    """

    first: bool = False
    second: bool = False
    spacing_m: float | None = None
    hits: tuple[Hit, ...] = ()
    walked: tuple[Leg, ...] = ()

    def __post_init__(self) -> None:
        for place in (at for leg in self.walked for at in leg):
            for value in place:
                require_range(value, low=-FURTHEST_M, high=FURTHEST_M, field="walked", name="Place", unit="m")
        if self.spacing_m is not None:
            require_range(self.spacing_m, low=0.2, high=100.0, field="spacing", name="Distance between walks", unit="m")
