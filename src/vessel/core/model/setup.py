"""One way of putting signal on a line."""

from __future__ import annotations

from dataclasses import dataclass

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
    the stake stands on the site plan (east, north [m]); None: square to the line, `stake.away_m` off.
    """

    method: Method
    freq_hz: float
    output_a: float
    stake: Stake = Stake()
    clip_ohm: float = 0.5
    position_m: float = 0.0
    stake_at: tuple[float, float] | None = None

    def __post_init__(self) -> None:
        if self.method not in METHODS:
            raise BadInput("no_such_method", field="hookup", name=self.method)
        if not self.output_a > 0:
            raise BadInput("output_of_nothing", field="output_ma")
        require_range(self.output_a, low=1e-4, high=5, field="output_ma", name="Output", unit="A")
        require_range(self.freq_hz, low=100, high=500e3, field="freq_hz", name="Frequency", unit="Hz")
        require_range(self.clip_ohm, low=0, high=1e5, field="clip_ohm", name="Clip contact", unit="ohm")
        require_range(self.position_m, low=0, high=2e4, field="position_m", name="Position", unit="m")

    @property
    def by(self) -> HookupMethod:
        """What its method does and needs."""
        return METHOD_TABLE[self.method]

    def require_on(self, length_m: float) -> None:
        """Check that the hookup is on the line.

        Args:
            length_m: Length of the line [m].

        Raises:
            BadInput: If connection, clamp or coil is beyond its end.
        """
        if self.position_m > length_m:
            raise BadInput(
                "hookup_beyond_line", field="length_m", method=self.method, at_m=self.position_m, length_m=length_m
            )
