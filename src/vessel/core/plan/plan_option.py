"""One option of a plan, what it is good for, and the plan made of them."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isfinite
from typing import Literal

from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.judge.station.verdict import outcome_of
from vessel.core.model.setup import Setup
from vessel.core.simulate.forecast import Forecast, Moving
from vessel.core.simulate.ratings import Rating

_LEAST_MORE_M, _WORTH_MOVING = 1.0, 0.05
"""Of what is wanted: moving induction takes two people, so it has to give that much more."""

Proves = Literal["mark", "care", "earthed", "depends"]
"""What an option is good for: plain marks, marks with care, marks once the far end is earthed; else it depends."""


@dataclass(frozen=True, eq=False)
class Option:
    """One setup and its rating (None where safety or the kit rules it out), and why it is rejected.

    `rejected` is a reason id, None for a ranked option; `same_as_a` the lower step [A] that already gives as much.
    `access`: the access point it is made at, empty for induction; `disturbs`: it is in service there. `in_soils_m`:
    length [m] it proves in the wettest and in the driest soil expected, where that was looked at.
    """

    setup: Setup
    rating: Rating | None
    rejected: str | None = None
    same_as_a: float | None = None
    access: str = ""
    disturbs: bool = False
    in_soils_m: tuple[float, ...] | None = None

    @property
    def forecasts(self) -> tuple[Forecast, ...]:
        """The forecast of each far-end case; none where it was ruled out."""
        return () if self.rating is None else self.rating.forecasts

    @property
    def proved_m(self) -> float:
        """Length to be located [m] that is **Mark** for every far end considered."""
        return 0.0 if self.rating is None else self.rating.proved_m

    @property
    def earthed_m(self) -> float:
        """Length to be located [m] that is **Mark** with the far end earthed, NaN where that was not rated."""
        return float("nan") if self.rating is None else self.rating.earthed_m

    @property
    def proves(self) -> Proves:
        """What it is good for, at least over a stretch worth walking: nothing it only might do counts."""
        worth_m = inf if self.rating is None else self.rating.of.worth_m
        if self.proved_m >= worth_m:
            return "mark"
        if self.usable_m >= worth_m:
            return "care"
        return "earthed" if self.earthed_m >= worth_m else "depends"

    @property
    def earthed_besides(self) -> bool:
        """Whether it was rated with the far end earthed although neither is entered for the line."""
        return self.rating is not None and (self.rating.of.earthed or 0) >= self.rating.of.told

    @property
    def usable_m(self) -> float:
        """Length to be located [m] that is Mark or Mark with care for every far end considered."""
        return 0.0 if self.rating is None else self.rating.usable_m

    @property
    def far_end_a(self) -> tuple[float, ...]:
        """Current at the last station before the far end [A], one for each way the far end may be."""
        return tuple(float(f.current_a[-1]) for f in self.forecasts)

    @property
    def peak_null_m(self) -> float | None:
        """Widest peak-to-null distance [m] where a mark may rest on it; None where there is none or it is unknown."""
        apart = [float(d) for f in self.forecasts for d, ok in zip(f.peak_null_m, f.proved, strict=True) if ok]
        return max(apart) if apart and all(isfinite(d) for d in apart) else None

    @property
    def stand_off_m(self) -> float | None:
        """Distance [m] from the coil at which the first station can be marked, for every far end considered.

        None where no station can be.
        """
        worst = 0.0
        for f in self.forecasts:
            off = abs(f.distance_m - self.setup.position_m)[f.proved]
            if not len(off):
                return None
            worst = max(worst, float(off.min()))
        return worst if self.forecasts else None

    def loud(self, share: float) -> bool:
        """Return whether a neighbour takes more than the judge lets pass.

        Args:
            share: Its share of the line's current.

        Returns:
            True if it does.
        """
        return self.rating is not None and outcome_of(rule_of(self.rating.of.kit, "neighbour"), share) != "pass"

    @property
    def bleed_share(self) -> float:
        """Greatest share of the line's own current that a neighbour takes."""
        return 0.0 if self.rating is None else self.rating.bleed_share


@dataclass(frozen=True)
class Plan:
    """Ranked options, best first, and the rejected ones. `wanted_m`: length of the line to be located [m].

    `moving`: what moving induction would do, tried only where setups that stand still leave much unproved.
    `instead_of`: the setup that the assumed soil alone would have put first. `if_earthed`: the setup to use once the
    far end is earthed, where that would clearly prove more than the plan does as it is.
    """

    ranked: tuple[Option, ...]
    rejected: tuple[Option, ...]
    wanted_m: float
    moving: Moving | None = None
    instead_of: Option | None = None
    if_earthed: Option | None = None

    @property
    def standing_m(self) -> float:
        """Length to be located [m] that is Mark or Mark with care by the best setup that stands still."""
        return max((o.usable_m for o in self.ranked), default=0.0)

    @property
    def worth_moving(self) -> Moving | None:
        """Moving induction where a mark could rest on clearly more than by any setup that stands still; else None."""
        enough_m = self.standing_m + max(_WORTH_MOVING * self.wanted_m, _LEAST_MORE_M)
        return self.moving if self.moving is not None and self.moving.proved_m >= enough_m else None
