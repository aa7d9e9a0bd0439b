"""What stations taught and what lies ahead, in words."""

from __future__ import annotations

import numpy as np

from vessel.core.diagnose.current_family import WITHIN
from vessel.core.diagnose.hypotheses import FAMILIES
from vessel.core.diagnose.site_learning import LEAST, Lesson
from vessel.core.hookup.proof_ahead import Ahead
from vessel.core.hookup.taught import Possible, as_left
from vessel.core.model.soil import Soil
from vessel.core.text.figures import percent, show_length
from vessel.core.text.units import Units
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.diagnosis_sentences import CAUSE_TITLE

_SPEAKS, _CLEARLY = 0.6, 0.15
"""So likely must an explanation be now, and so much likelier than before, for stations to speak for it."""
_SURE = 0.99  # nothing is said to be surer
_ENOUGH = 0.95


def taught_text(taught: Lesson | None, possible: tuple[Possible, ...], soil: Soil) -> str:
    """Return what stations taught about soil, far end and coating; empty before they did."""
    if taught is None or taught.count < LEAST:
        return ""
    if not taught.narrows:
        return (
            f"{taught.count} stations passed, but no explanation fits them well. The forecast is not narrowed by them."
        )
    first = taught.left[0]
    p = possible[first.index]
    x, ground = as_left(p, first, soil)
    cause = p.cause or FAMILIES["far_open" if x.far_ohm is None else "far_earthed"]
    parts = []
    whole = sum(q.likely for q in possible)
    if first.likely >= _SPEAKS and first.likely - p.likely / whole >= _CLEARLY:
        now, before = (percent(min(v, _SURE)) for v in (first.likely, p.likely / whole))
        parts.append(f"{_small(CAUSE_TITLE[cause.id])} is likeliest ({now}, {before} by the hookup alone)")
    if first.told("soil"):
        parts.append(f"soil {_between(ground.resistivity_ohm_m, first.off('soil'))} ohm m")
    if x.far_ohm is not None and first.told("far"):
        parts.append(f"far end {_between(x.far_ohm, first.off('far'))} ohm")
    if first.told("leakage"):
        parts.append(
            f"the coating leaks {_between(first.factor('leakage'), first.off('leakage'))} times what was assumed"
        )
    so = f"From {taught.count} stations: "
    if not parts:
        return f"{so}current as forecast; no change to soil or far end."
    return f"{so}{'; '.join(parts)}."


def _small(text: str) -> str:
    return text[0].lower() + text[1:]


def _between(value: float, off: float | None) -> str:
    """The range in which it lies, in two digits: it is known no better."""
    reach = float(np.exp(WITHIN * (off or 0.0)))
    low, high = (f"{float(f'{v:.2g}'):g}" for v in (value / reach, value * reach))
    return f"{low} to {high}"


def ahead_text(a: Ahead | None, taught: Lesson | None, units: Units) -> str:
    """Return how far ahead can be proved and what holds back the rest; empty where nothing wanted lies ahead."""
    if a is None:
        return ""
    left = show_length(float(round(a.left_m)), units)
    by = "From your stations so far" if taught is not None and taught.narrows else "By the forecast"
    if a.astray_m is not None:
        at = show_length(a.astray_m, units)
        by = f"The station at {at} did not pass. Sort that out first. If the signal is still on the line, {_small(by)}"
    if a.proved_m >= _ENOUGH * a.left_m:
        return f"{by}, the {left} still ahead is markable from here."
    why = "" if a.obstacle is None else f" Past that it fails this check: “{CRITERION_WORDS[a.obstacle].title}”."
    if a.proved_m <= (1 - _ENOUGH) * a.left_m:
        return f"{by}, none of the {left} still ahead is markable with this hookup.{why}"
    until, proved = (show_length(float(round(v)), units) for v in (a.until_m, a.proved_m))
    whole = abs(a.until_m - a.from_m) >= _ENOUGH * a.proved_m
    gap = "" if whole else " without a gap, with what comes after it"
    return f"{by}, this hookup makes the line markable up to {until}{gap}: {proved} of the {left} still ahead.{why}"
