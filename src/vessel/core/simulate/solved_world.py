"""A site with everything that all its setups share: one mesh, one factored circuit a frequency."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from copy import copy

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.network import Site
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.layout.line_on_site import as_target, drawn_site, lay_out, target_of
from vessel.core.simulate.hookup_places import places

REFINE = 0.5
"""How much finer than usual a plan's mesh is: coarser, at a sixth of the work.

Of all currents of all setups of six lines in wet to dry soil 99 % lie within 2 % of those of a mesh four times as fine
(`benchmarks`, "A plan's mesh"). For such currents the circuits need no refinement either."""
_JAWS_M = 0.1


class World:
    """`lines` on one site in `soil`, at the greatest depths expected: the least favourable of what is.

    Drawn lines share their plan; a line that is not drawn has a world of its own. `freqs_hz` [Hz] sets how fine the
    mesh is, by default for every frequency of the kit.
    """

    def __init__(
        self,
        lines: Sequence[Line],
        soil: Soil,
        kit: Kit,
        *,
        freqs_hz: Iterable[float] = (),
        extra: Sequence[tuple[Line, float, tuple[float, float] | None]] = (),
        nodes: Sequence[tuple[int, float]] = (),
    ) -> None:
        self.soil, self.kit = soil, kit
        wanted = [(line, p.position_m, p.stake_at) for line in lines for p, why in places(line, kit) if why is None]
        access: dict[int, list[float]] = {}
        attend: list[tuple[float, float]] = []
        for line, at, stake in [*wanted, *extra]:
            # a clamp's volts arise in the short piece inside its jaws
            jaws = [at - _JAWS_M, at + _JAWS_M]
            access.setdefault(target_of(line), []).extend([at, *(s for s in jaws if 0 < s < line.length_m)])
            attend += [stake] if stake is not None else []
        for index, at in nodes:
            access.setdefault(index, []).append(at)
        top = max(freqs_hz, default=max(f.freq_hz for f in kit.frequencies))
        mesh = lay_mesh(site_of(lines, soil), top_hz=top, access=access, attend=attend, refine=REFINE)
        self.geometry = SiteGeometry(mesh)
        self._circuits: dict[float, SiteCircuit] = {}

    def in_soil(self, soil: Soil) -> World:
        """Return the same lines in other soil.

        Mesh and integrals are shared.

        Args:
            soil: Soil of the site.

        Returns:
            The world.
        """
        found = copy(self)
        found.soil, found._circuits = soil, {}
        return found

    def circuit(self, freq_hz: float) -> SiteCircuit:
        """Return the circuit at one frequency, factored once.

        Args:
            freq_hz: Signal frequency [Hz].

        Returns:
            The circuit.
        """
        if freq_hz not in self._circuits:
            self._circuits[freq_hz] = SiteCircuit(self.geometry, freq_hz=freq_hz, soil=self.soil, refined=False)
        return self._circuits[freq_hz]


def site_of(lines: Sequence[Line], soil: Soil) -> Site:
    """Return the site that lines share.

    Args:
        lines: Lines that share one site plan.
        soil: Soil of the site.

    Returns:
        The site, every depth the greatest expected.
    """
    first = lines[0]
    if first.course is None:
        return lay_out(first, soil, deepest=True)
    targets = {target_of(line): as_target(line, deepest=True) for line in lines}
    return drawn_site(first.course.plan, soil, targets, deepest=True)
