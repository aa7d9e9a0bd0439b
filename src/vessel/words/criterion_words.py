"""What each criterion of the judge is called, why it counts, and what to do about it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class CriterionWords:
    """Words of one criterion.

    `found`: a finding with its figure, `found_none` where that is nothing; `ask`: the evidence that forms its measure;
    `care_step`: what to do in the care zone, where `next_step` is too strong.
    """

    title: str
    measures: str
    found: str
    why: str
    next_step: str
    found_none: str = ""
    ask: str = ""
    care_step: str = ""


CRITERION_WORDS: dict[str, CriterionWords] = {
    "shown": CriterionWords(
        title="Something shows which line it is",
        measures="share of the evidence of identity that is still missing: all of it, or not",
        found="Line not proven: nothing shows yet which line this is",
        found_none="Evidence speaks for this line",
        why="A clean field shows that a line is there, not which one.",
        next_step="Answer what Vessel asks for: what else is connected at the access point is the cheapest.",
    ),
    "identity": CriterionWords(
        title="Place and depth proven",
        measures="chance that a mark here is outside the tolerance or more than 10 % off in depth, every rival weighed",
        found="Line not proven: the chance that place or depth is wrong is {value}",
        why="A bonded twin, a branch or a neighbour can make a clean field. It takes evidence to rule them out.",
        next_step="Show which line this is, or take readings across.",
    ),
    "aside": CriterionWords(
        title="Not another line",
        measures="chance that the line is outside the tolerance of a mark here, every rival weighed",
        found="The chance that this is another line is {value}",
        why="What was read and seen fits another line better than this one.",
        next_step="Do not mark here. Find out which line this is.",
    ),
    "frequency": CriterionWords(
        title="Same frequency at both units",
        measures="difference between receiver and transmitter frequency",
        found="Receiver and transmitter differ by {value} in frequency",
        why="A receiver on another frequency never hears this signal.",
        next_step="Set the receiver to the transmitter's frequency and take the station again.",
        ask="Enter the frequency the receiver is set to.",
    ),
    "loop": CriterionWords(
        title="Transmitter readings make sense",
        measures="gap between the transmitter's ohms and the nearest explanation of them",
        found="The transmitter's ohms are {value} off the nearest explanation",
        why="If volts and milliamps fit no circuit of this line, the current goes somewhere else.",
        next_step="Go back to the hookup. Prove stake, clip and far end before you mark.",
        ask="Enter the transmitter's volts and milliamps at the hookup.",
    ),
    "guidance": CriterionWords(
        title="Signal still there",
        measures="share of the stations here where signal and guidance were gone",
        found="Signal and guidance were gone here",
        found_none="Signal and guidance are there",
        why="Where signal and guidance are gone there is nothing to mark: a bend, an end or a break.",
        next_step="Walk a circle to find the line again. Take no depth here.",
    ),
    "signal": CriterionWords(
        title="Signal above noise",
        measures="signal at the lower coil against the ambient noise",
        found="The signal is {value} the noise",
        why="Depth and current come from a small difference between two coils. Noise eats it first.",
        next_step="Earth the far end, move the hookup nearer, or raise the output if it is below full.",
        ask="Enter the current and the depth.",
    ),
    "steady": CriterionWords(
        title="Current reading steady",
        measures="spread of the repeated current readings against their median",
        found="Repeated currents differ by {value}",
        why="A restless current belongs to a weak target or to another line's field.",
        next_step="Stand still, repeat the reading, and check the signal against the noise.",
        ask="Read the current at least three times.",
    ),
    "told": CriterionWords(
        title="Forecast is tight enough",
        measures="low edge of the forecast current against its high edge; in plans, stations have the rivals",
        found="The forecast's low edge is {value} of its high edge",
        why="A forecast that allows almost any current cannot show that the signal left the line.",
        next_step="Go back to the hookup and prove the loop: read what the diagnosis asks for.",
    ),
    "current_low": CriterionWords(
        title="Current not below forecast",
        measures="median current against the low edge of the forecast, narrowed by the stations before",
        found="Current is {value} of the lowest expected",
        why="Far less current than this loop should carry means another line, or signal that left the line.",
        next_step=(
            "Sweep a full circle for a line with more current. Look behind you for a tee, an earth or a coating fault."
        ),
    ),
    "current_high": CriterionWords(
        title="Current not above forecast",
        measures="median current against the high edge of the forecast, narrowed by the stations before",
        found="Current is {value} of the highest expected",
        why="No line carries more than the hookup puts on it: the field is distorted, or this is another line.",
        next_step="Look for a parallel line and take the current again beside it.",
    ),
    "surplus": CriterionWords(
        title="Not more than the transmitter supplies",
        measures="median current against the current the transmitter shows",
        found="The current is {value} what the transmitter supplies",
        why="No line carries more than the transmitter puts out: another line under you adds to it.",
        next_step="Do not mark here. Look for a bonded or parallel line beside this one.",
    ),
    "lift": CriterionWords(
        title="Lift test",
        measures="error of the depth gained by lifting that nothing entered explains, against the height of the lift",
        found="The lifted depth is off by {value} of the lift, with what is entered allowed for",
        why="Lifting must add exactly its own height. If not, the field is not that of one straight line.",
        next_step="Move a few metres along the line and repeat. Do not use this depth.",
        ask="Lift the receiver straight up by a known height and read the depth again.",
        care_step="Repeat the lift a few metres along. Paint the position; write the depth only if it agrees there.",
    ),
    "lift_sure": CriterionWords(
        title="Lifts agree along the line",
        measures="part of the lift's error, here or in the lifts within 15 m together, that noise does not explain",
        found="Beyond the noise, the lifts here are off by {value} of their height",
        why="Noise cannot make this error. Another line's field makes it, or the air does.",
        next_step="Move a few metres along the line and repeat. Do not use this depth.",
        care_step="Take readings across here. Paint the position; write the depth only if they agree with it.",
    ),
    "peak_null": CriterionWords(
        title="Peak and null together",
        measures="distance between the peak and the null, with what is entered allowed for",
        found="Peak and null are {value} further apart than anything entered explains",
        why="A neighbour's current pulls the null further than the peak. The gap shows how distorted the field is.",
        next_step="Do not mark here. Change frequency or hookup, or find the neighbour that carries the signal.",
        ask="Pinpoint by peak, then by null, and enter the distance between them.",
        care_step=(
            "Mark on the peak, not the null, with a wide tolerance. First look for the neighbour that pulls them apart."
        ),
    ),
    "neighbour": CriterionWords(
        title="More current than any neighbour",
        measures="best current on a neighbour against the current here",
        found="The best neighbour carries {value} of the current here",
        why="The target carries the most current. A neighbour nearly as strong may be the target.",
        next_step="Follow the neighbour back to the hookup. Lower the frequency to cut the bleed-off.",
        ask="Look to both sides and enter the best current on another line, 0 if there is none.",
    ),
    "louder": CriterionWords(
        title="No neighbour louder at the same gain",
        measures="signal of the loudest neighbour against the signal here, gain locked",
        found="The loudest neighbour reads {value} of the signal here, at one gain",
        why="At one gain the energised line reads higher than a line that caught bleed-off, unless it lies deeper.",
        next_step="Compare the currents of both. Follow the louder one back to the hookup before you mark.",
    ),
    "direction": CriterionWords(
        title="Current runs away from the hookup",
        measures="share of the directions read that point back to the hookup",
        found="Current runs back to the hookup",
        found_none="Current runs away from the hookup",
        why="Current that runs back to the hookup returns through another line.",
        next_step="Follow the other way, or go back and find the line on which it runs away from the hookup.",
    ),
    "symmetry": CriterionWords(
        title="Same on both sides of the peak",
        measures="greatest difference of signals equally far left and right of the peak, against the peak",
        found="Signals left and right of the peak differ by {value}",
        why="The field of one straight line falls the same to both sides. Another line's current makes it lopsided.",
        next_step="Do not mark here. Find the line on the side that falls slower, or change frequency or hookup.",
        care_step="Mark on the fitted line, not on the peak. Look for a neighbour on the side that falls slower.",
    ),
    "explained": CriterionWords(
        title="Readings across explained",
        measures="misfit of the lines fitted to the readings across, against a steady hand and display",
        found="The readings across miss the fitted lines by {value} what a steady hand does",
        why="Readings that no one or two straight lines can make come from a bend, a tee or more than two lines.",
        next_step="Do not mark here. Read across again a few metres along.",
        care_step="Read across again a few metres along. Paint with a wide tolerance where both agree.",
    ),
    "placed": CriterionWords(
        title="Peak over the fitted line",
        measures="distance from the peak to the line fitted to the readings across, beyond its own uncertainty",
        found="The fitted line is {value} from the peak, beyond its range",
        why="A mark goes over the line. If the readings across put the line beside the peak, the peak is pulled.",
        next_step="Do not mark the peak. Change frequency or hookup, or prove the fitted place from a second hookup.",
        care_step="Mark over the fitted line, with a wide tolerance. First look for the neighbour that pulls the peak.",
    ),
    "depth": CriterionWords(
        title="Depth as expected",
        measures="distance outside the expected depth range, against its nearer edge",
        found="Depth is {value} outside the expected range",
        found_none="Depth is within the expected range",
        why="A depth that this line should not have often belongs to another line.",
        next_step="Confirm the depth by triangulation, and check the owner's records.",
        ask="Enter the depth on the ground, at a frequency at which the receiver reads depth.",
    ),
    "ends": CriterionWords(
        title="Clear of the ends",
        measures="distance to the hookup or the nearer end of the line, in depths",
        found="The hookup or an end is {value} away",
        why="Beside an end, a riser or the leads, the line is not long and straight. Depth and current read wrong.",
        next_step="Take depth and current further along. Carry the line back to the end by eye and by probing.",
    ),
    "turns": CriterionWords(
        title="Clear of bends and tees",
        measures="distance to the nearest bend or tee of the line, in depths",
        found="The nearest bend or tee is {value} away",
        why="Beside a sharp bend you hear both legs. Two depths away, depth still reads a sixth too low.",
        next_step="Paint the position and write no depth. Take the depth again three depths from the bend.",
    ),
    "crossings": CriterionWords(
        title="Clear of crossings",
        measures="distance to the nearest line that crosses, in depths",
        found="The nearest crossing is {value} away",
        why="Over a crossing you hear both lines, and may be reading either.",
        next_step="Take depth and current on both sides of the crossing. Paint it only where both agree.",
    ),
    "passive": CriterionWords(
        title="Clear of unexplained passive hits",
        measures="distance from a mark's tolerance zone to the nearest passive hit that nothing drawn explains",
        found="A passive hit that nothing drawn explains lies {value} from the tolerance zone here",
        found_none="A passive hit that nothing drawn explains lies in the tolerance zone here",
        why="Something is in the ground there that is not on the plan. It may be what you are reading.",
        next_step="Find out what it is and enter it as a line. Until then, paint a wide tolerance here.",
    ),
    "air": CriterionWords(
        title="Clear of the transmitter's own field",
        measures="transmitter coil's field against the line's field here",
        found="The transmitter's own field is {value} of the line's here",
        why="Near an induction coil the receiver hears the transmitter through the air.",
        next_step="Walk further from the transmitter or lower its output. Then lift the receiver to prove it.",
    ),
    "jump": CriterionWords(
        title="No jump from the last station",
        measures="lesser of the jumps in depth and in current since the last station",
        found="Depth and current both jump by {value} since the last station",
        why="When depth and current both jump, you have most likely stepped onto another line.",
        next_step="Go back to the last station that passed and follow the line again in short steps.",
    ),
    "gain": CriterionWords(
        title="Signal agrees with current and depth",
        measures="change of the signal, gain locked, against what current and depth predict since the last station",
        found="The signal is {value} off what current and depth predict",
        why="At one gain the signal follows from current and depth. If it does not, one of the three was read wrong.",
        next_step="Take current and depth again. If you changed the gain, leave the signal out here.",
    ),
    "sonde_mode": CriterionWords(
        title="Depth read in sonde mode",
        measures="chance that the receiver was in line mode when it read depth: nulls and lift against the depth shown",
        found="Depth was read in line mode: the chance of that is {value}",
        why="In line mode a sonde 1 m down reads about 0.2 m. Nulls and lift give it away.",
        next_step="Set the receiver to sonde mode and read depth again. Do not use this depth.",
        ask="Look whether the receiver is in sonde mode, and enter that.",
    ),
    "nulls": CriterionWords(
        title="Peak between its nulls",
        measures="distance from the peak to the middle of its two nulls, in depths",
        found="The peak stands {value} from the middle of its nulls",
        why="Over a level head the peak is halfway between the nulls. A tilted one, or a ghost peak, is not.",
        next_step="You may be on a ghost peak. Go to the loudest place, then find one null before it and one after.",
        ask="Find the null before the peak and the one after it, and enter where they are.",
        care_step="Mark where the head is fitted, not the peak. Move the head a little and read again.",
    ),
    "two_depths": CriterionWords(
        title="Two depths agree",
        measures="difference between the depths by nulls, by the display and by the lift, against their middle",
        found="The depths by nulls, display and lift differ by {value}",
        why="Each way errs differently. Where they agree, depth can be written down.",
        next_step="Read depth and both nulls again. If they still differ, iron is near: write no depth.",
        ask="Enter depth in a second way: both nulls, or the display and again lifted.",
        care_step="Paint the position. Write a depth only after reading it again.",
    ),
    "sonde_fit": CriterionWords(
        title="Readings fit one sonde",
        measures="what no single sonde explains of peak, nulls, ghosts and depths, against a steady hand",
        found="The readings miss the best sonde by {value} what a steady hand does",
        why="One head in clean ground explains everything read over it. Iron or mesh near by does not let it.",
        next_step="Do not mark here. Look for iron, mesh or a cover near by. Push on a metre and read again.",
        care_step="Read the peak and both nulls again. Paint the position and write no depth.",
    ),
    "sonde_range": CriterionWords(
        title="Place and depth are tight enough",
        measures="ranges of place and depth against a tenth of the depth along the pipe and 5 % of depth",
        found="Place or depth is open by {value} what a mark may be off",
        why="A mark needs readings that pin the head down.",
        next_step="Read both nulls and depth again, and enter the ghost peaks.",
        care_step="Enter the ghost peaks: they tell how the head is tilted. Until then, write no depth.",
    ),
    "ghosts": CriterionWords(
        title="Ghost peaks alike",
        measures="the stronger ghost peak against the weaker",
        found="One ghost peak is {value} the other",
        why="Ghosts are alike over a level head. Over a tilted one, the peak is pulled off the head.",
        next_step="The head stands steep, or another source is near. Push on a little and read again.",
        care_step="Mark where the head is fitted, not the peak.",
    ),
    "tilt": CriterionWords(
        title="Head lies nearly level",
        measures="slope that the head lies at",
        found="The head lies at a slope of {value}",
        why="A steep head pulls peak and nulls off its place, and depth by nulls reads too deep.",
        next_step="Push on until the head lies level again, then read.",
        care_step="Mark where the head is fitted. It may be in a bend or on a step: read again a little further on.",
    ),
    "level": CriterionWords(
        title="Signal as the function check promised",
        measures="the signal against that of the function check, weakened to this depth",
        found="The signal is {value} of what the function check promised, or the other way round",
        why="A sonde weakens with the cube of its depth. Much less means iron round it; much more, another source.",
        next_step="Check the gain. If the signal stays off, iron or another source is near: do not mark.",
        ask="Enter the function check of this run, and the signal here at the same gain.",
        care_step="Check the gain. If it was right, suspect iron round the pipe: paint the position, write no depth.",
    ),
    "shield": CriterionWords(
        title="Pipe lets the signal out",
        measures="share of the signal that comes out of the pipe's wall",
        found="The pipe lets out {value} of the signal",
        why="Iron takes the signal and leads what is left along the pipe.",
        next_step="Trace the pipe's own metal instead, or use a lower frequency.",
        care_step="Paint the position and write no depth. Prove the pipe by its own metal where you can.",
    ),
    "turned": CriterionWords(
        title="Signal goes when you turn",
        measures="signal with the receiver turned a quarter, against the signal in line with the pipe",
        found="Turned a quarter, {value} of the signal stays",
        why="In line with the pipe a sonde is loudest, across it next to silent. If not, the pipe runs another way.",
        next_step="Turn until it is loudest: that is the way of the pipe. Then find peak and nulls along that way.",
        care_step="Turn until it is loudest, and read the nulls along that way.",
    ),
    "rod_short": CriterionWords(
        title="Rod reaches as far as the ground",
        measures="ground gained since the stop before beyond the rod that went in",
        found="The ground gained is {value} more than the rod that went in",
        why="A head cannot be further on than its rod. A ghost peak, or a distance read wrong, can.",
        next_step="Check rod and distance. You may have gone from a ghost peak to the main one.",
        care_step="Check rod and distance before you paint.",
    ),
    "rod_spare": CriterionWords(
        title="Ground gained as rod went in",
        measures="rod that went in since the stop before beyond the ground gained",
        found="{value} of the rod gained no ground",
        why="The head turned a corner, went down, or the rod coiled.",
        next_step="Take stops closer together back to the last one, and look to both sides for the peak.",
        care_step="The pipe may turn here. Take a stop halfway back before you join the marks.",
    ),
    "fall_between": CriterionWords(
        title="Depth fits the stop before",
        measures="slope that the pipe would have since the stop before",
        found="The pipe would slope by {value} since the stop before",
        why="Drains run at a steady, slight fall. A steep step is a drop pipe, or a depth read wrong.",
        next_step="Read depth again at both stops. Do not join them until they agree.",
        care_step="Read depth again at both stops before you write it down.",
    ),
}
