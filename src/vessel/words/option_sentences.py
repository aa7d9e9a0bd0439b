"""Why an option ranks where it does, what to watch with it, and why others are rejected; in the user's units."""

from __future__ import annotations

from vessel.core.judge.station.verdict import PROVED
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.plan.pair_hookup import PairReach
from vessel.core.plan.plan_option import Option, Proves
from vessel.core.signal.layout.beside_line import lines_beside
from vessel.core.signal.receiver.plant_noise import loudest_along
from vessel.core.simulate.forecast import BleedOff, Forecast
from vessel.core.text.figures import show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.labels import METHOD_LABEL

_HUMS = 3.0  # times the quiet noise from which plant is named
REJECTED = {
    "live": "LIVE: do not connect. Use the clamp or induction, or have the owner's staff isolate it and prove it dead.",
    "no_metal": "No bare metal to connect to at this access point.",
    "core_only": (
        "Only the centre conductor is in reach. Driven against its sheath it shows almost nothing outside: connect to "
        "the sheath and earth its far end, or clamp the whole cable."
    ),
    "coil_resonates": (
        "The valve's solenoid and the wire beyond it resonate near this frequency: what goes on is not known. "
        "Choose a lower one to go past the valve, or a higher one to end there."
    ),
    "no_clamp": "This kit has no clamp.",
    "cased": "Metal casing round the line here. The clamp would put its signal on the casing.",
    "no_coil": "This kit has no induction coil.",
}


PROVES: dict[Proves, str] = {
    "mark": "",
    "care": "No station would be a plain Mark with it: care everywhere.",
    "earthed": "Nothing could be marked with it while the far end is open. Earth the far end first, then enter that.",
    "depends": "No station could be marked with it for sure. Hook up only to find out more about the line.",
}


def reason(option: Option, line: Line, units: Units) -> str:
    """Return the one-sentence reason for a ranked option."""
    # where no station would be a plain Mark, what may be marked with care
    with_care = not any(f.length_m("mark") for f in option.forecasts)
    lengths = [(f, f.length_m(*PROVED) if with_care else f.length_m("mark")) for f in option.forecasts]
    markable = "markable, with care only" if with_care else "markable"
    wanted_m = sum(b - a for a, b in line.wanted_m)
    whole = show_length(wanted_m, units) + (" in the dig area" if wanted_m < 0.999 * line.length_m else "")
    worst, best = min(lengths, key=lambda p: p[1]), max(lengths, key=lambda p: p[1])
    if len(lengths) > 1 and best[1] - worst[1] > 0.05 * wanted_m:
        span = (
            f"{show_length(worst[1], units)} of {whole} {markable} if the far end is {worst[0].far_case}, "
            f"{show_length(best[1], units)} if it is {best[0].far_case}"
        )
    else:
        either = ", with the far end open or earthed" if len(lengths) > 1 else ""
        span = f"{show_length(worst[1], units)} of {whole} {markable}{either}"
    case = f"with it {worst[0].far_case}, " if len(lengths) > 1 else ""
    return f"{span}; {case}{_drive_text(worst[0])}"


def _drive_text(f: Forecast) -> str:
    end = show_ma(f.current_a[-1])
    out = f.output
    if out.volts is None or out.amps is None:
        return f"induction puts up to {show_ma(max(f.current_a))} on the line, {end} at the far end."
    limit = {"asked": "", "volts": " at its voltage limit", "watts": " at its power limit"}[out.limited_by]
    return f"{out.volts:.1f} V drives {show_ma(out.amps)}{limit}, {end} at the far end."


def cautions(option: Option, line: Line, kit: Kit, units: Units) -> list[str]:
    """Return what to watch with an option."""
    s, found = option.setup, []
    frequency = kit.frequency(s.freq_hz)
    if option.disturbs:
        found.append("In service: connect only with the owner's consent, never to a live conductor.")
    live = [a.name for a in line.accesses if a.point.live]
    if s.by.connects and live:
        found.append(f"LIVE at {', '.join(live)}: connect here only when the owner's staff have proved this line dead.")
    if s.by.encloses:
        found.append("The line must be earthed on both sides of the clamp. The signal ends at the next earth.")
    if s.by.through_air:
        clear = option.stand_off_m
        if clear is not None:
            found.append(
                f"Stand off at least {show_length(clear, units)} from the transmitter: closer, the receiver hears "
                "it through the air. Every conductor nearby gets signal too."
            )
    found += bleed_off_cautions(option, units)
    if s.freq_hz >= 30e3 and not lines_beside(line):
        found.append("High frequency bleeds off to neighbours, and none is entered. Check both sides at every station.")
    hums = loudest_along(line, s.freq_hz)
    if hums is not None and hums.times >= _HUMS:
        found.append(
            f"{hums.name} hums: typically {hums.times:.0f} times the quiet noise at {show_length(hums.at_m, units)}. "
            "Measure it in the noise check."
        )
    if not frequency.reads_direction:
        found.append(f"No current direction at {show_hz(s.freq_hz)}.")
    if any(f.output.limited_by != "asked" for f in option.forecasts):
        asked, got = s.output_a, min(f.output.drive for f in option.forecasts)
        found.append(f"Asks for {show_ma(asked)}, may get only {show_ma(got)}.")
    return found


def bleed_off_text(b: BleedOff, units: Units) -> str:
    """Return what a neighbour takes: `4.1 mA at 60 m, 14 % of the line's own`."""
    share = "more than the line's own"
    if b.share < 1:
        share = f"{f'{100 * b.share:.0f}' if b.share >= 0.01 else 'under 1'}\u00a0% of the line's own"
    return f"{show_ma(b.current_a)} at {show_length(b.at_m, units)}, {share}"


def bleed_off_cautions(option: Option, units: Units) -> list[str]:
    """Return what is to be said of neighbours that take more than the judge lets pass, worst case of each."""
    found = []
    for each in zip(*(f.bleed_off for f in option.forecasts), strict=True):
        worst = max(each, key=lambda b: b.share)
        if option.loud(worst.share):
            found.append(f"{worst.name} takes {bleed_off_text(worst, units)}: the loudest line there may not be yours.")
    return found


def pair_text(p: PairReach, units: Units) -> str:
    """Return what both leads on two conductors of one cable do, and what depth means then."""
    heard, shown = (show_length(m, units, fine=True) for m in (p.heard_m, p.shown_m))
    return (
        "Both leads on two of its conductors, joined at the far end: the currents run opposite ways and nearly cancel. "
        f"At best, at {show_hz(p.freq_hz)} and {show_ma(p.output_a)}, it is heard {heard} deep, and that depth shows "
        f"as {shown}. Twisted conductors are not heard at all. It needs no earth, but it proves nothing: look for the "
        "cable with it, never mark from it."
    )


def rejection(option: Option, kit: Kit, units: Units) -> str:
    """Return why an option is rejected."""
    s, why = option.setup, option.rejected or ""
    if why in REJECTED:
        return REJECTED[why]
    if why == "too_low_for_tool":
        tool = kit.tool_for(s.method)
        low = show_hz(tool.min_freq_hz) if tool else ""
        return f"{METHOD_LABEL[s.method]} needs at least {low} with this kit."
    if why == "no_depth":
        return (
            f"The receiver gives no depth at {show_hz(s.freq_hz)}, so nothing can be proved. "
            "Use it to look for a line, not to mark it."
        )
    return _rated_in_vain(option) + _if_earthed(option, units)


def _rated_in_vain(option: Option) -> str:
    """Why an option that was rated is rejected."""
    s, worst = option.setup, max(option.forecasts, key=lambda f: max(f.current_a))
    if option.rejected == "no_more_current":
        return (
            f"No more current than the {show_ma(option.same_as_a or 0)} step: the loop takes "
            f"{show_ma(worst.output.drive)} at most."
        )
    obstacle = CRITERION_WORDS[worst.main_obstacle].title.lower() if worst.main_obstacle else "no stretch passes"
    if len(option.forecasts) == 1 and worst.far_case == "open" and max(worst.current_a) < 0.005:
        return f"Open far end: {show_hz(s.freq_hz)} carries only {show_ma(max(worst.current_a))}."
    return f"Nothing would be markable: at best {show_ma(max(worst.current_a))} on the line; fails on “{obstacle}”."


def _if_earthed(option: Option, units: Units) -> str:
    """What an option would be worth with the far end earthed, where that is not entered."""
    if not option.earthed_besides or option.earthed_m < option.proved_m + 0.5:
        return ""
    return f" With the far end earthed, {show_length(option.earthed_m, units)} would be markable."
