"""One buried line as the technician describes it before any reading."""

from __future__ import annotations

from dataclasses import dataclass

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.construction import Construction
from vessel.core.model.hum import Hum
from vessel.core.model.line_ends import UNKNOWN_END, FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.site_plan import Course


@dataclass(frozen=True)
class AccessPoint:
    """Where the line can be reached.

    `bare_metal`: metal can be touched; `core_only`: but only the centre conductor of a shielded cable. `live`: in
    service and carrying dangerous voltage. `in_service`: must stay in service. `cased`: runs in metal casing there (a
    clamp would drive the casing too).
    `earth_ohm`: earth bonded there [ohm], None when there is none. `reached`: false for a buried anode or earth.
    """

    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    earth_ohm: float | None = None
    reached: bool = True
    core_only: bool = False


ACCESS_TICKS = ("bare_metal", "core_only", "live", "in_service", "cased")
"""What is ticked of an access point in forms and files."""


@dataclass(frozen=True)
class Solenoid:
    """The coil of a valve that the signal has to go through: `ohm` [ohm] in series with `henry` [H]."""

    ohm: float
    henry: float

    def __post_init__(self) -> None:
        require_range(self.ohm, low=1.0, high=1e4, field="solenoid_ohm", name="Solenoid's resistance", unit="ohm")
        require_range(self.henry, low=1e-4, high=5.0, field="solenoid_h", name="Solenoid's inductance", unit="H")


USUAL_SOLENOID = Solenoid(30.0, 0.05)
"""An irrigation valve's: usually 20 to 60 ohm and 20 to 100 mH."""


@dataclass(frozen=True)
class Access:
    """A further access point or a buried earth, `at_m` along the line from its near end [m].

    `name` as the crew calls it. `column`: a metal column, which the transmitter can be laid against. `solenoid`: the
    signal goes on through a valve's coil there: the line is that valve's own wire, and beyond it what it is joined to.
    `hum`: how plant hums there.
    """

    name: str
    at_m: float
    point: AccessPoint
    column: bool = False
    solenoid: Solenoid | None = None
    hum: Hum | None = None


def require_access(access: Access, *, length_m: float = 2e4) -> None:
    """Check what was entered on a line by its distance.

    Args:
        access: An access point or a buried earth.
        length_m: Length of the line, or of the longest there may be [m].

    Raises:
        OutOfRange: If it stands beyond the line or its earth cannot be.
    """
    require_range(access.at_m, low=0.0, high=length_m, field="at_m", name=f"Place of {access.name}", unit="m")
    if access.point.earth_ohm is not None:
        require_range(
            access.point.earth_ohm, low=0.01, high=1e5, field="earth_ohm", name="Earth resistance", unit="ohm"
        )


@dataclass(frozen=True)
class Line:
    """A line of `length_m` at a depth somewhere between `depth_min_m` and `depth_max_m` [m].

    With a `course` it runs where the site plan has it, among what is drawn there; without, it is straight and
    `neighbours` are told. `near` is its near end, `accesses` the other places where it can be reached.
    `controlled`: it begins at the terminals of a controller, which no signal may go into. `paired`: it has two
    conductors side by side, and both leads could be put on them.
    """

    construction: Construction
    length_m: float
    depth_min_m: float
    depth_max_m: float
    near: AccessPoint = AccessPoint()
    far: FarEnd = UNKNOWN_END
    neighbours: tuple[Neighbour, ...] = ()
    accesses: tuple[Access, ...] = ()
    course: Course | None = None
    controlled: bool = False
    paired: bool = False

    def __post_init__(self) -> None:
        require_range(self.length_m, low=2.0, high=20000.0, field="length_m", name="Length", unit="m")
        for field, label in (("depth_min_m", "Least depth"), ("depth_max_m", "Greatest depth")):
            require_range(getattr(self, field), low=0.05, high=15.0, field=field, name=label, unit="m")
        if self.depth_min_m > self.depth_max_m:
            raise BadInput("depths_swapped", field="depth_min_m")
        for field, ohm in (("near.earth_ohm", self.near.earth_ohm), ("far.earth_ohm", self.far.earth_ohm)):
            if ohm is not None:
                require_range(ohm, low=0.01, high=1e5, field=field, name="Earth resistance", unit="ohm")

        if self.course is not None and self.neighbours:
            raise ValueError("what runs beside a drawn line belongs on the plan")

    @property
    def mid_depth_m(self) -> float:
        """Middle of the expected depth range [m]."""
        return 0.5 * (self.depth_min_m + self.depth_max_m)

    def depth_m(self, *, deepest: bool) -> float:
        """Return the depth to compute with.

        Args:
            deepest: Whether to take the greatest expected depth; otherwise the middle.

        Returns:
            Depth [m].
        """
        return self.depth_max_m if deepest else self.mid_depth_m

    @property
    def solenoids(self) -> tuple[Access, ...]:
        """The valves whose coils the signal goes through, by distance."""
        return tuple(a for a in self.accesses if a.solenoid is not None)

    @property
    def wanted_m(self) -> tuple[tuple[float, float], ...]:
        """The stretches (from, to) [m] to be located: those in the dig area; the whole line without one."""
        if self.course is None:
            return ((0.0, self.length_m),)
        return self.course.drawn.wanted_m(self.course.plan.dig, self.length_m)

    def far_cases(self, *, between: bool = False) -> tuple[tuple[str, float | None], ...]:
        """Return the far ends to plan for.

        Args:
            between: Both leads are on a pair: its ends are joined for it, or somebody forgot.

        Returns:
            Name and earth resistance [ohm] of each case; None for open.
        """
        open_case, earthed = ("open", None), ("earthed", self.far.earth_ohm)
        if between:
            return (earthed, open_case)
        if self.far.kind == "unknown":
            return (open_case, earthed)
        return (open_case,) if self.far.kind == "open" else (earthed,)
