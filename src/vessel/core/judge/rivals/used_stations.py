"""The stations that rivals are weighed by, as arrays: made once, however often they are asked."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.base.cached import lazy
from vessel.core.model.readings import StationReading

_AWAY: dict[str, float] = {"away": 1.0, "towards": -1.0}


@dataclass(frozen=True, eq=False)
class UsedStations:
    """Readings of s stations with depth and current, each of shape (s,), SI; NaN where not taken.

    `repeats`: how often the current was read. `away`: 1 where it runs away from the hookup, -1 towards it.
    `placed_m`: how far left of the line as drawn each was placed, `placed_pm_m`: how well that is known. `profiles`:
    offsets [m] and signals of readings across, by the index of the station, where there was any signal.
    """

    distance_m: Floats
    current_a: Floats
    depth_m: Floats
    depth_lifted_m: Floats
    lift_height_m: Floats
    peak_null_m: Floats
    neighbour_a: Floats
    repeats: Floats
    away: Floats
    placed_m: Floats
    placed_pm_m: Floats
    profiles: dict[int, tuple[Floats, Floats]]

    @classmethod
    def of(cls, readings: Sequence[StationReading]) -> UsedStations:
        """Return stations as arrays.

        Args:
            readings: Readings with depth and current.

        Returns:
            The same in their order.
        """

        def column(value: Callable[[StationReading], float | None]) -> Floats:
            return np.array([np.nan if (v := value(r)) is None else v for r in readings], dtype=np.float64)

        across = {
            k: (np.array([x for x, _ in r.profile]), np.array([signal for _, signal in r.profile]))
            for k, r in enumerate(readings)
            if any(signal > 0 for _, signal in r.profile)
        }
        return cls(
            column(lambda r: r.distance_m),
            column(lambda r: r.current_a),
            column(lambda r: r.depth_m),
            column(lambda r: r.depth_lifted_m),
            column(lambda r: r.lift_height_m),
            column(lambda r: r.peak_null_m),
            column(_beside_a),
            np.array([max(len(r.currents_a), 1) for r in readings], dtype=np.float64),
            column(lambda r: _AWAY.get(r.direction)),
            column(lambda r: None if r.placed is None else r.placed[0]),
            column(lambda r: None if r.placed is None else r.placed[1]),
            across,
        )

    @property
    def count(self) -> int:
        """How many stations there are."""
        return len(self.distance_m)

    def part(self, which: Mask) -> UsedStations:
        """Return some of the stations.

        Args:
            which: Which of them, shape (s,).

        Returns:
            The same, the others left out.
        """
        place = np.cumsum(which) - 1
        kept = {int(place[k]): each for k, each in self.profiles.items() if which[k]}
        *columns, _ = (f.name for f in fields(self))
        return replace(self, profiles=kept, **{name: getattr(self, name)[which] for name in columns})

    @lazy
    def lift_error(self) -> Floats:
        """Return how much more than its height a lift added.

        Returns:
            Error against the height of the lift, shape (s,); NaN without a lift.
        """
        return (self.depth_lifted_m - self.depth_m - self.lift_height_m) / self.lift_height_m


def _beside_a(r: StationReading) -> float | None:
    """The most current beside [A]; where only signals were read, at one gain, by the loudest: as if it lay as deep."""
    if r.best_neighbour_a is None and r.loudest_neighbour is not None and r.current_a is not None:
        return r.loudest_neighbour * r.current_a
    return r.best_neighbour_a
