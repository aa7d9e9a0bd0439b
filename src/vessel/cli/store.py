"""`vessel backup` and `vessel restore`: copies of the database, made and put back."""

from __future__ import annotations

import argparse
import sys
from getpass import getpass
from pathlib import Path

from vessel.api.app import open_store
from vessel.cli.holding import held
from vessel.settings import Settings
from vessel.store.access import set_password
from vessel.store.backup import back_up, restore
from vessel.store.database import begin_writing
from vessel.store.unusable import StoreRefused


def _database(args: argparse.Namespace) -> Path:
    return Path(args.database) if args.database else Settings().database


def backup_command(args: argparse.Namespace) -> str:
    """`vessel backup FILE`: copy the database as it is now, also while it is served."""
    made = back_up(_database(args), Path(args.file))
    return f"{made} is a whole copy of {_database(args)}, {made.stat().st_size} bytes."


def password_command(args: argparse.Namespace) -> str:
    """`vessel password`: set the crew's password, asked for twice; every device has to sign in again."""
    first = _asked("New password of the crew: ")
    if sys.stdin.isatty() and _asked("Once more: ") != first:
        raise StoreRefused("The two are not the same.", "Try again; nothing was changed.")
    with open_store(_database(args))() as db:
        begin_writing(db)
        set_password(db, first)
        db.commit()
    return "The password is set. Every device has to sign in with it."


def _asked(prompt: str) -> str:
    return getpass(prompt) if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")


def restore_command(args: argparse.Namespace) -> str:
    """`vessel restore FILE`: put a backup in the place of the database; what was there is kept."""
    database = _database(args)
    with held(database):
        kept = restore(Path(args.file), database)
    return f"{database} is now {args.file}." + (f" What was there is kept as {kept}." if kept else "")
