"""What runs beside a line, as a technician describes it without any plan."""

from __future__ import annotations

from dataclasses import dataclass

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.construction import Construction

RUNS_ON_M = 30.0
"""How far a neighbour goes on past an end of the line where its end is not given [m]."""


def stretch(start_m: float | None, end_m: float | None, *, length_m: float) -> tuple[float, float]:
    """Return the stretch over which a neighbour runs beside a line.

    Args:
        start_m: Where it begins [m]; None: before the line does.
        end_m: Where it ends [m]; None: past the line's far end.
        length_m: Length of the line [m].

    Returns:
        From and to [m].
    """
    return -RUNS_ON_M if start_m is None else start_m, length_m + RUNS_ON_M if end_m is None else end_m


@dataclass(frozen=True)
class Neighbour:
    """A line or structure running parallel, `offset_m` to the left (right: below zero), from `start_m` to `end_m`.

    Distances [m] along the line it is entered for; either may lie beyond that line's ends. `start_earth_ohm`,
    `end_earth_ohm`: earth bonded at its ends [ohm], None without. `bond_m`: where its metal is joined to the line [m].
    """

    name: str
    construction: Construction
    offset_m: float
    start_m: float
    end_m: float
    depth_m: float
    start_earth_ohm: float | None = None
    end_earth_ohm: float | None = None
    bond_m: float | None = None

    def __post_init__(self) -> None:
        require_range(
            abs(self.offset_m), low=0.05, high=100.0, field="offset_m", name=f"Distance to {self.name}", unit="m"
        )
        require_range(self.depth_m, low=0.05, high=15.0, field="depth_m", name=f"Depth of {self.name}", unit="m")
        for field in ("start_m", "end_m"):
            require_range(
                getattr(self, field), low=-2e4, high=2e4, field=field, name=f"Stretch of {self.name}", unit="m"
            )
        if self.end_m - self.start_m < 1.0:
            raise BadInput("runs_beside_too_short", field="end_m", name=self.name, least_m=1.0)
        for field in ("start_earth_ohm", "end_earth_ohm"):
            ohm = getattr(self, field)
            if ohm is not None:
                require_range(ohm, low=0.01, high=1e5, field=field, name="Earth resistance", unit="ohm")
        if self.bond_m is not None and not self.start_m <= self.bond_m <= self.end_m:
            raise BadInput("bond_off_stretch", field="bond_m", name=self.name)
