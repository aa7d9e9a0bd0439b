"""One buried line as the technician describes it before any reading."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.model.construction import Construction
from vessel.core.model.errors import BadInput, require_range
from vessel.core.model.neighbour import Neighbour

FarEndKind = Literal["open", "earthed", "unknown"]

TYPICAL_FAR_EARTH_OHM = 30.0
"""Resistance of a typical bonded earth at a pedestal [ohm], used when an earthed far end has no measured value."""


@dataclass(frozen=True)
class AccessPoint:
    """Where the line can be reached, at its near end (distance 0).

    `bare_metal`: metal can be touched. `live`: in service and carrying dangerous voltage. `in_service`: must
    stay in service. `cased`: runs in metal casing there (a clamp would drive the casing too).
    `earth_ohm`: earth bonded at this end [ohm], None when there is none.
    """

    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    earth_ohm: float | None = None


@dataclass(frozen=True)
class FarEnd:
    """The end away from the access point: open, earthed through `earth_ohm` [ohm], or unknown."""

    kind: FarEndKind = "unknown"
    earth_ohm: float = TYPICAL_FAR_EARTH_OHM


@dataclass(frozen=True)
class Line:
    """A straight line of `length_m` at a depth somewhere between `depth_min_m` and `depth_max_m` [m].

    `neighbours`: what runs beside it and takes some of its signal.
    """

    construction: Construction
    length_m: float
    depth_min_m: float
    depth_max_m: float
    near: AccessPoint = AccessPoint()
    far: FarEnd = FarEnd()
    neighbours: tuple[Neighbour, ...] = ()

    def __post_init__(self) -> None:
        require_range(self.length_m, low=2.0, high=20000.0, field="length_m", name="Length", unit="m")
        for field, label in (("depth_min_m", "Least depth"), ("depth_max_m", "Greatest depth")):
            require_range(getattr(self, field), low=0.05, high=15.0, field=field, name=label, unit="m")
        if self.depth_min_m > self.depth_max_m:
            raise BadInput(
                "The least depth is greater than the greatest depth.", field="depth_min_m", fix="Swap the two."
            )
        for field, ohm in (("near.earth_ohm", self.near.earth_ohm), ("far.earth_ohm", self.far.earth_ohm)):
            if ohm is not None:
                require_range(ohm, low=0.01, high=1e5, field=field, name="Earth resistance", unit="ohm")

    @property
    def mid_depth_m(self) -> float:
        """Middle of the expected depth range [m]."""
        return 0.5 * (self.depth_min_m + self.depth_max_m)

    def far_cases(self) -> tuple[tuple[str, float | None], ...]:
        """Return the far-end cases to plan for: (name, earth resistance [ohm] or None for open)."""
        open_case, earthed = ("open", None), ("earthed", self.far.earth_ohm)
        if self.far.kind == "unknown":
            return (open_case, earthed)
        return (open_case,) if self.far.kind == "open" else (earthed,)
