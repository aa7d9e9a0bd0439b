"""A lesson: what lies in the ground, what the records say of it, what is asked, and when it is passed.

Plain data. The ground is hidden from whoever practises; the records are the job they get.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.construction import preset
from vessel.core.model.drawn_line import Area, Xy
from vessel.core.model.line_ends import OPEN_END, TYPICAL_FAR_EARTH_OHM, FarEnd, FarEndKind
from vessel.core.model.network import Bond, Feature, Site, SiteLine
from vessel.core.model.soil import Soil
from vessel.core.signal.layout.site_checks import check_site
from vessel.core.signal.layout.vertical_separation import separate

Act = Literal["stake_deeper", "clean_clip", "earth_far", "open_bonds"]
"""What can be done at a hookup in the yard: stake deeper, clip cleaned, far end earthed, bonds opened with consent."""

Tool = Literal["receiver", "sonde", "frame"]
"""What a lesson hands out: transmitter and receiver, a sonde on a rod with its receiver, or a two-spike frame."""

GoalKind = Literal[
    "no_wrong_mark",
    "marked",
    "none_marked",
    "frequency",
    "method",
    "acted",
    "read_at",
    "lifted",
    "null_read",
    "stood_off",
    "setups",
    "swept",
    "heard",
    "fault_at",
]
Moment = Literal["started", "on", "read", "log", "mark", "acted"]
"""When a hint is due: at the start, switched on, transmitter read, station logged, marked, something done."""


@dataclass(frozen=True)
class Laid:
    """A line as it lies: `route` (east, north, depth [m]), and what the records say of it.

    `known`: whether the records have it; `recorded`: its route there (east, north [m]), empty where that is right;
    `told_depth` (least, greatest [m]), None: about what it is. `far_told`: its far end by the records.
    `bare_metal` to `core_only`: its near end as `AccessPoint` has it. `mains_a`: what it carries of the mains' current
    by itself [A].
    """

    name: str
    utility: str
    preset: str
    route: tuple[tuple[float, float, float], ...]
    start: FarEnd = OPEN_END
    end: FarEnd = OPEN_END
    features: tuple[Feature, ...] = ()
    known: bool = True
    recorded: tuple[Xy, ...] = ()
    told_depth: tuple[float, float] | None = None
    far_told: FarEndKind = "unknown"
    bare_metal: bool = True
    live: bool = False
    in_service: bool = False
    core_only: bool = False
    near_note: str = ""
    mains_a: float = 0.0

    @cached_property
    def site_line(self) -> SiteLine:
        """The line as the circuit takes it."""
        return SiteLine(self.name, preset(self.preset).construction, self.route, self.start, self.end, self.features)

    @property
    def told_route(self) -> tuple[Xy, ...]:
        """Its route by the records (east, north [m])."""
        return self.recorded or tuple((x, y) for x, y, _ in self.route)

    @property
    def depths_told(self) -> tuple[float, float]:
        """Least and greatest depth by the records [m]."""
        if self.told_depth is not None:
            return self.told_depth
        depths = [depth for _, _, depth in self.route]
        return round(max(0.75 * min(depths), 0.1), 2), round(1.3 * max(depths), 2)


VisibleKind = Literal["meter", "riser", "valve", "pedestal", "pillar", "lamp_column", "manhole", "test_post", "other"]


@dataclass(frozen=True)
class Visible:
    """An access point that anybody sees."""

    name: str
    kind: VisibleKind
    at: Xy
    bare_metal: bool = True
    live: bool = False
    in_service: bool = False
    earth_ohm: float | None = None


@dataclass(frozen=True)
class OldPaint:
    """Paint of an earlier job on the ground, for a line of that `utility`: it may be right or wrong."""

    utility: str
    route: tuple[Xy, ...]


@dataclass(frozen=True)
class Plant:
    """Something that hums at `at` [m]: noise within about `reach_m` [m] is up to `times` the kit's.

    The hum falls as 1/f above `upto_hz` [Hz].
    """

    name: str
    at: Xy
    reach_m: float
    times: float
    upto_hz: float = 1200.0


@dataclass(frozen=True)
class Goal:
    """One thing that passes a lesson.

    `low`, `high`: of what is measured (a share, a frequency [Hz], metres, a count); `what`: a method or an act.
    """

    kind: GoalKind
    low: float = 0.0
    high: float = 1e9
    what: str = ""


@dataclass(frozen=True)
class Hint:
    """What the coach says after something was done; `only` narrows it: a verdict, a method or an act."""

    after: Moment
    say: str
    only: str = ""


@dataclass(frozen=True)
class WalkStep:
    """One step of a scripted walk, by which a lesson shows that it can be passed, and failed.

    `hook_up`: `line` by `what` (a method) at `freq_hz` [Hz], `amps` [A], at `at_m` along the line by the records [m],
    the stake at `place`, a coil carried `apart_m` behind [m]. `receiver`: set it to `freq_hz`. `on`, `off`; `read`:
    enter what the transmitter shows; `act`: do `what`; `evidence`: `what` speaks for the line. `trace`: stations from
    `at_m` to `to_m`, `step_m` apart [m], the loudest looked for within `aside_m`, with `lift` and `null`. `sweep`:
    centre lines on a circle of `aside_m` [m]. `passive`: walk `to_m` from `place` towards `at_m` degrees and log what
    is heard of the mains. `mark`: the stations or stops whose verdict is in `what`: proved, or all. `rod`: stops with
    so much rod out, from `at_m` to `to_m`, `step_m` apart [m]; `what` is wrong with them: the receiver in line mode
    ("line"), a ghost peak taken for the main one ("ghost"). `ready`: steps of a walk with the frame, those in `what`
    left out. `frame`: set from `at_m` to `to_m`, `step_m` apart. `mark_faults`: those found, or `all` of them.
    """

    do: Literal[
        "hook_up", "receiver", "on", "off", "read", "act", "evidence", "trace", "sweep", "passive", "mark",
        "rod", "ready", "frame", "mark_faults",
    ]  # fmt: skip
    what: str = ""
    line: str = ""
    freq_hz: float | None = None
    amps: float = 0.06
    at_m: float = 0.0
    to_m: float = 0.0
    step_m: float = 8.0
    aside_m: float = 1.5
    place: Xy | None = None
    apart_m: float | None = None
    lift: bool = True
    null: bool = True


@dataclass(frozen=True)
class YardLesson:
    """One lesson; `target` names the line to locate, `order` its place in the order of the work.

    `soil_told`: the soil by the records, where it is another. `clip_ohm`: of the clip on the metal as found [ohm].
    `bonds_told`: whether the records show the bonds. `far_earth_ohm`: what earthing the far end gives [ohm].
    `paved`: buildings and hard ground, where no stake goes in. `old_paint`: of an earlier job.
    `receiver_hz`: what the receiver is set to at first [Hz]. `tool`: what is handed out. `good`: a walk that passes;
    `naive`: the one it warns of.
    """

    id: str
    order: int
    name: str
    point: str
    task: str
    target: str
    lines: tuple[Laid, ...]
    soil: str = "loam"
    resistivity_ohm_m: float | None = None
    soil_told: str = ""
    bonds: tuple[Bond, ...] = ()
    bonds_told: bool = False
    structures: tuple[Laid, ...] = ()
    access: tuple[Visible, ...] = ()
    plant: tuple[Plant, ...] = ()
    dig: tuple[Xy, ...] = ()
    paved: tuple[Area, ...] = ()
    old_paint: tuple[OldPaint, ...] = ()
    clip_ohm: float = 0.5
    far_earth_ohm: float = TYPICAL_FAR_EARTH_OHM
    receiver_hz: float | None = None
    tool: Tool = "receiver"
    goals: tuple[Goal, ...] = (Goal("no_wrong_mark"), Goal("marked", 0.8))
    hints: tuple[Hint, ...] = ()
    good: tuple[WalkStep, ...] = ()
    naive: tuple[WalkStep, ...] = ()

    def __post_init__(self) -> None:
        names = [line.name for line in (*self.lines, *self.structures)]
        for name in names:
            if names.count(name) > 1:
                raise BadInput("thing_name_twice", field="lines", name=name)
        if self.target not in [line.name for line in self.lines if line.known]:
            raise BadInput("lesson_without_target", field="target", name=self.target)
        require_range(self.clip_ohm, low=0.0, high=1e5, field="clip_ohm", name="Clip contact", unit="ohm")
        _ = self.site

    @cached_property
    def site(self) -> Site:
        """What is in the ground; where two things would lie in each other the deeper one passes under."""
        things = [each.site_line for each in (*self.lines, *self.structures)]
        apart, _ = separate(things, self.bonds)
        site = Site(Soil.of_kind(self.soil, self.resistivity_ohm_m), tuple(apart), self.bonds)
        check_site(site)
        return site

    def laid(self, name: str) -> Laid:
        """Return a line by name.

        Args:
            name: Its name.

        Returns:
            The line as it lies.
        """
        return next(line for line in self.lines if line.name == name)
