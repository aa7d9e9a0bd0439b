"""Backups of the database: made while it is in use, checked before they count, kept by number.

SQLite's online backup copies a consistent state whoever writes meanwhile (https://www.sqlite.org/backup.html). A backup
is written under another name first: one that is there under its own name is whole.
"""

from __future__ import annotations

import logging
import os
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Event, Thread

from vessel.store.unusable import StoreRefused

KEPT_DAILY = 14
"""Daily backups that are kept, the newest."""
_KEPT_OTHER = 10
_EVERY = timedelta(hours=24)
_DAILY = "daily"


@dataclass(frozen=True)
class Backup:
    """A backup: its file, when it was made, and why (`daily`, `before-...`)."""

    path: Path
    made_at: datetime
    why: str

    @property
    def size(self) -> int:
        """Bytes."""
        return self.path.stat().st_size


def folder_of(database: Path) -> Path:
    """Return where the backups of a database are kept: beside it."""
    return database.with_name(f"{database.name}.backups")


def back_up(database: Path, to: Path) -> Path:
    """Copy the database as it is now to the file `to`, checked; raise `StoreRefused` if it is not whole."""
    if not database.exists():
        raise StoreRefused(f"There is no database {database}.", "Name the file with --database.")
    to.parent.mkdir(parents=True, exist_ok=True)
    part = to.with_name(f"{to.name}.{os.getpid()}.part")
    part.unlink(missing_ok=True)
    try:
        with closing(_reading(database)) as source, closing(sqlite3.connect(part)) as copy:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode=DELETE")  # one file, nothing beside it
        require_whole(part)
        _settle(part)
        os.replace(part, to)
    except sqlite3.Error as e:
        raise StoreRefused.of(e, database) from e
    finally:
        part.unlink(missing_ok=True)
    return to


def require_whole(path: Path) -> None:
    """Raise `StoreRefused` unless the file is a whole database of Vessel's."""
    if not path.is_file():
        raise StoreRefused(f"There is no file {path}.", "Name a backup: they are in the folder beside the database.")
    try:
        with closing(_reading(path)) as db:
            (said,) = db.execute("PRAGMA integrity_check(1)").fetchone()
            ours = db.execute("SELECT 1 FROM sqlite_master WHERE name = 'alembic_version'").fetchone()
    except sqlite3.DatabaseError as e:
        raise StoreRefused(f"{path} is damaged or is no database.", "Use another backup.") from e
    if said != "ok":
        raise StoreRefused(f"{path} is damaged: {said}.", "Use another backup.")
    if ours is None:
        raise StoreRefused(f"{path} is not a database of Vessel's.", "Use another file.")


def _reading(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True, timeout=30)


def restore(backup: Path, database: Path) -> Path | None:
    """Put a backup in the place of the database; return where what was there is kept, None if nothing was.

    The database must be closed: what others write would be lost.
    """
    require_whole(backup)
    kept = None
    if database.exists() and database.stat().st_size:
        kept = folder_of(database) / f"{_stamp(_now())}.before-restore.sqlite3"
        try:
            back_up(database, kept)
        except StoreRefused:  # a damaged one is kept as it is
            kept.parent.mkdir(parents=True, exist_ok=True)
            kept.write_bytes(database.read_bytes())
    database.parent.mkdir(parents=True, exist_ok=True)
    part = database.with_name(f"{database.name}.part")
    part.write_bytes(backup.read_bytes())
    _settle(part)
    for beside in ("-wal", "-shm"):
        database.with_name(f"{database.name}{beside}").unlink(missing_ok=True)
    os.replace(part, database)
    return kept


def before_migration(database: Path, revision: str) -> Path:
    """Return where the copy goes that is made before the tables are changed to a revision."""
    return folder_of(database) / f"{_stamp(_now())}.before-{revision}.sqlite3"


def by_hand(database: Path) -> Path:
    """Return where the copy goes that somebody asks for."""
    return folder_of(database) / f"{_stamp(_now())}.by-hand.sqlite3"


def backups_of(database: Path) -> list[Backup]:
    """Return the backups of a database, newest first."""
    found = []
    for path in folder_of(database).glob("*.sqlite3"):
        stamp, _, why = path.name.removesuffix(".sqlite3").partition(".")
        try:
            made = datetime.strptime(stamp, _STAMP).replace(tzinfo=UTC)
        except ValueError:
            continue  # put there by somebody else
        found.append(Backup(path, made, why))
    return sorted(found, key=lambda b: b.made_at, reverse=True)


def daily(database: Path, *, at: datetime | None = None) -> Path | None:
    """Make today's backup if the last is a day old, and let the oldest go; return it, None if none was due."""
    at = at or _now()
    last = next((b for b in backups_of(database) if b.why == _DAILY), None)
    if last is not None and at - last.made_at < _EVERY:
        return None
    made = back_up(database, folder_of(database) / f"{_stamp(at)}.{_DAILY}.sqlite3")
    kept = backups_of(database)
    for of, most in ((True, KEPT_DAILY), (False, _KEPT_OTHER)):
        for old in [b for b in kept if (b.why == _DAILY) is of][most:]:
            old.path.unlink(missing_ok=True)
    return made


def every_day(database: Path) -> Event:
    """Make a backup a day in a thread of its own, until the event returned is set."""
    stop = Event()

    def watch() -> None:
        while not stop.is_set():
            try:
                daily(database)
            except (StoreRefused, OSError) as e:
                _log.error("No backup was made: %s", e)
            stop.wait(_LOOK_EVERY_S)

    Thread(target=watch, daemon=True, name="backups").start()
    return stop


_log = logging.getLogger(__name__)
_LOOK_EVERY_S = 600.0
_STAMP = "%Y-%m-%dT%H%M%SZ"


def _stamp(at: datetime) -> str:
    return at.strftime(_STAMP)


def _now() -> datetime:
    return datetime.now(UTC)


def _settle(path: Path) -> None:
    """Wait until the disk has it."""
    with path.open("rb+") as file:
        os.fsync(file.fileno())
