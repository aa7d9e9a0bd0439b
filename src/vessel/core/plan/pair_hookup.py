"""Both leads on two conductors of one cable: how deep it is heard, and what depth means then.

The two currents are equal and opposite. At a distance r much greater than the conductors' spacing a, a straight pair
leaves `mu0 I a / (2 pi r^2)` of the field, in the best of its positions; twisting cancels it further, within a lay
length or two. Two coils then read the square law as that of a line, and show too little depth.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import pi, sqrt

import numpy as np

from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.model.kit import Frequency, Kit, Receiver
from vessel.core.model.line import Line
from vessel.core.signal.circuit.pair_line import PairLine, spacing_m
from vessel.core.signal.circuit.transmitter_output import drives
from vessel.core.signal.physics.earth_return import MU0
from vessel.core.signal.physics.magnetic_field import electronic_depth
from vessel.core.simulate.hookup_places import access_points, safety_rejection

_AS_GOOD = 0.99


@dataclass(frozen=True)
class PairReach:
    """A hookup on a pair: place [m], frequency and output, the depth it is heard to and what is shown there [m]."""

    at_m: float
    freq_hz: float
    output_a: float
    heard_m: float
    shown_m: float


def pair_signal(current_a: float, apart_m: float, *, away_m: float) -> float:
    """Return the field of a straight pair.

    Args:
        current_a: Current in each conductor, opposite [A].
        apart_m: Distance between them, centre to centre [m].
        away_m: Distance from the pair, much greater than the spacing [m].

    Returns:
        `mu0 I a / (2 pi r^2)` [T].
    """
    return float(MU0 * current_a * apart_m / (2 * pi * away_m**2))


def pair_depth_shown(depth_m: float, receiver: Receiver) -> float:
    """Return the depth that two coils show over a pair.

    Args:
        depth_m: True depth [m].
        receiver: The heights of the coils.

    Returns:
        What `electronic_depth` makes of a field that falls with the square [m]; NaN where it would be above ground.
    """
    low, high = ((depth_m + up) ** -2.0 for up in (receiver.low_m, receiver.high_m))
    shown = electronic_depth(np.array(low), np.array(high), low_m=receiver.low_m, separation_m=receiver.separation_m)
    return float(shown)


def pair_reach(line: Line, kit: Kit) -> PairReach | None:
    """Return how deep a pair of touching, untwisted conductors joined at their far end is heard at best.

    Args:
        line: A line with two conductors.
        kit: Transmitter and receiver in use.

    Returns:
        The best of the kit's frequencies that give a depth, at the least step that drives as much as any, heard over
        the middle of the line, from its first access point where leads may go on; None where that cannot be.
    """
    reached = [at for _, at, point in access_points(line) if safety_rejection("pair", point, kit) is None]
    if not line.paired or not reached:
        return None
    wanted = rule_of(kit, "signal").hold or 1.0
    heard = [_heard(line, kit, f, reached[0], wanted) for f in kit.frequencies if f.reads_depth]
    if not heard:
        return None
    best = max(heard, key=lambda r: r.heard_m)
    depth_m = max(best.heard_m, 0.0)
    return replace(best, heard_m=depth_m, shown_m=float(np.nan_to_num(pair_depth_shown(depth_m, kit.receiver))))


def _heard(line: Line, kit: Kit, f: Frequency, at_m: float, wanted: float) -> PairReach:
    pair = PairLine(line, freq_hz=f.freq_hz, at_m=at_m, joined=True)
    driven = {a: float(np.min(drives(pair.ohm, a, watts=f.watts, kit=kit))) for a in sorted(kit.outputs_a)}
    step = next(a for a, amps in driven.items() if amps >= _AS_GOOD * max(driven.values()))
    amps = driven[step] * float(np.abs(pair.currents(np.array([(at_m + line.length_m) / 2])))[0])
    field = pair_signal(amps, spacing_m(line.construction), away_m=1.0)
    return PairReach(at_m, f.freq_hz, step, sqrt(field / (wanted * f.noise_t)) - kit.receiver.low_m, 0.0)
