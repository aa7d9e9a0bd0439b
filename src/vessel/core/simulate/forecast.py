"""What one setup would do on a line: currents, judged stretches, bleed-off."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Codes, Floats, Index, Mask
from vessel.core.base.cached import lazy
from vessel.core.judge.station.criteria import RULES
from vessel.core.judge.station.verdict import PROVED, VERDICTS, Verdict
from vessel.core.signal.circuit.transmitter_output import Output

PROVED_CODES = np.array([v in PROVED for v in VERDICTS])
"""Whether a mark may rest on each code of `VERDICTS`."""


@dataclass(frozen=True)
class Zone:
    """A stretch from `start_m` to `end_m` [m] along the line with one verdict and the rule that decided it."""

    start_m: float
    end_m: float
    verdict: Verdict
    rule_id: str | None


@dataclass(frozen=True)
class BleedOff:
    """What one neighbour takes: its greatest current [A] beside the line, where [m], against the line's own there."""

    name: str
    current_a: float
    at_m: float
    share: float


@dataclass(frozen=True, eq=False)
class Forecast:
    """What one setup does on the line with the far end as in `far_case`. SI.

    `current_a` (n,) is the line's own current at `distance_m` (n,), `beside_a` (k, n) that of each line of `beside`.
    `loudest` (k,): the station at which each of them takes most where the line is to be located. `codes`, `decided_by`
    (n,): verdict and deciding rule of each station, which stands for the stretch between `edges_m` (n + 1,);
    `verdict_m` (4,): length to be located [m] by verdict, of `wanted_m` (n,). `peak_null_m` (n,): NaN where nothing
    would be proved for any.
    """

    far_case: str
    output: Output
    distance_m: Floats
    edges_m: Floats
    current_a: Floats
    beside: tuple[str, ...]
    beside_a: Floats
    loudest: Index
    codes: Codes
    decided_by: Index
    verdict_m: Floats
    peak_null_m: Floats
    wanted_m: Floats

    def length_m(self, *verdicts: Verdict) -> float:
        """Return the length to locate that has one of several verdicts.

        Returns:
            Length [m].
        """
        return float(sum(self.verdict_m[VERDICTS.index(v)] for v in verdicts))

    @lazy
    def zones(self) -> tuple[Zone, ...]:
        """Return the stretches with one verdict for one reason.

        Returns:
            Zones by distance.
        """
        found: list[Zone] = []
        for k, code in enumerate(self.codes):
            rule = RULES[self.decided_by[k]].id if code else None
            start, end, verdict = float(self.edges_m[k]), float(self.edges_m[k + 1]), VERDICTS[code]
            if found and (found[-1].verdict, found[-1].rule_id) == (verdict, rule):
                found[-1] = Zone(found[-1].start_m, end, verdict, rule)
            else:
                found.append(Zone(start, end, verdict, rule))
        return tuple(found)

    @lazy
    def bleed_shares(self) -> Floats:
        """Return the greatest share of the line's own current that each neighbour takes.

        Only where the line is to be located.

        Returns:
            Shares, shape (k,).
        """
        amps = self.beside_a[np.arange(len(self.beside)), self.loudest]
        return np.asarray(amps / np.maximum(self.current_a[self.loudest], 1e-12))

    @property
    def bleed_off(self) -> tuple[BleedOff, ...]:
        """What each line beside takes where the line is to be located, in the order they are entered."""
        return tuple(
            BleedOff(name, float(self.beside_a[i, k]), float(self.distance_m[k]), float(self.bleed_shares[i]))
            for i, (name, k) in enumerate(zip(self.beside, self.loudest, strict=True))
        )

    @property
    def proved(self) -> Mask:
        """Which stations (n,) a mark may rest on."""
        return np.asarray(PROVED_CODES[self.codes])

    @property
    def first_good_m(self) -> float | None:
        """Return the distance [m] at which the first markable stretch starts, None without any."""
        return next((z.start_m for z in self.zones if z.verdict in PROVED), None)

    @property
    def main_obstacle(self) -> str | None:
        """Return the rule that holds back the longest stretch, None if none is held back."""
        lengths: dict[str, float] = {}
        for z in self.zones:
            if z.verdict not in PROVED and z.rule_id:
                lengths[z.rule_id] = lengths.get(z.rule_id, 0.0) + z.end_m - z.start_m
        return max(lengths, key=lambda k: lengths[k]) if lengths else None


@dataclass(frozen=True)
class Moving:
    """The best of moving induction on a line: frequency [Hz], output [A], distance apart [m].

    `proved_m`: length [m] on which a mark may rest, `plain_m` the part of it that is **Mark**.
    """

    freq_hz: float
    output_a: float
    apart_m: float
    proved_m: float
    plain_m: float = 0.0
