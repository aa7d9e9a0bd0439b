"""Stations, verdicts and marks as views."""

from __future__ import annotations

from dataclasses import asdict
from statistics import median
from typing import Any, Literal, cast

import numpy as np

from vessel.api import views
from vessel.api.compute import (
    across_of,
    estimate_of,
    events_of,
    judgement_of,
    judgements_of,
    live_stations,
    profile_of,
    sound_readings,
    standing_mark,
    state_of,
)
from vessel.api.present.hookup import setup_text
from vessel.api.present.sweep import sweep_headline, sweep_warning
from vessel.api.present.typed import station_typed
from vessel.core.judge.across import across_step, across_text
from vessel.core.judge.event_wording import EVENT_LABEL, EVENT_STEP, event_text
from vessel.core.judge.profile import Conductor, field_across
from vessel.core.judge.rules import CRITERIA_VERSION
from vessel.core.judge.verdict import PROVED, VERDICT_LABEL, Judgement
from vessel.core.judge.wording import explain, headline, next_step
from vessel.core.model.entry import FOOT_M, Units, show_length
from vessel.core.model.errors import BadInput
from vessel.core.model.utility import utility
from vessel.core.plan.trace import Band
from vessel.core.plan.wording import show_ma
from vessel.core.signal.layout import Beside, lines_beside
from vessel.formats.to_core import kit_on, line_of
from vessel.store.tables import MarkRow, SetupRow, StationRow

_ORDER = {"hold": 0, "need": 1, "care": 2, "pass": 3, "skip": 4}


def readings_text(s: StationRow, units: Units) -> str:
    """Return a station's readings in one phrase."""
    parts = [f"{show_ma(median(s.currents_a))} ({len(s.currents_a)}×)" if s.currents_a else "no current"]
    parts.append(f"depth {show_length(s.depth_m, units, fine=True)}" if s.depth_m is not None else "no depth")
    if s.depth_lifted_m is not None and s.lift_height_m is not None:
        lifted, by = (show_length(v, units, fine=True) for v in (s.depth_lifted_m, s.lift_height_m))
        parts.append(f"{lifted} lifted by {by}")
    if s.peak_null_m is not None:
        parts.append(f"peak to null {show_length(s.peak_null_m, units, fine=True)}")
    if s.direction:
        parts.append(f"current runs {s.direction}")
    if s.lost:
        parts.append("guidance gone")
    if s.neighbour_a is not None:
        parts.append(f"neighbour {show_ma(s.neighbour_a) if s.neighbour_a else '0 mA'}")
    return ", ".join(parts)


def estimate_text(s: StationRow, units: Units) -> str:
    """Return where the line most likely is at a station, in words; empty without a depth and a current."""
    best = estimate_of(s)
    if best is None:
        return ""
    depth, off = (show_length(v, units, fine=True) for v in (best.depth_m, best.depth_pm_m))
    how = "" if best.lifted else " A lift would narrow it."
    aside = (
        "" if best.offset_pm_m is None else f", within {show_length(best.offset_pm_m, units, fine=True)} of the peak"
    )
    return f"Most likely {depth} deep, ± {off}{aside}.{how}"


def findings_view(j: Judgement, units: Units) -> list[views.FindingView]:
    """Return the findings, gravest first."""
    ordered = sorted(j.findings, key=lambda f: _ORDER[f.outcome])
    return [
        views.FindingView(
            rule_id=f.rule.id, title=f.rule.title, outcome=f.outcome, sentence=explain(f, units), why=f.rule.why
        )
        for f in ordered
    ]


def _station(s: StationRow, j: Judgement, units: Units) -> dict[str, Any]:
    mark = standing_mark(s)
    return {
        "id": s.id,
        "distance_m": s.distance_m,
        "distance_text": show_length(s.distance_m, units),
        "current_a": median(s.currents_a) if s.currents_a else None,
        "current_text": show_ma(median(s.currents_a)) if s.currents_a else "–",
        "depth_m": s.depth_m,
        "depth_text": "–" if s.depth_m is None else show_length(s.depth_m, units, fine=True),
        "peak_null_text": "–" if s.peak_null_m is None else show_length(s.peak_null_m, units, fine=True),
        "neighbour_text": "–" if s.neighbour_a is None else show_ma(s.neighbour_a) if s.neighbour_a else "none",
        "lost": s.lost,
        "verdict": j.verdict,
        "proved": j.verdict in PROVED,
        "headline": headline(j, units),
        "note": s.note,
        "technician": s.technician,
        "taken_at": s.taken_at,
        "mark_id": mark.id if mark else None,
    }


_CURVE = 161


def _profile_view(s: StationRow, units: Units) -> views.AcrossView | None:
    """The readings across the line at a station with what was fitted to them."""
    try:
        found = profile_of(s)
    except BadInput:  # from a file, where nobody could be asked
        return None
    if found is None:
        return None
    fit, low = found.fit, kit_on(s.setup.line.job).receiver.low_m
    reach = 1.15 * max(abs(p.offset_m) for p in found.points)
    offsets = np.linspace(-reach, reach, _CURVE)
    conductors = [(c.offset_m, c.depth_m, c.current_a) for c in fit.conductors]
    horizontal, vertical = field_across(offsets, conductors, low_m=low)
    greatest = float(max(horizontal.max(), 1e-30))
    return views.AcrossView(
        title=f"Across the line as read at {show_length(s.distance_m, units)}",
        offsets_m=offsets.tolist(),
        horizontal=(horizontal / greatest).tolist(),
        vertical=(vertical / greatest).tolist(),
        peak_m=fit.peak_m,
        null_m=fit.null_m,
        below=[
            views.BelowView(
                name="fitted" if k == 0 else "another line",
                target=k == 0,
                offset_m=c.offset_m,
                depth_m=c.depth_m,
                current_text=_fitted_text(k, c, fit.conductors[0], scaled=found.scaled, units=units),
            )
            for k, c in enumerate(fit.conductors)
        ],
        points=[views.AcrossPoint(offset_m=p.offset_m, share=p.horizontal_t / greatest) for p in found.points],
        text=across_text(found, units),
        next_step=across_step(found),
    )


def _fitted_text(k: int, c: Conductor, first: Conductor, *, scaled: bool, units: Units) -> str:
    deep = show_length(c.depth_m, units, fine=True)
    if scaled:
        return f"{show_ma(abs(c.current_a))}, {deep}"
    return deep if k == 0 else f"{100 * abs(c.current_a) / abs(first.current_a):.0f}\u00a0% of it, {deep}"


def station_detail(s: StationRow) -> views.StationDetail:
    """Return one station whole."""
    units = cast(Units, s.setup.line.job.units)
    j = judgement_of(s)
    return views.StationDetail(
        **_station(s, j, units),
        typed=station_typed(s, units),
        next_step=next_step(j),
        # where the field is judged distorted a best estimate would lend it a trust it does not have
        estimate_text="" if j.verdict == "hold" else estimate_text(s, units),
        findings=findings_view(j, units),
        across=_profile_view(s, units),
    )


def _next_distance(stations: list[StationRow], length_m: float, units: Units) -> str:
    """Suggest the next station: as far again as the last two were apart, not past the end; empty at the end."""
    if not stations:
        return ""
    gap = stations[-1].distance_m - (stations[-2].distance_m if len(stations) > 1 else 0.0)
    at = stations[-1].distance_m + max(gap, 1.0)
    return "" if at > length_m else f"{at if units == 'metric' else at / FOOT_M:.4g}"


def _band(band: Band) -> views.BandView:
    return views.BandView(distance_m=list(band.distance_m), low_a=list(band.low_a), high_a=list(band.high_a))


def _beside(n: Beside, band: Band, units: Units) -> views.BesideView:
    most = max(band.high_a)
    where = show_length(band.distance_m[band.high_a.index(most)], units)
    off = ("" if n.follows else "at its nearest ") + show_length(abs(n.offset_m), units)
    side: Literal["left", "right"] = "left" if n.offset_m > 0 else "right"
    text = f"{n.name}, {off} to the {side}: up to {show_ma(most)}, at {where}"
    return views.BesideView(name=n.name, side=side, band=_band(band), text=text)


def _aside(offset_m: float, units: Units) -> str:
    if abs(offset_m) < 0.005:
        return "over the line"
    return f"{show_length(abs(offset_m), units, fine=True)} {'left' if offset_m > 0 else 'right'} of it"


def across_view(setup: SetupRow, at_m: float) -> views.AcrossView:
    """Return the forecast across the line at one place."""
    units = cast(Units, setup.line.job.units)
    found = across_of(setup, at_m)
    greatest = float(max(found.horizontal_t.max(), 1e-30))
    apart = show_length(abs(found.peak_m - found.null_m), units, fine=True)
    return views.AcrossView(
        title=f"Across the line at {show_length(at_m, units)}",
        offsets_m=found.offsets_m.tolist(),
        horizontal=(found.horizontal_t / greatest).tolist(),
        vertical=(found.vertical_t / greatest).tolist(),
        peak_m=found.peak_m,
        null_m=found.null_m,
        points=[],
        next_step="",
        below=[
            views.BelowView(
                name=b.name or setup.line.name,
                target=b.name is None,
                offset_m=b.offset_m,
                depth_m=b.depth_m,
                current_text=show_ma(b.current_a),
            )
            for b in found.below
        ],
        text=(
            f"Forecast: peak {_aside(found.peak_m, units)}, null {_aside(found.null_m, units)}, {apart} apart. "
            "Much more than that on the ground means a line nobody told Vessel of, or a bond."
        ),
    )


def trace_view(setup: SetupRow) -> views.TraceView:
    """Return the trace under one hookup."""
    line, units = setup.line, cast(Units, setup.line.job.units)
    stations, state, beside = live_stations(setup), state_of(setup), lines_beside(line_of(line, line.job))
    based = (
        "what the transmitter reading leaves possible"
        if state.diagnosis is not None
        else "the forecast only: the transmitter reading does not narrow it"
    )
    return views.TraceView(
        setup_id=setup.id,
        line_id=line.id,
        title=setup_text(setup),
        length_m=line.length_m,
        units=units,
        depth_min_m=line.depth_min_m,
        depth_max_m=line.depth_max_m,
        criteria_version=CRITERIA_VERSION,
        band=_band(state.band),
        band_text=f"Expected current from {based}.",
        sweep_text=sweep_warning(setup),
        beside=[_beside(n, band, units) for n, band in zip(beside, state.beside, strict=True)],
        next_distance=_next_distance(stations, line.length_m, units),
        reads_direction=kit_on(line.job).frequency(setup.freq_hz).reads_direction,
        events=[
            views.EventView(
                kind=e.kind,
                label=EVENT_LABEL[e.kind],
                at_m=e.at_m,
                start_m=e.start_m,
                end_m=e.end_m,
                text=event_text(e, units),
                next_step=EVENT_STEP[e.kind],
            )
            for e in events_of(setup)
        ],
        stations=[
            views.StationView(**_station(s, j, units)) for s, j in zip(stations, judgements_of(setup), strict=True)
        ],
    )


def _with_estimate(s: StationRow, j: Judgement, units: Units) -> str:
    """Readings in one phrase, with what was made of them where the mark says that depth."""
    best = estimate_text(s, units) if j.verdict in PROVED else ""
    return readings_text(s, units) + (f". {best.rstrip('.')}" if best else "")


def snapshot(s: StationRow, j: Judgement) -> dict[str, Any]:
    """Return what led to a mark, in SI, to be kept with it unchanged."""
    setup, line = s.setup, s.setup.line
    last = next(reversed(sound_readings(setup)), None)
    return {
        "setup": {
            k: getattr(setup, k)
            for k in ("hookup", "freq_hz", "rx_freq_hz", "output_a", "position_m", "stake_away_m", "stake_ohm")
        },
        "transmitter": None if last is None else {"volts": last.volts, "amps": last.amps, "freq_hz": last.freq_hz},
        "sweep": sweep_headline(setup),
        "kit": line.job.kit.data,
        "line": {
            k: getattr(line, k)
            for k in (
                "length_m",
                "depth_min_m",
                "depth_max_m",
                "construction",
                "near",
                "far_kind",
                "far_earth_ohm",
                "neighbours",
            )
        },
        "station": {
            k: getattr(s, k)
            for k in (
                "distance_m",
                "currents_a",
                "depth_m",
                "lift_height_m",
                "depth_lifted_m",
                "peak_null_m",
                "neighbour_a",
                "direction",
                "lost",
                "profile",
                "note",
                "taken_at",
            )
        },
        "estimate": None if (best := estimate_of(s)) is None else asdict(best),
        "findings": [
            {
                "rule": f.rule.id,
                "outcome": f.outcome,
                "value": None if f.value is None or f.value != f.value or f.value == float("inf") else f.value,
            }
            for f in j.findings
        ],
        "headline": headline(j, cast(Units, line.job.units)),
        "readings_text": _with_estimate(s, j, cast(Units, line.job.units)),
        "setup_text": setup_text(setup),
    }


def mark_view(m: MarkRow) -> views.MarkView:
    """Return a mark; everything that led to it comes from its snapshot, not from today's rows."""
    line = m.station.setup.line
    at = m.snapshot["station"]["distance_m"]
    verdict = cast(views.Verdict, m.verdict)
    return views.MarkView(
        id=m.id,
        station_id=m.station_id,
        distance_m=at,
        distance_text=show_length(at, cast(Units, line.job.units)),
        label=m.label,
        colour=m.colour,
        hex=utility(line.utility).hex,
        verdict=verdict,
        verdict_label=VERDICT_LABEL[verdict],
        proved=verdict in PROVED,
        criteria_version=m.criteria_version,
        headline=m.snapshot["headline"],
        reason=m.reason,
        setup_text=m.snapshot["setup_text"],
        readings_text=m.snapshot["readings_text"],
        technician=m.technician,
        marked_at=m.marked_at,
        withdrawn_at=m.withdrawn_at,
        withdrawn_by=m.withdrawn_by,
        withdrawn_reason=m.withdrawn_reason,
    )


def marks_of(setups: list[SetupRow]) -> list[views.MarkView]:
    """Return all marks of a line, by distance."""
    rows = [m for setup in setups for s in setup.stations for m in s.marks]
    return sorted((mark_view(m) for m in rows), key=lambda v: (v.distance_m, v.marked_at))
