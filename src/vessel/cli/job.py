"""`vessel plan` and `vessel judge`: an exported job without a browser."""

from __future__ import annotations

import argparse
from typing import Any

from vessel.api.job_answers import judged_stations
from vessel.cli.files import read_job
from vessel.core.plan.options import Option, Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.text.units import Units
from vessel.words.finding_sentences import explain, headline, next_step
from vessel.words.labels import VERDICT_LABEL
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
    lines, kit, units = [], job.kit, job.units
    loaded = [x for x in job.lines if x.has_metal]
    core_lines = [x.line for x in loaded]
    plans = plan_lines(core_lines, job.soil, kit, school=job.drawing.school, measured=job.measured)
    for x, line, plan in zip(loaded, core_lines, plans, strict=True):
        lines.append(
            {
                "line": x.row.name,
                "options": [
                    {
                        **_option(o),
                        "reason": reason(o, line, units),
                        "cautions": cautions(o, line, kit, units),
                    }
                    for o in plan.ranked
                ],
                "rejected": [{**_option(o), "why": rejection(o, kit, units)} for o in plan.rejected],
                "if_far_end_earthed": _if_earthed(plan, units),
            }
        )
    return {"job": job.row.name, "lines": lines}


def judge_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel judge JOB.json`: the verdict on every station."""
    job = read_job(args.job)
    found = []
    for line in job.lines:
        for setup in line.setups:
            for s, j in judged_stations(setup):
                found.append(
                    {
                        "line": line.row.name,
                        "hookup": setup.setup.method,
                        "freq_hz": setup.setup.freq_hz,
                        "distance_m": s.row.distance_m,
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
    return {"job": job.row.name, "stations": found}
