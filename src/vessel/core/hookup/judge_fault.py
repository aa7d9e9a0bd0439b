"""A walk with the frame judged: its faults by the table, and how much of the signal the cable would leak by itself."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.fault.fault_fit import FaultFit, fit_faults
from vessel.core.judge.fault.fault_measures import fault_batch
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.judge.station.criteria import FAULT_RULES
from vessel.core.judge.station.verdict import Judgement, Verdict, judgements
from vessel.core.model.fault_walk import FaultWalk, FrameReading
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import OPEN_END
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.core.signal.physics.soil_gradient import gradient

FaultVerdict = Literal["found", "narrow", "not_proved"]
FAULT_VERDICT: dict[Verdict, FaultVerdict] = {
    "mark": "found",
    "mark_with_care": "narrow",
    "need_more": "narrow",
    "hold": "not_proved",
}


def level_over(depth_m: float, frame_m: float, *, count: int = 121) -> tuple[Floats, Floats]:
    """Return the level along the route over one fault, far from everything else.

    Args:
        depth_m: Depth of the cable [m].
        frame_m: Distance between the spikes [m].
        count: Number of places.

    Returns:
        Places from the fault [m] and levels as shares of the greatest, below zero where the frame points back, each
        of shape (count,).
    """
    at_m = np.linspace(-5.0 * depth_m, 5.0 * depth_m, count)
    level = gradient(at_m, depth_m, frame_m)
    return at_m, np.asarray(level / np.abs(level).max())


USUAL_FAULT_OHM = 1000.0
"""A fault worth digging for; what a forecast is made with [ohm]."""


def fault_verdict(j: Judgement) -> FaultVerdict:
    """Return the verdict on a fault by what the table says.

    Args:
        j: Judgement of the fault.

    Returns:
        Found, narrow it, or not proved.
    """
    return FAULT_VERDICT[j.verdict]


@dataclass(frozen=True)
class JudgedWalk:
    """The faults of a walk with their judgements, by distance; None where nothing can be fitted yet."""

    fit: FaultFit | None
    judgements: tuple[Judgement, ...]


def judge_walk(
    readings: Sequence[FrameReading],
    walk: FaultWalk,
    kit: Kit,
    *,
    length_m: float,
    depth_range_m: tuple[float, float],
    earths_m: Sequence[float],
) -> JudgedWalk:
    """Judge a walk with the frame.

    Args:
        readings: What it showed.
        walk: How the walk was made.
        kit: The kit, and the limits its crew judges by.
        length_m: Length of the line [m].
        depth_range_m: Expected depth of the line [m].
        earths_m: Where the line is known to be earthed [m].

    Returns:
        Faults and judgements.
    """
    fit = fit_faults(tuple(readings), walk, length_m=length_m, depth_range_m=depth_range_m)
    if fit is None or not fit.faults:
        return JudgedWalk(fit, ())
    batch = fault_batch(
        fit,
        readings,
        walk,
        earths_m=earths_m,
        lowest_hz=kit.lowest_hz,
        rules=rules_of(kit.bounds, FAULT_RULES),
    )
    return JudgedWalk(fit, tuple(judgements(batch)))


def earths_of(line: Line) -> tuple[float, ...]:
    """Return where a line is earthed, or may be: an end that was not looked at counts.

    Args:
        line: The line.

    Returns:
        Distances along it [m].
    """
    found = [a.at_m for a in line.accesses if a.point.earth_ohm is not None]
    if line.near.earth_ohm is not None:
        found.append(0.0)
    if line.far.kind != "open":
        found.append(line.length_m)
    return tuple(sorted(found))


def bare_metal(line: Line) -> bool:
    """Return whether the line's metal lies in the soil all along: then there is no fault to find.

    Args:
        line: The line.

    Returns:
        True if it has no insulation.
    """
    return line.construction.bare


@dataclass(frozen=True)
class FaultForecast:
    """What to expect of a fault of `ohm` half way along: its share of the current, and what leaks all along."""

    ohm: float
    share: float
    leak: float


def fault_forecast(line: Line, soil: Soil, kit: Kit, walk: FaultWalk) -> FaultForecast:
    """Return what a usual fault would draw against what the line itself leaks with every earth lifted.

    Args:
        line: The line as entered.
        soil: Soil of the site.
        kit: The kit.
        walk: How the walk is made.

    Returns:
        The forecast, from the line's own circuit.
    """
    lifted = replace(
        line,
        near=replace(line.near, earth_ohm=None),
        far=OPEN_END,
        accesses=tuple(replace(a, point=replace(a.point, earth_ohm=None)) for a in line.accesses),
    )
    at_m = min(max(0.5 * line.length_m, walk.start_m + 1.0), line.length_m)
    setup = Setup("direct", walk.freq_hz, max(kit.outputs_a), usual_stake(kit.lead_m), position_m=walk.start_m)
    fault = LineFault("earth_fault", at_m, ohm=USUAL_FAULT_OHM)
    circuit = LineCircuit(lifted, soil, freq_hz=walk.freq_hz, faults=(fault,))
    driven = excite(circuit, setup, kit, far_ohms=(None,))[0]
    step, end_m = 0.01 * line.length_m, line.length_m - 0.05
    first_m = walk.start_m + 0.05
    places = np.array([first_m, max(at_m - step, first_m), min(at_m + step, end_m)])
    first, before, after = circuit.current_at(driven.response, places).tolist()
    whole = max(first, 1e-12)
    return FaultForecast(USUAL_FAULT_OHM, max(before - after, 0.0) / whole, max(first - before + after, 0.0) / whole)
