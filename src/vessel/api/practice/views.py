"""The practice yard as the interface gets it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.core.practice.frame_held import Points
from vessel.core.practice.random_site import Level
from vessel.core.practice.yard_lesson import Tool


class LessonListed(BaseModel):
    """A lesson on the list; `best`: the technician's best score, None if never ended."""

    id: str
    order: int
    name: str
    point: str
    tries: int
    passed: bool
    best: int | None


class ExerciseListed(BaseModel):
    """An exercise on the list; without `score` it has not ended."""

    job_id: int
    name: str
    level: str
    seed: int
    technician: str
    started_at: str
    ended_at: str | None
    passed: bool | None
    score: int | None
    strikes: int | None


class DifficultyView(BaseModel):
    """A difficulty of random sites."""

    id: Level
    label: str
    note: str


class PracticeView(BaseModel):
    """The practice yard: lessons in the order of the work, levels of random sites, exercises begun and ended."""

    lessons: list[LessonListed]
    levels: list[DifficultyView]
    running: list[ExerciseListed]
    ended: list[ExerciseListed]


class CrewRow(BaseModel):
    """What one technician did in the yard."""

    technician: str
    exercises: int
    lessons_passed: int
    mean_score: int | None
    strikes: int
    last_at: str


class CrewTable(BaseModel):
    """A crew's table for its trainer; `lessons`: how many there are."""

    lessons: int
    rows: list[CrewRow]


class HookedUp(BaseModel):
    """The newest hookup of the job, which the yard's transmitter is on once it is switched on.

    `receiver_hz`: what the receiver is known to be set to under it [Hz].
    """

    setup_id: int
    line_id: int
    line: str
    text: str
    freq_hz: float
    freq_text: str
    receiver_hz: float | None
    at: list[float]
    stake_at: list[float] | None
    through_air: bool
    steps_open: list[str]


class ActView(BaseModel):
    """Something that can be done at the hookup."""

    id: str
    label: str
    done: bool


class FrequencyChoice(BaseModel):
    """A frequency that the receiver can be set to; 0 is mains, without a transmitter."""

    freq_hz: float
    label: str


class RodView(BaseModel):
    """The sonde's rod: how much is out, and the run its stops belong to, None before one is started.

    `stuck`: it goes no further. `steps_open`: steps before the rod goes in that are not ticked.
    """

    rod_m: float
    rod: str
    stuck: bool
    run_id: int | None
    steps_open: int


class WalkInYard(BaseModel):
    """The walk with the frame, None before one is started: where its transmitter and its stake stand."""

    walk_id: int
    text: str
    at: list[float]
    stake_at: list[float]
    steps_open: int


class OldPaintView(BaseModel):
    """Paint of an earlier job on the ground (east, north [m])."""

    text: str
    hex: str
    route: list[list[float]]


class YardView(BaseModel):
    """An exercise: what is seen, what is on, what can be done. Nothing of what lies in the ground.

    `start`: where the technician stands at first (east, north [m]). `shows`: the transmitter's display, at
    `sends_hz` [Hz]. `tool`: what is handed out; `rod`, `walk` belong to sonde and frame. `looks`: whether there is a
    box to look into.
    """

    job_id: int
    lesson: str
    name: str
    point: str
    task: str
    level: str
    seed: int
    target: str
    target_line_id: int | None
    goals: list[str]
    tool: Tool
    rod: RodView | None
    walk: WalkInYard | None
    on: bool
    hooked: HookedUp | None
    volts: float | None
    milliamps: float | None
    shows: str
    looks: bool
    acts: list[ActView]
    frequencies: list[FrequencyChoice]
    hits: list[list[float]]
    old_paint: list[OldPaintView]
    sends_hz: float | None
    receiver_hz: float
    start: list[float]
    remark: str
    ended: bool


class FaceView(BaseModel):
    """What the receiver shows at one place; null: nothing. `level` and `null_level` over 1 are overdriven.

    `latitude`, `longitude` [deg]: what the positioning says. `depth`, `milliamps` as a form takes them. `coil`: where
    the transmitter's coil is now (east, north [m]): one that is carried along follows the receiver. `along`: how far
    along the target as drawn, as a form takes it.
    """

    level: float
    null_level: float
    side: Literal["", "left", "right"]
    depth_m: float | None
    depth: str
    depth_text: str
    current_a: float | None
    milliamps: str
    direction: Literal["", "away", "towards"]
    noisy: bool
    coil: list[float] | None
    along: str
    latitude: float
    longitude: float


class FrameFaceView(BaseModel):
    """What the frame shows where it is set, and what of it a form takes.

    `turned`: how it is turned to the line as drawn: on or back along it, to its left or right, or in between. `along`,
    `arrow`, `level`, `across`: as the form of a reading takes them.
    """

    points: Points
    level: str
    turned: Literal["on", "back", "left", "right", ""]
    along: str
    arrow: Literal["", "on", "back", "null"]
    across: Literal["", "null", "left", "right"]


class RemarkView(BaseModel):
    """What the coach says; empty: nothing."""

    text: str


class GoalView(BaseModel):
    """A goal and what was reached of it."""

    text: str
    met: bool
    reached: str


class TruthView(BaseModel):
    """A line as it lies: its route (east, north [m]), what it carries, and whether the records had it."""

    name: str
    hex: str
    route: list[list[float]]
    depths_m: list[float]
    known: bool
    target: bool


class MarkedView(BaseModel):
    """A mark against the ground."""

    number: int
    line: str
    at: list[float]
    verdict: str
    right: bool
    strike: bool
    heeded: bool
    text: str
    why: str


class HappenedView(BaseModel):
    """One thing on the timeline; `at_place` (east, north [m]) where it has one."""

    at: str
    text: str
    at_place: list[float] | None


class DebriefView(BaseModel):
    """How an exercise went, with what lay in the ground."""

    job_id: int
    name: str
    lesson: str
    level: str
    seed: int
    headline: str
    passed: bool
    score: int
    minutes: int
    setups: int
    goals: list[GoalView]
    truth: list[TruthView]
    marks: list[MarkedView]
    timeline: list[HappenedView]
