"""The field of straight conductors per ampere in them, and of the transmitter itself, at a set of places."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.magnetic_field import axis_fields

UP = np.array([0.0, 0.0, 1.0])
"""Unit vector up."""


def across_of(headings: Floats) -> Floats:
    """Return the axis of the horizontal coils.

    Args:
        headings: Directions walked, shape (n, 2).

    Returns:
        Horizontal unit vectors to their left, shape (n, 3).
    """
    return np.column_stack([-headings[:, 1], headings[:, 0], np.zeros(len(headings))])


@dataclass(frozen=True)
class Gains:
    """Field along one axis at a set of places per ampere at the start and at the end of each segment, (p, s) [T/A].

    Several sets of places (k, p, s) stand as well, each with currents of its own.
    """

    start: Floats
    end: Floats

    @classmethod
    def of(cls, points_m: Floats, axes: Sequence[Floats], segments: Segments) -> list[Gains]:
        """Return the gains along several axes.

        Args:
            points_m: Points, shape (p, 3) [m].
            axes: Unit vectors, each of shape (p, 3).
            segments: s straight pieces of conductor.

        Returns:
            One set of gains for each axis.
        """
        return [cls(*each) for each in axis_fields(points_m, axes, segments.start_m, segments.end_m)]

    def field(self, into: Complex, out: Complex) -> Complex:
        """Return the field of currents in several cases.

        Or (k, p, c) of (k, s, c).

        Args:
            into: Currents at the segments' starts, shape (s, c) or (k, s, c) [A].
            out: Currents at their ends, of the same shape [A].

        Returns:
            Field, shape (p, c) or (k, p, c) [T].
        """
        # real gains: real and imaginary parts as columns, or the gains would be copied as complex numbers
        first, last = (
            np.concatenate([i.real, i.imag], axis=-1).astype(self.start.dtype, copy=False) for i in (into, out)
        )
        total = self.start @ first + self.end @ last
        half = into.shape[-1]
        field = np.empty((*total.shape[:-1], half), dtype=np.complex128)
        field.real, field.imag = total[..., :half], total[..., half:]
        return field

    def rows(self, rows: slice) -> Gains:
        """Return the gains of some of the places.

        Args:
            rows: Which of them.

        Returns:
            Their gains.
        """
        return Gains(self.start[rows], self.end[rows])

    def sets(self, count: int, which: Index) -> Gains:
        """Return some of the equal sets that the places are in.

        Args:
            count: Number of sets.
            which: Which of them, shape (k,).

        Returns:
            Gains of shape (k, p, s).
        """
        return Gains(*(g.reshape(count, -1, g.shape[1])[which] for g in (self.start, self.end)))

    def carrying(self) -> Floats:
        """Return the field of one ampere all along.

        Returns:
            Field, shape (p,) [T].
        """
        return np.asarray((self.start + self.end).sum(1))

    def coarse(self) -> Gains:
        """Return the gains with seven digits.

        Finding a peak needs no more, and there are many of them.

        Returns:
            The gains.
        """
        return Gains(self.start.astype(np.float32), self.end.astype(np.float32))


class OwnField:
    """The transmitter's own field at a geometry's places, per ampere in its lead or per unit of its coil's moment.

    Worked out when it is first wanted: fields (p,) [T] along the axes `over` the stations, and `across` them along
    the horizontal axis and up. `air`: it comes through the air from a coil, not from a lead on the ground.
    """

    def __init__(self, over: Callable[[], Floats], across: Callable[[], tuple[Floats, Floats]], *, air: bool) -> None:
        self._work_out_over, self._work_out_across, self.air = over, across, air

    @lazy
    def over(self) -> Floats:
        """Return the field over the stations.

        Returns:
            Field at every height [T].
        """
        return self._work_out_over()

    @lazy
    def across(self) -> tuple[Floats, Floats]:
        """Return the field at the offsets.

        Returns:
            Horizontal and vertical [T].
        """
        return self._work_out_across()


Own = tuple[OwnField, float]
"""The transmitter's own field and how many units of it."""
