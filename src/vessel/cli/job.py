"""`vessel plan` and `vessel judge`: an exported job without a browser."""

from __future__ import annotations

import argparse
from typing import Any

from vessel.cli.files import kept_lines, read_job
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.judge.station.verdict import VERDICT_LABEL
from vessel.core.plan.options import Option, Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_on, line_of, readings_of, setup_of, soil_measured, soil_of, station_of
from vessel.words.finding_sentences import explain, headline, next_step
from vessel.words.option_sentences import cautions, reason, rejection
from vessel.words.work_sentences import if_earthed_text


def _setup(o: Option) -> dict[str, Any]:
    s = o.setup
    return {"hookup": s.method, "freq_hz": s.freq_hz, "output_ma": s.output_a * 1e3}


def _option(o: Option) -> dict[str, Any]:
    return {
        **_setup(o),
        "cases": [
            {
                "far_end": f.far_case,
                "volts": f.output.volts,
                "milliamps": None if f.output.amps is None else f.output.amps * 1e3,
                "limited_by": f.output.limited_by,
                "markable_m": f.length_m("mark"),
                "with_care_m": f.length_m("mark_with_care"),
                "bleed_off": [
                    {"neighbour": b.name, "at_m": b.at_m, "milliamps": b.current_a * 1e3, "share": b.share}
                    for b in f.bleed_off
                ],
                "zones": [
                    {"start_m": z.start_m, "end_m": z.end_m, "verdict": z.verdict, "rule": z.rule_id} for z in f.zones
                ],
            }
            for f in o.forecasts
        ],
    }


def _if_earthed(plan: Plan, units: Units) -> dict[str, Any] | None:
    o = plan.if_earthed
    return None if o is None else {**_setup(o), "markable_m": o.earthed_m, "text": if_earthed_text(plan, units)}


def plan_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel plan JOB.json`: the plan of every line."""
    job = read_job(args.job)
    kit, soil = kit_on(job), soil_of(job)
    lines = []
    docs = [doc for doc in kept_lines(job) if doc.construction is not None]
    core_lines = [line_of(doc, job) for doc in docs]
    plans = plan_lines(core_lines, soil, kit, school=job.site.school, measured=job.soil_resistivity_ohm_m is not None)
    for doc, line, plan in zip(docs, core_lines, plans, strict=True):
        lines.append(
            {
                "line": doc.name,
                "options": [
                    {
                        **_option(o),
                        "reason": reason(o, line, job.units),
                        "cautions": cautions(o, line, kit, job.units),
                    }
                    for o in plan.ranked
                ],
                "rejected": [{**_option(o), "why": rejection(o, kit, job.units)} for o in plan.rejected],
                "if_far_end_earthed": _if_earthed(plan, job.units),
            }
        )
    return {"job": job.name, "lines": lines}


def judge_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel judge JOB.json`: the verdict on every station."""
    job = read_job(args.job)
    kit, soil = kit_on(job), soil_of(job)
    found = []
    for doc in kept_lines(job):
        line = line_of(doc, job)
        for setup_doc in doc.setups:
            setup = setup_of(setup_doc)
            readings = readings_of(setup_doc, kit)
            stations = sorted((s for s in setup_doc.stations if s.deleted_at is None), key=lambda s: s.distance_m)
            state = hookup_state(line, soil, kit, setup, readings, measured=soil_measured(job))
            judged = judge_stations(
                line, soil, kit, setup, state, [station_of(s) for s in stations], rx_freq_hz=setup_doc.rx_freq_hz
            )
            for s, j in zip(stations, judged.judgements, strict=True):
                found.append(
                    {
                        "line": doc.name,
                        "hookup": setup.method,
                        "freq_hz": setup.freq_hz,
                        "distance_m": s.distance_m,
                        "verdict": j.verdict,
                        "label": VERDICT_LABEL[j.verdict],
                        "criteria_version": j.criteria_version,
                        "headline": headline(j, job.units),
                        "next_step": next_step(j),
                        "findings": [
                            {
                                "rule": f.rule.id,
                                "outcome": f.outcome,
                                "value": f.value,
                                "sentence": explain(f, job.units),
                            }
                            for f in j.findings
                        ],
                    }
                )
    return {"job": job.name, "stations": found}
