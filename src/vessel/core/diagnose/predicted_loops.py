"""What the transmitter would show under each explanation."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.diagnose.hypotheses import Suspect
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.line_circuit import LineCircuit
from vessel.core.signal.circuit.ports import Port, SeenBy
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.sources import direct_port
from vessel.core.signal.layout.line_on_site import LineFault, lay_out, target_of
from vessel.core.signal.physics.stake_resistance import stake_ohm

_Key = tuple[float, float | None, tuple[LineFault, ...]]
_PIECE = 0.01  # of the line: the piece a break sits in


@dataclass(frozen=True)
class Predicted:
    """Loop ohms of a candidate at one frequency, split so that the stake can float: fixed part + stake."""

    fixed_ohm: complex
    stake_ohm: float

    def ohms(self, stake_factors: Floats) -> Floats:
        """Return the loop's resistance for several stakes.

        Args:
            stake_factors: Factors on the assumed stake resistance, shape (k,).

        Returns:
            |Z| as the transmitter shows it, shape (k,) [ohm].
        """
        return np.asarray(np.abs(self.fixed_ohm + self.stake_ohm * stake_factors))


class Loops:
    """Loop impedances of a line and of all candidates for it, from few circuits factored once per frequency.

    Far ends and earth faults join ports of the line as it is; a line that ends sooner beyond the hookup, or runs on
    a little, is a break in one that runs on far enough; one broken before the hookup is cut there.
    """

    def __init__(self, line: Line, setup: Setup, soil: Soil, kit: Kit, found: Sequence[Suspect]) -> None:
        self.line, self.setup, self.soil = line, setup, soil
        self._top_hz = max(f.freq_hz for f in kit.frequencies)
        opened = {at for c in found if (at := _open_at(c, line)) is not None}
        self._bonds_m: dict[int, list[float]] = {}
        for f in (f for c in found for f in c.faults if f.kind == "bond"):
            self._bonds_m.setdefault(target_of(line), []).append(f.at_m)
            self._bonds_m.setdefault(f.to, []).append(f.to_m)
        self._ends_m = sorted(at for at in opened if at > setup.position_m)
        self._before_m = sorted(at for at in opened if at < setup.position_m)

    @cached_property
    def _as_is(self) -> SiteGeometry:
        site = lay_out(self.line, self.soil)
        return SiteGeometry(lay_mesh(site, top_hz=self._top_hz, access=self._bonds_m, graded=False))

    @cached_property
    def _long(self) -> tuple[Line, SiteGeometry]:
        longer = replace(
            self.line, length_m=max(self._ends_m[-1], self.line.length_m) + 2 * _PIECE * self.line.length_m
        )
        return longer, self._cut(longer, self._ends_m)

    @cached_property
    def _cut_before(self) -> tuple[Line, SiteGeometry]:
        return self.line, self._cut(self.line, self._before_m)

    def _cut(self, line: Line, places_m: Sequence[float]) -> SiteGeometry:
        """A line that can be opened at `places_m`: each a short piece, so that the wire left ends where it should."""
        half = _PIECE / 2 * self.line.length_m
        cuts = [at + d for at in places_m for d in (-half, half)]
        mesh = lay_mesh(lay_out(line, self.soil), top_hz=self._top_hz, access={target_of(line): cuts}, graded=False)
        return SiteGeometry(mesh)

    def predict(self, found: Sequence[Suspect], *, freq_hz: float) -> list[Predicted]:
        """Return the loop each candidate predicts at one frequency.

        Args:
            found: The candidates.
            freq_hz: Signal frequency [Hz].

        Returns:
            One prediction for each candidate.
        """
        setup, sound = replace(self.setup, freq_hz=freq_hz), stake_ohm(self.setup.stake, self.soil)
        opened = {_key(c): at for c in found if (at := _open_at(c, self.line)) is not None}
        known = self._joined([c for c in found if _key(c) not in opened], setup)
        beyond, before = (
            {key: at for key, at in opened.items() if at in places} for places in (self._ends_m, self._before_m)
        )
        known |= self._opened(beyond, setup, *self._long) if beyond else {}
        known |= self._opened(before, setup, *self._cut_before) if before else {}
        result = []
        for c in found:
            clip = 0.0 if c.clip_ohm is None else c.clip_ohm - setup.clip_ohm
            result.append(Predicted(known[_key(c)] - sound + clip, sound * c.stake_factor))
        return result

    def _joined(self, found: Sequence[Suspect], setup: Setup) -> dict[_Key, complex]:
        """Loops of the line as it is, its far end and faults joined."""
        if not found:
            return {}
        circuit = LineCircuit(self.line, self.soil, freq_hz=setup.freq_hz, geometry=self._as_is)
        circuit.prepare_faults([f for c in found for f in c.faults])
        port = direct_port(circuit.site_circuit, circuit.hookup(setup))
        joined = {
            _key(c): [*circuit.joined_far(c.far_ohm), *(circuit.joined_fault(f) for f in c.faults)] for c in found
        }
        return _loads(port, joined)

    def _opened(
        self, places_m: dict[_Key, float], setup: Setup, line: Line, geometry: SiteGeometry
    ) -> dict[_Key, complex]:
        """Loops of a line that is opened somewhere."""
        circuit = LineCircuit(line, self.soil, freq_hz=setup.freq_hz, geometry=geometry)
        half = _PIECE / 2 * self.line.length_m
        # a line that ends somewhere, earthed or not, and one that is broken there look the same
        faults = {
            key: [
                LineFault("break", at),
                *([LineFault("earth_fault", at - half, key[1])] if key[1] is not None else []),
            ]
            for key, at in places_m.items()
        }
        circuit.prepare_faults([f for each in faults.values() for f in each])
        port = direct_port(circuit.site_circuit, circuit.hookup(setup))
        return _loads(port, {key: [circuit.joined_fault(f) for f in each] for key, each in faults.items()})


def _loads(port: Port, joined: Mapping[_Key, list[tuple[Port, complex]]]) -> dict[_Key, complex]:
    by = SeenBy(port, [p for pairs in joined.values() for p, _ in pairs])
    return {key: by.seen(pairs) for key, pairs in joined.items()}


def _open_at(c: Suspect, line: Line) -> float | None:
    """Where [m] a candidate for `line` has it open, None if it is as entered."""
    if c.line.length_m != line.length_m:
        return c.line.length_m
    return next((f.at_m for f in c.faults if f.kind == "break"), None)


def _key(c: Suspect) -> _Key:
    return c.line.length_m, c.far_ohm, c.faults
