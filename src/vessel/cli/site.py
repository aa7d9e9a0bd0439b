"""`vessel solve` and `vessel read`: a whole site, or one line of a job with what runs beside it."""

from __future__ import annotations

import argparse
from dataclasses import asdict, dataclass, replace
from typing import Any

import numpy as np

from vessel.cli.files import checked_job, line_named, read_text
from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput
from vessel.core.model.kit import Kit
from vessel.core.model.network import Hookup, Site
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.signal.circuit.limits import Validity
from vessel.core.signal.layout.line_on_site import TARGET_NAME, lay_out
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.solved_site import SolvedSite, convergence
from vessel.formats import job_file, site_file
from vessel.formats.document import as_json
from vessel.words.limit_sentences import limit_text


@dataclass(frozen=True)
class _Asked:
    name: str
    site: Site
    hookup: Hookup
    kit: Kit


def _limit(v: Validity) -> dict[str, Any]:
    return {"id": v.id, "sentence": limit_text(v), "value": v.value, "bound": v.bound}


def _asked(args: argparse.Namespace) -> _Asked:
    text = read_text(args.file, field="FILE.json")
    raw = as_json(text, what="site")
    if isinstance(raw, dict) and raw.get("format") == job_file.FORMAT:
        return _of_job(text, args)
    doc = site_file.load(text).site
    hookup = site_file.hookup_of(doc.hookup)
    if args.freq_hz is not None:
        hookup = replace(hookup, freq_hz=args.freq_hz)
    if args.output_ma is not None:
        hookup = replace(hookup, output_a=args.output_ma / 1e3)
    return _Asked(doc.name, site_file.site_of(doc), hookup, site_file.kit_used(doc))


def _of_job(text: str, args: argparse.Namespace) -> _Asked:
    job = checked_job(text)
    for option, value in (("--line", args.line), ("--hookup", args.hookup), ("--freq-hz", args.freq_hz),
                          ("--output-ma", args.output_ma)):  # fmt: skip
        if value is None:
            raise BadInput(f"A job file needs {option}.", field=option, fix="Say which line, and how to put signal on.")
    kit, line = job.kit, line_named(job, args.line).line
    kit.frequency(args.freq_hz, at="--freq-hz")
    stake = usual_stake(kit.lead_m)
    setup = Setup(args.hookup, args.freq_hz, args.output_ma / 1e3, stake, position_m=args.position_m)
    if not setup.by.connects:
        setup.require_on(line.length_m)
    return _Asked(f"{job.row.name}: {args.line}", lay_out(line, job.soil), hookup_on(line, setup), kit)


def _cases(asked: _Asked, *, refine: float = 1.0) -> list[tuple[str, SolvedSite]]:
    unknown = any(end.kind == "unknown" for line in asked.site.lines for end in (line.start, line.end))
    cases = ("open", "earthed") if unknown else ("as entered",)
    return [(c, SolvedSite(asked.site, asked.hookup, asked.kit, unknown=c, refine=refine)) for c in cases]


def solve_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel solve FILE.json`: transmitter volts, milliamps, ohms; current along every line."""
    asked = _asked(args)
    names = [line.name for line in asked.site.lines]
    results = []
    for case, solved in _cases(asked):
        out = solved.output
        result: dict[str, Any] = {
            "unknown_ends": case,
            "transmitter": {
                "volts": out.volts,
                "milliamps": None if out.amps is None else out.amps * 1e3,
                "ohms": out.ohms,
                "limited_by": out.limited_by,
                "battery_h": out.battery_h,
            },
            "lines": [_line_result(solved, name) for name in names],
            "limits_touched": [_limit(flag) for flag in solved.flags],
        }
        if args.refine:
            fine = SolvedSite(asked.site, asked.hookup, asked.kit, unknown=case, refine=2.0)
            result["change_when_segments_are_halved"] = convergence(solved, fine, names)
        results.append(result)
    return {"site": asked.name, **_hookup(asked), "cases": results}


def _hookup(asked: _Asked) -> dict[str, Any]:
    h = asked.hookup
    return {"hookup": h.method, "line": h.line, "freq_hz": h.freq_hz, "output_ma": h.output_a * 1e3}


def _line_result(solved: SolvedSite, name: str) -> dict[str, Any]:
    current = solved.line_current(name)
    size = np.abs(current.amps)
    return {
        "line": name,
        "greatest_ma": float(size.max(initial=0.0)) * 1e3,
        "distance_m": current.distance_m.tolist(),
        "current_ma": (size * 1e3).tolist(),
        "phase_deg": np.degrees(np.angle(current.amps)).tolist(),
    }


def read_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel read FILE.json`: what a receiver shows at given places."""
    asked = _asked(args)
    at, headings, where = _places(args, asked)
    cases = []
    for case, solved in _cases(asked):
        readings = solved.read(at, headings, gain_db=args.gain_db)
        cases.append(
            {
                "unknown_ends": case,
                "readings": [{**w, **asdict(r)} for w, r in zip(where, readings, strict=True)],
                "limits_touched": [_limit(flag) for flag in solved.flags],
            }
        )
    return {"site": asked.name, **_hookup(asked), "gain_db": args.gain_db, "cases": cases}


def _places(args: argparse.Namespace, asked: _Asked) -> tuple[Floats, Floats, list[dict[str, float]]]:
    at, headings = list[Floats](), list[Floats]()
    where: list[dict[str, float]] = []
    for text in args.at:
        east, north, heading = _numbers(text, 3, field="--at", example="12.5,3,90")
        turn = np.radians(heading)
        at.append(np.array([[east, north]]))
        headings.append(np.array([[np.sin(turn), np.cos(turn)]]))
        where.append({"east_m": east, "north_m": north, "heading_deg": heading})
    for option, text in (("--along", args.along), ("--across", args.across)):
        if text is None:
            continue
        name, _, figure = text.rpartition(":")
        line = asked.site.line(name or TARGET_NAME, field=option)
        (value,) = _numbers(figure, 1, field=option, example=f"{asked.site.lines[0].name}:5")
        if option == "--along":
            if value <= 0 or line.length_m / value > 5000:
                raise BadInput("The step is too small.", field=option, fix="Ask for up to 5000 places.")
            s = np.arange(0.5 * value, line.length_m, value)
            at.append(line.places(s)[:, :2])
            headings.append(line.headings(s))
            where += [{"distance_m": float(x)} for x in s]
        else:
            line.require_on(value, what="The profile", field=option)
            heading_2d = line.headings(np.array([value]))
            offsets = np.linspace(-args.half_width_m, args.half_width_m, 41)
            left = np.array([-heading_2d[0, 1], heading_2d[0, 0]])
            at.append(line.places(np.array([value]))[:, :2] + offsets[:, None] * left)
            headings.append(np.repeat(heading_2d, len(offsets), 0))
            where += [{"distance_m": value, "offset_m": float(x)} for x in offsets]
    if not at:
        raise BadInput("No place is named.", field="--at", fix="Use --at EAST,NORTH,HEADING, --along or --across.")
    return np.concatenate(at), np.concatenate(headings), where


def _numbers(text: str, count: int, *, field: str, example: str) -> list[float]:
    parts = text.split(",")
    try:
        numbers = [float(p) for p in parts]
    except ValueError:
        numbers = []
    if len(numbers) != count or not np.isfinite(numbers).all():
        raise BadInput(f"“{text}” is not understood.", field=field, fix=f"Write it as {example}.")
    return numbers
