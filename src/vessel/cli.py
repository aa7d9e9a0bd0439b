"""The command line: serve the application, or ask the core without a browser."""

from __future__ import annotations

import argparse
import json
import math
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from vessel.core.judge.verdict import VERDICT_LABEL
from vessel.core.judge.wording import explain, headline, next_step
from vessel.core.model.errors import BadInput, NotFound, VesselError
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.plan.options import Option, base_setup, plan_line
from vessel.core.plan.trace import hookup_state, judge_stations
from vessel.core.plan.wording import cautions, reason, rejection
from vessel.core.signal.line_circuit import LineCircuit
from vessel.core.signal.sources import excite, output
from vessel.formats.job_file import JobDoc, LineDoc, load, schema_text
from vessel.formats.to_core import check, kit_of, line_of, reading_of, setup_of, soil_of, station_of

DEFAULT_DATABASE = Path("var/vessel.sqlite3")


def _job(path: str) -> JobDoc:
    try:
        text = Path(path).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as e:
        raise BadInput(f"{path} cannot be read.", field="JOB.json", fix="Name an exported job file.") from e
    job = load(text).job
    check(job)
    return job


def _lines(job: JobDoc) -> list[LineDoc]:
    """Return the lines of a job that were not removed."""
    return [doc for doc in job.lines if doc.deleted_at is None]


def _finite(value: Any) -> Any:
    """Replace what JSON cannot say (NaN, infinity) by null."""
    if isinstance(value, float):
        return value if math.isfinite(value) else None
    if isinstance(value, dict):
        return {k: _finite(v) for k, v in value.items()}
    return [_finite(v) for v in value] if isinstance(value, (list, tuple)) else value


def _option(o: Option) -> dict[str, Any]:
    s = o.setup
    return {
        "hookup": s.method,
        "freq_hz": s.freq_hz,
        "output_ma": s.output_a * 1e3,
        "cases": [
            {
                "far_end": f.far_case,
                "volts": f.output.volts,
                "milliamps": None if f.output.amps is None else f.output.amps * 1e3,
                "limited_by": f.output.limited_by,
                "markable_m": f.length_m("mark"),
                "with_care_m": f.length_m("mark_with_care"),
                "zones": [
                    {"start_m": z.start_m, "end_m": z.end_m, "verdict": z.verdict, "rule": z.rule_id} for z in f.zones
                ],
            }
            for f in o.forecasts
        ],
    }


def plan_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel plan JOB.json`: the plan of every line."""
    job = _job(args.job)
    kit, soil = kit_of(job.kit), soil_of(job)
    lines = []
    for doc in _lines(job):
        line = line_of(doc)
        plan = plan_line(line, soil, kit, base=base_setup(kit))
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
            }
        )
    return {"job": job.name, "lines": lines}


def _line(job: JobDoc, name: str) -> LineDoc:
    for doc in _lines(job):
        if doc.name == name:
            return doc
    known = ", ".join(f"“{doc.name}”" for doc in _lines(job)) or "none"
    raise NotFound(f"The job has no line “{name}”.", field="--line", fix=f"It has {known}.")


def solve_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel solve JOB.json ...`: transmitter volts, milliamps, ohms and current against distance."""
    job = _job(args.job)
    doc = _line(job, args.line)
    kit, soil, line = kit_of(job.kit), soil_of(job), line_of(doc)
    kit.frequency(args.freq_hz, at="--freq-hz")
    setup = Setup(args.hookup, args.freq_hz, args.output_ma / 1e3, usual_stake(kit.lead_m), position_m=args.position_m)
    circuit = LineCircuit(line, soil, freq_hz=args.freq_hz)
    cases = line.far_cases()
    results = []
    for (case, ohm), e in zip(cases, excite(circuit, setup, kit, far_ohms=tuple(o for _, o in cases)), strict=True):
        out = output(e.load_ohm, setup, kit)
        amps = abs(e.response.amps) * out.drive
        results.append(
            {
                "far_end": case,
                "far_earth_ohm": ohm,
                "transmitter": {
                    "volts": out.volts,
                    "milliamps": None if out.amps is None else out.amps * 1e3,
                    "ohms": out.ohms,
                    "limited_by": out.limited_by,
                    "battery_h": out.battery_h,
                },
                "distance_m": circuit.mid_m.tolist(),
                "current_ma": (amps * 1e3).tolist(),
            }
        )
    return {
        "job": job.name,
        "line": doc.name,
        "hookup": args.hookup,
        "freq_hz": args.freq_hz,
        "output_ma": args.output_ma,
        "cases": results,
    }


def judge_command(args: argparse.Namespace) -> dict[str, Any]:
    """`vessel judge JOB.json`: the verdict on every station."""
    job = _job(args.job)
    kit, soil = kit_of(job.kit), soil_of(job)
    found = []
    for doc in _lines(job):
        line = line_of(doc)
        for setup_doc in doc.setups:
            setup = setup_of(setup_doc)
            readings = tuple(reading_of(r) for r in setup_doc.readings if r.deleted_at is None)
            stations = sorted((s for s in setup_doc.stations if s.deleted_at is None), key=lambda s: s.distance_m)
            state = hookup_state(line, soil, kit, setup, readings)
            judged = judge_stations(
                line, soil, kit, setup, state, [station_of(s) for s in stations], rx_freq_hz=setup_doc.rx_freq_hz
            )
            for s, j in zip(stations, judged, strict=True):
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


def serve_command(args: argparse.Namespace) -> None:
    """`vessel serve`: the application on loopback unless told otherwise."""
    import uvicorn

    from vessel.api.app import create_app
    from vessel.api.security import LOOPBACK
    from vessel.demo.seed import seed

    database = Path(args.database)
    if args.demo:
        seed(database)
    hosts = {*LOOPBACK, *args.allow_host}
    if args.host not in ("0.0.0.0", "::"):
        hosts.add(args.host)
    app = create_app(database, hosts=hosts)
    print(f"Vessel is at http://{args.host}:{args.port}/  (stop with Ctrl+C)", flush=True)
    uvicorn.run(app, host=args.host, port=args.port, log_level="warning")


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="vessel", description="Plan, prove, trace and record buried lines.")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, run in (("plan", plan_command), ("judge", judge_command)):
        command = commands.add_parser(name, help=run.__doc__)
        command.add_argument("job", metavar="JOB.json")
        command.set_defaults(run=run)
    solve = commands.add_parser("solve", help=solve_command.__doc__)
    solve.add_argument("job", metavar="JOB.json")
    solve.add_argument("--line", required=True, help="name of the line")
    solve.add_argument("--hookup", required=True, choices=("direct", "clamp", "induction"))
    solve.add_argument("--freq-hz", required=True, type=float)
    solve.add_argument("--output-ma", required=True, type=float)
    solve.add_argument("--position-m", default=0.0, type=float, help="clamp or coil along the line [m]")
    solve.set_defaults(run=solve_command)
    commands.add_parser("schema", help="print the job file's JSON Schema").set_defaults(run=lambda _: schema_text())
    serve = commands.add_parser("serve", help=serve_command.__doc__)
    serve.add_argument("--host", default="127.0.0.1")
    serve.add_argument("--port", default=8420, type=int)
    serve.add_argument("--database", default=str(DEFAULT_DATABASE))
    serve.add_argument("--allow-host", action="append", default=[], help="further host name to answer to")
    serve.add_argument("--demo", action="store_true", help="import the demo job into an empty database")
    serve.set_defaults(run=serve_command)
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; return the exit code (2: refused input, said on standard error)."""
    args = _parser().parse_args(argv)
    try:
        result = args.run(args)
    except VesselError as e:
        print(f"{e.field}: {e.sentence()}" if e.field else e.sentence(), file=sys.stderr)
        return 2
    if result is not None:
        print(result if isinstance(result, str) else json.dumps(_finite(result), indent=1, allow_nan=False))
    return 0


if __name__ == "__main__":
    sys.exit(main())
