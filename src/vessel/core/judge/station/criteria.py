"""The judge's criteria as data: measure, limits and what missing evidence means.

The judge runs these tables: for stations, for the stops of a sonde run, for ground faults.
The Rules screen and docs/judge.md show it with the words of `words.criterion_words`.
"""

from __future__ import annotations

from operator import attrgetter

from vessel.core.judge.across.cross_section import NOT_EXPLAINED
from vessel.core.judge.fault import fault_measures as fm
from vessel.core.judge.rivals.chances import PLAIN
from vessel.core.judge.rule import Rule
from vessel.core.judge.sonde import sonde_measures as sm
from vessel.core.judge.station import measures as m

CRITERIA_VERSION = "21"
"""Raised whenever a rule, a limit or a measure changes; kept with every saved verdict."""

# one criterion a row: what it measures, then its limits
# fmt: off
RULES: tuple[Rule, ...] = (
    Rule(id="shown", measure=attrgetter("unshown"),
         unit="ratio", sense="above", care=0.5, hold=None, missing="skip", fixed=True),
    Rule(id="identity", measure=attrgetter("wrong"),
         unit="ratio", sense="above", care=PLAIN, hold=None, missing="skip", fixed=True),
    Rule(id="aside", measure=attrgetter("aside"),
         unit="ratio", sense="above", care=None, hold=0.25, missing="skip", fixed=True),
    Rule(id="between", measure=attrgetter("between"),
         unit="ratio", sense="above", care=None, hold=0.5, missing="skip", fixed=True),
    Rule(id="frequency", measure=attrgetter("freq_gap"),
         unit="ratio", sense="above", care=None, hold=0.001, missing="need"),
    Rule(id="loop", measure=attrgetter("loop_gap"),
         unit="ratio", sense="above", care=0.2, hold=0.5, missing="need"),
    Rule(id="guidance", measure=attrgetter("gone"),
         unit="ratio", sense="above", care=None, hold=0.5, missing="skip"),
    Rule(id="signal", measure=m.signal_to_noise,
         unit="times", sense="below", care=40.0, hold=20.0, missing="need"),
    Rule(id="steady", measure=attrgetter("spread"),
         unit="ratio", sense="above", care=0.1, hold=0.25, missing="need", worth=0.04),
    Rule(id="told", measure=m.forecast_tightness,
         unit="ratio", sense="below", care=0.25, hold=None, missing="skip"),
    Rule(id="current_low", measure=m.against_low_edge,
         unit="times", sense="below", care=0.75, hold=0.5, missing="skip"),
    Rule(id="current_high", measure=m.against_high_edge,
         unit="times", sense="above", care=1.25, hold=None, missing="skip"),
    Rule(id="surplus", measure=attrgetter("surplus"),
         unit="times", sense="above", care=1.1, hold=1.35, missing="skip"),
    Rule(id="lift", measure=m.lift_error,
         unit="ratio", sense="above", care=0.3, hold=0.75, missing="need", worth=0.005),
    Rule(id="lift_sure", measure=m.lift_error_beyond_noise,
         unit="ratio", sense="above", care=0.12, hold=0.3, missing="skip"),
    Rule(id="peak_null", measure=m.gap,
         unit="length", sense="above", care=0.08, hold=0.2, missing="need", worth=0.1),
    Rule(id="neighbour", measure=m.best_neighbour,
         unit="ratio", sense="above", care=0.35, hold=0.75, missing="care", worth=0.01),
    Rule(id="louder", measure=attrgetter("louder"),
         unit="ratio", sense="above", care=1.0, hold=None, missing="skip"),
    Rule(id="direction", measure=attrgetter("points_back"),
         unit="ratio", sense="above", care=None, hold=0.5, missing="skip"),
    Rule(id="symmetry", measure=m.lopsided,
         unit="ratio", sense="above", care=0.12, hold=0.25, missing="skip"),
    Rule(id="explained", measure=m.misfit,
         unit="times", sense="above", care=NOT_EXPLAINED, hold=16.0, missing="skip"),
    Rule(id="placed", measure=attrgetter("placed_m"),
         unit="length", sense="above", care=0.08, hold=0.2, missing="skip"),
    Rule(id="depth", measure=m.depth_outside,
         unit="ratio", sense="above", care=0.15, hold=0.5, missing="need"),
    Rule(id="ends", measure=m.from_end,
         unit="depths", sense="below", care=3.0, hold=1.5, missing="skip"),
    Rule(id="turns", measure=m.from_turn,
         unit="depths", sense="below", care=3.0, hold=None, missing="skip"),
    Rule(id="crossings", measure=m.from_crossing,
         unit="depths", sense="below", care=1.0, hold=None, missing="skip"),
    Rule(id="passive", measure=attrgetter("passive_m"),
         unit="length", sense="below", care=0.5, hold=None, missing="skip"),
    Rule(id="air", measure=attrgetter("air_share"),
         unit="ratio", sense="above", care=0.05, hold=0.2, missing="skip"),
    Rule(id="jump", measure=m.jump,
         unit="ratio", sense="above", care=0.25, hold=0.45, missing="skip"),
    Rule(id="gain", measure=m.gain_drift,
         unit="ratio", sense="above", care=0.25, hold=None, missing="skip"),
)

_DEPTH = next(rule for rule in RULES if rule.id == "depth")
SONDE_RULES: tuple[Rule, ...] = (
    Rule(id="sonde_mode", measure=sm.in_line_mode,
         unit="ratio", sense="above", care=0.1, hold=0.5, missing="need"),
    Rule(id="nulls", measure=sm.off_middle,
         unit="depths", sense="above", care=0.12, hold=0.4, missing="need"),
    Rule(id="two_depths", measure=sm.depths_apart,
         unit="ratio", sense="above", care=0.1, hold=0.25, missing="need"),
    Rule(id="sonde_fit", measure=sm.misfit,
         unit="times", sense="above", care=2.0, hold=4.0, missing="skip"),
    Rule(id="sonde_range", measure=sm.too_wide,
         unit="times", sense="above", care=1.0, hold=4.0, missing="skip"),
    Rule(id="ghosts", measure=sm.ghosts_apart,
         unit="times", sense="above", care=2.5, hold=8.0, missing="skip"),
    Rule(id="tilt", measure=sm.tilted,
         unit="ratio", sense="above", care=0.27, hold=0.7, missing="skip"),
    Rule(id="level", measure=sm.level,
         unit="ratio", sense="below", care=0.75, hold=0.2, missing="care"),
    Rule(id="shield", measure=sm.let_through,
         unit="ratio", sense="below", care=0.7, hold=None, missing="skip"),
    Rule(id="turned", measure=sm.turned,
         unit="ratio", sense="above", care=0.3, hold=0.6, missing="skip"),
    Rule(id="rod_short", measure=sm.rod_short,
         unit="ratio", sense="above", care=0.05, hold=0.15, missing="skip"),
    Rule(id="rod_spare", measure=sm.rod_spare,
         unit="ratio", sense="above", care=0.08, hold=None, missing="skip"),
    Rule(id="fall_between", measure=sm.fall_between,
         unit="ratio", sense="above", care=0.15, hold=0.5, missing="skip"),
    _DEPTH,
)
"""What a stop of a sonde run is judged by."""

FAULT_RULES: tuple[Rule, ...] = (
    Rule(id="earths_on", measure=fm.earths_on,
         unit="ratio", sense="above", care=None, hold=0.01, missing="need", fixed=True),
    Rule(id="fault_loop", measure=fm.loop_ohms,
         unit="ohm", sense="above", care=1e5, hold=1e6, missing="care"),
    Rule(id="known_earth", measure=fm.from_earth,
         unit="length", sense="below", care=2.0, hold=0.8, missing="skip"),
    Rule(id="bracket", measure=fm.bracket,
         unit="length", sense="above", care=1.2, hold=None, missing="need"),
    Rule(id="fault_range", measure=fm.half_range,
         unit="length", sense="above", care=0.5, hold=3.0, missing="skip"),
    Rule(id="fault_part", measure=fm.part,
         unit="ratio", sense="below", care=0.15, hold=0.05, missing="skip"),
    Rule(id="fault_share", measure=fm.share,
         unit="ratio", sense="below", care=0.1, hold=0.03, missing="care"),
    Rule(id="fault_fit", measure=fm.fault_misfit,
         unit="times", sense="above", care=2.0, hold=4.0, missing="skip"),
    Rule(id="points_aside", measure=fm.points_aside,
         unit="ratio", sense="above", care=0.5, hold=None, missing="care"),
    Rule(id="fault_freq", measure=fm.above_lowest,
         unit="times", sense="above", care=1.5, hold=20.0, missing="skip"),
)
"""What a ground fault is judged by."""
# fmt: on

BY_ID: dict[str, Rule] = {rule.id: rule for rule in (*RULES, *SONDE_RULES, *FAULT_RULES)}
