"""Marks and their tolerance zone in words."""

from __future__ import annotations

from vessel.core.model.marking import Marking
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units


def painted_text(off_m: float | None, units: Units) -> str:
    """Return where the paint is beside the line, `off_m` [m] to its left; empty over it."""
    if off_m is None:
        return ""
    side, back = ("left", "right") if off_m > 0 else ("right", "left")
    off = show_length(abs(off_m), units, fine=True)
    return (
        f"Painted {off} {side} of the line, looking along it from the near end: the line is {off} {back} of the "
        "paint. Paint an arrow there that points to it."
    )


def depths_text(depths_m: tuple[float, float] | None, units: Units) -> str:
    """Return how deep the marks of a stretch say it is: `0.74 m to 0.80 m deep`; empty where none says it."""
    if depths_m is None:
        return ""
    low, high = (show_length(d, units, fine=True) for d in depths_m)
    return f"{low} deep" if low == high else f"{low} to {high} deep"


def zone_text(rule: Marking, units: Units) -> str:
    """Return how wide the tolerance zone is, and by which rule."""
    width = show_length(rule.tolerance_m, units, fine=True)
    whose = f"By the local rule: {rule.source}." if rule.source else "Local rules may ask for more."
    return f"Tolerance zone: {width} to either side of what is marked. {whose}"
