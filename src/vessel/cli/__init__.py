"""The command line: serve the application, or ask the core without a browser."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path

from vessel.cli.files import as_json
from vessel.cli.job import judge_command, plan_command
from vessel.cli.site import add_site_commands
from vessel.core.base.errors import VesselError
from vessel.formats import job_file, site_file

DEFAULT_DATABASE = Path("var/vessel.sqlite3")
SCHEMAS = {"job": job_file.schema_text, "site": site_file.schema_text}


def serve_command(args: argparse.Namespace) -> None:
    """`vessel serve`: the application on loopback unless told otherwise."""
    import uvicorn

    from vessel.api.app import create_app
    from vessel.api.security import LOOPBACK
    from vessel.core.base.parallel import close_workers, open_workers
    from vessel.demo.seed import seed

    database = Path(args.database)
    if args.demo:
        seed(database)
    hosts = {*LOOPBACK, *args.allow_host}
    if args.host not in ("0.0.0.0", "::"):
        hosts.add(args.host)
    app = create_app(database, hosts=hosts)
    open_workers()
    print(f"Vessel is at http://{args.host}:{args.port}/  (stop with Ctrl+C)", flush=True)
    try:
        uvicorn.run(app, host=args.host, port=args.port, log_level="warning")
    finally:
        close_workers()


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="vessel", description="Plan, prove, trace and record buried lines.")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, run in (("plan", plan_command), ("judge", judge_command)):
        command = commands.add_parser(name, help=run.__doc__)
        command.add_argument("job", metavar="JOB.json")
        command.set_defaults(run=run)
    add_site_commands(commands)
    schema = commands.add_parser("schema", help="print the JSON Schema of a file format")
    schema.add_argument("format", nargs="?", default="job", choices=sorted(SCHEMAS))
    schema.set_defaults(run=lambda args: SCHEMAS[args.format]())
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
        print(result if isinstance(result, str) else as_json(result))
    return 0
