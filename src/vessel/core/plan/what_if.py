"""What if: one setup again with the stake elsewhere, other soil, another far end or a bond removed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from vessel.core.base.cached import remembered
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_option import Option
from vessel.core.simulate.hookup_places import nearest_access
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.ratings import ratings
from vessel.core.simulate.solved_together import cases_of
from vessel.core.simulate.solved_world import World


def without_bonds(lines: Sequence[Line], dropped: Sequence[int]) -> tuple[Line, ...]:
    """Return drawn lines on a plan without some bonds.

    Args:
        lines: Lines; those without a drawing stay as they are.
        dropped: Indices of the bonds to remove.

    Returns:
        The lines.
    """
    first = next((line.course for line in lines if line.course is not None), None)
    if first is None or not dropped:
        return tuple(lines)
    plan = replace(first.plan, bonds=tuple(b for k, b in enumerate(first.plan.bonds) if k not in dropped))
    return tuple(
        line if line.course is None else replace(line, course=replace(line.course, plan=plan)) for line in lines
    )


def what_if(
    lines: Sequence[Line], own: int, soil: Soil, kit: Kit, setup: Setup, *, far: FarEnd | None = None
) -> Option:
    """Return what a setup would do on a line under changed conditions.

    The mesh is kept from one question to the next while lines, frequency and hookup stay: moving the stake or wetting
    the soil costs one factorisation at most.

    Args:
        lines: Lines that share one site plan.
        own: Index of the line in question among `lines`.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        far: The far end to assume; None: as entered.

    Returns:
        The setup as an option with its forecasts.
    """
    line = lines[own]
    sim = _bench(tuple(lines), own, kit, setup.freq_hz, setup.position_m).on(soil, far or line.far)
    rated = ratings(sim, cases_of(sim, [setup]), [setup.output_a])
    access = "" if setup.by.through_air else nearest_access(line, setup.position_m)[0]
    return Option(setup, rated.of(0, 0), access=access)


class _Bench:
    """One line of a site at one frequency, meshed once."""

    def __init__(self, lines: Sequence[Line], own: int, kit: Kit, freq_hz: float, position_m: float) -> None:
        self.line = lines[own]
        together = lines if self.line.course is not None else [self.line]
        extra = ((self.line, position_m, None),)
        self.world = World(together, _MESHED_IN, kit, freqs_hz=(freq_hz,), extra=extra)
        self._first = Simulator(self.line, self.world)
        _ = self._first.geometry, self._first.asides  # worked out once for every soil
        self._sims: dict[Soil, Simulator] = {}

    def on(self, soil: Soil, far: FarEnd) -> Simulator:
        """Return the line in `soil` with its far end so."""
        if soil not in self._sims:
            if len(self._sims) > _SOILS:
                self._sims.clear()
            self._sims[soil] = self._first.in_world(self.world.in_soil(soil))
        sim = self._sims[soil]
        return sim if far == self.line.far else sim.with_far(far)


_MESHED_IN = Soil(60.0)  # one mesh serves every soil: steps follow the lines more than the ground
_SOILS = 12
_bench = remembered(16)(_Bench)
