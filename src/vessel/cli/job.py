"""`vessel plan`, `vessel judge` and `vessel diagnose`: an exported job without a browser."""

from __future__ import annotations

import argparse
from typing import Any

from vessel.api.job_answers import order_of
from vessel.cli.files import line_named, read_job
from vessel.core.base.errors import BadInput
from vessel.core.diagnose.ranking import diagnose
from vessel.core.model.readings import TransmitterReading
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.work_order import Order
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedJob, LoadedSetup
from vessel.words.diagnosis_sentences import advice, cause_title
from vessel.words.diagnosis_sentences import explain as explain_cause
from vessel.words.option_sentences import cautions, reason, rejection
from vessel.words.work_sentences import if_earthed_text, moving_text, rule_out_text

_AS_TYPED = "Write 7.9,30 or 40,4.3,560."


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


def _moving(plan: Plan, units: Units) -> dict[str, Any] | None:
    m = plan.worth_moving
    if m is None:
        return None
    return {
        "freq_hz": m.freq_hz,
        "output_ma": m.output_a * 1e3,
        "apart_m": m.apart_m,
        "proved_m": m.proved_m,
        "markable_m": m.plain_m,
        "text": moving_text(m, plan.standing_m, units),
    }


def plan_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel plan JOB.json`: the plan of every line; with `--site`, the order of work instead."""
    job = read_job(args.job)
    if args.site:
        return _order(job)
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
                "moving_induction": _moving(plan, units),
            }
        )
    return {"job": job.row.name, "lines": lines}


def _order(job: LoadedJob) -> dict[str, Any]:
    """The order of work: setups of all lines in the order to do them, and what none proves."""
    lines = [x for x in job.lines if x.has_metal]
    order = order_of(lines) if lines else Order((), ())
    names = [x.row.name for x in lines]
    return {
        "job": job.row.name,
        "visits": [
            {
                "number": k + 1,
                "line": names[v.line],
                **_setup(v.option),
                "position_m": v.option.setup.position_m,
                "access": v.option.access,
                "proved_m": v.proved_m,
                "stretches_m": [list(s) for s in v.stretches],
                "walk_m": v.walk_m,
                "rule_out": rule_out_text(v, k, order, names),
            }
            for k, v in enumerate(order.visits)
        ],
        "not_proved": [{"line": names[r.line], "stretches_m": [list(s) for s in r.stretches]} for r in order.remaining],
        "without_metal": [x.row.name for x in job.lines if not x.has_metal],
    }


def diagnose_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel diagnose JOB.json`: ranked explanations of the transmitter's readings of every direct connection.

    `--line` asks about one line; `--readings` asks what other readings would say of its hookup in use.
    """
    job = read_job(args.job)
    lines = [line_named(job, args.line)] if args.line else [x for x in job.lines if x.has_metal]
    typed = None if args.readings is None else args.readings
    if typed is not None and not args.line:
        raise BadInput("Which line do these readings belong to?", field="--line", fix="Name the line.")
    found = []
    for line in lines:
        setups = line.setups if typed is None else line.setups[-1:]
        if typed is not None and not setups:
            raise BadInput(f"{line.row.name} has no hookup.", field="--line", fix="Hook it up first, or name another.")
        found += [_diagnosis(s, typed) for s in setups if s.setup.by.connects]
    return {"job": job.row.name, "hookups": [x for x in found if x]}


def _diagnosis(s: LoadedSetup, typed: str | None) -> dict[str, Any] | None:
    readings = s.readings if typed is None else _readings(typed, s.setup.freq_hz)
    if not readings:
        return None
    d = diagnose(s.traced, s.setup, s.job.soil, s.job.kit, readings, measured=s.job.measured)
    wanted = d.next_reading
    return {
        "line": s.line.row.name,
        "freq_hz": s.setup.freq_hz,
        "output_ma": s.setup.output_a * 1e3,
        "readings": [
            {
                "volts": r.volts,
                "milliamps": r.amps * 1e3,
                "freq_hz": r.freq_hz,
                "after": list(r.changes),
                "beside": r.beside,
            }
            for r in readings
        ],
        "told_apart": d.told_apart,
        "misfit": d.gap,
        "explanations": [
            {
                "cause": h.family.id,
                "mended": h.mended,
                "title": cause_title(h),
                "probability": h.probability,
                "figure": h.parameter,
                "range": list(h.parameter_range),
                "sentence": explain_cause(h, line_m=s.line.line.length_m, units=s.job.units),
            }
            for h in d.hypotheses
        ],
        "read_next": None
        if d.told_apart
        else {
            "freq_hz": wanted.freq_hz,
            "change": wanted.change,
            "beside": wanted.beside,
            "look_far": wanted.look_far,
            "text": advice(d),
        },
    }


def _readings(text: str, freq_hz: float) -> list[TransmitterReading]:
    """Readings as typed: volts, milliamps and, at another frequency, hertz; separated by semicolons."""
    found = []
    for part in text.split(";"):
        figures = part.split(",")
        try:
            volts, milliamps, *more = (float(x) for x in figures)
        except ValueError:
            raise BadInput(
                f"“{part}” is not a reading.", field="--readings", fix="Write 7.9,30 or 40,4.3,560."
            ) from None
        if len(more) > 1:
            raise BadInput(f"“{part}” has too many figures.", field="--readings", fix=_AS_TYPED)
        found.append(TransmitterReading(volts, milliamps / 1e3, more[0] if more else freq_hz))
    return found
