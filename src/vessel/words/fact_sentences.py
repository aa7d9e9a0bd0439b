"""Why, and why not: the figures of one setup, and what it is worth against the best."""

from __future__ import annotations

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.signal.physics.stake_resistance import stake_ohm
from vessel.core.simulate.stake_spots import spots
from vessel.core.simulate.valves import Passed, past_valves
from vessel.core.text.figures import percent, show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.labels import METHOD_LABEL
from vessel.words.what_if_sentences import spot_text


def facts(option: Option, line: Line, soil: Soil, kit: Kit, units: Units) -> list[tuple[str, str]]:
    """Return (label, text) of what a setup would do: reach, current, distortion, stand-off, stake, battery."""
    if not option.forecasts:
        return []
    s, found = option.setup, []
    care = option.usable_m - option.proved_m
    reach = f"{show_length(option.proved_m, units)} markable"
    if option.proved_m == 0 and care > 0:
        reach = f"{show_length(care, units)} markable, with care only"
    elif care >= 0.5:
        reach += f", {show_length(care, units)} more with care"
    found.append(("Reach", reach))
    if option.in_soils_m is not None:
        wet, dry = (show_length(m, units) for m in option.in_soils_m)
        found.append(("In other soil", f"{wet} in the wettest expected, {dry} in the driest"))
    if option.earthed_besides:
        found.append(("With the far end earthed", f"{show_length(option.earthed_m, units)} markable"))
    ends = sorted({show_ma(amps) for amps in option.far_end_a})
    found.append(("Current at the far end", " or ".join(ends)))
    found += [(f"Past {v.name}", _past(v)) for v in past_valves(option.forecasts, s, line)]
    if option.peak_null_m is not None:
        widest = show_length(option.peak_null_m, units, fine=True)
        found.append(("Peak to null", f"up to {widest} where it can be marked"))
    if s.by.through_air:
        clear = option.stand_off_m
        text = "too close everywhere: air coupling" if clear is None else f"{show_length(clear, units)} at least"
        found.append(("Stand-off", text))
    if s.by.connects:
        found.append(("Stake", _stake(option, line, soil, kit, units)))
    hours = min(f.output.battery_h for f in option.forecasts)
    found.append(("Battery", f"{hours:.0f} h on a full charge" if hours >= 2 else f"{hours:.1f} h on a full charge"))
    return found


def _past(v: Passed) -> str:
    share = percent(v.most) if percent(v.least) == percent(v.most) else f"{percent(v.least)} to {percent(v.most)}"
    if v.ends:
        return f"{share} of the current goes on: the signal ends there, which finds the valve"
    return f"{share} of the current goes on: the trace does not show the valve"


def _stake(option: Option, line: Line, soil: Soil, kit: Kit, units: Units) -> str:
    s = option.setup
    ohms = f"about {stake_ohm(s.stake, soil):.0f} ohm"
    at = next((x for x in spots(line, at_m=s.position_m, lead_m=kit.lead_m) if x.at == s.stake_at), None)
    return f"{ohms}. {spot_text(at, units)}" if at else f"{ohms}, {show_length(s.stake.away_m, units)} off"


def for_other_soil(plan: Plan, units: Units) -> str:
    """Return why a plan is not led by what the assumed soil alone would put first; empty where it is."""
    other, best = plan.instead_of, plan.ranked[0] if plan.ranked else None
    if other is None or best is None or other.in_soils_m is None or best.in_soils_m is None:
        return ""
    s = other.setup
    what = f"{METHOD_LABEL[s.method].lower()} at {show_hz(s.freq_hz)}, {show_ma(s.output_a)}"
    least, instead = (show_length(min(o.in_soils_m or ()), units) for o in (best, other))
    gain = show_length(other.proved_m - best.proved_m, units)
    more = f"proves {gain} more in the soil assumed" if other.proved_m > best.proved_m + 0.5 else "proves no more"
    return f"Put before {what}: that {more}, but in the worst soil expected {instead} instead of {least}."


def against_best(option: Option, best: Option, units: Units) -> str:
    """Return why an option is not the best one, empty for the best itself."""
    if option is best:
        return ""
    lost = best.proved_m - option.proved_m
    if lost >= 0.5:
        return f"{show_length(lost, units)} less markable than the best setup."
    less = best.usable_m - option.usable_m
    if less >= 0.5:
        return f"As much markable as the best setup, but {show_length(less, units)} less with care."
    if option.setup.method != best.setup.method:
        return "Reaches as far as the best setup, by a hookup that is less sure."
    if option.setup.output_a > best.setup.output_a and option.setup.freq_hz == best.setup.freq_hz:
        return "Reaches no further than the best setup, with more power: it lights up more around."
    if option.bleed_share > best.bleed_share + 0.01:
        return (
            f"Reaches as far as the best setup, but bleeds off up to {percent(option.bleed_share)} instead of "
            f"{percent(best.bleed_share)}."
        )
    return "Reaches as far as the best setup; your frequency approach tries the other first."
