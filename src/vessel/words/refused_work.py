"""Refusals of kit, hookup, readings, marks and limits: what is wrong, and how to put it right. See `refusals`."""

from __future__ import annotations

_LIST = "Choose one of the list."
_STAKE_OFF = "Never drive a stake over a line. Move it well off, and off every other line."
_DISPLAY = "Correct it, with its unit, or keep it if the display showed that."

OF_WORK: dict[str, tuple[str, str]] = {
    # kit and setup
    "no_frequency": ("The kit has no frequency.", "Add at least one."),
    "no_output": ("The kit has no output step.", "Add at least one."),
    "frequency_twice": ("A frequency is entered twice.", "Remove one of the two."),
    "coils_too_close": (
        "The receiver's upper coil must be at least {least_m:fine} above its lower coil.",
        "Enter both heights above ground.",
    ),
    "no_such_frequency": ("{kit} has no {freq_hz:hz}.", "Choose one of {known_hz:hz}."),
    "kit_without_clamp": ("{kit} has no clamp.", "Choose another method."),
    "kit_without_coil": ("{kit} has no induction coil.", "Choose another method."),
    "kit_lacks_tool": ("{kit} lacks what a {method} hookup on record uses.", "Keep it, or choose another kit."),
    "lead_too_short": (
        "The stake lead of {kit} is {lead_m:length} long and does not reach {away_m:length}.",
        "Correct the distance, or the lead's length in the kit.",
    ),
    "stake_too_thick": ("The stake is thicker than it is long.", "Enter its length in the ground."),
    "stake_over": ("The stake would be over {name}.", _STAKE_OFF),
    "stake_on_line": ("The stake is on {name}: {off_m:fine} from its middle.", _STAKE_OFF),
    "stake_in_hard": ("The stake would be in {name}.", "Set it in soil."),
    "stake_needs_plan": (
        "The line is not on the site plan, so the stake cannot be placed there.",
        "Give its distance from the line instead, or draw the line.",
    ),
    "stake_at_access": (
        "The stake is at the access point: the signal would return where it starts.",
        "Set it as far off as the lead allows, at about 90 degrees to the line.",
    ),
    "no_such_method": ("“{name}” is not a method.", "Use direct, clamp, induction or pair."),
    "output_of_nothing": (
        "The output asked for is 0 mA: no signal would go on the line.",
        "Choose an output step above 0 mA.",
    ),
    "only_a_coil_moves": (
        "Only induction can be carried along the line.",
        "Choose induction, or leave the distance apart empty.",
    ),
    "too_short_to_move": (
        "The line is {length_m:length} long. Transmitter and receiver {apart_m:length} apart need twice that.",
        "Carry them closer together, or leave the transmitter standing.",
    ),
    "hookup_beyond_line": (
        "A {method} hookup is at {at_m:length}, beyond the line's {length_m:length}.",
        "Correct the length of the line or the position of the hookup.",
    ),
    "line_without_pair": (
        "This line has no second conductor to put the other lead on.",
        "Connect to the line and a ground stake, or use the clamp or induction.",
    ),
    "no_access_there": (
        "There is no access point at {at_m:length}. The nearest is the {name} at {nearest_m:length}.",
        "Connect at an access point, or enter one there.",
    ),
    "pair_needs_two": ("A pair hookup needs two conductors.", "Name the second one."),
    "frequencies_differ": ("Setup and circuit differ in frequency.", "Solve at the setup's frequency."),
    "place_not_a_pair": ("A place needs east and north.", "Give (east, north) and a heading."),
    # before anything is switched on, and the safe order
    "no_reason": ("Not needed, but no reason is given.", "Write the reason in a few words; it stays on record."),
    "no_such_check": ("“{name}” is not on the sheet.", "Load the sheet again."),
    "no_ambient_level": (
        "The noise level is zero.",
        "Raise the gain until it shows a figure, the same gain in both places.",
    ),
    "no_quiet_level": ("The quiet level is zero.", "Raise the gain until it shows a figure."),
    "hit_without_place": ("The hit has no place.", "Tap it on the plan, or say in words where it is."),
    "step_before_guard": (
        "You ticked a step before one that protects you ({guard}).",
        "Do that one first, then go on.",
    ),
    # readings
    "current_below_zero": ("A current below zero.", "Enter it without the minus sign."),
    "reads_nothing": (
        "The transmitter reads 0 mA: nothing flows, so there is no ratio to check.",
        "Check that the leads are on and enter the smallest figure the display can show (0.1 mA).",
    ),
    "volts_above_ceiling": (
        "{volts:g} V is above the {most:g} V this transmitter can give.",
        "Read the display again, or correct the kit.",
    ),
    "more_than_asked": (
        "{amps:ma} at {freq_hz:hz} is more than the {asked_a:ma} asked for. "
        "A transmitter gives no more than it is asked.",
        "Read the display again, or start a hookup with the output it is really set to.",
    ),
    "lifted_signal_alone": (
        "A lifted signal needs the signal on the ground and the height of the lift.",
        "Enter both, or leave the lifted signal empty.",
    ),
    "lift_without_height": (
        "A lifted depth without the height of the lift.",
        "Enter how far you lifted the receiver.",
    ),
    "too_many_neighbours": ("{count:of neighbour} at one station.", "Enter the {most} with the most current."),
    "too_few_across": (
        "{count:of reading} across the line cannot fix its place.",
        "Take at least {least}, from one side of the peak to the other.",
    ),
    "too_many_across": ("{count:of reading} across the line.", "Enter at most {most}."),
    "profile_at_one_place": (
        "All readings are at one place.",
        "Spread them across the line, a depth each way.",
    ),
    "profile_in_noise": ("The profile is no stronger than the noise.", "Raise the output, or move nearer."),
    "beyond_line": ("{at_m:length} is beyond the line's {length_m:length}.", "Name a place on the line."),
    "points_the_same": ("Both points are the same place.", "Choose two points well apart."),
    "tapes_too_short": (
        "The tapes do not meet: together {missing_m:fine} too short for points {apart_m:fine} apart.",
        "Measure both again, or choose the points you held them at.",
    ),
    "tapes_too_unlike": (
        "The tapes do not meet: {missing_m:fine} too far apart in length for points {apart_m:fine} apart.",
        "Measure both again, or choose the points you held them at.",
    ),
    # what looks like a slip
    "runs_back": (
        "{here_m:station} runs back: the last station was at {last_m:station}. Is it really there?",
        "Correct the distance, or keep it if you went back.",
    ),
    "lifted_less": (
        "Lifted it reads {lifted_m:fine}, less than the {ground_m:fine} on the ground. Are the two swapped?",
        "Correct them, or keep them if the display showed that.",
    ),
    "depth_unlike": (
        "{depth_m:fine} deep, while the stations before read about {usual_m:fine}. Is that the right unit?",
        _DISPLAY,
    ),
    "current_unlike": (
        "{amps:ma}, while the stations before read about {usual_a:ma}. Is that the right unit?",
        _DISPLAY,
    ),
    "null_not_before": (
        "The null before is at {null_m:station}, but the peak is at {peak_m:station}. Is that right?",
        "Correct one of them. You may have taken a ghost peak for the main one.",
    ),
    "null_not_after": (
        "The null after is at {null_m:station}, but the peak is at {peak_m:station}. Is that right?",
        "Correct one of them. You may have taken a ghost peak for the main one.",
    ),
    "ghost_over_peak": (
        "The ghost peak reads {ghost:.4g}, the main peak {peak:.4g}. Are the two swapped?",
        "The main peak is the loudest. Correct them, or keep them if the display showed that.",
    ),
    "rod_short": (
        "{rod_m:station} of rod went in, but the peak moved {ground_m:station}. The rod is shorter than the walk.",
        "Correct rod or distance, or keep them if both are right.",
    ),
    "flips_twice": (
        "The frame turns round twice between {start_m:station} and {end_m:station}. Is that right?",
        "Correct it, or keep it if you read it twice. Two faults are hardly ever that close.",
    ),
    "null_with_level": (
        "The frame nulls, yet shows a level of {level:.4g}. Is that right?",
        "Enter which way it points, or leave the level out.",
    ),
    "louder_alone": (
        "Level {level:.4g} is more than twice the most so far ({most:.4g}), with no reading near it. Is that right?",
        "Correct it, or keep it and take readings close to it on both sides.",
    ),
    # walks with the frame
    "half_a_loop": ("Only one of volts and milliamps is entered.", "Enter both, as the transmitter shows them."),
    "no_current_before": ("No current before the bond was opened.", "Read it where there is some, the bond closed."),
    # sonde runs
    "no_such_way": ("“{name}” is not a way to push.", "Choose on or back."),
    "half_a_check": ("The function check has only one of its two figures.", "Enter the distance and the signal there."),
    # marking and pass limits
    "no_colour_name": ("The colour has no name.", "Type what is on the can, such as Yellow."),
    "no_such_colour": ("“{text}” is not a colour.", "Pick one, or type it like #f2c200."),
    "letter_too_long": ("“{text}” does not fit on a mark.", "Use one to three letters."),
    "no_such_pattern": ("“{text}” is not a pattern.", _LIST),
    "letter_twice": (
        "{other} and {name} would both be marked “{letter}”.",
        "Give every kind of line letters of its own.",
    ),
    "no_such_rule": ("There is no rule “{name}”.", "Choose one of the table."),
    "limit_missing": ("{rule}: {zone} needs a limit.", "Give the limits that its table shows."),
    "limit_not_there": ("{rule}: {zone} has no such limit.", "Give the limits that its table shows."),
    "limit_out_of_reason": (
        "{rule}: {zone} cannot be at {value:g}.",
        "Stay above 0 and within {furthest:g} times Vessel's own limit.",
    ),
    "limit_fixed": ("{rule}: its limits are the same for every crew.", "Leave them as they are."),
    "no_such_evidence": ("There is no evidence called “{name}”.", "Use one of those that docs/formats lists."),
    "no_such_answer": ("“{name}” is no answer.", "Write for, against or cannot."),
    "currents_not_asked": ("No currents belong to this answer.", "Leave them out here."),
    "dug_depth_not_asked": ("A depth belongs to this line dug up, not to this answer.", "Leave the depth out here."),
    "own_current_missing": ("The current on this line is missing.", "Enter both currents, or neither."),
    "other_current_missing": ("The current on the other one is missing.", "Enter both currents, or neither."),
    "currents_say_otherwise": ("Answer and currents disagree.", "Tap the one that carries more, or correct a current."),
    "limits_swapped": ("{rule}: care must come before hold.", "Swap the two, or move one of them."),
}
