"""Sites made up from a seed: the same seed and level give the same ground to everybody."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from vessel.core.model.drawn_line import Area, Xy
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.network import Bond
from vessel.core.practice.yard_lesson import Goal, Laid, OldPaint, Plant, Visible, YardLesson

Level = Literal["easy", "middle", "hard"]
LEVELS: tuple[Level, ...] = ("easy", "middle", "hard")
MOST_SEED = 2**31 - 1
_TARGETS = (
    ("Gas service", "gas", "tracer_wire"),
    ("Water service", "water", "bare_copper_service"),
    ("Telephone cable", "telecom", "armoured_cable"),
    ("Gas main", "gas", "coated_steel_pipe"),
)
_OTHERS = (
    ("Factory feed", "power", "armoured_cable"),
    ("Street lighting cable", "power", "armoured_cable"),
    ("Water main", "water", "bare_steel_service"),
    ("Old telephone cable", "telecom", "pair_cable"),
    ("Signal cable", "telecom", "armoured_cable"),
)
_SOILS = ("loam", "moist_sand", "wet_clay")


@dataclass(frozen=True)
class _Hardness:
    """What a level makes of a site: lines beside, how near, how many the records lack, how wrong the records are."""

    beside: int
    nearest_m: float
    unknown: int
    wrong_m: float
    bonded: bool
    hum: float


_OF_LEVEL: dict[Level, _Hardness] = {
    "easy": _Hardness(1, 4.0, 0, 0.2, False, 0.0),
    "middle": _Hardness(2, 2.2, 1, 0.8, False, 8.0),
    "hard": _Hardness(3, 1.2, 2, 1.5, True, 20.0),
}


def random_site(level: Level, seed: int) -> YardLesson:
    """Return the site of a seed.

    Args:
        level: How hard it is to be.
        seed: Any number from 0 to `MOST_SEED`.

    Returns:
        A lesson without words of its own: locate the target, mark nothing that is wrong.
    """
    chance, hard = np.random.default_rng([seed, LEVELS.index(level)]), _OF_LEVEL[level]
    name, utility, kind = _TARGETS[chance.integers(len(_TARGETS))]
    depth = float(chance.uniform(0.6, 1.2))
    route = _route(chance)
    end = FarEnd("earthed", float(chance.uniform(10, 60)))
    lain = tuple((x, y, round(depth, 2)) for x, y in route)
    target = Laid(
        name,
        utility,
        kind,
        lain,
        end=end,
        recorded=_misdrawn(route, hard.wrong_m, chance),
        near_note="Riser at the gate",
    )
    others = [_beside(k, route, hard, chance) for k in range(hard.beside)]
    soil = _SOILS[chance.integers(len(_SOILS))]
    bonds = (Bond(name, 0.0, others[0].name, 0.0),) if hard.bonded else ()
    plant = _hum(route, hard, chance)
    return YardLesson(
        id=f"random-{level}-{seed}",
        order=0,
        name=f"{level} {seed}",
        point="",
        task="",
        target=name,
        lines=(target, *others),
        soil=soil,
        # the records know the ground, not last night's rain or this summer's drought
        soil_told="" if level == "easy" else _SOILS[chance.integers(len(_SOILS))],
        bonds=bonds,
        access=_seen(name, route, others),
        plant=plant,
        goals=(Goal("no_wrong_mark"),) if hard.bonded else (Goal("no_wrong_mark"), Goal("marked", 0.8)),
        paved=_paved(route, chance),
        old_paint=_old_paint(utility, route, hard, chance),
    )


def _old_paint(
    utility: str, route: tuple[Xy, ...], hard: _Hardness, chance: np.random.Generator
) -> tuple[OldPaint, ...]:
    """Paint that an earlier job left over part of the first leg, as wrong as the records; on one site of two."""
    if chance.random() < 0.5:
        return ()
    off, end = float(chance.normal(0, hard.wrong_m)), route[1][0]
    return (OldPaint(utility, ((round(0.3 * end, 2), round(off, 2)), (round(0.7 * end, 2), round(off, 2)))),)


def _paved(route: tuple[Xy, ...], chance: np.random.Generator) -> tuple[Area, ...]:
    """A footway along the first leg, and the building that the line comes from."""
    side, near = (1.0 if chance.random() < 0.5 else -1.0), float(chance.uniform(2.0, 4.0))
    first, last = 4.0, max(route[1][0] - 3.0, 8.0)
    edge = (round(side * near, 2), round(side * (near + 1.5), 2))
    return (
        Area("Footway", ((first, edge[0]), (last, edge[0]), (last, edge[1]), (first, edge[1]))),
        Area("Building", ((-11.0, -5.0), (-2.5, -5.0), (-2.5, 4.0), (-11.0, 4.0))),
    )


def _route(chance: np.random.Generator) -> tuple[Xy, ...]:
    """A riser, a straight run, a bend and a second run."""
    first, second = chance.uniform(22, 40), chance.uniform(15, 30)
    turn = np.radians(chance.choice([-60, -35, 35, 60]))
    x, y = float(first), 0.0
    far = (x + float(second * np.cos(turn)), y + float(second * np.sin(turn)))
    return _rounded(((0.0, 0.0), (x, y), far))


def _rounded(route: tuple[Xy, ...]) -> tuple[Xy, ...]:
    return tuple((round(x, 2), round(y, 2)) for x, y in route)


def _misdrawn(route: tuple[Xy, ...], by_m: float, chance: np.random.Generator) -> tuple[Xy, ...]:
    """The route by the records: right at the riser, where anybody sees it, and off elsewhere."""
    off = chance.normal(0, by_m / 2, (len(route), 2))
    off = np.clip(off, -by_m, by_m)
    off[0] = 0.0
    return _rounded(tuple((x + float(dx), y + float(dy)) for (x, y), (dx, dy) in zip(route, off, strict=True)))


def _beside(k: int, route: tuple[Xy, ...], hard: _Hardness, chance: np.random.Generator) -> Laid:
    """A line that runs along the first leg, or across it."""
    name, utility, kind = _OTHERS[k]
    length, side = route[1][0], 1 if chance.random() < 0.5 else -1
    known, depth = k >= hard.unknown, round(float(chance.uniform(0.5, 1.1)), 2)
    start, end = FarEnd("earthed", float(chance.uniform(5, 40))), FarEnd("earthed", float(chance.uniform(5, 60)))
    mains = 0.4 if utility == "power" else 0.03  # what it carries of the mains by itself
    if k == 2:
        x = round(float(chance.uniform(0.4, 0.8) * length), 2)
        way: tuple[Xy, ...] = ((x - 2.0, -14.0), (x + 2.0, 14.0))
        return Laid(name, utility, kind, _deep(way, depth + 0.5), start, end, known=known, mains_a=mains)
    off = round(side * float(chance.uniform(1.0, 1.6)) * hard.nearest_m * (1 + k), 2)
    way = ((0.0 if hard.bonded and k == 0 else -6.0, off), (length + 8.0, off))
    far = end if known else OPEN_END
    return Laid(name, utility, kind, _deep(way, depth), start, far, known=known, mains_a=mains)


def _deep(way: tuple[Xy, ...], depth_m: float) -> tuple[tuple[float, float, float], ...]:
    return tuple((round(x, 2), round(y, 2), round(depth_m, 2)) for x, y in way)


def _hum(route: tuple[Xy, ...], hard: _Hardness, chance: np.random.Generator) -> tuple[Plant, ...]:
    if not hard.hum:
        return ()
    x = float(chance.uniform(0.2, 0.8)) * route[1][0]
    return (Plant("Transformer kiosk", (round(x, 1), 9.0), 6.0, hard.hum),)


def _seen(name: str, route: tuple[Xy, ...], others: list[Laid]) -> tuple[Visible, ...]:
    far = Visible("Far cabinet", "pedestal", route[-1], bare_metal=True)
    boxes = [
        Visible(f"Box of {x.name.lower()}", "pedestal", (x.route[0][0], x.route[0][1]), bare_metal=False, live=True)
        for x in others
        if x.known and x.utility == "power"
    ]
    return (far, *boxes)
