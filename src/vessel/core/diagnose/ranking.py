"""Rank the explanations of transmitter readings; say which cannot be told apart and what would separate them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.diagnose.diagnosis import CLEARLY, IN_SERIES, SOUND, Diagnosis, Hypothesis
from vessel.core.diagnose.fitting import GUESSED_SOIL, Fit, best_fits
from vessel.core.diagnose.hypotheses import Suspect, candidates
from vessel.core.diagnose.next_reading import SEEN, seen_beside, separating
from vessel.core.diagnose.predicted_loops import Loops
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import Change, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil

# an explanation this likely that fits the readings as well is only held back by how rare it is: no proof
_POSSIBLE, _AS_WELL = 0.02, 2.0
_BONDED = 0.002  # a bond takes much of the current away and shows nothing of it: however rare, no loop is sound with it
_MIND = 0.08  # so it counts only where it is this likely
# stake and clip stand in one loop, and an earth on the way is nearly one at the end: a better fit hardly ever tells
_SAME_PLACE = 5.0
_ON_THE_WAY = 0.01


def diagnose(
    line: Line,
    setup: Setup,
    soil: Soil,
    kit: Kit,
    readings: Sequence[TransmitterReading],
    *,
    measured: bool = True,
) -> Diagnosis:
    """Rank the explanations of the transmitter's readings of a direct connection.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        readings: One reading or more, at any frequency of the kit, in the order they were taken.
        measured: Whether the soil's resistivity was measured; one that is typical of a kind of soil may be far off.

    Returns:
        Explanations, likeliest first, and the reading to take next.
    """
    found = candidates(line, setup, soil, kit)
    predicted = Loops(line, setup, soil, kit, found)
    fits = best_fits(line, found, predicted, readings, 0.0 if measured else GUESSED_SOIL)
    bonded, not_bonded = -np.log(SEEN[seen_beside(readings)])
    costs = [
        fit.cost + float(bonded if c.family.id == "bonded" else not_bonded) for fit, c in zip(fits, found, strict=True)
    ]
    totals = [cost + c.prior + c.family.cost for cost, c in zip(costs, found, strict=True)]
    best = _best_of_family(found, totals)
    hypotheses = _hypotheses(found, fits, totals, best, readings[-1].changes)
    lead, *others = hypotheses
    fitted = {key: costs[i] for key, i in best.items()}
    as_well = [h for h in others if _fits_as_well(lead, h, fitted, earthed=line.far.kind == "earthed")]
    even = lead.probability < CLEARLY * others[0].probability
    rivals = _once([*([others[0]] if even or not as_well else []), *as_well])
    read = tuple(readings)
    return Diagnosis(
        hypotheses=tuple(hypotheses),
        rivals=tuple(rivals),
        gap=min(h.gap for h in hypotheses),
        told_apart=not even and not as_well,
        readings=len(readings),
        separating=lambda rival: separating(predicted, line, setup, (lead, rival), kit, read),
    )


def _best_of_family(found: Sequence[Suspect], totals: Sequence[float]) -> dict[str, int]:
    """Index of the best candidate of each family."""
    best: dict[str, int] = {}
    for i, c in enumerate(found):
        if c.family.id not in best or totals[i] < totals[best[c.family.id]]:
            best[c.family.id] = i
    return best


def _hypotheses(
    found: Sequence[Suspect],
    fits: Sequence[Fit],
    totals: Sequence[float],
    best: dict[str, int],
    changes: tuple[Change, ...],
) -> list[Hypothesis]:
    """The best candidate of each family as an explanation, likeliest first."""
    weights = {k: float(np.exp(min(totals) - totals[i])) for k, i in best.items()}
    hypotheses = []
    for key, i in best.items():
        close = [c.parameter for c, t in zip(found, totals, strict=True) if c.family.id == key and t <= totals[i] + 1.0]
        hypotheses.append(
            Hypothesis(
                family=found[i].family,
                probability=weights[key] / sum(weights.values()),
                gap=fits[i].gap,
                parameter=found[i].parameter,
                parameter_range=(min(close), max(close)),
                best=found[i],
                stake_factor=fits[i].stake_factor,
                stake_left=fits[i].stake_left,
                far_ohm=fits[i].far_ohm,
                changes=changes,
            )
        )
    return sorted(hypotheses, key=lambda h: -h.probability)


def _once(found: Sequence[Hypothesis]) -> list[Hypothesis]:
    return list({h.family.id: h for h in found}.values())


def _fits_as_well(lead: Hypothesis, other: Hypothesis, fitted: dict[str, float], *, earthed: bool) -> bool:
    """Whether only its rarity holds another explanation back: what a fit does not decide, no rarity proves.

    `earthed`: the far end is entered as earthed, so it need not be checked.
    """
    first, second = lead.family.id, other.family.id
    possible, margin = _POSSIBLE, _AS_WELL
    if first in SOUND and second in IN_SERIES:
        possible = _MIND
    elif second == "bonded" and lead.sound:
        possible = _BONDED
    elif {first, second} <= IN_SERIES:
        margin = _SAME_PLACE
    elif {first, second} == {"far_earthed", "earth_fault"}:
        possible, margin = _POSSIBLE if earthed else _ON_THE_WAY, _SAME_PLACE
    return other.probability >= possible and fitted[second] < fitted[first] + margin
