"""One way of putting signal on a line."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.methods import METHOD_TABLE, METHODS, HookupMethod, Method


@dataclass(frozen=True)
class Stake:
    """The ground stake: rods of `length_m` x `radius_m` [m], `away_m` from the line [m].

    `measured_ohm` overrides the formula; `rods` stakes in parallel, well apart.
    """

    away_m: float = 8.0
    length_m: float = 0.4
    radius_m: float = 0.006
    rods: int = 1
    measured_ohm: float | None = None

    def __post_init__(self) -> None:
        require_range(self.away_m, low=0.5, high=500, field="stake_away_m", name="Stake distance", unit="m")
        require_range(self.length_m, low=0.05, high=10, field="stake_length_m", name="Stake length", unit="m")
        require_range(self.radius_m, low=1e-3, high=0.1, field="stake_radius_m", name="Stake radius", unit="m")
        require_range(self.rods, low=1, high=20, field="stake_rods", name="Number of stakes", unit="")
        if self.length_m < 4 * self.radius_m:
            raise BadInput("stake_too_thick", field="stake_length_m")
        if self.measured_ohm is not None:
            require_range(self.measured_ohm, low=0.1, high=1e5, field="stake_ohm", name="Stake resistance", unit="ohm")


def usual_stake(lead_m: float) -> Stake:
    """Return the usual stake within reach of a lead.

    Args:
        lead_m: Length of the lead [m].

    Returns:
        The stake.
    """
    return Stake(away_m=min(Stake().away_m, lead_m))


@dataclass(frozen=True)
class Setup:
    """Hookup, frequency [Hz] and output step [A] with the stake, clip contact [ohm] and transmitter position [m].

    `position_m` is the distance of the connection, clamp or coil along the line from the near end. `stake_at`: where
    the stake stands on the site plan (east, north [m]); None: square to the line, `stake.away_m` off. `apart_m`: how
    far behind the receiver the coil is carried [m]; None where the transmitter stands.
    """

    method: Method
    freq_hz: float
    output_a: float
    stake: Stake = Stake()
    clip_ohm: float = 0.5
    position_m: float = 0.0
    stake_at: tuple[float, float] | None = None
    apart_m: float | None = None

    def __post_init__(self) -> None:
        if self.method not in METHODS:
            raise BadInput("no_such_method", field="hookup", name=self.method)
        if not self.output_a > 0:
            raise BadInput("output_of_nothing", field="output_ma")
        require_range(self.output_a, low=1e-4, high=5, field="output_ma", name="Output", unit="A")
        require_range(self.freq_hz, low=100, high=500e3, field="freq_hz", name="Frequency", unit="Hz")
        require_range(self.clip_ohm, low=0, high=1e5, field="clip_ohm", name="Clip contact", unit="ohm")
        require_range(self.position_m, low=0, high=2e4, field="position_m", name="Position", unit="m")
        if self.apart_m is not None:
            require_range(self.apart_m, low=5, high=100, field="apart_m", name="Distance apart", unit="m")
            if not self.by.through_air:
                raise BadInput("only_a_coil_moves", field="apart_m")

    @property
    def by(self) -> HookupMethod:
        """What its method does and needs."""
        return METHOD_TABLE[self.method]

    @property
    def moving(self) -> bool:
        """Whether the coil is carried along behind the receiver: moving induction."""
        return self.apart_m is not None

    def coil_m(self, at_m: Floats) -> Floats:
        """Return where the transmitter stands while stations are read.

        Moving induction carries the coil behind the receiver, at the line's start ahead of it.

        Args:
            at_m: Distances of stations along the line, any shape [m].

        Returns:
            Distances along the line, of the same shape [m].
        """
        at = np.asarray(at_m, dtype=float)
        if self.apart_m is None:
            return np.full(at.shape, self.position_m)
        return np.where(at >= self.apart_m, at - self.apart_m, at + self.apart_m)

    def standing(self, at_m: float) -> Setup:
        """Return the setup as it stands while one station is read.

        Args:
            at_m: Distance of the station along the line [m].

        Returns:
            The same where the transmitter stands; with moving induction, the coil where it is then.
        """
        if self.apart_m is None:
            return self
        return replace(self, position_m=float(self.coil_m(np.array(at_m))), apart_m=None)

    def require_on(self, length_m: float) -> None:
        """Check that the hookup is on the line.

        Args:
            length_m: Length of the line [m].

        Raises:
            BadInput: If connection, clamp or coil is beyond its end.
        """
        if self.apart_m is not None and 2 * self.apart_m > length_m:
            raise BadInput("too_short_to_move", field="apart_m", apart_m=self.apart_m, length_m=length_m)
        if self.position_m > length_m:
            raise BadInput(
                "hookup_beyond_line", field="length_m", method=self.method, at_m=self.position_m, length_m=length_m
            )
