"""A site: lines as routes in the ground, what sits on them, what bonds them; and a hookup anywhere on it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput, NotFound, require_range
from vessel.core.model.construction import Construction
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.methods import METHOD_TABLE, HookupMethod, Method
from vessel.core.model.setup import Stake
from vessel.core.model.soil import Soil

Xyd = tuple[float, float, float]
"""East, north, depth [m]."""
FeatureKind = Literal["joint", "earth", "break", "fault", "solenoid"]
USUAL_STAKE = Stake()
MIN_LEG_M = 0.05
MAX_LEGS = 500


@dataclass(frozen=True)
class Feature:
    """Something lumped on a line at `at_m` along it [m].

    joint: `ohm` parallel `farad` in series; solenoid: `ohm` + `henry` in series; break: open (`ohm` if given);
    earth (anode, bonded rod) and fault: `ohm` to the soil there.
    """

    kind: FeatureKind
    at_m: float
    ohm: float = 0.0
    farad: float = 0.0
    henry: float = 0.0

    def __post_init__(self) -> None:
        require_range(self.ohm, low=0, high=1e12, field="features.ohm", name="Resistance", unit="ohm")
        require_range(self.farad, low=0, high=1e-3, field="features.farad", name="Capacitance", unit="F")
        require_range(self.henry, low=0, high=100, field="features.henry", name="Inductance", unit="H")
        if self.kind in ("earth", "fault") and self.ohm < 0.01:
            raise BadInput("feature_without_ohm", field="features.ohm", kind=self.kind, at_m=self.at_m)


@dataclass(frozen=True)
class SiteLine:
    """A line, or a bare structure that takes signal, along `route` ((east, north, depth) corners [m]).

    `construction` None: no metal, it carries no signal. Distances along it count from the first corner.
    """

    name: str
    construction: Construction | None
    route: tuple[Xyd, ...]
    start: FarEnd = OPEN_END
    end: FarEnd = OPEN_END
    features: tuple[Feature, ...] = ()

    def __post_init__(self) -> None:
        if not 2 <= len(self.route) <= MAX_LEGS + 1:
            raise BadInput(
                "corner_count", field="route", name=self.name, count=len(self.route), least=2, most=MAX_LEGS + 1
            )
        if not np.isfinite(self.corners_m).all() or np.abs(self.corners_m[:, :2]).max() > 1e6:
            raise BadInput("corner_no_place", field="route", name=self.name)
        for x, y, depth in self.route:
            where = f"{self.name}: depth at ({x:g}, {y:g})"
            require_range(depth, low=0.02, high=15.0, field="route", name=where, unit="m")
        legs = np.diff(self.corners_m, axis=0)
        short = np.flatnonzero(np.linalg.norm(legs, axis=1) < MIN_LEG_M)
        if len(short):
            raise BadInput("leg_without_length", field="route", leg=short[0] + 1, name=self.name, least_m=MIN_LEG_M)
        require_range(self.length_m, low=1.0, high=2e4, field="route", name=f"Length of {self.name}", unit="m")
        for end in (self.start, self.end):
            require_range(end.earth_ohm, low=0.01, high=1e5, field="earth_ohm", name="Earth resistance", unit="ohm")
        for f in self.features:
            self.require_on(f.at_m, what=f"The {f.kind}")

    @cached_property
    def corners_m(self) -> Floats:
        """Corners (k, 3) [m] with z up."""
        return np.asarray(np.array(self.route, dtype=float) * np.array([1.0, 1.0, -1.0]))

    @cached_property
    def bare(self) -> SiteLine:
        """The line without its ends and earths: what lies where asks for nothing else."""
        return SiteLine(self.name, self.construction, self.route)

    @cached_property
    def silent(self) -> SiteLine:
        """The line as if it had no metal: it keeps its place and carries no signal."""
        return SiteLine(self.name, None, self.route)

    @cached_property
    def corner_distances_m(self) -> Floats:
        """Distance of each corner along the line (k,) [m]."""
        steps = np.linalg.norm(np.diff(self.corners_m, axis=0), axis=1)
        return np.concatenate([[0.0], np.cumsum(steps)])

    @cached_property
    def leg_boxes_m(self) -> tuple[Floats, Floats]:
        """Least and greatest coordinates (k - 1, 3) [m] of each leg."""
        legs = np.stack([self.corners_m[:-1], self.corners_m[1:]])
        return legs.min(0), legs.max(0)

    @property
    def length_m(self) -> float:
        """Length along the route [m]."""
        return float(self.corner_distances_m[-1])

    def places(self, distances_m: Floats) -> Floats:
        """Return places along the line.

        Args:
            distances_m: Distances along it, shape (n,) [m].

        Returns:
            Places with z up, shape (n, 3) [m].
        """
        return np.column_stack(
            [np.interp(distances_m, self.corner_distances_m, self.corners_m[:, i]) for i in range(3)]
        )

    def headings(self, distances_m: Floats) -> Floats:
        """Return the direction of the line at several distances.

        Args:
            distances_m: Distances along it, shape (n,) [m].

        Returns:
            Horizontal unit vectors of the leg that runs on from each, shape (n, 2).
        """
        legs = np.diff(self.corners_m[:, :2], axis=0)
        norm = np.linalg.norm(legs, axis=1, keepdims=True)
        # a vertical leg has no heading of its own: north stands in for it
        unit = np.where(norm > 1e-6, legs / np.maximum(norm, 1e-6), np.array([[0.0, 1.0]]))
        leg = np.clip(np.searchsorted(self.corner_distances_m, distances_m, side="right") - 1, 0, len(legs) - 1)
        return np.asarray(unit[leg])

    def require_on(self, at_m: float, *, what: str, field: str = "at_m") -> None:
        """Check that a place is on the line.

        Args:
            at_m: Distance along it [m].
            what: What is there, for the message.
            field: Name of the field a refusal is to name.

        Raises:
            BadInput: If it is beyond the line's ends.
        """
        if not 0 <= at_m <= self.length_m + 1e-6:
            raise BadInput("off_the_line", field=field, thing=what, at_m=at_m, name=self.name, length_m=self.length_m)


@dataclass(frozen=True)
class Bond:
    """Metal joined to metal: line `a` at `a_m` with line `b` at `b_m` [m] through `ohm`; a tee is a bond of 0 ohm."""

    a: str
    a_m: float
    b: str
    b_m: float
    ohm: float = 0.01

    def __post_init__(self) -> None:
        require_range(self.ohm, low=0, high=1e6, field="bonds.ohm", name="Bond resistance", unit="ohm")


@dataclass(frozen=True)
class Site:
    """Soil, lines (names are unique) and bonds."""

    soil: Soil
    lines: tuple[SiteLine, ...]
    bonds: tuple[Bond, ...] = ()

    def __post_init__(self) -> None:
        if not self.lines:
            raise BadInput("no_line", field="lines")
        names = [line.name for line in self.lines]
        for i, name in enumerate(names):
            if name in names[:i]:
                raise BadInput("line_name_twice", field="lines", name=name)
        for bond in self.bonds:
            for name, at in ((bond.a, bond.a_m), (bond.b, bond.b_m)):
                self.line(name, field="bonds").require_on(at, what="A bond", field="bonds")
            if bond.a == bond.b and bond.a_m == bond.b_m:
                raise BadInput("bond_to_itself", field="bonds", name=bond.a)

    def index(self, name: str, *, field: str = "line") -> int:
        """Return the index of a line.

        Args:
            name: Its name.
            field: Name of the field a refusal is to name.

        Returns:
            The index.

        Raises:
            NotFound: If there is none; names those there are.
        """
        for i, line in enumerate(self.lines):
            if line.name == name:
                return i
        known = ", ".join(f"“{line.name}”" for line in self.lines)
        raise NotFound("no_such_line", field=field, name=name, known=known)

    def line(self, name: str, *, field: str = "line") -> SiteLine:
        """Return a line by name.

        Args:
            name: Its name.
            field: Name of the field a refusal is to name.

        Returns:
            The line.

        Raises:
            NotFound: If there is none; names those there are.
        """
        return self.lines[self.index(name, field=field)]


@dataclass(frozen=True)
class Hookup:
    """Where the transmitter stands and what it drives.

    direct: metal of `line` at `at_m`, returned at `stake_at` (east, north [m]). pair: that metal against `other` at
    `other_m`. clamp: round `line` at `at_m`. induction: coil at `coil_at` (east, north [m]), its axis across a line
    that runs at `coil_heading_deg` (clockwise from north).
    """

    method: Method
    freq_hz: float
    output_a: float
    line: str = ""
    at_m: float = 0.0
    stake: Stake = USUAL_STAKE
    stake_at: tuple[float, float] = (0.0, 0.0)
    clip_ohm: float = 0.5
    other: str = ""
    other_m: float = 0.0
    coil_at: tuple[float, float] = (0.0, 0.0)
    coil_heading_deg: float = 0.0

    def __post_init__(self) -> None:
        require_range(self.output_a, low=1e-4, high=5, field="output_ma", name="Output", unit="A")
        require_range(self.freq_hz, low=100, high=500e3, field="freq_hz", name="Frequency", unit="Hz")
        require_range(self.clip_ohm, low=0, high=1e5, field="clip_ohm", name="Clip contact", unit="ohm")

    @property
    def by(self) -> HookupMethod:
        """What its method does and needs."""
        return METHOD_TABLE[self.method]
