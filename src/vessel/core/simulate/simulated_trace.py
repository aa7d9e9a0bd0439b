"""Stations as a technician would read them off the display, with the noise of a bad day."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.judge.station.batch import Batch
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.model.kit import Kit
from vessel.core.signal.receiver.field_at_coils import alike
from vessel.core.signal.receiver.instrument import LIFT_M, Shown, shown
from vessel.core.signal.receiver.return_field import ReturnField
from vessel.core.signal.receiver.return_undone import undoing_at

NOISE_MARGIN = 3.0
"""Forecasts assume this many times the kit's noise: a bad day, so that a plan holds on an ordinary one."""
_REPEATS = (-1.2, 1.2)  # furthest of five repeated readings, in standard deviations


def read_off(over_t: Complex, drive: Any, noise_t: Any, returning: Sequence[ReturnField], kit: Kit) -> Shown:
    """Return what a receiver shows, with the return current undone as it is before any reading is judged.

    Args:
        over_t: Field per unit at both coils, down and lifted, shape (h, ..., 4) [T].
        drive: Output, in the unit the field is per.
        noise_t: Rms noise in each coil [T].
        returning: The return current's field of each of the h hookups.
        kit: Transmitter and receiver in use.

    Returns:
        Depth, current and the rest, each of shape (h, ...).
    """
    s = shown(over_t, drive, noise_t=noise_t, receiver=kit.receiver)
    parts = []
    for rows, returned in alike(returning):
        part = Shown(*(np.broadcast_to(each, s.depth_m.shape)[rows] for each in vars(s).values()))
        parts.append(undoing_at(returned.per_m, kit.receiver).shown(part, lift_m=LIFT_M))
    return Shown(*(np.concatenate([getattr(p, name) for p in parts]) for name in vars(s)))


def simulated(
    s: Shown,
    *,
    neighbour_a: Floats,
    peak_null_m: Floats,
    reads_depth: Any,
    noise_t: Any,
    kit: Kit,
    depth_range_m: tuple[float, float],
    end_m: Floats,
    forecast_a: Floats,
    air_share: Any,
    turn_m: Any,
    crossing_m: Any,
    between: Any = 0.0,
) -> Batch:
    """Return stations as a technician would read them off the display.

    Five repeats, spread by the noise.

    Args:
        s: What the receiver shows.
        neighbour_a: Best current a look to both sides would find [A].
        peak_null_m: Distance between peak and null [m].
        reads_depth: Whether the frequency gives a depth.
        noise_t: Rms noise in each coil [T].
        kit: Transmitter and receiver in use.
        depth_range_m: Least and greatest expected depth [m].
        end_m: Distance to the nearer end [m].
        forecast_a: Expected current [A].
        air_share: The transmitter's own field against the line's.
        turn_m: Distance to the nearest bend or tee [m].
        crossing_m: Distance to the nearest crossing [m].
        between: 1 where both leads are on one cable, else 0.

    Returns:
        The stations as a batch for the judge.
    """
    with np.errstate(invalid="ignore"):
        # comparisons with NaN are false: an instrument that shows nothing gives no reading
        usable = (s.depth_m >= 0.01) & (s.depth_m <= 15.0) & (s.current_a <= 10.0)
        lifted = usable & (s.depth_lifted_m >= 0.01) & (s.depth_lifted_m <= 20.0)
    # where noise drowns the signal the instrument still shows a current: none
    amps = np.where(usable, s.current_a, 0.0)
    low, high = (np.clip(amps * (1 + k * s.noise_share), 0.0, 10.0) for k in _REPEATS)
    return Batch(
        amps=amps,
        spread=np.where(usable, (high - low) / np.where(usable, amps, 1.0), np.inf),
        depth_m=np.where(usable & reads_depth, s.depth_m, np.nan),
        lift_m=LIFT_M,
        lifted_m=np.where(lifted, s.depth_lifted_m, np.nan),
        peak_null_m=np.minimum(peak_null_m, 10.0),
        neighbour_a=np.minimum(neighbour_a, 10.0),
        freq_gap=0.0,
        noise_t=noise_t,
        receiver=kit.receiver,
        depth_range_m=depth_range_m,
        end_m=end_m,
        loop_gap=0.0,
        loop_silent=False,
        forecast_a=(forecast_a, forecast_a),
        air_share=air_share,
        turn_m=turn_m,
        crossing_m=crossing_m,
        between=between,
        rules=rules_of(kit.bounds),
    )
