"""The command line: serve the application, or ask the core without a browser.

A command's module is loaded when it is run, so that help and mistakes answer at once. What each command answers is a
contract: docs/cli.md.
"""

from __future__ import annotations

import argparse
import json
import math
import os
import sys
from collections.abc import Callable, Sequence
from importlib import import_module
from typing import Any

from vessel.core.base.errors import VesselError
from vessel.core.model.methods import METHOD_TABLE, METHODS


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; return the exit code (2: refused input, said on standard error)."""
    args = _parser().parse_args(argv)
    # this process is ours: matrices of a few hundred rows are solved faster by one thread than by several
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    try:
        result = _command(args.run)(args)
    except ModuleNotFoundError as e:
        if (e.name or "").startswith("vessel"):
            raise
        print(f"{e.name} is not installed. Install the whole of Vessel: pip install 'vessel[server]'", file=sys.stderr)
        return 2
    except VesselError as e:
        print(f"{e.field}: {e}" if e.field else str(e), file=sys.stderr)
        return 2
    if result is not None:
        print(result if isinstance(result, str) else as_json(result))
    return 0


def _command(path: str) -> Callable[[argparse.Namespace], Any]:
    module, _, name = path.partition(":")
    return getattr(import_module(module), name)  # type: ignore[no-any-return]


def as_json(result: Any) -> str:
    """Return a result as JSON; what JSON cannot say (NaN, infinity) as null."""
    return json.dumps(_finite(result), indent=1, allow_nan=False)


def _finite(value: Any) -> Any:
    if isinstance(value, float):
        return value if math.isfinite(value) else None
    if isinstance(value, dict):
        return {k: _finite(v) for k, v in value.items()}
    return [_finite(v) for v in value] if isinstance(value, (list, tuple)) else value


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="vessel", description="Plan, prove, trace and record buried lines.")
    commands = parser.add_subparsers(dest="command", required=True)

    def add(name: str, run: str, what: str) -> argparse.ArgumentParser:
        command = commands.add_parser(name, help=what, description=what)
        command.set_defaults(run=run)
        return command

    _job_command(add("plan", "vessel.cli.job:plan_command", "the plan of every line of a job"))
    commands.choices["plan"].add_argument(
        "--site", action="store_true", help="the order of work on the whole site instead"
    )
    _job_command(add("judge", "vessel.cli.judge:judge_command", "the verdict on every station of a job"))
    diagnosis = add("diagnose", "vessel.cli.job:diagnose_command", "what explains the transmitter's readings of a job")
    _job_command(diagnosis)
    diagnosis.add_argument("--line", help="only this line")
    diagnosis.add_argument(
        "--readings", metavar="V,MA[,HZ];...", help="what other readings would say of its hookup in use"
    )
    _solve_arguments(add("solve", "vessel.cli.site:solve_command", "transmitter and currents along every line"))
    _read_arguments(add("read", "vessel.cli.site:read_command", "what a receiver shows at given places"))
    schema = add("schema", "vessel.cli.schema:schema_command", "the JSON Schema of a file format")
    schema.add_argument("format", nargs="?", default="job", choices=("job", "site", "lesson", "instruments"))
    _serve_arguments(
        add("serve", "vessel.cli.serve:serve_command", "the application, on loopback unless set otherwise")
    )
    instruments = add("instruments", "vessel.cli.instruments:instruments_command", "stand-in instruments on a site")
    instruments.add_argument("file", metavar="SITE.json", help="a site file")
    instruments.add_argument("--host", default="127.0.0.1", help="address to listen on (127.0.0.1)")
    instruments.add_argument("--port", type=int, default=8430, help="port to listen on (8430)")
    instruments.add_argument("--websocket", type=int, metavar="PORT", help="send over a WebSocket there as well")
    instruments.add_argument("--sonde", default="", metavar="LINE", help="push a sonde through that line of the site")
    instruments.add_argument("--seed", type=int, default=0, help="of the noise")
    for name, what in (
        ("backup", "a whole copy of the database, also while it is served"),
        ("restore", "a backup in the place of the database; what was there is kept"),
    ):
        command = add(name, f"vessel.cli.store:{name}_command", what)
        command.add_argument("file", metavar="FILE", help="the copy")
        command.add_argument("--database", help="SQLite file (var/vessel.sqlite3)")
    password = add("password", "vessel.cli.store:password_command", "the crew's password, for use over a network")
    password.add_argument("--database", help="SQLite file (var/vessel.sqlite3)")
    return parser


def _job_command(command: argparse.ArgumentParser) -> None:
    command.add_argument("job", metavar="JOB.json", help="an exported job")


def _site_arguments(command: argparse.ArgumentParser) -> None:
    command.add_argument("file", metavar="FILE.json", help="a site file, or an exported job")
    command.add_argument("--freq-hz", type=float, help="another frequency than the site file's")
    command.add_argument("--output-ma", type=float, help="another output than the site file's")
    job = command.add_argument_group("of a job file")
    job.add_argument("--line", help="name of the line")
    job.add_argument("--hookup", choices=[m for m in METHODS if not METHOD_TABLE[m].between])
    job.add_argument("--position-m", default=0.0, type=float, help="clamp or coil along the line [m]")


def _solve_arguments(command: argparse.ArgumentParser) -> None:
    _site_arguments(command)
    command.add_argument("--refine", action="store_true", help="also solve with half the segments' length")


def _read_arguments(command: argparse.ArgumentParser) -> None:
    _site_arguments(command)
    command.add_argument("--at", action="append", default=[], metavar="EAST,NORTH,HEADING", help="a place")
    command.add_argument("--along", metavar="LINE:STEP", help="every STEP m along a line, heading along it")
    command.add_argument("--across", metavar="LINE:AT", help="a profile across a line, AT m along it")
    command.add_argument("--half-width-m", type=float, default=2.0, help="of the profile")
    command.add_argument("--gain-db", type=float, default=0.0)


def _serve_arguments(command: argparse.ArgumentParser) -> None:
    """Flags of the settings table (vessel.settings); what is not given comes from the environment."""
    command.add_argument("--host", help="address to listen on (127.0.0.1)")
    command.add_argument("--port", type=int, help="port to listen on (8420)")
    command.add_argument("--database", help="SQLite file; made if missing (var/vessel.sqlite3)")
    command.add_argument("--allow-host", action="append", help="further host name to answer to; repeat for more")
    command.add_argument("--root-path", help="path prefix behind a reverse proxy, such as /vessel")
    command.add_argument("--log-level", choices=("debug", "info", "warning", "error"), help="what is logged (info)")
    command.add_argument("--cores", type=int, help="worker processes for plans; 0: none (one a further core)")
    command.add_argument(
        "--instruments", nargs="+", metavar="ADDRESS", help="instruments to attach, such as tcp://127.0.0.1:8430"
    )
    command.add_argument(
        "--demo", action="store_true", default=None, help="import the demo jobs into an empty database"
    )
