"""Sonde runs as views."""

from __future__ import annotations

from typing import Any

import numpy as np

from vessel.api.entry_views import field_views
from vessel.api.line_answers import agreements_of
from vessel.api.mark_labels import way_back_label
from vessel.api.retyped_text import entry_typed, length_typed
from vessel.api.sonde.views import (
    GhostView,
    OverView,
    RunView,
    SondeRecord,
    SondeStepView,
    SondeView,
    StopDetail,
    StopRecord,
    StopView,
)
from vessel.api.special_answers import (
    fit_of,
    judged_run,
    painted_at_m,
    stop_judgement,
)
from vessel.api.stations.present import findings_view
from vessel.api.striking import StruckView, struck
from vessel.core.hookup.judge_sonde import Head, level_head, signal_over, sonde_forecast, writes_depth
from vessel.core.judge.station.verdict import PROVED
from vessel.core.model.sonde import SONDE_STEPS, SondeRun
from vessel.core.model.special_fields import STOP_FIELDS
from vessel.core.text.figures import show_hz, show_length, show_station
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.formats.loaded_sonde import LoadedRun, LoadedStop
from vessel.words.entry_labels import STOP_LABELS
from vessel.words.finding_sentences import headline, next_step
from vessel.words.sonde_sentences import (
    CORNER_STEP,
    ROD_TOO,
    SONDE_MARKED,
    TO_THE_HEAD,
    agreement_texts,
    check_text,
    corner_text,
    fall_text,
    fall_typed,
    forecast_text,
    head_text,
    next_rod_text,
    run_text,
    shield_text,
    sonde_step_text,
    stop_text,
)


def stop_label(stop: LoadedStop, painted_off_m: float | None = None) -> str:
    """Return what to paint: letter, depth of the head, the rod that was out, where the line is if the paint is off it,
    and doubt."""
    fit, units, j = fit_of(stop), stop.run.job.units, stop_judgement(stop)
    parts = [stop.run.line.utility.letter]
    if fit is not None and (writes_depth(j) or j.verdict not in PROVED):
        parts.append(show_length(fit.depth_m, units, fine=True))
    if stop.row.rod_m is not None:
        parts.append(f"ROD {show_length(stop.row.rod_m, units)}")
    if painted_off_m is not None:
        off, at_m = show_length(abs(painted_off_m), units, fine=True), stop.row.distance_m
        parts.append(f"LINE {off} {way_back_label(stop.run.line, at_m, painted_off_m)}")
    if j.verdict not in PROVED:
        parts.append("NOT PROVED")
    return " ".join(parts)


def _stop(stop: LoadedStop) -> dict[str, Any]:
    row, units, fit, j = stop.row, stop.run.job.units, fit_of(stop), stop_judgement(stop)
    return {
        "id": row.id,
        "distance_m": row.distance_m,
        "distance_text": show_station(row.distance_m, units),
        "rod_text": "–" if row.rod_m is None else show_station(row.rod_m, units),
        "depth_text": "–" if fit is None else show_length(fit.depth_m, units, fine=True),
        "x_m": None if fit is None else fit.x_m,
        "head_m": None if fit is None else fit.depth_m,
        "head_pm_m": None if fit is None else fit.depth_pm_m,
        "tilt_deg": 0.0 if fit is None else float(np.degrees(fit.tilt_rad)),
        "verdict": j.verdict,
        "proved": j.verdict in PROVED,
        "headline": headline(j, units),
        "technician": row.technician,
        "taken_at": row.taken_at,
        "mark_id": stop.mark.id if stop.mark else None,
        "paint_text": show_station(painted_at_m(stop), units),
        "mark_label": stop_label(stop),
    }


def stop_detail(stop: LoadedStop, *, seen: int) -> StopDetail:
    """Return one stop whole; `seen`: the newest change of its job."""
    units, j = stop.run.job.units, stop_judgement(stop)
    fit = fit_of(stop)
    return StopDetail(
        **_stop(stop),
        typed=entry_typed(stop.row, STOP_FIELDS, units),
        note=stop.row.note,
        next_step=SONDE_MARKED if j.verdict == "mark" else next_step(j),
        head_text=f"{head_text(stop.reading, fit, units)} {TO_THE_HEAD}" if fit else "",
        read_text=stop_text(stop.reading, units),
        findings=findings_view(j, units),
        over=_over(stop),
        seen=seen,
    )


def _over(stop: LoadedStop) -> OverView | None:
    fit, read = fit_of(stop), stop.reading
    if fit is None:
        return None
    nulls = [v for v in (read.null_before_m, read.null_after_m) if v is not None]
    return _signal(Head(fit.x_m, fit.depth_m, fit.tilt_rad), stop.run.job, peak_m=read.distance_m, nulls_m=nulls)


def _signal(head: Head, job: LoadedJob, *, peak_m: float, nulls_m: list[float]) -> OverView:
    over = signal_over(head, job.kit.receiver.low_m)
    return OverView(
        at_m=over.at_m.tolist(),
        level=over.level.tolist(),
        head_at_m=head.x_m,
        head_m=head.depth_m,
        tilt_deg=float(np.degrees(head.tilt_rad)),
        peak_m=peak_m,
        nulls_m=nulls_m,
        ghosts=[GhostView(at_m=at_m, level=level) for at_m, level in over.ghosts],
    )


def _expected(line: LoadedLine) -> OverView:
    head, nulls_m = level_head((line.row.depth_min_m, line.row.depth_max_m), line.job.kit.receiver.low_m)
    return _signal(head, line.job, peak_m=head.x_m, nulls_m=list(nulls_m))


def _run(run: LoadedRun) -> RunView:
    row, units = run.row, run.job.units
    typed = row.typed
    return RunView(
        id=row.id,
        title=run_text(run.run, units),
        freq=show_hz(row.freq_hz),
        start=length_typed(typed.get("start"), row.start_m, quantity="distance", units=units),
        way=run.run.way,
        check_at=""
        if row.check_m is None
        else length_typed(typed.get("check_at"), row.check_m, quantity="distance", units=units),
        check_signal="" if row.check_signal is None else f"{row.check_signal:g}",
        fall=fall_typed(row.fall),
        check_text=check_text(run.run, units),
        start_m=row.start_m,
        steps=[
            SondeStepView(
                id=s, text=sonde_step_text(s, run.run), protects=s == SONDE_STEPS[0], done=s in row.steps_done
            )
            for s in SONDE_STEPS
        ],
        technician=row.technician,
        created_at=row.created_at,
    )


def sonde_record(run: LoadedRun) -> SondeRecord:
    """Return one run as the record prints it."""
    judged, units = judged_run(run), run.job.units
    return SondeRecord(
        run=_run(run),
        depth_min_m=run.line.row.depth_min_m,
        depth_max_m=run.line.row.depth_max_m,
        stops=[
            StopRecord(
                **_stop(s),
                read_text=stop_text(s.reading, units),
                head_text=head_text(s.reading, fit_of(s), units),
                note=s.row.note,
            )
            for s in run.stops
        ],
        corners=[corner_text(c, units) for c in judged.corners],
        agreement=agreement_texts(agreements_of(run), units),
        fall_text=fall_text(judged.fall, run.run, units),
        struck=_struck(run),
    )


def _struck(run: LoadedRun) -> list[StruckView]:
    return struck(run.row.stops, lambda s: stop_text(run.stop(s).reading, run.job.units))


def sonde_view(line: LoadedLine, *, seen: int) -> SondeView:
    """Return the sonde run of a line that is in use; `seen`: the newest change of its job."""
    row, units, run = line.row, line.job.units, line.run_in_use
    depths = (row.depth_min_m, row.depth_max_m)
    asked = SondeRun(line.job.kit.sonde_hz) if run is None else run.run
    expect = sonde_forecast(asked, line.job.kit.receiver.low_m, depth_range_m=depths, pipe=line.pipe)
    judged = None if run is None else judged_run(run)
    stops = [] if run is None else run.stops
    last = max((s.row.rod_m for s in stops if s.row.rod_m is not None), default=None)
    return SondeView(
        line_id=row.id,
        units=units,
        length_m=row.length_m,
        depth_min_m=row.depth_min_m,
        depth_max_m=row.depth_max_m,
        run=None if run is None else _run(run),
        usual=show_hz(line.job.kit.sonde_hz),
        forecast_text=forecast_text(expect, units),
        shield_text=shield_text(expect),
        expected=_expected(line),
        fields=field_views(STOP_FIELDS, units, labels=STOP_LABELS),
        stops=[StopView(**_stop(s)) for s in stops],
        corners=[] if judged is None else [corner_text(c, units) for c in judged.corners],
        agreement=[] if run is None else agreement_texts(agreements_of(run), units),
        rod_text="" if line.has_metal else ROD_TOO,
        corner_step=CORNER_STEP,
        fall_text="" if judged is None else fall_text(judged.fall, asked, units),
        next_text=next_rod_text(last, 0.5 * sum(depths), units),
        struck=[] if run is None else _struck(run),
        seen=seen,
    )
