"""What a two-spike frame shows where somebody sets it in the yard, and the walk's hookup put on the ground."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.model.drawn_line import Xy
from vessel.core.model.fault_walk import Across, FaultWalk
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import OPEN_END
from vessel.core.model.network import Hookup, Site
from vessel.core.model.setup import Stake
from vessel.core.practice.energised import PutOn
from vessel.core.practice.yard_lesson import YardLesson
from vessel.core.signal.layout.placed_hookup import square_to
from vessel.core.signal.solved_site import SolvedSite
from vessel.core.signal.spike_volts import spike_volts

NOISE_V = 1e-5
"""What a frame picks up of stray currents in the soil, rms [V]."""
_HAND_M, _HAND_DEG = 0.02, 3.0  # how far spikes go in beside where they are meant
_SURE = 3.0  # below so many times its noise a frame points nowhere
_NEXT_TO_NOTHING = 0.1  # of what it shows turned a quarter: somebody who turns it takes that for a null
_ALONG_COS = 0.7
_PER_VOLT = 1e3

Points = Literal["ahead", "behind", "null"]
Turned = Literal["on", "back", "left", "right", ""]


@dataclass(frozen=True)
class Spiked:
    """Where the frame is set: its middle (east, north [m]) and the way from its rear to its front spike [deg]."""

    at: tuple[float, float]
    heading_deg: float


@dataclass(frozen=True)
class FrameFace:
    """What the frame shows: to which spike it points, and its level in units of its own (thousandths of a volt)."""

    points: Points
    level: float


def put_walk(lesson: YardLesson, line: Line, name: str, walk: FaultWalk, kit: Kit) -> PutOn:
    """Return the ground under a walk's hookup; an earth whose step is not done is still on.

    Args:
        lesson: The lesson with what lies there.
        line: The line as the job has it, drawn on its plan.
        name: Name of the line it really is.
        walk: How the walk is made.
        kit: Transmitter in use.

    Returns:
        The site solved, and the transmitter's place.
    """
    here, stake_at = stands_at(line, walk)
    hookup = Hookup(
        "direct",
        walk.freq_hz,
        max(kit.outputs_a),
        name,
        min(walk.start_m, lesson.site.line(name).length_m),
        stake=Stake(),
        stake_at=stake_at,
    )
    return PutOn(SolvedSite(_lifted(lesson.site, name, walk), hookup, kit), here)


def stands_at(line: Line, walk: FaultWalk) -> tuple[Xy, Xy]:
    """Return where a walk's transmitter and its stake stand: the stake to the left of the line.

    Args:
        line: The line as the job has it.
        walk: How the walk is made.

    Returns:
        Both places (east, north [m]).
    """
    here, square = square_to(line, walk.start_m)
    way = np.array([square[1], -square[0]])
    stake = here + (walk.stake_along_m - walk.start_m) * way + walk.stake_away_m * square
    return (float(here[0]), float(here[1])), (float(stake[0]), float(stake[1]))


def _lifted(site: Site, name: str, walk: FaultWalk) -> Site:
    lines = [
        x
        if x.name != name
        else replace(
            x,
            start=OPEN_END if "near_off" in walk.done else x.start,
            end=OPEN_END if "far_off" in walk.done else x.end,
        )
        for x in site.lines
    ]
    bonds = [b for b in site.bonds if "bonds_off" not in walk.done or name not in (b.a, b.b)]
    return replace(site, lines=tuple(lines), bonds=tuple(bonds))


def frame_faces(
    put: PutOn | None, spiked: Sequence[Spiked], frame_m: float, chance: np.random.Generator
) -> list[FrameFace]:
    """Return what the frame shows.

    Args:
        put: The hookup that is on; None: the transmitter is off.
        spiked: Where it is set.
        frame_m: Distance between its spikes [m].
        chance: Where noise and the hand's unsteadiness come from.

    Returns:
        One for each.
    """
    n = len(spiked)
    at = np.array([s.at for s in spiked]) + chance.normal(0, _HAND_M, (n, 2))
    turn = np.radians(np.array([s.heading_deg for s in spiked]) + chance.normal(0, _HAND_DEG, n))
    headings = np.column_stack([np.sin(turn), np.cos(turn)])
    volts, least = chance.normal(0, NOISE_V, n), np.full(n, _SURE * NOISE_V)
    if put is not None:
        picked = spike_volts(put.solved, at, headings, frame_m)
        turned = spike_volts(put.solved, at, np.column_stack([-headings[:, 1], headings[:, 0]]), frame_m)
        volts = volts + np.abs(picked) * np.sign(picked.real)
        least = np.maximum(least, _NEXT_TO_NOTHING * np.abs(turned))
    return [
        FrameFace(
            "null" if abs(v) < low else "ahead" if v > 0 else "behind",
            float(f"{_PER_VOLT * abs(v):.3g}"),
        )
        for v, low in zip(volts.tolist(), least.tolist(), strict=True)
    ]


def turned_to(heading_deg: float, way: tuple[float, float]) -> Turned:
    """Return how a frame is turned to a line.

    Args:
        heading_deg: Way from its rear to its front spike [deg].
        way: The line's own way there, a unit vector (east, north).

    Returns:
        On along it, back along it, square to its left or right; empty in between.
    """
    turn = np.radians(heading_deg)
    front = np.array([np.sin(turn), np.cos(turn)])
    along, left = float(front @ way), float(front @ np.array([-way[1], way[0]]))
    if abs(along) >= _ALONG_COS:
        return "on" if along > 0 else "back"
    if abs(left) >= _ALONG_COS:
        return "left" if left > 0 else "right"
    return ""


@dataclass(frozen=True)
class AsRead:
    """What a form of a reading takes of a frame: `arrow` of one along the line, `across` of one square to it."""

    arrow: Literal["", "on", "back", "null"] = ""
    across: Across = ""


def as_read(points: Points, turned: Turned) -> AsRead:
    """Return what somebody writes down of a frame.

    Args:
        points: To which spike it points.
        turned: How it is turned to the line.

    Returns:
        Where it points, as the line goes.
    """
    if turned in ("on", "back"):
        ahead = (points == "ahead") == (turned == "on")
        return AsRead(arrow="null" if points == "null" else "on" if ahead else "back")
    if turned in ("left", "right"):
        to_left = (points == "ahead") == (turned == "left")
        return AsRead(across="null" if points == "null" else "left" if to_left else "right")
    return AsRead()
