"""Both leads on two conductors of one cable: how deep it is heard, and what depth means then.

The two currents are equal and opposite. At a distance r much greater than the conductors' spacing a, a straight pair
leaves `mu0 I a / (2 pi r^2)` of the field, in the best of its positions; twisting cancels it further, within a lay
length or two. Two coils then read the square law as that of a line, and show too little depth.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt

from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.model.construction import Construction
from vessel.core.model.kit import Kit, Receiver
from vessel.core.signal.physics.earth_return import MU0


@dataclass(frozen=True)
class PairReach:
    """The frequency and output at which a pair is heard deepest [m], and the depth [m] that is shown for it there."""

    freq_hz: float
    output_a: float
    heard_m: float
    shown_m: float


def pair_signal(current_a: float, spacing_m: float, *, away_m: float) -> float:
    """Return the field of a straight pair.

    Args:
        current_a: Current in each conductor, opposite [A].
        spacing_m: Distance between them, centre to centre [m].
        away_m: Distance from the pair, much greater than the spacing [m].

    Returns:
        `mu0 I a / (2 pi r^2)` [T].
    """
    return float(MU0 * current_a * spacing_m / (2 * pi * away_m**2))


def pair_depth_shown(depth_m: float, receiver: Receiver) -> float:
    """Return the depth that two coils show over a pair.

    Args:
        depth_m: True depth [m].
        receiver: The heights of the coils.

    Returns:
        `s / ((r_high / r_low)^2 - 1)` less the height of the lower coil [m]; below zero: above ground.
    """
    low, high = depth_m + receiver.low_m, depth_m + receiver.high_m
    return receiver.separation_m / ((high / low) ** 2 - 1) - receiver.low_m


def pair_reach(metal: Construction, kit: Kit) -> PairReach:
    """Return how deep a pair of touching, untwisted conductors is heard at best.

    Args:
        metal: Construction of one conductor.
        kit: Transmitter and receiver in use.

    Returns:
        The best of the kit's frequencies at its greatest output, which is what the transmitter may not even reach.
    """
    spacing_m, amps = 2 * metal.outer_radius_m, max(kit.outputs_a)
    wanted = rule_of(kit, "signal").hold or 1.0
    heard = {
        f.freq_hz: sqrt(pair_signal(amps, spacing_m, away_m=1.0) / (wanted * f.noise_t)) - kit.receiver.low_m
        for f in kit.frequencies
    }
    freq_hz = max(heard, key=lambda f: heard[f])
    depth_m = max(heard[freq_hz], 0.0)
    return PairReach(freq_hz, amps, depth_m, max(pair_depth_shown(depth_m, kit.receiver), 0.0))
