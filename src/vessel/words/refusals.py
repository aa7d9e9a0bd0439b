"""Refusals in words: what is wrong, with its value, and how to put it right; in the user's units.

A template's figures are the refusal's facts. After a colon: how a fact is shown. `length` and `fine` (a depth or an
offset) are in the user's units, `station` to the centimetre; then `hz`, `ma`, `of reading` for a count, or a format of
Python's.
"""

from __future__ import annotations

from string import Formatter
from typing import Any

from vessel.core.base.errors import VesselError
from vessel.core.text.figures import counted, show_hz, show_length, show_ma, show_station
from vessel.core.text.units import FOOT_M, Units

_LIST = "Choose one of the list."
_STAKE_OFF = "Never drive a stake over a line. Move it well off, and off every other line."
_DISPLAY = "Correct it, with its unit, or keep it if the display showed that."
_ROUTE = (
    "Write legs as “38 m at 60, then 20 m at 150” (bearing clockwise from north), or corners as “0 E, 0 N; 38 E, 12 N”."
)
_AS_ENTERED = "{as_entered}"
"""Stands for how a quantity is typed."""

HOW_TO_TYPE = {
    "current": "Type milliamps, such as 71.",
    "frequency": "Type hertz or kilohertz, such as 560 or 8.96k.",
    "volts": "Type volts, such as 30.",
    "ohms": "Type ohms, such as 110.",
    "resistivity": "Type ohm metres, such as 60.",
    "inductance": "Type millihenries, such as 50.",
    "bearing": "Type degrees, such as 40.",
    "fall": "Type per cent, such as 1.5, or a ratio, such as 1:80.",
    "signal": "Type the figure on the display, or decibels as 62dB.",
    "profile": "Give offset and signal of each, such as L0.5 62; 0 88; R0.5 60.",
    "neighbours": "Give how far aside, its current and, gain locked, its signal, such as L1.2 9.5 62; R2.0 4.1.",
}
_LENGTH_TYPED = "Type it as 0.58, 58cm, 40in or 3'4."
_PARTS = {"profile": "an offset with its signal", "neighbours": "a neighbour with its current"}

REFUSALS: dict[str, tuple[str, str]] = {
    # what is typed
    "nothing_entered": ("Nothing entered.", "Type a value."),
    "has_comma": ("“{text}” has a comma.", "Write the decimal point: {point}."),
    "below_zero": ("“{text}” is below zero.", "Enter it without the minus sign."),
    "no_number": ("“{text}” is not a number.", _AS_ENTERED),
    "no_such_unit": ("“{text}” is not a unit for this field.", _AS_ENTERED),
    "no_length_unit": ("“{text}” is not a unit of length.", _AS_ENTERED),
    "too_many_inches": ("“{text}”: {inches:g} inches is a foot or more.", _AS_ENTERED),
    "no_such_part": ("“{text}” is not {part}.", _AS_ENTERED),
    "no_side": ("“{text}” has no side and no offset.", _AS_ENTERED),
    "metres_or_centimetres": ("“{value:g}” could be {value:g} m or {value:g} cm.", "Type {value:g}m or {value:g}cm."),
    "bearing_out": ("{degrees:g} degrees is not a bearing.", "Give 0 to 360, clockwise from north."),
    "no_bearing": ("“{text}” is not a bearing.", _ROUTE),
    "no_leg": ("“{text}” is not a leg or a corner.", _ROUTE),
    "no_compass_point": ("Which way from there is not chosen.", "Choose a compass point, such as NE."),
    "place_one_way": ("“{text}” goes the same way twice.", "Give one figure E or W and one N or S: 12.5 E, 3 S."),
    "no_single_place": ("“{text}” is not one place.", "Give one place, such as 12.5 E, 3 S."),
    "out_of_range": ("{name} is {value:own}.", "Enter a value from {low:plain} to {high:own}."),
    # the line and what it is made of
    "no_such_preset": ("Construction “{name}” is not known.", _LIST),
    "preset_without_metal": ("What has no metal takes no signal.", "Leave it out, or choose what it is made of."),
    "no_wall": ("The wall or outer skin has no thickness.", "Enter it in metres."),
    "no_core": ("A clad wire needs the conductivity of its core.", "Steel is about 6e6 S/m."),
    "depths_swapped": ("The minimum depth is greater than the maximum depth.", "Swap the two."),
    "no_such_utility": ("“{name}” is not a kind of line.", _LIST),
    "no_such_soil": ("Soil kind “{name}” is not known.", _LIST),
    "line_without_metal": (
        "{name} has no metal, so it carries no signal.",
        "Use a rod or a sonde inside it, or ask its owner.",
    ),
    "nothing_has_metal": (
        "Nothing on the site has metal, so nothing carries a signal.",
        "Use a rod or a sonde, or enter what carries the signal.",
    ),
    # what runs beside it
    "runs_beside_too_short": (
        "{name} runs beside the line for less than {least_m:length}.",
        "Enter where it starts and where it ends, along the line.",
    ),
    "bond_off_stretch": ("The bond to {name} is where it does not run.", "Enter a place on the stretch they share."),
    "neighbour_bond_beyond": (
        "The bond to {name} is at {at_m:length}, but the line is {length_m:length} long.",
        "Correct the place of the bond or the length of the line.",
    ),
    # the site plan
    "no_line": ("The site has no line.", "Enter at least one."),
    "no_such_line": ("The site has no line “{name}”.", "It has {known}."),
    "line_name_twice": ("Two lines are called “{name}”.", "Rename one of them."),
    "thing_name_twice": ("Two things on the plan are called “{name}”.", "Rename one of them."),
    "corner_count": ("{name} has {count:of corner}.", "Give it {least} to {most} corners."),
    "corner_no_place": ("A corner of {name} is not a place.", "Enter east and north."),
    "leg_without_length": (
        "Leg {leg} of {name} has no length.",
        "Remove one of its two corners, or set them at least {least_m:fine} apart.",
    ),
    "outside_site": (
        "{name} is outside the site: a corner is more than {furthest_m:length} from the plan's origin.",
        "Give east and north of the plan's origin, or import with the right coordinate system.",
    ),
    "strips_too_many": (
        "At this distance the dig area takes {count} walks.",
        "Enter {least_m:length} or more, or walk the area in parts.",
    ),
    "no_strips": (
        "There are no strips to walk.",
        "Draw the dig area on the site plan and set the distance between walks.",
    ),
    "no_such_strip": ("Strip “{name}” is not on the plan any more.", "Look at the plan again: the grid was changed."),
    "off_the_line": (
        "{thing} is at {at_m:length}, but {name} is {length_m:length} long.",
        "Correct the distance or the route.",
    ),
    "yard_nothing_there": (
        "No metal of “{name}” comes up there.",
        "The record may be wrong. Hook up where you see the line: at its riser or its box.",
    ),
    "lesson_without_target": ("The target “{name}” is none of the recorded lines.", "Name one of `lines`."),
    "feature_without_ohm": (
        "The {kind} at {at_m:length} has no resistance to soil.",
        "Enter at least 0.01 ohm; an anode is typically 5 to 50 ohm.",
    ),
    "bond_to_itself": ("A bond joins {name} to itself at one place.", "Correct one of the ends."),
    "point_off_picture": (
        "Point {number} is outside the picture.",
        "Tap it again in the picture.",
    ),
    "points_close_in_picture": (
        "The two points lie less than {least_px:g} pixels apart in the picture.",
        "Tap two points far apart: the scale comes from them.",
    ),
    "points_close_on_ground": (
        "The two points lie {apart_m:fine} apart on the ground.",
        "Choose two points at least {least_m:fine} apart, best at opposite ends of the picture.",
    ),
    "picture_off_site": (
        "The picture would be {width_m:length} wide and reach more than {furthest_m:length} from the plan's origin.",
        "Check the place of each point: one of them is wrong.",
    ),
    "bond_off_route": (
        "A bond is at {at_m:length} of “{name}”, which does not run there.",
        "Correct or remove the bond.",
    ),
    "lines_overlap": (
        "{a} and {b} overlap: {apart_m:fine} apart at {at_m:length} of {a}, where their metal and covering need "
        "{needed_m:fine}.",
        "Correct a depth or a route, or enter the bond where they touch.",
    ),
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
    "no_such_method": ("“{name}” is not a method.", "Use direct, clamp or induction."),
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
    "limits_swapped": ("{rule}: care must come before hold.", "Swap the two, or move one of them."),
}


class _Said(Formatter):
    """Fills templates in one system of units; `unit` is that of a figure out of range."""

    def __init__(self, units: Units, unit: str) -> None:
        self.units, self.unit = units, unit

    def format_field(self, value: Any, spec: str) -> str:
        """Return a fact as its template wants it."""
        if spec in ("length", "fine"):
            return show_length(value, self.units, fine=spec == "fine")
        if spec == "station":
            return show_station(value, self.units)
        if spec == "hz":
            return ", ".join(map(show_hz, value)) if isinstance(value, list) else show_hz(value)
        if spec == "ma":
            return show_ma(value)
        if spec.startswith("of "):
            return counted(value, spec.removeprefix("of "))
        if spec in ("own", "plain"):
            return self._in_range(value, spec == "own")
        return str(super().format_field(value, spec))

    def _in_range(self, value: float, with_unit: bool) -> str:
        """A figure out of range, or an end of its range, with its unit if there is one."""
        if value != value:
            return "not a number"
        feet = self.unit == "m" and self.units == "imperial"
        shown = f"{value / FOOT_M:.3g}" if feet else f"{value:g}"
        unit = "ft" if feet else self.unit
        return f"{shown} {unit}" if with_unit and unit else shown


def refusal(e: VesselError, units: Units | None = None) -> tuple[str, str]:
    """Return what is wrong and how to put it right, in `units` or those the refusal came with."""
    if e.what not in REFUSALS:
        return e.what, e.fix
    quantity = e.facts.get("quantity", "")
    typed = HOW_TO_TYPE.get(quantity, _LENGTH_TYPED)
    facts = {**e.facts, "part": _PARTS.get(quantity, ""), "as_entered": typed}
    say = _Said(units or e.units, e.facts.get("unit", ""))
    message, fix = (say.format(text, **facts) for text in REFUSALS[e.what])
    return message, fix


def sentence(e: VesselError) -> str:
    """Return a refusal as one text."""
    return " ".join(text for text in refusal(e) if text)
