"""A sonde run in words: the steps before it, what to expect, what a stop says, and what the stops show together."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.hookup.judge_sonde import SondeForecast
from vessel.core.judge.sonde.agreement import Agreement
from vessel.core.judge.sonde.sonde_events import Corner, Fall
from vessel.core.judge.sonde.sonde_fit import SondeFit
from vessel.core.model.sonde import SondeMode, SondeRun, SondeStop
from vessel.core.text.figures import counted, show_hz, show_length, show_station
from vessel.core.text.units import FOOT_M, Units

SONDE_STEP_TEXT: dict[str, str] = {
    "agreed": (
        "A pipe in use can hold gas, pressure or sewage. The owner agrees to the run and opens the pipe. "
        "Never climb into a manhole for it."
    ),
    "clear": "The pipe is clear and wide enough for the head. Mark the rod every metre, or use the counter.",
    "checked": "Hold the sonde at arm's length: depth must read that distance. Enter distance and signal.",
    "zeroed": "Set the rod counter to zero with the head in the mouth of the pipe.",
    "mode": "Set the receiver to sonde mode at {frequency}, turned in line with the pipe, not across it.",
}
_MODE_TEXT: dict[SondeMode, str] = {"": "mode not read", "sonde": "sonde mode", "line": "line mode"}
SONDE_MARKED = "Paint the mark over the head, then push on."
TO_THE_HEAD = "Depth is to the middle of the head. The top of the pipe lies higher."
NO_METAL_FOR_SONDE = "{name} has no metal, so it carries no signal. Push a sonde through it and follow that."
_TILT_DEG = 3.0  # less is no tilt worth saying
_BESIDE_M = 0.05


def sonde_step_text(step: str, run: SondeRun) -> str:
    """Return a step before the rod goes in."""
    return SONDE_STEP_TEXT[step].replace("{frequency}", show_hz(run.freq_hz))


def run_text(run: SondeRun, units: Units) -> str:
    """Return a run in a phrase: `Sonde at 560 Hz, put in at 12 m, pushed on`."""
    way = "pushed on" if run.way == "on" else "pushed back"
    return f"Sonde at {show_hz(run.freq_hz)}, put in at {show_length(run.start_m, units)}, {way}"


def check_text(run: SondeRun, units: Units) -> str:
    """Return the function check of a run: `Function check: signal 640 at 1 m.`"""
    if run.check_m is None or run.check_signal is None:
        return "No function check entered."
    return f"Function check: signal {run.check_signal:g} at {show_length(run.check_m, units)}."


def forecast_text(f: SondeForecast, units: Units) -> str:
    """Return how far apart to expect the nulls."""
    near, far = (show_length(v, units, fine=True) for v in f.nulls_m)
    return (
        f"Expect one null before the head and one after it, {near} to {far} apart, and a weak ghost peak beyond each."
    )


def shield_text(f: SondeForecast) -> str:
    """Return what the pipe takes of the signal, empty where that is next to nothing."""
    if not f.shielded:
        return ""
    lets = f"{100 * f.through:.2g} %" if f.through >= 1e-4 else "next to nothing"
    if f.shielded == "all":
        return (
            f"The pipe's metal wall lets out {lets} of the signal. Do not count on this sonde: trace the metal instead."
        )
    return f"The pipe's metal wall lets out {lets} of the signal. Use the lowest frequency; depth is doubtful."


def stop_text(s: SondeStop, units: Units) -> str:
    """Return what was read at a stop in one phrase."""
    fine = {
        k: None if v is None else show_length(v, units, fine=True)
        for k, v in (("depth", s.depth_m), ("lifted", s.depth_lifted_m), ("lift", s.lift_height_m))
    }
    parts = [f"peak at {show_station(s.distance_m, units)}"]
    if s.rod_m is not None:
        parts.append(f"{show_station(s.rod_m, units)} of rod out")
    nulls = [show_station(v, units) for v in (s.null_before_m, s.null_after_m) if v is not None]
    parts.append(f"{counted(len(nulls), 'null')} at {' and '.join(nulls)}" if nulls else "no null")
    parts.append("no depth" if fine["depth"] is None else f"depth {fine['depth']}, {_MODE_TEXT[s.mode]}")
    if fine["lifted"] is not None:
        parts.append(f"{fine['lifted']} lifted by {fine['lift']}")
    if s.signal is not None:
        parts.append(f"signal {s.signal:.4g}")
    if s.off_m:
        parts.append(f"{show_length(s.off_m, units, fine=True)} {s.side} of the line as drawn")
    return ", ".join(parts)


def head_text(stop: SondeStop, fit: SondeFit | None, units: Units) -> str:
    """Return where the head lies, how deep, and how it is tilted; empty where nothing tells."""
    if fit is None:
        return ""
    depth, pm = (show_length(v, units, fine=True) for v in (fit.depth_m, fit.depth_pm_m))
    tilt = float(np.degrees(fit.tilt_rad))
    beside = fit.x_m - stop.distance_m
    where = "under the peak"
    if abs(beside) >= _BESIDE_M:
        side = "after" if beside > 0 else "before"
        where = (
            f"{show_length(abs(beside), units, fine=True)} {side} the peak, at {show_station(round(fit.x_m, 2), units)}"
        )
    lies = ""
    if abs(tilt) >= _TILT_DEG:
        lies = f" It is tilted {abs(tilt):.0f}°, its far-end side {'higher' if tilt > 0 else 'lower'}."
    return f"The head lies {where}, {depth} ± {pm} deep.{lies}"


def corner_text(c: Corner, units: Units) -> str:
    """Return where the head turned a corner, and by what that shows."""
    rod, ground, start, end = (show_length(v, units) for v in (c.rod_m, c.ground_m, c.start_m, c.end_m))
    return f"The head turned a corner between {start} and {end}: {rod} of rod gained only {ground} of ground."


CORNER_STEP = "Take stops closer together there, and look to both sides for the peak."


def fall_text(f: Fall | None, run: SondeRun, units: Units) -> str:
    """Return how the pipe falls against what it should; empty where the stops do not tell."""
    if f is None:
        return ""
    way, level = "falls" if f.fall >= 0 else "rises", "The ground is taken as level."
    found = f"The pipe {way} {_per_length(abs(f.fall), units, pm=f.pm)}, by {counted(f.count, 'stop')}"
    if run.fall is None:
        return f"{found}. {level}"
    agrees = "as it should" if abs(f.fall - run.fall) <= f.pm else "not as it should"
    return f"{found}: {agrees} ({_per_length(run.fall, units)}). {level}"


def _per_length(fall: float, units: Units, *, pm: float | None = None) -> str:
    """A fall with its range as the trade says it: millimetres a metre, inches a foot."""
    times, unit, form = (1000, "mm per metre", ".0f") if units == "metric" else (12, "inches per foot", ".2g")
    range_text = "" if pm is None else f" ± {times * pm:{form}}"
    return f"{times * fall:{form}}{range_text} {unit}"


def fall_typed(fall: float | None) -> str:
    """Return a fall as it is typed: per cent."""
    return "" if fall is None else f"{100 * fall:g}"


ROD_TOO = (
    "The rod can be traced too: enter this line as a drain with a metal rod in it, and put signal on the rod at the "
    "entry, at a middle or high frequency. The trace ends at the head."
)


def agreement_texts(found: Sequence[Agreement], units: Units) -> list[str]:
    """Return whether sonde and trace agree: how often they do, and each place where they do not."""
    agree = sum(a.agrees for a in found)
    told = [f"Sonde and trace agree in depth at {counted(agree, 'place')}."] if agree else []
    for a in (a for a in found if not a.agrees):
        at, sonde, trace = (
            show_station(round(a.at_m, 2), units),
            *(show_length(v, units, fine=True) for v in (a.sonde_m, a.trace_m)),
        )
        told.append(f"At {at} the sonde says {sonde} deep, the trace {trace}. Write no depth there until you know why.")
    return told


def next_rod_text(rod_m: float | None, depth_m: float, units: Units) -> str:
    """Return how far to push next: about a depth and a half, a round figure."""
    step = (
        max(round(1.5 * depth_m * 2) / 2, 1.0) if units == "metric" else max(round(1.5 * depth_m / FOOT_M), 3) * FOOT_M
    )
    ahead = show_length(step, units)
    return (
        f"Push {ahead} on, then find the peak."
        if rod_m is not None
        else "Push on until you pick it up, then find the peak."
    )
