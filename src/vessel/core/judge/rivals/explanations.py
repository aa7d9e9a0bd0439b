"""The explanations of a hookup as currents of a few conductors along the line: the line as entered, and its rivals."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index, Mask
from vessel.core.judge.rivals.rival_kinds import RivalId


@dataclass(frozen=True, eq=False)
class Conductors:
    """Currents of m conductors at n places along the line, the line itself first.

    `amps` (m, n) [A per unit of drive], `offset_m` (m, n) [m] left of the line as entered. `depth_m` (m,) [m], NaN for
    one as deep as the line, times `depth_ratio` (m,).
    """

    amps: Complex
    offset_m: Floats
    depth_m: Floats
    depth_ratio: Floats

    def mirrored(self, which: Sequence[int]) -> Conductors:
        """Return the same with some conductors on the other side.

        Args:
            which: Indices of those.

        Returns:
            The conductors.
        """
        side = np.ones((len(self.amps), 1))
        side[list(which)] = -1.0
        return replace(self, offset_m=self.offset_m * side)

    def at_places(self, which: Index) -> Conductors:
        """Return the same at some of the places.

        Args:
            which: Their indices, shape (p,).

        Returns:
            The conductors.
        """
        return replace(self, amps=self.amps[:, which], offset_m=self.offset_m[:, which])

    def beside(self, entered: Conductors) -> Conductors:
        """Return these with what is entered beside the line, between the line and what follows it.

        Args:
            entered: The line as entered and its neighbours, at the same places.

        Returns:
            The conductors.
        """
        return Conductors(
            *(
                np.concatenate([getattr(self, f)[:1], getattr(entered, f)[1:], getattr(self, f)[1:]])
                for f in Conductors.__dataclass_fields__
            )
        )

    def followed_by(self, amps: Complex | Floats, offset_m: Floats, ratio: float = 1.0) -> Conductors:
        """Return these with one more conductor.

        Args:
            amps: Its current, shape (n,) [A per unit of drive].
            offset_m: Its offsets, shape (n,) [m].
            ratio: Its depth against the line's.

        Returns:
            The conductors.
        """
        return Conductors(
            np.vstack([self.amps, amps]),
            np.vstack([self.offset_m, offset_m]),
            np.append(self.depth_m, np.nan),
            np.append(self.depth_ratio, ratio),
        )


@dataclass(frozen=True, eq=False)
class Explanation:
    """One explanation: its kind (None: as entered), weight before any reading, conductors, and which is followed.

    `bonded_here`: something else is bonded to the line where it is hooked up; `bonded_far`: where else it ends.
    `loop_ohm`: what the transmitter sees without stake and clip [ohm], None where it cannot tell. `rivals`: indices of
    the conductors that are not entered. `of_m`: what it is about: how far aside, or where along the line [m].
    `like_entered`: up to there, what is read is what is read over the line as entered, and past it as well, unless
    `anything` may be read there; `back`: past it lies towards the near end. `either_side`: its rival may run on the
    other side as well. `grid`: the grid it is a point of, which what is fitted from its best point stands for; -1: of
    none.
    """

    kind: RivalId | None
    weight: float
    conductors: Conductors
    follows: int = 0
    bonded_here: bool = False
    bonded_far: bool = False
    loop_ohm: complex | None = None
    rivals: tuple[int, ...] = ()
    of_m: float = 0.0
    like_entered: bool = False
    anything: bool = False
    back: bool = False
    either_side: bool = False
    grid: int = -1

    def beside(self, entered: Conductors) -> Explanation:
        """Return the same with what is entered beside the line as well.

        Args:
            entered: The line as entered and its neighbours, at the same places.

        Returns:
            The explanation.
        """
        more = len(entered.amps) - 1
        follows, rivals = self.follows + more * (self.follows > 0), tuple(k + more for k in self.rivals)
        return replace(self, conductors=self.conductors.beside(entered), follows=follows, rivals=rivals)

    def past(self, at_m: Floats) -> Mask:
        """Return which places lie past where it begins, seen from the hookup.

        Args:
            at_m: Distances along the line, shape (n,) [m].

        Returns:
            Mask, shape (n,).
        """
        return np.asarray(at_m < self.of_m if self.back else at_m > self.of_m)
