"""Marks as views, and what is kept with them."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, cast

from vessel.api.job_answers import (
    estimate_of,
    identity_finding,
)
from vessel.api.marks.making import findings_kept
from vessel.api.marks.views import MarkView
from vessel.api.stations.present import readings_text
from vessel.api.sweep.present import sweep_headline
from vessel.core.hookup.judge_fault import FAULT_VERDICT
from vessel.core.judge.station.verdict import PROVED, Judgement, Verdict
from vessel.core.model.entry_fields import STATION_FIELDS
from vessel.core.text.figures import show_station
from vessel.formats.loaded_job import LoadedLine, LoadedStation
from vessel.store.tables import MarkRow
from vessel.words.fault_sentences import FAULT_LABEL
from vessel.words.finding_sentences import headline
from vessel.words.labels import VERDICT_LABEL
from vessel.words.mark_sentences import painted_text
from vessel.words.station_sentences import estimate_text
from vessel.words.work_sentences import setup_text


def _with_estimate(s: LoadedStation, j: Judgement) -> str:
    """Readings in one phrase, with what was made of them where the mark says that depth."""
    best = estimate_text(estimate_of(s), s.setup.job.units) if j.verdict in PROVED else ""
    return readings_text(s) + (f". {best.rstrip('.')}" if best else "")


_EVIDENCE_KEPT = ("kind", "answer", "technician", "taken_at")


def snapshot(station: LoadedStation, j: Judgement) -> dict[str, Any]:
    """Return what led to a mark, in SI, to be kept with it unchanged."""
    loaded = station.setup
    s, setup, line = station.row, loaded.row, loaded.line.row
    last = next(reversed(loaded.readings), None)
    return {
        "setup": {
            k: getattr(setup, k)
            for k in (
                "hookup",
                "freq_hz",
                "rx_freq_hz",
                "output_a",
                "position_m",
                "apart_m",
                "stake_away_m",
                "stake_ohm",
            )
        },
        "transmitter": None if last is None else {"volts": last.volts, "amps": last.amps, "freq_hz": last.freq_hz},
        "sweep": sweep_headline(loaded),
        "kit": line.job.kit.data,
        "hex": loaded.line.utility.hex,
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
                "points",
            )
        },
        "station": {
            **{f.column: getattr(s, f.column) for f in STATION_FIELDS},
            **{k: getattr(s, k) for k in ("place", "note", "taken_at")},
        },
        "estimate": None if (best := estimate_of(station)) is None else asdict(best),
        "findings": findings_kept(j),
        "identity": {
            **asdict(identity_finding(loaded)),
            "evidence": [{k: getattr(e, k) for k in _EVIDENCE_KEPT} for e in loaded.live_evidence],
        },
        "headline": headline(j, loaded.job.units),
        "readings_text": _with_estimate(station, j),
        "setup_text": setup_text(loaded.setup, loaded.job.units),
    }


def mark_view(m: MarkRow, line: LoadedLine) -> MarkView:
    """Return a mark; everything that led to it comes from its snapshot, not from today's rows."""
    units = line.job.units
    at = m.at_m
    verdict = cast(Verdict, m.verdict)
    return MarkView(
        id=m.id,
        station_id=m.station_id,
        stop_id=m.stop_id,
        walk_id=m.walk_id,
        distance_m=at,
        distance_text=show_station(at, units),
        label=m.label,
        painted_text=painted_text(m.painted_off_m, units),
        colour=m.colour,
        hex=m.snapshot.get("hex") or line.utility.hex,
        verdict=verdict,
        verdict_label=VERDICT_LABEL[verdict] if m.walk_id is None else FAULT_LABEL[FAULT_VERDICT[verdict]],
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


def marks_of(line: LoadedLine) -> list[MarkView]:
    """Return all marks of a line, by distance."""
    at_stations = [m for setup in line.row.setups for s in setup.stations for m in s.marks]
    rows = at_stations + [m for run in line.row.sonde_runs for s in run.stops for m in s.marks]
    rows += [m for walk in line.row.fault_walks for m in walk.marks]
    return sorted((mark_view(m, line) for m in rows), key=lambda v: (v.distance_m, v.marked_at))
