"""`vessel backup` and `vessel restore`: copies of the database, made and put back."""

from __future__ import annotations

import argparse
from pathlib import Path

from vessel.cli.holding import held
from vessel.settings import Settings
from vessel.store.backup import back_up, restore


def _database(args: argparse.Namespace) -> Path:
    return Path(args.database) if args.database else Settings().database


def backup_command(args: argparse.Namespace) -> str:
    """`vessel backup FILE`: copy the database as it is now, also while it is served."""
    made = back_up(_database(args), Path(args.file))
    return f"{made} is a whole copy of {_database(args)}, {made.stat().st_size} bytes."


def restore_command(args: argparse.Namespace) -> str:
    """`vessel restore FILE`: put a backup in the place of the database; what was there is kept."""
    database = _database(args)
    with held(database):
        kept = restore(Path(args.file), database)
    return f"{database} is now {args.file}." + (f" What was there is kept as {kept}." if kept else "")
