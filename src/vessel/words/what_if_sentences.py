"""Stake advice and what-if in words."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.plan.close_setups import Sounder
from vessel.core.plan.plan_option import Option
from vessel.core.plan.unknowns import Unknown
from vessel.core.simulate.stake_spots import Against, Spot
from vessel.core.text.figures import percent, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.work_sentences import place_text, setup_words

_AGAINST: dict[Against, str] = {
    "over_line": "Not here: over {what}",
    "by_steel": "Poor: beside {what}, which takes the stake's current out of the soil",
    "lead_crosses": "Poor: the lead would lie across {what}",
    "hard": "Not here: {what} is too hard for a stake",
    "along_walk": "Poor: the lead would lie along {what}, where you walk",
}


def spot_text(s: Spot, units: Units) -> str:
    """Return what is to be said of a place for the stake."""
    where = f"{show_length(s.away_m, units)} off, {s.side}, {s.angle_deg:.0f} degrees to the line"
    if s.against is not None:
        return f"{_AGAINST[s.against].format(what=s.what)} ({where})."
    if s.clear_m is None:
        return f"Good: nothing else drawn nearby ({where})."
    return f"Good: {show_length(s.clear_m, units)} clear of {s.nearest} ({where})."


def spot_advice(found: Sequence[Spot], units: Units) -> str:
    """Return where to put the stake, and why not elsewhere."""
    good = [s for s in found if s.against is None]
    if not found:
        return "The line is not on the site plan. Set the stake square to it, away from everything else."
    if not good:
        return "No place the lead reaches is good. Use a longer lead, another access point or another hookup."
    poor = sorted({s.what for s in found if s.against not in (None, "along_walk")})
    but = f" Keep off {', '.join(poor)}." if poor else ""
    return f"Best: {spot_text(good[0], units)[6:]}{but}"


def change_text(planned: Option, asked: Option, units: Units) -> str:
    """Return what a change does to a setup: `Markable 85 m, was 40 m; 12 mA at the end, was 4.1 mA`."""
    parts = []
    proved, before = asked.proved_m, planned.proved_m
    was = "as before" if abs(proved - before) < 0.5 else f"was {show_length(before, units)}"
    parts.append(f"markable {show_length(proved, units)}, {was}")
    end, end_before = (min(float(f.current_a[-1]) for f in o.forecasts) for o in (asked, planned))
    same = abs(end - end_before) <= 0.02 * max(end_before, 1e-9)
    parts.append(f"{show_ma(end)} at the far end, {'as before' if same else f'was {show_ma(end_before)}'}")
    bleed, bleed_before = asked.bleed_share, planned.bleed_share
    if max(bleed, bleed_before) >= 0.01:
        same = abs(bleed - bleed_before) < 0.01
        parts.append(f"bleed-off up to {percent(bleed)}, {'as before' if same else f'was {percent(bleed_before)}'}")
    text = "; ".join(parts)
    return text[0].upper() + text[1:] + "."


_UNKNOWN = {
    "far_end": ("Far end", "Check whether it is earthed, or earth it."),
    "soil": ("Soil", "Measure its resistivity at the stake, or estimate it from how wet it is."),
    "depth": ("Depth", "Ask the owner for records, or probe by hand at one place."),
}


def unknown_text(u: Unknown, units: Units) -> str:
    """Return what one unknown can change: `Far end: 40 m markable if open, 85 m if earthed.`"""
    label, _ = _UNKNOWN[u.name]
    if u.spread_m < 0.5:
        return f"{label}: makes no difference to what is markable."
    low, high = show_length(u.least_m, units), show_length(u.most_m, units)
    return f"{label}: {low} markable if {u.least_case}, {high} if {u.most_case}."


def find_out_text(found: Sequence[Unknown]) -> str:
    """Return what is worth finding out first."""
    if not found or found[0].spread_m < 0.5:
        return "No unknown would change what this setup proves."
    label, how = _UNKNOWN[found[0].name]
    return f"{label} matters most. {how}"


def sounder_text(found: Sounder | None, others: Sequence[Option], units: Units) -> str:
    """Return whether another setup is the safer choice while the soil is not known."""
    if not others:
        return ""
    if found is None:
        return "No other setup proves clearly more, in the wettest or the driest soil to expect."
    o = found.option
    return (
        f"Safer while the soil is unknown: {place_text(o, units)}, {setup_words(o.setup)}. At worst "
        f"{show_length(found.least_m, units)} markable, against {show_length(found.instead_of_m, units)}."
    )


def board_text(board: Sequence[Option], asked: Option, units: Units) -> str:
    """Return whether `asked` is still the setup to use among `board`, which is in order, best first."""
    best = board[0]
    if best is asked or best.proved_m < asked.proved_m + 0.5:
        return ""
    more = show_length(best.proved_m - asked.proved_m, units)
    return f"Then {place_text(best, units)}, {setup_words(best.setup)} proves {more} more."
