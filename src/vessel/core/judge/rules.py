"""The judge's criteria as data. The judge runs this table, the Rules screen shows it, docs are made from it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

CRITERIA_VERSION = "5"
"""Raised whenever a rule, a bound or a measure changes; kept with every saved verdict."""

Sense = Literal["above", "below"]
Missing = Literal["need", "care", "skip"]
Unit = Literal["ratio", "times", "length", "depths"]


@dataclass(frozen=True)
class Rule:
    """One check: what it measures, from which value it asks for care or holds, why, and what to do then.

    `sense` "above": care and hold apply above the bounds; "below": below them. `care` None: no care zone; `hold` None:
    it never holds by itself.
    `missing`: what it means when the measure cannot be formed. `ask` says which evidence would form it;
    `care_step` replaces `next_step` in the care zone where that would be too strong. `worth`: share of astray stations
    that nothing but this evidence holds (`tests/core/test_corpus.py`); 1 where without it nothing else counts.
    """

    id: str
    title: str
    measures: str
    unit: Unit
    sense: Sense
    care: float | None
    hold: float | None
    missing: Missing
    why: str
    next_step: str
    ask: str = ""
    care_step: str = ""
    worth: float = 1.0


RULES: tuple[Rule, ...] = (
    Rule(
        "frequency",
        "Same frequency at both units",
        "difference between receiver and transmitter frequency",
        "ratio",
        "above",
        None,
        0.001,
        "need",
        "A receiver on another frequency hears something else, never this signal.",
        "Set the receiver to the transmitter's frequency and take the station again.",
        "Enter the frequency the receiver is set to.",
    ),
    Rule(
        "loop",
        "The loop is explained",
        "gap between the transmitter's ohms and the nearest explanation of them",
        "ratio",
        "above",
        0.20,
        0.50,
        "need",
        "If the volts and milliamps fit no circuit this line can make, the current is going somewhere else.",
        "Go back to the hookup: prove stake, clip and far end before marking.",
        "Enter the transmitter's volts and milliamps at the hookup.",
    ),
    Rule(
        "guidance",
        "Guidance kept",
        "share of the stations here at which signal and guidance were gone",
        "ratio",
        "above",
        None,
        0.50,
        "skip",
        "Where signal and guidance are gone there is nothing to mark: a bend, an end or a break.",
        "Walk a circle to find the line again; take no depth here.",
    ),
    Rule(
        "signal",
        "Signal above noise",
        "signal at the lower coil against the ambient noise",
        "times",
        "below",
        40.0,
        20.0,
        "need",
        "Depth and current come from a small difference between two coils; noise eats it first.",
        "Raise the output one step, earth the far end, or move the hookup nearer.",
        "Enter the current and the depth.",
    ),
    Rule(
        "steady",
        "Current reading steady",
        "spread of the repeated current readings against their median",
        "ratio",
        "above",
        0.10,
        0.25,
        "need",
        "A restless current reading belongs to a weak target or to somebody else's field.",
        "Stand still, repeat the reading, and check the signal against the noise.",
        "Read the current at least three times.",
        worth=0.04,
    ),
    Rule(
        "told",
        "The forecast says something",
        "low edge of the forecast current against its high edge",
        "ratio",
        "below",
        0.25,
        None,
        "skip",
        "A forecast that allows nearly nothing as well as everything cannot show that the signal left the line.",
        "Go back to the hookup and prove the loop: read what the diagnosis asks for.",
    ),
    Rule(
        "current_low",
        "Current not below forecast",
        "median current against the low edge of the forecast, as the stations before it narrow it",
        "times",
        "below",
        0.75,
        0.50,
        "skip",
        "Far less current than this loop should carry here means another line, or signal that left the line.",
        "Sweep a full circle for a line with more current; check for a tee, an earth or a coating fault behind you.",
    ),
    Rule(
        "current_high",
        "Current not above forecast",
        "median current against the high edge of the forecast, as the stations before it narrow it",
        "times",
        "above",
        1.25,
        1.60,
        "skip",
        "No line can carry more than the hookup puts on it: the field is distorted or it is another line.",
        "Look for a parallel line and take the current again beside it.",
    ),
    Rule(
        "lift",
        "Lift test",
        "error of the depth gained by lifting, against the height of the lift",
        "ratio",
        "above",
        0.15,
        0.75,
        "need",
        "Lifting must add exactly its own height; where it does not, the field is not that of one straight line.",
        "Move a few metres along the line and repeat; do not use this depth.",
        "Lift the receiver straight up by a known height and read the depth again.",
        "Repeat the lift a few metres along; paint the position, leave the depth out unless it agrees there.",
        worth=0.005,
    ),
    Rule(
        "lift_sure",
        "Lift error within the noise",
        "what noise does not explain of the lift's error, against the height of the lift",
        "ratio",
        "above",
        None,
        0.30,
        "skip",
        "An error of the lift that noise cannot make is made by another line's field, or by the air.",
        "Move a few metres along the line and repeat; do not use this depth.",
    ),
    Rule(
        "peak_null",
        "Peak and null together",
        "distance between the peak and the null",
        "length",
        "above",
        0.08,
        0.20,
        "need",
        "A neighbour's current pulls the null further than the peak; the gap is the gauge of distortion.",
        "Do not mark from this field: change frequency or hookup, or find the neighbour that carries the signal.",
        "Pinpoint by peak, then by null, and enter the distance between them.",
        "Mark on the peak, not the null, with a wide tolerance; first look for the neighbour that pulls them apart.",
        worth=0.1,
    ),
    Rule(
        "neighbour",
        "More current than any neighbour",
        "best current on a neighbour against the current here",
        "ratio",
        "above",
        0.35,
        0.75,
        "care",
        "The target carries the most current. A neighbour nearly as strong may be the target.",
        "Follow the neighbour back to the hookup; lower the frequency to cut the bleed-off.",
        "Look to both sides and enter the best current on another line, 0 if there is none.",
        worth=0.01,
    ),
    Rule(
        "louder",
        "No neighbour louder at the same gain",
        "signal of the loudest neighbour against the signal here, gain locked",
        "ratio",
        "above",
        1.0,
        None,
        "skip",
        "With the gain locked the energised line reads higher than one that caught bleed-off, unless it lies deeper.",
        "Compare the currents of both and follow the louder one back to the hookup before marking.",
    ),
    Rule(
        "direction",
        "Current runs away from the hookup",
        "share of the directions read that point back to the hookup",
        "ratio",
        "above",
        None,
        0.50,
        "skip",
        "Current that runs back to the hookup returns through another line.",
        "Follow the other way, or go back and find the line on which it runs away from the hookup.",
    ),
    Rule(
        "symmetry",
        "Alike on both sides of the peak",
        "greatest difference of signals equally far left and right of the peak, against the peak",
        "ratio",
        "above",
        0.12,
        0.25,
        "skip",
        "The field of one straight line falls alike to both sides; another line's current makes it lopsided.",
        "Do not mark from this field: find the line on the side that falls slower, or change frequency or hookup.",
        care_step="Mark on the fitted line, not on the peak, and look for a neighbour on the side that falls slower.",
    ),
    Rule(
        "explained",
        "Readings across explained",
        "misfit of the lines fitted to the readings across, against what a steady hand and display leave",
        "times",
        "above",
        6.0,
        16.0,
        "skip",
        "Readings across that no one or two straight lines make come from a bend, a tee or more than two lines.",
        "Do not mark from it; read across again a few metres along.",
    ),
    Rule(
        "placed",
        "Peak over the fitted line",
        "way from the peak to the line fitted to the readings across, beyond its own uncertainty",
        "length",
        "above",
        0.08,
        0.20,
        "skip",
        "A mark goes over the line. Where the readings across put the line beside the peak, the peak is pulled.",
        "Do not mark the peak: change frequency or hookup, or prove the fitted place from a second hookup.",
        care_step="Mark over the fitted line, with a wide tolerance; first look for the neighbour that pulls the peak.",
    ),
    Rule(
        "depth",
        "Depth as expected",
        "distance outside the expected depth range, against its nearer edge",
        "ratio",
        "above",
        0.15,
        0.50,
        "need",
        "A depth that this line should not have often belongs to another line.",
        "Confirm the depth by triangulation, and ask the owner's records for it.",
        "Enter the depth on the ground, at a frequency at which the receiver reads depth.",
    ),
    Rule(
        "ends",
        "Clear of the ends",
        "distance to the hookup or the nearer end of the line, in depths",
        "depths",
        "below",
        3.0,
        1.5,
        "skip",
        "Beside an end, a riser or the leads the line is not long and straight; depth and current read wrong.",
        "Take depth and current further along and carry the line back to the end by eye and by probing.",
    ),
    Rule(
        "turns",
        "Clear of bends and tees",
        "distance to the nearest bend or tee of the line, in depths",
        "depths",
        "below",
        3.0,
        None,
        "skip",
        "Beside a sharp bend the current of both legs is heard: two depths away depth still reads a sixth too low.",
        "Paint the position and leave the depth out; take the depth again three depths from the bend.",
    ),
    Rule(
        "crossings",
        "Clear of crossings",
        "distance to the nearest line that crosses, in depths",
        "depths",
        "below",
        1.0,
        None,
        "skip",
        "Over a crossing both lines are heard, and either may be the one that is read.",
        "Take depth and current on both sides of the crossing; paint it only where both agree.",
    ),
    Rule(
        "air",
        "Clear of the transmitter's own field",
        "transmitter coil's field against the line's field here",
        "ratio",
        "above",
        0.05,
        0.20,
        "skip",
        "Near an induction coil the receiver hears the transmitter through the air.",
        "Walk further from the transmitter or lower its output; then lift the receiver to prove it.",
    ),
    Rule(
        "jump",
        "No jump from the last station",
        "lesser of the jumps in depth and in current since the last station",
        "ratio",
        "above",
        0.25,
        0.45,
        "skip",
        "When depth and current both jump, you have most likely stepped onto another line.",
        "Go back to the last station that passed and follow the line again in short steps.",
    ),
    Rule(
        "gain",
        "Signal agrees with current and depth",
        "change of the signal, gain locked, against what current and depth say it should be since the last station",
        "ratio",
        "above",
        0.25,
        None,
        "skip",
        "At one gain the signal follows from current and depth; where it does not, one of the three was read wrong.",
        "Take current and depth again; if the gain was changed, leave the signal out here.",
    ),
)

BY_ID: dict[str, Rule] = {rule.id: rule for rule in RULES}
