"""The safe order in words. A caution starts with the danger."""

from __future__ import annotations

from vessel.core.hookup.safe_order import Step, stake_on
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.signal.layout.beside_line import lines_beside
from vessel.core.simulate.hookup_places import column_at
from vessel.core.text.figures import show_hz, show_length
from vessel.core.text.units import Units

STEP_TEXT: dict[str, str] = {
    "live": "LIVE line: touch nothing bare. Clamp or induction only, by people authorised for it.",
    "off": "Transmitter OFF while you connect, move or remove anything.",
    "dead": "Never connect to a live conductor. The owner's staff isolate it and prove it dead, or you do not connect.",
    "controller": (
        "Controller OFF. Lift the wires you use, and the common, off its terminals: the signal must not go into the "
        "controller. Note which wire was where."
    ),
    "bond_kept": (
        "An open bond can carry dangerous voltage. The owner's staff open it, with consent, and keep it open until you "
        "are done. Transmitter OFF before they close it."
    ),
    "far_bond_kept": (
        "An open bond at the far end can carry dangerous voltage, too. The owner's staff open it there, and keep it "
        "open until you are done. Transmitter OFF before they close it."
    ),
    "look": "Look what else is connected to the line here. A second cable on the same bar counts.",
    "match": "Set transmitter and receiver to {frequency}. Check both batteries.",
    "stake": (
        "Drive the stake in its own soil, about 90 degrees off the line and away from your walk. Keep it clear "
        "of other lines, steel and fences. Lay no lead across another line."
    ),
    "stake_lead": "Stake lead first.",
    "line_lead": "Scrape the metal bright, then the line lead. Reverse the order to disconnect.",
    "both_ends": "The owner's staff isolate both conductors at both ends: nothing that is in use stays on either.",
    "far_joined": "Join the two conductors at their far end. Left open, next to no current flows.",
    "both_leads": "Scrape both conductors bright, then one lead on each: no stake. Reverse the order to disconnect.",
    "insulated": "Approach only insulated, undamaged plant. Local rules and the owner decide on live lines.",
    "earths": "Check that the line is earthed on both sides of the clamp. The signal ends at the next earth.",
    "jaws": "Close the jaws fully round the line, with nothing between the faces.",
    "place": "Set the transmitter over the line, its axis turned to the line. At 90 degrees it puts on nothing.",
    "against": (
        "Lay the transmitter against {column}, over the line, its axis turned to the line. Every column is an earth: "
        "the current halves at each, so set it down again at the next one where it fades."
    ),
    "on": "Transmitter on: lowest output first, then up to the planned step.",
    "read": "Read volts and milliamps before you walk away, and enter them.",
    "carry": (
        "Carry it {apart} behind the receiver, turned to the line, at every station. Keep the distance with a "
        "rope. For the first {apart} carry it {apart} ahead."
    ),
    "away": "Walk beyond the stand-off distance before the first station.",
    "air": "Lift the receiver straight up: the signal must fall smoothly. Unchanged or rising means air coupling.",
}


def step_text(step: Step, line: Line, setup: Setup, units: Units) -> str:
    """Return a step of the safe order, with the frequency to set and the side on which the forecast has the stake."""
    apart = "" if setup.apart_m is None else show_length(setup.apart_m, units)
    column = column_at(line, setup.position_m) if step.id == "place" and not setup.moving else ""
    text = (
        STEP_TEXT["against" if column else step.id]
        .replace("{column}", column)
        .replace("{frequency}", show_hz(setup.freq_hz))
        .replace("{apart}", apart)
    )
    side = stake_side_text(line, setup) if step.id == "stake" else ""
    return f"{text} The forecast has it {side}." if side else text


def stake_side_text(line: Line, setup: Setup) -> str:
    """Return on which side the forecast has the stake, empty where no line beside makes a difference."""
    if not lines_beside(line):
        return ""
    planned = setup.stake_at is not None and line.course is not None
    why = "where the site plan has it" if planned else "away from the neighbours"
    return f"on the {stake_on(line, setup)}, looking along the line, {why}"
