"""What stations taught about a hookup: its explanations as families of currents, and what is left of them."""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.diagnose.current_family import CurrentFamily, UnknownFactor
from vessel.core.diagnose.hypotheses import Cause
from vessel.core.diagnose.site_learning import Left, Lesson, Seen, learn
from vessel.core.hookup.explained_setup import Explained
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.layout.line_on_site import lay_out, target_name
from vessel.core.simulate.soil_range import SOIL_SPREAD

READ_SPREAD = 0.08
"""What one current read over the line is off by as a rule, as a logarithm: depth, distortion, the hand."""
_TWICE = 2.0  # what the soil may be wetter or drier by is taken for two standard deviations
_FAR_SPREAD, _LEAK_SPREAD = 0.9, 1.0
_DRIVE_SPREAD = {True: 0.12, False: 0.4}
"""How well the transmitter's current shows what is put on the line: read off it, or forecast; a receiver shows it
with the depths and the neighbours of the place in it."""
_REFINE = 0.6  # how much finer than usual the mesh is
_PLACE_DOUBT = 0.05  # how far off a station may be along the line, as a share of the way from the hookup
_LEAST = 1e-3  # of the greatest current: less is nothing


@dataclass(frozen=True)
class Possible:
    """An explanation of a hookup: its cause (None: a far end as entered), how likely it is.

    `read`: what the transmitter puts out was read off it, not forecast.
    """

    cause: Cause | None
    explained: Explained
    likely: float
    read: bool

    def also_as_long_as(self, line: Line) -> list[Possible]:
        """Return it; one with another length, which ohms tell roughly, with that entered as well.

        Args:
            line: The line as entered.

        Returns:
            One explanation, or two that are half as likely each.
        """
        x = self.explained
        if x.line.length_m == line.length_m:
            return [self]
        return [replace(self, likely=0.5 * self.likely, explained=each) for each in (x, replace(x, line=line))]


def as_left(p: Possible, left: Left, soil: Soil) -> tuple[Explained, Soil]:
    """Return an explanation and its soil as stations leave them.

    Args:
        p: One possible explanation.
        left: What stations leave of its unknowns.
        soil: Soil of the site.

    Returns:
        The explanation and the soil.
    """
    x, line = p.explained, p.explained.line
    ohm = None if x.far_ohm is None else x.far_ohm * left.factor("far")
    line = replace(line, construction=line.construction.leaking(left.factor("leakage")))
    return replace(x, line=line, far_ohm=ohm), soil.times(left.factor("soil"))


def families(
    possible: Sequence[Possible], levels_a: Sequence[Floats], x_m: Floats, soil: Soil, kit: Kit, *, measured: bool
) -> tuple[CurrentFamily, ...]:
    """Return the currents that each explanation allows.

    Args:
        possible: m explanations.
        levels_a: Forecast of each, m arrays of shape (n,) [A].
        x_m: Distances along the line, shape (n,) [m].
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.

    Returns:
        One family for each explanation.
    """
    return tuple(
        _family(p, level, x_m, soil, kit, measured=measured) for p, level in zip(possible, levels_a, strict=True)
    )


def _family(p: Possible, level_a: Floats, x_m: Floats, soil: Soil, kit: Kit, *, measured: bool) -> CurrentFamily:
    unknowns = [UnknownFactor("soil", float(np.log(SOIL_SPREAD["measured" if measured else "typical"])) / _TWICE)]
    x = p.explained
    if x.far_ohm is not None:
        unknowns.append(UnknownFactor("far", _FAR_SPREAD))
    if x.line.construction.coating_s_m2 > 0:
        unknowns.append(UnknownFactor("leakage", _LEAK_SPREAD))
    drawn = _Drawn(x, soil, kit, x_m)
    middle = drawn.log_a()
    either = [
        (drawn.log_a(**{u.id: float(np.exp(-u.spread))}), drawn.log_a(**{u.id: float(np.exp(u.spread))}))
        for u in unknowns
    ]
    drive = UnknownFactor("drive", _DRIVE_SPREAD[p.read])
    flat = [(middle - drive.spread, middle + drive.spread)]
    found = CurrentFamily.of(x_m, [*unknowns, drive], middle, [*either, *flat], likely=p.likely)
    # how it bends may come from a coarse mesh; where it stands is what is judged against
    level = _log(level_a)
    return replace(found, level=level, most=float(level.max()))


def _log(amps: Floats) -> Floats:
    return np.log(np.maximum(amps, max(_LEAST * float(amps.max(initial=0.0)), 1e-12)))


class _Drawn:
    """One explanation on one mesh, its soil, far end and coating changed at will."""

    def __init__(self, x: Explained, soil: Soil, kit: Kit, x_m: Floats) -> None:
        self.x, self.soil, self.kit, self.x_m = x, soil, kit, x_m
        site = lay_out(x.line, soil, faults=x.faults)
        self.geometry = SiteGeometry(lay_mesh(site, top_hz=x.setup.freq_hz, refine=_REFINE))

    def log_a(self, *, soil: float = 1.0, far: float = 1.0, leakage: float = 1.0) -> Floats:
        """Return ln of the line's current per unit of drive (n,), each by its factor."""
        x, ground = self.x, self.soil.times(soil)
        circuit = SiteCircuit(self._leaking(leakage), freq_hz=x.setup.freq_hz, soil=ground)
        on = LineCircuit(x.line, ground, freq_hz=x.setup.freq_hz, circuit=circuit)
        ohm = None if x.far_ohm is None else x.far_ohm * far
        (e,) = excite(on, x.setup, self.kit, far_ohms=(ohm,), at_m=self.x_m)
        return _log(on.current_at(e.response, self.x_m))

    def _leaking(self, factor: float) -> SiteGeometry:
        if factor == 1.0:
            return self.geometry
        site = self.geometry.mesh.site
        own = site.index(target_name(self.x.line))
        line = site.lines[own]
        if line.construction is None:
            return self.geometry
        coated = line.construction.leaking(factor)
        lines = tuple(replace(o, construction=coated) if k == own else o for k, o in enumerate(site.lines))
        found = copy(self.geometry)
        found.mesh = replace(self.geometry.mesh, site=replace(site, lines=lines))
        return found


def reading_spread(family: CurrentFamily, readings: Sequence[StationReading], *, hookup_m: float) -> Floats:
    """Return how far off the current read at each station may be: the reading, its repeats, where the station is.

    Args:
        family: The currents that the leading explanation allows.
        readings: Readings at n stations.
        hookup_m: Distance of the hookup along the line [m].

    Returns:
        Standard deviation of the logarithm, shape (n,).
    """
    at_m = np.array([r.distance_m for r in readings])
    off = _PLACE_DOUBT * np.abs(at_m - hookup_m)
    steep = np.abs(family.along(at_m + off).level - family.along(at_m - off).level) / 2
    again = np.array([r.current_off for r in readings])
    return np.asarray(np.sqrt(READ_SPREAD**2 + again**2 + steep**2))


def lesson(
    every: Sequence[CurrentFamily], readings: Sequence[StationReading], counts: Mask, *, hookup_m: float
) -> Lesson | None:
    """Return what the stations of a hookup teach.

    Args:
        every: One family for each explanation, at the readings' distances.
        readings: Readings at stations, in any order.
        counts: Which readings passed by what was known before, shape (n,).
        hookup_m: Distance of the hookup along the line [m].

    Returns:
        The lesson; None if no reading counts.
    """
    at_m = np.array([r.distance_m for r in readings])
    amps = np.array([r.current_a or np.nan for r in readings])
    used = counts & (amps > 0)
    if not used.any():
        return None
    spread = reading_spread(every[0], readings, hookup_m=hookup_m)
    return learn(every, Seen(at_m, np.log(np.where(used, amps, 1.0)), spread, used, hookup_m))
