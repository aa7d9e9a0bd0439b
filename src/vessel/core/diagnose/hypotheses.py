"""Parameter families that could explain what the transmitter shows over a direct connection."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import Change
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.layout.beside_line import look_aside
from vessel.core.signal.layout.line_on_site import LineFault, lay_out, target_of

STAKE_SPREAD = 0.35
"""Standard deviation of the logarithm of a sound stake's resistance round its formula."""


@dataclass(frozen=True)
class Cause:
    """One kind of explanation: `cost` is minus the logarithm of how rare it is before any reading."""

    id: str
    cost: float


@dataclass(frozen=True)
class Suspect:
    """A family at one parameter value: stake and clip replaced, the line changed, the far end closed or open.

    `parameter` is what the family varies (m, ohm or a factor), `prior` its own cost.
    """

    family: Cause
    parameter: float
    prior: float
    line: Line
    far_ohm: float | None
    stake_factor: float = 1.0
    clip_ohm: float | None = None
    faults: tuple[LineFault, ...] = ()
    free_stake: bool = True


FAMILIES: dict[str, Cause] = {
    f.id: f
    for f in (
        Cause("far_earthed", 0.0),
        Cause("far_open", 0.0),
        Cause("poor_stake", 2.0),
        Cause("bad_clip", 2.2),
        Cause("break", 2.5),
        Cause("earth_fault", 2.2),
        # rarer than a twentieth: what a bond would take widens the forecast only where the readings speak for it
        Cause("bonded", 3.1),
    )
}


def _normal_cost(z: float) -> float:
    return 0.5 * z * z


def candidates(line: Line, setup: Setup, soil: Soil, kit: Kit) -> list[Suspect]:
    """Return every candidate explanation of a direct connection, on grids of their parameters.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.

    Returns:
        Candidates: healthy, open, broken, faulty, bonded and so on, each with its prior.
    """
    f, found = FAMILIES, list[Suspect]()
    length, kind = line.length_m, line.far.kind
    # a stated far end is believed, but not blindly: the other case stays possible at a cost
    open_cost = {"open": 0.0, "unknown": 0.7, "earthed": 3.0}[kind]
    earthed_cost = {"open": 3.0, "unknown": 0.7, "earthed": 0.0}[kind]
    typical = line.far.earth_ohm
    for ohm in np.geomspace(1.0, 1000.0, 19):
        spread = _normal_cost(float(np.log(ohm / typical)) / 0.9)
        found.append(Suspect(f["far_earthed"], float(ohm), earthed_cost + spread, line, float(ohm)))
    if line.course is None:
        for share in (s for s in _OTHER_LENGTHS if s * length > setup.position_m + _CLEAR_M):
            other, prior = replace(line, length_m=share * length), earthed_cost + _length_cost(line, share)
            for ohm in np.geomspace(2.0, 500.0, 7):
                spread = _normal_cost(float(np.log(ohm / typical)) / 0.9)
                found.append(Suspect(f["far_earthed"], float(ohm), prior + spread, other, float(ohm)))
    found += _ends_and_breaks(line, setup.position_m, open_cost)
    cases = ((None, open_cost), (typical, earthed_cost))
    for far, cost in cases:
        for factor in np.geomspace(1.8, 60.0, 16):
            found.append(Suspect(f["poor_stake"], float(factor), cost, line, far, float(factor), free_stake=False))
        for clip in np.geomspace(60.0, 5000.0, 16):
            found.append(Suspect(f["bad_clip"], float(clip), cost, line, far, clip_ohm=float(clip)))
        for bond in _bonds(line, setup.position_m, soil):
            found.append(Suspect(f["bonded"], bond.at_m, cost, line, far, faults=(bond,)))
    if not line.construction.bare:
        for at in np.linspace(0.05, 0.95, 10) * length:
            fault = (LineFault("earth_fault", float(at), 10.0),)
            found.append(Suspect(f["earth_fault"], float(at), open_cost, line, None, faults=fault))
    return found


def _ends_and_breaks(line: Line, hooked_m: float, open_cost: float) -> list[Suspect]:
    """An open far end where it should be, give or take; else the line broken on either side of the hookup.

    The length of a line that is not drawn is a guess: it may end where it seems to be broken.
    """
    found, length = list[Suspect](), line.length_m
    guessed = line.course is None
    for share in np.linspace(0.08, 1.5, 40) if guessed else np.linspace(0.08, 1.3, 40):
        at = float(share * length)
        if at < hooked_m + _CLEAR_M:
            continue
        if share >= (_SHORTEST if guessed else _FAR_END):
            prior = open_cost + _length_cost(line, float(share))
            found.append(Suspect(FAMILIES["far_open"], at, prior, replace(line, length_m=at), None))
        if share < _FAR_END:
            found.append(_broken(line, at))
    if hooked_m + _CLEAR_M > _FAR_END * length:
        found.append(Suspect(FAMILIES["far_open"], length, open_cost, line, None))
    before = np.linspace(0.05, 0.95, 19) * hooked_m
    return found + [_broken(line, float(at)) for at in before if _CLEAR_M <= at <= hooked_m - _CLEAR_M]


def _length_cost(line: Line, share: float) -> float:
    """Cost of a line `share` times as long as entered: one that is drawn was measured, another was guessed."""
    return _normal_cost(float(np.log(share)) / (_GUESSED if line.course is None else _DRAWN))


def _bonds(line: Line, hooked_m: float, soil: Soil) -> list[LineFault]:
    """Where a line could be bonded to what runs beside it: near both ends of what they share, and between."""
    site, found = lay_out(line, soil), list[LineFault]()
    places = np.array([x for x in _BONDED_AT * line.length_m if abs(x - hooked_m) > _CLEAR_M])
    names = {site.lines[target_of(line)].name}
    known = {b.a if b.b in names else b.b for b in site.bonds if b.a in names or b.b in names}
    near = sorted(look_aside(line, site, places), key=lambda a: abs(a.beside.offset_m))
    for a in [a for a in near if site.lines[a.beside.index].name not in known][:_MOST_BESIDE]:
        index = a.beside.index
        for at, to, met in zip(places, a.along_m, a.met, strict=True):
            if met:
                found.append(LineFault("bond", float(at), _BOND_OHM, index, float(to), a.beside.name))
    return found


def _broken(line: Line, at_m: float) -> Suspect:
    return Suspect(FAMILIES["break"], at_m, 0.0, line, None, faults=(LineFault("break", at_m),))


def after(c: Suspect, changes: Sequence[Change], line: Line, *, far_ohm: float | None = None) -> Suspect:
    """Return a candidate as it is after changes at the hookup.

    A bond to a line beside that was opened is no more.
    How much better the stake got is fitted elsewhere. Behind a break an earth at the far end does nothing; a far end
    that was earthed before keeps its earth. A line that seems a little long or short is taken to be as entered then.

    Args:
        c: The candidate before.
        changes: What was changed at the hookup, in order.
        line: The line to locate.
        far_ohm: Resistance of the earth put on the far end [ohm]; None: the line's typical earth.

    Returns:
        The candidate with those changes.
    """
    if "clip" in changes:
        c = replace(c, clip_ohm=None)
    if "bond" in changes:
        c = replace(c, faults=tuple(f for f in c.faults if f.kind != "bond"))
    if "far" in changes and c.far_ohm is None and c.family.id != "break":
        own = c.line if abs(np.log(c.line.length_m / line.length_m)) > _A_LITTLE else line
        c = replace(c, line=own, far_ohm=line.far.earth_ohm if far_ohm is None else far_ohm)
    return c


_BONDED_AT = np.linspace(0.05, 0.95, 16)
_MOST_BESIDE = 3  # so many lines beside, the nearest, are considered as bonded
_BOND_OHM = 0.1
_CLEAR_M = 2.0  # nearer to the hookup than this a break looks like a bad clip
_DRAWN, _GUESSED = 0.12, 0.25  # standard deviation of the logarithm of a length
_A_LITTLE = 0.2  # neper of length
_OTHER_LENGTHS = (0.62, 1.25)  # of a guessed length, with the far end earthed
_SHORTEST = 0.45  # of a guessed length: a line that ends sooner is taken for broken
_FAR_END = 0.8  # a line that seems open beyond this share of its length is open at its end
