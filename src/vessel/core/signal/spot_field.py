"""The field at a receiver's coils wherever somebody holds it: what a receiver that is walked about reads."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.signal.circuit.sources import coil_geometry, stake_lead
from vessel.core.signal.receiver.field_at_coils import ReceiverGeometry
from vessel.core.signal.solved_site import SolvedSite

_ASIDE_M = 0.05  # the vertical field is worked out over a short way across and read in its middle


@dataclass(frozen=True, eq=False)
class SpotField:
    """Field phasors [T] at n places: at the `low` and `high` coil across the heading, and upwards at the low one.

    `lifted_low`, `lifted_high`: the same two coils with the receiver lifted by `instrument.LIFT_M`.
    """

    low: Complex
    high: Complex
    lifted_low: Complex
    lifted_high: Complex
    up: Complex

    def __add__(self, other: SpotField) -> SpotField:
        """Both fields together."""
        return SpotField(*(mine + vars(other)[name] for name, mine in vars(self).items()))


def spot_field(solved: SolvedSite, at_m: Floats, headings: Floats) -> SpotField:
    """Return the field at the coils, of the site's currents, the soil's return and the transmitter itself.

    Args:
        solved: The site under its hookup.
        at_m: Places, shape (n, 2) [m].
        headings: Directions the receiver faces, unit vectors, shape (n, 2).

    Returns:
        The field at its output.
    """
    circuit, hookup, n = solved.circuit, solved.hookup, len(at_m)
    geometry = ReceiverGeometry(
        circuit.geometry.segments,
        at_m=at_m,
        headings=headings,
        depths_m=np.ones(n),
        receiver=solved.kit.receiver,
        offsets_m=np.tile([-_ASIDE_M, 0.0, _ASIDE_M], (n, 1)),
    )
    drive = solved.output.drive
    into, out = (each[:, None, None] for each in solved.ends_a)
    own = None
    if hookup.by.connects:
        own = geometry.lead(stake_lead(circuit, hookup)), drive
    elif hookup.by.through_air:
        own = geometry.coil(*coil_geometry(hookup, solved.kit)), drive
    returning = geometry.returning(solved.site.soil, hookup.freq_hz)
    over = geometry.over(into, out, [own], [returning])[0][0, 0]
    up = geometry.across(into, out, [own], [returning])[1][0, 0]
    return SpotField(over[:, 0], over[:, 1], over[:, 2], over[:, 3], up[:, 1])


def no_field(n: int) -> SpotField:
    """Return the field of a transmitter that is off.

    Args:
        n: Number of places.

    Returns:
        Nothing at any coil.
    """
    nothing = np.zeros(n, dtype=np.complex128)
    return SpotField(nothing, nothing, nothing, nothing, nothing)
