"""Readings across the line in words."""

from __future__ import annotations

from vessel.core.judge.across.cross_section import AcrossFit
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units


def _aside(offset_m: float, units: Units) -> str:
    if abs(offset_m) < 0.005:
        return "where you stood"
    return f"{show_length(abs(offset_m), units, fine=True)} {'left' if offset_m > 0 else 'right'} of where you stood"


def across_text(a: AcrossFit, units: Units) -> str:
    """Return where the readings across put the line, and how sure that is."""
    fit = a.fit
    first = fit.conductors[0]
    depth, deep_pm, aside_pm = (
        show_length(v, units, fine=True) for v in (first.depth_m, first.depth_pm_m, first.offset_pm_m)
    )
    where = f"{_aside(first.offset_m, units)} (± {aside_pm}), {depth} deep (± {deep_pm})"
    if a.blurred:
        return (
            "More than one line makes these readings, and they do not show where the other one lies. "
            f"Taken as one line, it would lie {where}: do not rely on that."
        )
    if not a.explained:
        return f"Neither one nor two straight lines explain these readings; the nearest lies {where}."
    if len(fit.conductors) == 1:
        return f"One line explains them: it lies {where}."
    second = fit.conductors[1]
    share = abs(second.current_a) / abs(first.current_a)
    peak, null = (show_length(abs(x - first.offset_m), units, fine=True) for x in (fit.peak_m, fit.null_m))
    return (
        f"Two lines: the stronger lies {where}; another {_aside(second.offset_m, units)}, "
        f"{show_length(second.depth_m, units, fine=True)} deep, with {100 * share:.0f}\u00a0% of its current. "
        f"Together they put the peak {peak} and the null {null} off the stronger one."
    )


def across_step(a: AcrossFit) -> str:
    """Return what to do about it."""
    if a.blurred:
        return "Read further out and in smaller steps, or a few metres along; look aside for the other line."
    if not a.explained:
        return "A bend, a tee or more than two lines: do not mark from it; read across again a few metres along."
    if len(a.fit.conductors) == 1:
        return "Mark over it, not over the peak, where the two differ."
    return "Follow both back to the hookup before you mark: the stronger one need not be the target."


def _of_line(offset_m: float, units: Units) -> str:
    if abs(offset_m) < 0.005:
        return "over the line"
    return f"{show_length(abs(offset_m), units, fine=True)} {'left' if offset_m > 0 else 'right'} of it"


def forecast_text(peak_m: float, null_m: float, units: Units) -> str:
    """Return where peak and null should be across the line."""
    apart = show_length(abs(peak_m - null_m), units, fine=True)
    return (
        f"Forecast: peak {_of_line(peak_m, units)}, null {_of_line(null_m, units)}, {apart} apart. "
        "If you measure much more, there is a line or a bond that is not on the plan."
    )
