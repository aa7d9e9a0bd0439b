"""Refusals of what is typed, of lines and of the site plan: what is wrong, and how to put it right. See `refusals`."""

from __future__ import annotations

_LIST = "Choose one of the list."
_ROUTE = (
    "Write legs as “38 m at 60, then 20 m at 150” (bearing clockwise from north), or corners as “0 E, 0 N; 38 E, 12 N”."
)
_AS_ENTERED = "{as_entered}"
"""Stands for how a quantity is typed."""

OF_SITE: dict[str, tuple[str, str]] = {
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
    "yard_no_pair": (
        "The yard has no second conductor to put a lead on.",
        "Connect to the line and a ground stake, or use the clamp or induction.",
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
}
