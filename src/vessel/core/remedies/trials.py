"""Every remedy tried on one line under one explanation of its hookup, each by the same simulated trace."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal

import numpy as np

from vessel.core.diagnose.fitting import USUALLY_LEFT
from vessel.core.diagnose.hypotheses import Cause
from vessel.core.hookup.explained_setup import Explained
from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.methods import METHODS
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.options import base_setup, setup_at
from vessel.core.plan.what_if import without_bonds
from vessel.core.signal.physics.stake_resistance import stake_ohm
from vessel.core.simulate.forecast import Forecast
from vessel.core.simulate.hookup_places import Place, kit_rejection, places
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.ratings import ratings
from vessel.core.simulate.solved_together import cases_of
from vessel.core.simulate.solved_world import World

RemedyKind = Literal["output", "frequency", "stake", "clip", "far", "spot", "access", "method", "unbond", "apart"]
_CLEAN_CLIP_OHM = 0.5
_SAME_PLACE_M = 0.5


@dataclass(frozen=True)
class Leader:
    """An explanation considered; without a cause the line is as entered, with every far end it may have."""

    cause: Cause | None
    explained: Explained
    soil: Soil
    likely: float


Key = tuple[RemedyKind, Setup, str]


class Case:
    """One line of a site under one explanation of its hookup."""

    def __init__(
        self,
        lines: Sequence[Line],
        own: int,
        kit: Kit,
        setup: Setup,
        leader: Leader,
    ) -> None:
        told, x = lines[own], leader.explained
        # that an open wire seems a little long or short is no more than its fit
        line = replace(told, construction=x.line.construction)
        if leader.cause is not None:
            end = FarEnd("open", told.far.earth_ohm) if x.far_ohm is None else FarEnd("earthed", x.far_ohm)
            line = replace(line, far=end)
        self.reaches_far = leader.cause is None or leader.cause.id != "break"
        self.setup, self.fitted, self.soil, self.kit = setup, x.setup, leader.soil, kit
        self.line, self.own, self.faults = line, own, x.faults
        self.lines = [line if k == own else other for k, other in enumerate(lines)]
        self.sim = self._on(self.lines, line)

    def _on(self, lines: Sequence[Line], line: Line, *, freqs_hz: Sequence[float] = ()) -> Simulator:
        together = lines if line.course is not None else [line]
        extra = [(line, self.setup.position_m, self.setup.stake_at), *((line, f.at_m, None) for f in self.faults)]
        return Simulator(line, World(together, self.soil, self.kit, freqs_hz=freqs_hz, extra=extra), faults=self.faults)

    def now(self) -> tuple[Forecast, ...]:
        """Return what the setup does as it is.

        Returns:
            One forecast for each far end.
        """
        return self._rated(self.sim, self.fitted)

    def _rated(self, sim: Simulator, setup: Setup) -> tuple[Forecast, ...]:
        return ratings(sim, cases_of(sim, [setup]), [setup.output_a]).forecasts(0, 0)

    def tried(self) -> dict[Key, tuple[Forecast, ...]]:
        """Return what every single remedy would do.

        Returns:
            By remedy: changes at this hookup, then every other setup.
        """
        found: dict[Key, tuple[Forecast, ...]] = {}
        for kind, sim, fitted in self._at_hand():
            found[kind, self.setup, ""] = self._rated(sim, fitted)
        return found | self._unbonded() | self._setups()

    def _at_hand(self) -> list[tuple[RemedyKind, Simulator, Setup]]:
        """What can be done to the hookup as it stands: the line and the setup then."""
        found: list[tuple[RemedyKind, Simulator, Setup]] = []
        if self.setup.by.connects:
            stake = replace(self.fitted.stake, measured_ohm=USUALLY_LEFT * stake_ohm(self.fitted.stake, self.soil))
            found.append(("stake", self.sim, replace(self.fitted, stake=stake)))
            clean = min(_CLEAN_CLIP_OHM, self.fitted.clip_ohm)
            found.append(("clip", self.sim, replace(self.fitted, clip_ohm=clean)))
        if not (self.setup.by.through_air or self.setup.by.between):
            open_end = self.line.far.kind != "earthed" and self.reaches_far
            found.append(("far", self.sim.with_far(FarEnd("earthed")) if open_end else self.sim, self.fitted))
        return found

    def together(self) -> dict[Key, tuple[Forecast, ...]]:
        """Return what two steps would do together.

        Returns:
            By pair: a change at this hookup, then another frequency or output.
        """
        found: dict[Key, tuple[Forecast, ...]] = {}
        steps = sorted(self.kit.outputs_a)
        usable = [f for f in self.kit.frequencies if kit_rejection(self.setup.method, f, self.kit) is None]
        for _, alike in groupby(self._at_hand(), key=lambda each: id(each[1])):
            at_hand = list(alike)
            fitted = [(kind, replace(setup, freq_hz=f.freq_hz)) for f in usable for kind, _, setup in at_hand]
            if not fitted:
                continue
            sim = at_hand[0][1]
            rated = ratings(sim, cases_of(sim, [setup for _, setup in fitted]), steps)
            for h, (kind, at) in enumerate(fitted):
                for o, amps in enumerate(steps):
                    setup = replace(self.setup, freq_hz=at.freq_hz, output_a=amps)
                    if setup != self.setup:
                        found[kind, setup, ""] = rated.forecasts(h, o)
        return found

    def _unbonded(self) -> dict[Key, tuple[Forecast, ...]]:
        found: dict[Key, tuple[Forecast, ...]] = {}
        for name, lines in _apart(self.lines, self.own):
            apart = self._on(lines, lines[self.own], freqs_hz=(self.setup.freq_hz,))
            found["unbond", self.setup, name] = self._rated(apart, self.fitted)
        return found

    def _setups(self) -> dict[Key, tuple[Forecast, ...]]:
        """Every setup at every frequency and output step: as it stands, then at every other place."""
        steps = sorted(self.kit.outputs_a)
        tried = [each for f in self.kit.frequencies for each in self._at(f)]
        if not tried:
            return {}
        rated = ratings(self.sim, cases_of(self.sim, [fitted for _, _, fitted, _ in tried]), steps)
        return {
            (kind, replace(setup, output_a=amps), name): rated.forecasts(h, o)
            for h, (kind, setup, _, name) in enumerate(tried)
            for o, amps in enumerate(steps)
            if (kind, amps) != ("output", self.setup.output_a)
        }

    def _at(self, frequency: Frequency) -> list[tuple[RemedyKind, Setup, Setup, str]]:
        """What is tried at one frequency: kind, setup, the same as it explains the readings, and access point."""
        at = frequency.freq_hz
        tried: list[tuple[RemedyKind, Setup, Setup, str]] = []
        if kit_rejection(self.setup.method, frequency, self.kit) is None:
            kind: RemedyKind = "output" if at == self.setup.freq_hz else "frequency"
            tried.append((kind, replace(self.setup, freq_hz=at), replace(self.fitted, freq_hz=at), ""))
        for place, unsafe in places(self.line, self.kit):
            if unsafe is None and kit_rejection(place.method, frequency, self.kit) is None and not self._here(place):
                setup = setup_at(place, base_setup(self.kit), at)
                tried.append((self._kind(place), setup, setup, place.access))
        return sorted(tried, key=lambda t: METHODS.index(t[1].method))

    def _here(self, place: Place) -> bool:
        s = self.setup
        same = place.method == s.method and abs(place.position_m - s.position_m) < _SAME_PLACE_M
        if not same or place.stake_at is None or s.stake_at is None:
            return same
        return float(np.hypot(*(np.subtract(place.stake_at, s.stake_at)))) < _SAME_PLACE_M

    def _kind(self, place: Place) -> RemedyKind:
        if place.method != self.setup.method:
            return "method"
        near = abs(place.position_m - self.setup.position_m) < _SAME_PLACE_M
        return "spot" if near and place.by.connects else "access"


def _apart(lines: Sequence[Line], own: int) -> list[tuple[str, tuple[Line, ...]]]:
    """Each neighbour bonded to the `own`-th line, and the lines without that bond."""
    line = lines[own]
    if line.course is None:
        told = [(n.name, replace(n, bond_m=None)) for n in line.neighbours if n.bond_m is not None]
        found = []
        for name, free in told:
            others = tuple(free if n.name == name else n for n in line.neighbours)
            found.append((name, (*lines[:own], replace(line, neighbours=others), *lines[own + 1 :])))
        return found
    name = line.course.drawn.name
    return [
        (b.b if b.a == name else b.a, without_bonds(lines, [k]))
        for k, b in enumerate(line.course.plan.bonds)
        if name in (b.a, b.b)
    ]
