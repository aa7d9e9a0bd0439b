"""What a line's hookups put along it and into its stations, per unit of what the transmitter drives."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.model.setup import Setup
from vessel.core.signal.circuit.branch_currents import Ends
from vessel.core.signal.receiver.field_gains import Own
from vessel.core.signal.receiver.return_field import ReturnField


@dataclass(frozen=True, eq=False)
class Currents:
    """Currents of hookups (h) for each far end (c) at the stations (n).

    `loads_ohm` (h, c): what the transmitter drives into [ohm], NaN for induction. `current_a` (h, c, n) [A] of the
    line, `beside_a` (h, c, k, n) of each line beside. `ends_a`: (w, h, c) [A] into and out of every segment of the
    site. `own` (h,): the transmitter's own field. `returning` (h,): the field of the return current in the soil.
    """

    setups: tuple[Setup, ...]
    loads_ohm: Complex
    current_a: Floats
    beside_a: Floats
    ends_a: Ends
    own: tuple[Own | None, ...]
    returning: tuple[ReturnField, ...]

    @classmethod
    def joined(cls, parts: Sequence[Currents]) -> Currents:
        """Return the currents of several frequencies or soils as one.

        Args:
            parts: One for each, of the same stations and far ends.

        Returns:
            Their hookups one after the other.
        """
        if len(parts) == 1:
            return parts[0]
        into, out = (np.concatenate([p.ends_a[k] for p in parts], axis=1) for k in range(2))
        return cls(
            tuple(s for p in parts for s in p.setups),
            np.concatenate([p.loads_ohm for p in parts]),
            np.concatenate([p.current_a for p in parts]),
            np.concatenate([p.beside_a for p in parts]),
            (into, out),
            tuple(own for p in parts for own in p.own),
            tuple(returned for p in parts for returned in p.returning),
        )


@dataclass(frozen=True, eq=False)
class Cases:
    """Hookups with what the receiver's coils meet at the stations.

    `far_cases` (c,) names the far ends, first those the line is `told` to have. `over_t` (h, c, n, 4) [T] at both
    coils, down and lifted; `air_share` (h, c, n): what of it comes from the transmitter's coil, against the lines, NaN
    where it has none.
    """

    far_cases: tuple[str, ...]
    told: int
    currents: Currents
    over_t: Complex
    air_share: Floats


@dataclass(frozen=True, eq=False)
class Carried:
    """Places (k) of a coil carried along, each read at one station, per unit of its full moment, by far end (c).

    `current_a` (k, c) of the line, `beside_a` (k, c) the most of any other, `over_t` (k, c, 4), `air_share` (k, c).
    `returning` (k,): the return current's field. `peak_null_m` gives the distance (i, c) [m] between peak and null of
    some of them (i,).
    """

    current_a: Floats
    beside_a: Floats
    over_t: Complex
    air_share: Floats
    returning: tuple[ReturnField, ...]
    peak_null_m: Callable[[Index], Floats]
