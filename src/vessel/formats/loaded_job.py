"""A job read once: its kit, soil, plan, lines and hookups as core objects, each built on first use and never again.

Everything that answers about a job takes these. `row` is what was read: a document of a job file, or a database row
with the same field names.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, wraps
from typing import Any, Concatenate, ParamSpec, Protocol, TypeVar, cast

from vessel.core.hookup.transmitter_forecast import require_sound
from vessel.core.model.construction import Construction, preset
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.entry_fields import STATION_FIELDS
from vessel.core.model.first_sweep import Candidate
from vessel.core.model.identity import Evidence, LineEnd, bonds_kept_open
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line, require_access
from vessel.core.model.marking import Marking
from vessel.core.model.opened_bonds import with_bonds_open
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.site_plan import SitePlan
from vessel.core.model.soil import Soil
from vessel.core.model.utility import Utility, utility
from vessel.core.prestart.checks_and_noise import kit_here
from vessel.core.text.units import Units
from vessel.formats.adapters import (
    candidate_of,
    evidence_of,
    kit_of,
    line_of,
    placed_off,
    reading_of,
    readings_of,
    setup_of,
    station_of,
)
from vessel.formats.before_doc import BeforeDoc, ambients_of, before_doc, checks_of, passive_of
from vessel.formats.loaded_sonde import LoadedRun
from vessel.formats.loaded_walk import LoadedWalk
from vessel.formats.marking_doc import marking_of
from vessel.formats.plan_doc import SitePlanDoc
from vessel.formats.site_plan_doc import drawn_lines, metal_of, plan_doc, points_of, site_plan_of


class _Answering(Protocol):
    answers: dict[Any, Any]


S = TypeVar("S", bound=_Answering)
P = ParamSpec("P")
T = TypeVar("T")


def asked_once(work: Callable[Concatenate[S, P], T]) -> Callable[Concatenate[S, P], T]:
    """Remember with what was loaded what `work` answered about it: later asks of the same request cost nothing."""

    @wraps(work)
    def ask(of: S, /, *args: P.args, **kwargs: P.kwargs) -> T:
        key = (work.__qualname__, args, tuple(kwargs.items()))
        if key not in of.answers:
            of.answers[key] = work(of, *args, **kwargs)
        return cast(T, of.answers[key])

    return ask


class LoadedJob:
    """A job (document or row) and everything that is built of it."""

    def __init__(self, row: Any) -> None:
        self.row = row
        self.units: Units = row.units
        self.answers: dict[Any, Any] = {}
        self._lines: dict[int, LoadedLine] = {}

    @cached_property
    def stock_kit(self) -> Kit:
        """The kit as its data say, without the noise on site."""
        return kit_of(getattr(self.row.kit, "data", self.row.kit))

    @cached_property
    def kit(self) -> Kit:
        """The kit with the noise that was read on site."""
        return kit_here(self.stock_kit, ambients_of(self.pre_start))

    @cached_property
    def pre_start(self) -> BeforeDoc:
        """What was done before anything was switched on."""
        return before_doc(self.row)

    @cached_property
    def soil(self) -> Soil:
        """The soil, measured or of its kind."""
        return Soil.of_kind(self.row.soil_kind, self.row.soil_resistivity_ohm_m)

    @property
    def measured(self) -> bool:
        """Whether the soil's resistivity was measured, not taken from its kind."""
        return self.row.soil_resistivity_ohm_m is not None

    @cached_property
    def drawing(self) -> SitePlanDoc:
        """What is on the plan other than lines."""
        return plan_doc(self.row)

    @cached_property
    def site(self) -> SitePlan | None:
        """The site plan, its drawn lines first; None where nothing is drawn."""
        return site_plan_of(self.row, self.drawing)

    @cached_property
    def marking(self) -> Marking:
        """The local rule of marking."""
        return marking_of(self.row)

    @cached_property
    def lines(self) -> tuple[LoadedLine, ...]:
        """The lines that were not removed, in order."""
        return tuple(self.line(row) for row in self.row.lines if row.deleted_at is None)

    @cached_property
    def drawn(self) -> tuple[LoadedLine, ...]:
        """The lines that were not removed and have a route, as `site` has them."""
        return tuple(self.line(row) for row in drawn_lines(self.row))

    def line(self, row: Any) -> LoadedLine:
        """Return one of the job's lines."""
        if id(row) not in self._lines:
            self._lines[id(row)] = LoadedLine(self, row)
        return self._lines[id(row)]

    def setup(self, row: Any) -> LoadedSetup:
        """Return one of the hookups of the job's lines."""
        return self.line(row.line).setup(row)

    def check(self) -> None:
        """Build everything once, so that a value out of range is refused before anything is stored."""
        checks_of(self.pre_start)
        passive_of(self.pre_start)
        _ = self.soil, self.site, self.marking
        for line in map(self.line, self.row.lines):
            line.check()


class LoadedLine:
    """A line of a loaded job."""

    def __init__(self, job: LoadedJob, row: Any) -> None:
        self.job, self.row = job, row
        self.answers: dict[Any, Any] = {}
        self._setups: dict[int, LoadedSetup] = {}
        self._runs: dict[int, LoadedRun] = {}
        self._walks: dict[int, LoadedWalk] = {}

    @property
    def has_metal(self) -> bool:
        """Whether signal can be put on it."""
        return self.row.construction is not None

    @cached_property
    def line(self) -> Line:
        """The line as core takes it; raises `BadInput` for one without metal, which carries no signal."""
        return line_of(self.row, self.job.site, self.own, self.job.drawing.access)

    @cached_property
    def own(self) -> int | None:
        """Which of the site plan's lines it is, None where it is not drawn."""
        return self.job.drawn.index(self) if self in self.job.drawn else None

    @property
    def drawn_as(self) -> Drawn | None:
        """Its route on the site plan, None where it is not drawn."""
        return None if self.own is None or self.job.site is None else self.job.site.drawn[self.own]

    @property
    def wanted_m(self) -> tuple[tuple[float, float], ...]:
        """The stretches (from, to) [m] to be located: those in the dig area; the whole line without one."""
        drawn, length_m = self.drawn_as, self.row.length_m
        if drawn is None or self.job.site is None:
            return ((0.0, length_m),)
        return drawn.wanted_m(self.job.site.dig, length_m)

    @cached_property
    def utility(self) -> Utility:
        """How the local rule marks what the line carries."""
        return self.job.marking.utility(self.row.utility)

    @property
    def setups(self) -> tuple[LoadedSetup, ...]:
        """Its hookups, the oldest first."""
        return tuple(self.setup(row) for row in self.row.setups)

    @property
    def in_use(self) -> LoadedSetup | None:
        """The hookup in use: the newest one."""
        return self.setup(self.row.setups[-1]) if self.row.setups else None

    def setup(self, row: Any) -> LoadedSetup:
        """Return one of its hookups."""
        if id(row) not in self._setups:
            self._setups[id(row)] = LoadedSetup(self, row)
        return self._setups[id(row)]

    @property
    def runs(self) -> tuple[LoadedRun, ...]:
        """Its sonde runs, the oldest first."""
        return tuple(self.run(row) for row in self.row.sonde_runs)

    @property
    def run_in_use(self) -> LoadedRun | None:
        """The sonde run in use: the newest one."""
        return self.run(self.row.sonde_runs[-1]) if self.row.sonde_runs else None

    @property
    def walks(self) -> tuple[LoadedWalk, ...]:
        """Its walks with the frame, the oldest first."""
        return tuple(self.walk(row) for row in self.row.fault_walks)

    @property
    def walk_in_use(self) -> LoadedWalk | None:
        """The walk with the frame in use: the newest one."""
        return self.walk(self.row.fault_walks[-1]) if self.row.fault_walks else None

    def walk(self, row: Any) -> LoadedWalk:
        """Return one of its walks with the frame."""
        if id(row) not in self._walks:
            self._walks[id(row)] = LoadedWalk(self, row)
        return self._walks[id(row)]

    @cached_property
    def pipe(self) -> Construction | None:
        """What it is made of, None without metal."""
        return metal_of(self.row)

    def run(self, row: Any) -> LoadedRun:
        """Return one of its sonde runs."""
        if id(row) not in self._runs:
            self._runs[id(row)] = LoadedRun(self, row)
        return self._runs[id(row)]

    def check(self) -> None:
        """Refuse what cannot be, on the line, under each of its hookups and in each of its sonde runs."""
        if self.has_metal:
            require_sound(self.line, self.job.soil)
        utility(self.row.utility)
        preset(self.row.preset)
        for n in self.row.neighbours:
            preset(n.preset)
        for access in points_of(self.row):
            require_access(access)
        for setup in self.setups:
            setup.check()
        for run in self.runs:
            run.check()
        for walk in self.walks:
            walk.check()


class LoadedSetup:
    """A hookup of a loaded line."""

    def __init__(self, line: LoadedLine, row: Any) -> None:
        self.line, self.job, self.row = line, line.job, row
        self.answers: dict[Any, Any] = {}
        self._stations: dict[int, LoadedStation] = {}

    @cached_property
    def setup(self) -> Setup:
        """The hookup as core takes it."""
        return setup_of(self.row)

    @property
    def live_readings(self) -> list[Any]:
        """The transmitter readings (documents or rows) that were not removed, in the order they were taken."""
        return [r for r in self.row.readings if r.deleted_at is None]

    @cached_property
    def readings(self) -> tuple[TransmitterReading, ...]:
        """The transmitter readings that can be: what the core explains."""
        return readings_of(self.live_readings, self.setup, self.job.kit)

    @property
    def live_candidates(self) -> list[Any]:
        """The centre lines of the first sweep (documents or rows) that were not removed, by bearing."""
        return sorted((c for c in self.row.candidates if c.deleted_at is None), key=lambda c: float(c.bearing_deg))

    @cached_property
    def candidates(self) -> tuple[Candidate, ...]:
        """The centre lines of the first sweep, by bearing."""
        return tuple(candidate_of(c) for c in self.live_candidates)

    @property
    def live_evidence(self) -> list[Any]:
        """The evidence of identity (documents or rows) that was not removed, in the order it was found."""
        return [e for e in self.row.evidence if e.deleted_at is None]

    @cached_property
    def evidence(self) -> tuple[Evidence, ...]:
        """The evidence of identity: of each kind, and of each place where it has one, what was found last."""
        return tuple({(e.kind, e.at_m): evidence_of(e) for e in self.live_evidence}.values())

    @property
    def bonds_open(self) -> frozenset[LineEnd]:
        """The ends of the line at which nothing else is connected while it is traced."""
        return bonds_kept_open(self.evidence)

    @cached_property
    def traced(self) -> Line:
        """The line as it is while it is traced under this hookup: bonds that are kept open are off it."""
        return with_bonds_open(self.line.line, self.setup, self.bonds_open)

    @property
    def stations(self) -> list[LoadedStation]:
        """The stations that were not removed, by distance."""
        live = (s for s in self.row.stations if s.deleted_at is None)
        return [self.station(s) for s in sorted(live, key=lambda s: float(s.distance_m))]

    def station(self, row: Any) -> LoadedStation:
        """Return one of its stations."""
        if id(row) not in self._stations:
            self._stations[id(row)] = LoadedStation(self, row)
        return self._stations[id(row)]

    def check(self) -> None:
        """Refuse what cannot be, in the hookup and what was read under it."""
        self.setup.require_on(self.line.row.length_m)
        self.job.kit.require(self.row.hookup, self.row.freq_hz, at="kit")
        for r in self.row.readings:
            reading_of(r)
        for c in self.row.candidates:
            candidate_of(c)
        for e in self.row.evidence:
            evidence_of(e)
        for s in self.row.stations:
            station_of(s)
            for f in STATION_FIELDS:
                f.check(s)


class LoadedStation:
    """A station under a loaded hookup."""

    def __init__(self, setup: LoadedSetup, row: Any) -> None:
        self.setup, self.row = setup, row
        self.answers: dict[Any, Any] = {}

    @cached_property
    def reading(self) -> StationReading:
        """What was read there, and where it is beside the line as drawn if it was placed on the plan."""
        drawn, place = self.setup.line.drawn_as, self.row.place
        if drawn is None or place is None:
            return station_of(self.row)
        return station_of(self.row).corrected(placed=placed_off(drawn, place))

    @property
    def mark(self) -> Any | None:
        """The mark (document or row) that was not withdrawn, None without one."""
        return next((m for m in self.row.marks if m.withdrawn_at is None), None)


def checked(row: Any) -> LoadedJob:
    """Return a job (document or row) loaded; raise `BadInput` or `OutOfRange` for anything in it that cannot be."""
    job = LoadedJob(row)
    job.check()
    return job
