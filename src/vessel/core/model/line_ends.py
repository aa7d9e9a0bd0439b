"""How a line ends."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

FarEndKind = Literal["open", "earthed", "unknown"]

TYPICAL_FAR_EARTH_OHM = 30.0
"""Resistance of a typical bonded earth at a pedestal [ohm], used when an earthed far end has no measured value."""


@dataclass(frozen=True)
class FarEnd:
    """The end away from the access point: open, earthed through `earth_ohm` [ohm], or unknown."""

    kind: FarEndKind = "unknown"
    earth_ohm: float = TYPICAL_FAR_EARTH_OHM


OPEN_END = FarEnd("open")
UNKNOWN_END = FarEnd()
