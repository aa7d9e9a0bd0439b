"""What making a mark needs wherever it stands, and what is kept with one at a stop of a sonde run."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from vessel.api.special_answers import (
    fit_of,
    painted_at_m,
)
from vessel.core.base.errors import BadInput
from vessel.core.hookup.judge_sonde import writes_depth
from vessel.core.judge.fault.fault_fit import Fault
from vessel.core.judge.station.verdict import PROVED, Judgement
from vessel.core.model.special_fields import STOP_FIELDS
from vessel.core.text.figures import show_station
from vessel.formats.loaded_sonde import LoadedStop
from vessel.formats.loaded_walk import LoadedWalk
from vessel.words.fault_sentences import fault_headline, fault_text, walk_text
from vessel.words.finding_sentences import headline
from vessel.words.labels import VERDICT_LABEL
from vessel.words.sonde_sentences import head_text, run_text, stop_text

_LEAST_REASON = 10


def require_reason(j: Judgement, reason: str, said: str = "") -> None:
    """Refuse a mark without a written reason where the verdict does not allow it; `said`: how the screen names it."""
    if j.verdict not in PROVED and len(reason) < _LEAST_REASON:
        raise BadInput(
            f"The verdict here is {said or VERDICT_LABEL[j.verdict]}: a mark needs a written reason.",
            field="reason",
            fix="Say in a sentence why you mark it anyway.",
        )


def findings_kept(j: Judgement) -> list[dict[str, Any]]:
    """Return the findings of a judgement as a snapshot keeps them; what is no figure is left out."""
    return [
        {
            "rule": f.rule.id,
            "outcome": f.outcome,
            "carried_m": f.carried_m,
            "value": None if f.value is None or f.value != f.value or f.value == float("inf") else f.value,
        }
        for f in j.findings
    ]


def stop_snapshot(stop: LoadedStop, j: Judgement) -> dict[str, Any]:
    """Return what led to a mark at a stop, in SI, to be kept with it unchanged.

    The mark stands over the fitted head where that was proved, else over the peak.
    """
    run, line, fit, units = stop.run, stop.run.line, fit_of(stop), stop.run.job.units
    proved = fit is not None and j.verdict in PROVED
    read = {f.column: getattr(stop.row, f.column) for f in STOP_FIELDS}
    head = head_text(stop.reading, fit, units).rstrip(".") if proved else ""
    return {
        "method": "sonde",
        "setup": {k: getattr(run.row, k) for k in ("freq_hz", "start_m", "way", "check_m", "check_signal", "fall")},
        "kit": line.job.row.kit.data,
        "hex": line.utility.hex,
        "line": {k: getattr(line.row, k) for k in ("length_m", "depth_min_m", "depth_max_m", "construction")},
        "station": {
            **read,
            "peak_m": stop.row.distance_m,
            "distance_m": painted_at_m(stop),
            "note": stop.row.note,
            "taken_at": stop.row.taken_at,
        },
        "estimate": None if fit is None else asdict(fit) | ({} if writes_depth(j) else {"depth_m": None}),
        "findings": findings_kept(j),
        "headline": headline(j, units),
        "readings_text": stop_text(stop.reading, units) + (f". {head}" if head else ""),
        "setup_text": run_text(run.run, units),
    }


def fault_snapshot(walk: LoadedWalk, fault: Fault, j: Judgement) -> dict[str, Any]:
    """Return what led to a mark at a ground fault, in SI, to be kept with it unchanged."""
    line, units = walk.line, walk.job.units
    told = (
        "freq_hz",
        "start_m",
        "volts",
        "amps",
        "frame_m",
        "stake_along_m",
        "stake_away_m",
        "reference",
        "steps_done",
    )
    return {
        "method": "fault",
        "setup": {k: getattr(walk.row, k) for k in told},
        "kit": line.job.row.kit.data,
        "hex": line.utility.hex,
        "line": {k: getattr(line.row, k) for k in ("length_m", "depth_min_m", "depth_max_m", "construction")},
        "station": {"distance_m": round(fault.at_m, 2)},
        "readings": [asdict(r) for r in walk.readings],
        "estimate": asdict(fault),
        "findings": findings_kept(j),
        "headline": fault_headline(j, units),
        "readings_text": f"{show_station(round(fault.at_m, 2), units)} {fault_text(fault, units)}".rstrip("."),
        "setup_text": walk_text(walk.walk, units),
    }
