"""Somebody who knows the work on a site of the yard: how much of the target can be proved and marked right there.

Direct connection at the near end, bonds opened with consent where there are any, the loop read at two frequencies, what
is at the access point and where the trace ends looked at. Stations clear of bends and ends; what one frequency does not
prove is tried at the next. Readings are the receiver's in a steady hand; the judge is the judge.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.wanted import require_wanted
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.judge.station.verdict import PROVED
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.marking import USUAL_TOLERANCE_M
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.model.soil import Soil
from vessel.core.practice.debrief import Attempt, Painted, debrief
from vessel.core.practice.energised import PutOn, put_on
from vessel.core.practice.receiver_held import Face, Held, faces
from vessel.core.practice.yard_lesson import Act, Goal, YardLesson
from vessel.core.signal.receiver.instrument import LIFT_M

TRIED_HZ = (8960.0, 35840.0)
"""Frequencies tried one after the other [Hz]; the loop is read at `LOW_HZ` as well."""
LOW_HZ = 560.0
ENOUGH = 0.8
"""Share of the target that has to be marked right for it to count as provable."""
_CLEAR_M, _EVERY_M = 4.5, 9.0
_ASIDE_M, _NULL_M, _GAIN_DB, _OUTPUT_A = 1.5, 0.5, 30.0, 0.06
_PEAK, _NULLS, _AGAIN = 25, 13, 3


@dataclass(frozen=True)
class _Place:
    """A station: how far along the records [m], where, and which way the line runs there."""

    at_m: float
    middle: Floats
    way: Floats

    def beside(self, offsets_m: Floats) -> Floats:
        left = np.array([-self.way[1], self.way[0]])
        return np.asarray(self.middle + offsets_m[:, None] * left)


def proved_by_expert(lesson: YardLesson, line: Line, soil: Soil, kit: Kit) -> float:
    """Return how much of a lesson's target somebody who knows the work marks right.

    Args:
        lesson: The lesson with what lies there.
        line: Its target by the records, drawn on their plan.
        soil: Soil by the records.
        kit: Transmitter and receiver in use.

    Returns:
        Share of its length, 0 to 1.
    """
    told = lesson.laid(lesson.target)
    route = Drawn(told.name, told.site_line.construction, told.told_route, *told.depths_told)
    todo, marks = _places(route), list[Painted]()
    for hz in TRIED_HZ:
        made = _located(lesson, line, soil, kit, todo, hz)
        marks += made.values()
        todo = [p for p in todo if p.at_m not in made]
        if not todo:
            break
    alone = replace(lesson, goals=(Goal("marked", ENOUGH),))
    numbered = tuple(replace(m, number=k) for k, m in enumerate(marks, start=1))
    attempt = Attempt(numbered, 1, (), 0, frozenset())
    return debrief(alone, attempt, tolerance_m=USUAL_TOLERANCE_M).goals[0].value


def asking_what_can_be_proved(lesson: YardLesson, provable: float) -> YardLesson:
    """Return a lesson that asks for no more than can be proved.

    Args:
        lesson: The lesson.
        provable: Share of its target that somebody who knows the work marks right.

    Returns:
        The same, without the goal of marking the target where that is less than `ENOUGH`.
    """
    if provable >= ENOUGH:
        return lesson
    return replace(lesson, goals=tuple(g for g in lesson.goals if g.kind != "marked"))


def _places(route: Drawn) -> list[_Place]:
    """Stations along every leg, clear of its ends."""
    found = []
    for start, end in pairwise(route.corner_distances_m.tolist()):
        run = end - start - 2 * _CLEAR_M
        if run <= 0:
            continue
        for at in np.linspace(start + _CLEAR_M, end - _CLEAR_M, 1 + max(1, int(np.ceil(run / _EVERY_M)))).tolist():
            before, after = route.places(np.array([at - 0.05, at + 0.05]))
            way = (after - before) / np.linalg.norm(after - before)
            found.append(_Place(at, 0.5 * (before + after), way))
    return found


def _located(
    lesson: YardLesson, line: Line, soil: Soil, kit: Kit, todo: Sequence[_Place], hz: float
) -> dict[float, Painted]:
    """What is marked at one frequency, by how far along it is."""
    acts: frozenset[Act] = frozenset({"open_bonds"}) if lesson.bonds else frozenset()
    setup = Setup("direct", hz, _OUTPUT_A, stake=usual_stake(kit.lead_m))

    def put(freq_hz: float) -> PutOn:
        require_wanted()
        return put_on(lesson, line, lesson.target, replace(setup, freq_hz=freq_hz), kit, acts)

    shown = [(f, put(f)) for f in (LOW_HZ, hz)]
    transmitter = [
        TransmitterReading(p.solved.output.volts, p.solved.output.amps, f)
        for f, p in shown
        if p.solved.output.volts is not None and p.solved.output.amps is not None
    ]
    on, chance = shown[-1][1], np.random.default_rng([lesson.order, round(hz)])
    read = [(p, *_read(p, on, kit, lesson, hz, chance)) for p in todo]
    heard = [(p, peak, r) for p, peak, r in read if r is not None]
    if not heard:
        return {}
    kinds = ("access", "ends_at", "bond_opened") if acts else ("access", "ends_at")
    judged = judge_stations(
        line,
        soil,
        kit,
        setup,
        hookup_state(line, soil, kit, setup, transmitter),
        [r for _, _, r in heard],
        rx_freq_hz=hz,
        transmitter=transmitter,
        evidence=[Evidence(kind, "for") for kind in kinds],  # type: ignore[arg-type]
    )
    depths = judged.weighed.placed.depth_m
    return {
        p.at_m: Painted(0, lesson.target, (float(peak[0]), float(peak[1])), float(depth), j.verdict, "direct", hz)
        for (p, peak, _), j, depth in zip(heard, judged.judgements, depths, strict=True)
        if j.verdict in PROVED
    }


def _read(
    place: _Place, on: PutOn, kit: Kit, lesson: YardLesson, hz: float, chance: np.random.Generator
) -> tuple[Floats, StationReading | None]:
    """One station: where its peak is, and what is read there; None where nothing is to be read."""
    require_wanted()
    heading = float(np.degrees(np.arctan2(place.way[0], place.way[1])))

    def held(at: Floats, *, lifted: bool = False) -> list[Face]:
        how = [Held((float(x), float(y)), heading, hz, _GAIN_DB, lifted) for x, y in at]
        return faces(on, how, kit, lesson.plant, chance)

    across = np.linspace(-_ASIDE_M, _ASIDE_M, _PEAK)
    aside = _top(across, np.array([f.level for f in held(place.beside(across))]))
    peak = place.beside(np.array([aside]))[0]
    near = np.linspace(-_NULL_M, _NULL_M, _NULLS)
    null = _top(near, -np.array([f.null_level for f in held(place.beside(aside + near))]))
    shown, (up,) = held(np.tile(peak, (_AGAIN, 1))), held(peak[None], lifted=True)
    amps = tuple(f.current_a for f in shown if f.current_a is not None)
    depth = shown[0].depth_m
    if depth is None or not amps:
        return peak, None
    return peak, StationReading(
        place.at_m,
        amps,
        depth,
        None if up.depth_m is None else LIFT_M,
        up.depth_m,
        abs(null),
        direction=shown[0].direction,
    )


def _top(at: Floats, size: Floats) -> float:
    """Where the greatest lies, by a parabola through its three highest."""
    k = int(np.clip(np.argmax(size), 1, len(size) - 2))
    a, b, c = size[k - 1 : k + 2].tolist()
    bend = a - 2 * b + c
    shift = 0.5 * (a - c) / bend if bend < 0 else 0.0
    return float(at[k] + np.clip(shift, -1, 1) * (at[1] - at[0]))
