"""`vessel judge`: the verdicts of an exported job without a browser."""

from __future__ import annotations

import argparse
from dataclasses import asdict
from typing import Any

from vessel.api.job_answers import (
    ask_of,
    end_of,
    estimate_of,
    identity_finding,
    judged_stations,
    rivals_left,
)
from vessel.api.special_answers import (
    judged_run,
    judged_stops,
    judged_walk,
)
from vessel.api.stations.present import tapered_end_text
from vessel.cli.files import read_job
from vessel.core.hookup.judge_fault import fault_verdict
from vessel.core.judge.station.verdict import Judgement
from vessel.core.model.identity import EVIDENCE
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedSetup, LoadedStation
from vessel.formats.loaded_sonde import LoadedRun
from vessel.formats.loaded_walk import LoadedWalk
from vessel.words.fault_sentences import FAULT_LABEL, walk_next_text
from vessel.words.finding_sentences import explain, headline, next_step
from vessel.words.identity_sentences import (
    EVIDENCE_WORDS,
    ask_text,
    identity_headline,
    identity_text,
)
from vessel.words.labels import VERDICT_LABEL
from vessel.words.rival_sentences import rival_text
from vessel.words.sonde_sentences import fall_text


def _estimate(s: LoadedStation) -> dict[str, Any] | None:
    """Best estimate of depth and place left of the peak [m] with ranges that hold in 95 %; None without any."""
    best = estimate_of(s)
    if best is None:
        return None
    return {k: getattr(best, k) for k in ("offset_m", "offset_pm_m", "depth_m", "depth_pm_m")}


def judge_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel judge JOB.json`: the verdict on every station, and on every stop of a sonde run."""
    job = read_job(args.job)
    found, hookups, runs, walks = [], [], [], []
    for line in job.lines:
        for setup in line.setups:
            hookups.append(_identity(setup))
            for s, j in judged_stations(setup):
                found.append(
                    {
                        "line": line.row.name,
                        "hookup": setup.setup.method,
                        "freq_hz": setup.setup.freq_hz,
                        "distance_m": s.row.distance_m,
                        **_judged(j, job.units),
                        "estimate": _estimate(s),
                        "wrong_chance": next((f.value for f in j.findings if f.rule.id == "identity"), None),
                    }
                )
        runs += [_sonde(run) for run in line.runs]
        walks += [_faults(walk) for walk in line.walks]
    return {"job": job.row.name, "stations": found, "hookups": hookups, "sonde_runs": runs, "fault_walks": walks}


def _judged(j: Judgement, units: Units) -> dict[str, Any]:
    return {
        "verdict": j.verdict,
        "label": VERDICT_LABEL[j.verdict],
        "criteria_version": j.criteria_version,
        "deciding": [f.rule.id for f in j.deciding],
        "headline": headline(j, units),
        "next_step": next_step(j),
        "findings": [
            {"rule": f.rule.id, "outcome": f.outcome, "value": f.value, "sentence": explain(f, units)}
            for f in j.findings
        ],
    }


def _faults(walk: LoadedWalk) -> dict[str, Any]:
    """One walk with the frame: the faults that explain it, each with its verdict."""
    judged, units = judged_walk(walk), walk.job.units
    fit = judged.fit
    return {
        "line": walk.line.row.name,
        "freq_hz": walk.walk.freq_hz,
        "ohms": walk.walk.ohms,
        "leak": None if fit is None else fit.leak,
        "misfit": None if fit is None else fit.misfit,
        "faults": [
            {**asdict(f), "said": fault_verdict(j), **_judged(j, units), "label": FAULT_LABEL[fault_verdict(j)]}
            for f, j in zip(() if fit is None else fit.faults, judged.judgements, strict=True)
        ],
        "next_step": walk_next_text(judged, walk.walk, walk.readings, units),
    }


def _sonde(run: LoadedRun) -> dict[str, Any]:
    """One sonde run: its stops with verdict and fitted head, corners and fall."""
    judged, units = judged_run(run), run.job.units
    stops = []
    for (s, j), fit in zip(judged_stops(run), judged.fits, strict=True):
        head = None if fit is None else asdict(fit)
        stops.append({"distance_m": s.row.distance_m, "rod_m": s.row.rod_m, **_judged(j, units), "head": head})
    return {
        "line": run.line.row.name,
        "freq_hz": run.run.freq_hz,
        "start_m": run.run.start_m,
        "way": run.run.way,
        "stops": stops,
        "corners": [asdict(c) for c in judged.corners],
        "fall": None if judged.fall is None else asdict(judged.fall),
        "fall_text": fall_text(judged.fall, run.run, units),
    }


def _end(s: LoadedSetup) -> dict[str, Any] | None:
    """Where the stations say that the wire ends."""
    ended = end_of(s)
    if ended is None:
        return None
    text, step = tapered_end_text(s)
    return {"at_m": ended.at_m, "low_m": ended.low_m, "high_m": ended.high_m, "text": text, "next_step": step}


def _identity(s: LoadedSetup) -> dict[str, Any]:
    """Which line a hookup's stations are on: what is shown, the rivals that are left, and what to ask for next."""
    found, ask, alive = identity_finding(s), ask_of(s), rivals_left(s)
    return {
        "line": s.line.row.name,
        "hookup": s.setup.method,
        "freq_hz": s.setup.freq_hz,
        "identity": {
            "state": found.state,
            "other_line": found.other_line,
            "by": list(found.by),
            "against": list(found.against),
            "text": f"{identity_headline(found)}. {identity_text(found)}",
        },
        "rivals": [
            {"kind": a.kind, "chance": a.chance, "of_m": a.of_m, "text": rival_text(a.kind, a.of_m, s.job.units)}
            for a in alive
        ],
        "trace_end": _end(s),
        "ask_next": None
        if ask is None
        else {
            "kind": ask.kind,
            "against": list(ask.against),
            "left": ask.left,
            "question": EVIDENCE_WORDS[ask.kind].question,
            "text": ask_text(ask, alive, s.job.units),
            "along": EVIDENCE[ask.kind].along,
        },
    }
