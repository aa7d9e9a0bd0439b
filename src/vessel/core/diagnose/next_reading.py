"""The reading that best separates two explanations: another frequency, a look, or a change at the hookup."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.diagnose.diagnosis import Hypothesis, NextReading
from vessel.core.diagnose.fitting import READING_SPREAD, USUALLY_LEFT, spread
from vessel.core.diagnose.hypotheses import after
from vessel.core.diagnose.predicted_loops import Loops
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import Beside, Change, TransmitterReading
from vessel.core.model.setup import Setup

CHANGES: tuple[Change, ...] = ("stake", "clip", "far", "bond")
"""Changes in the order in which they are least trouble."""
_SEPARABLE = 0.15
SEEN: dict[Beside, tuple[float, float]] = {"carries": (0.9, 0.2), "quiet": (0.02, 0.8), "": (1.0, 1.0)}
"""How likely lines beside are seen to carry much of the current: with a bond to one of them, and without."""


def seen_beside(readings: Sequence[TransmitterReading]) -> Beside:
    """Return what was seen last on the lines beside, while any bond was closed.

    Args:
        readings: Readings of the transmitter, in the order they were taken.

    Returns:
        What was seen; empty where nothing was looked at.
    """
    return next((r.beside for r in reversed(readings) if r.beside and "bond" not in r.changes), "")


def separating(
    predicted: Loops,
    line: Line,
    setup: Setup,
    leaders: Sequence[Hypothesis],
    kit: Kit,
    readings: Sequence[TransmitterReading],
) -> NextReading:
    """Return the kit frequency, or else the change, after which the two leaders' ohms would differ most.

    Args:
        predicted: The loops that explanations predict.
        line: The line to locate.
        setup: Method, place, frequency and output.
        leaders: The two explanations.
        kit: Transmitter and receiver in use.
        readings: Readings of the transmitter, in the order they were taken.

    Returns:
        The reading to take next; it asks for nothing where none would tell them apart.
    """
    made = tuple(sorted({c for r in readings for c in r.changes}))

    def ratio(freq_hz: float, changes: tuple[Change, ...], left: float) -> float:
        """How far apart the leaders' ohms would be [neper]."""
        states = [after(h.best, changes, line, far_ohm=h.far_ohm) for h in leaders]
        loops = predicted.predict(states, freq_hz=freq_hz)
        ohms = [
            float(p.ohms(np.array([h.stake_factor / h.best.stake_factor * h.stake_left * left]))[0])
            for p, h in zip(loops, leaders, strict=True)
        ]
        return abs(float(np.log(ohms[0] / ohms[1])))

    by_freq, known = NextReading(None, 0.0), {r.freq_hz for r in readings if r.changes == made}
    for f in (f for f in kit.frequencies if f.freq_hz not in known):
        # what counts is how far apart they are against how well that is foretold
        found = ratio(f.freq_hz, made, 1.0) * READING_SPREAD / spread(f.freq_hz, line.length_m)
        if found > max(by_freq.ratio, _SEPARABLE):
            by_freq = NextReading(f.freq_hz, found)
    if by_freq.freq_hz is not None:  # it needs no walk
        return by_freq
    if {h.family.id for h in leaders} == {"far_earthed", "earth_fault"} and line.far.kind == "unknown":
        return NextReading(None, 0.0, look_far=True)
    if any(h.family.id == "bonded" for h in leaders) and not seen_beside(readings) and "bond" not in made:
        return NextReading(None, float(np.log(SEEN["carries"][0] / SEEN["carries"][1])), beside=True)
    best, now = NextReading(None, 0.0), ratio(setup.freq_hz, made, 1.0)
    for change in CHANGES:
        if change in made:
            continue
        found = ratio(setup.freq_hz, tuple(sorted({*made, change})), USUALLY_LEFT if change == "stake" else 1.0)
        if abs(found - now) > max(best.ratio, _SEPARABLE):
            best = NextReading(None, abs(found - now), change)
    return best
