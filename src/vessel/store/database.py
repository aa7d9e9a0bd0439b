"""Opening the database: SQLite in WAL mode, migrated to the newest revision.

Before a migration alters anything, a verified copy is put beside the file. Every transaction begins by itself, those
that write with the write lock (`BEGIN IMMEDIATE`): who reads first and wants to write later could be refused halfway.
See https://www.sqlite.org/lang_transaction.html.
"""

from __future__ import annotations

import os
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, sessionmaker

from vessel.store.backup import back_up, before_migration
from vessel.store.unusable import StoreRefused

MIGRATIONS = Path(__file__).parent / "migrations"
_BUSY_S = 30.0
"""How long a write waits for those before it [s]."""
_WRITING = {"writing": True}
_HEADER = b"SQLite format 3\x00"


def now() -> str:
    """Return the present time as ISO 8601 UTC text to the second."""
    return as_stored(datetime.now(UTC))


def as_stored(at: datetime) -> str:
    """Return a time in UTC as it is stored: ISO 8601 to the second."""
    return at.strftime("%Y-%m-%dT%H:%M:%SZ")


def open_engine(path: Path) -> Engine:
    """Return an engine on the SQLite file at `path`, migrated; its folder is made if missing.

    Raises `StoreRefused` for a file that cannot be used, saying why and what to do.
    """
    _require_usable(path)
    _require_ours(path)
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": _BUSY_S})

    @event.listens_for(engine, "connect")
    def _pragmas(connection: Any, _record: Any) -> None:
        connection.isolation_level = None  # transactions begin where it is said below, and nowhere else
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.execute("PRAGMA synchronous=FULL")
        cursor.close()

    @event.listens_for(engine, "begin")
    def _begin(connection: Connection) -> None:
        writing = connection.get_execution_options().get("writing")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if writing else "BEGIN")

    try:
        migrate(engine, path)
    except DatabaseError as e:
        engine.dispose()
        raise StoreRefused.of(e, path) from e
    except StoreRefused:
        engine.dispose()
        raise
    return engine


def _require_usable(path: Path) -> None:
    if path.is_dir():
        raise StoreRefused(f"{path} is a folder.", "Name a file in it, such as vessel.sqlite3.")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as e:
        raise StoreRefused(f"The folder {path.parent} cannot be made: {e.strerror}.", "Name another folder.") from e
    if not os.access(path if path.exists() else path.parent, os.W_OK) or not os.access(path.parent, os.W_OK):
        raise StoreRefused(
            f"{path} cannot be written.", "Vessel writes beside it too: allow it to write the file and its folder."
        )
    if path.exists() and path.stat().st_size:
        with path.open("rb") as file:
            if file.read(len(_HEADER)) != _HEADER:
                raise StoreRefused(f"{path} is not a database.", "Name another file; this one was not touched.")


def _require_ours(path: Path) -> None:
    """Refuse another program's database, or a newer Vessel's, before anything of it is touched."""
    if not path.exists() or not path.stat().st_size:
        return
    try:
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=rw", uri=True, timeout=_BUSY_S)) as db:
            tables = {name for (name,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            ours = "alembic_version" in tables
            here = db.execute("SELECT version_num FROM alembic_version").fetchone() if ours else None
    except sqlite3.Error as e:
        raise StoreRefused.of(e, path) from e
    if tables and not ours:
        raise StoreRefused(
            f"{path} belongs to another program: it has tables that are not Vessel's.",
            "Name another file; this one was not touched.",
        )
    newest = _scripts().get_current_head()
    if here is not None and here[0] not in revisions():
        raise StoreRefused(
            f"{path} was written by a newer Vessel (its tables are of {here[0]}, this Vessel knows {newest}).",
            "Update Vessel, or restore a backup from before. The file was not touched.",
        )


@cache
def _scripts() -> ScriptDirectory:
    return ScriptDirectory(str(MIGRATIONS))


def revisions() -> list[str]:
    """Return the revisions of the tables there have been, oldest first."""
    return [s.revision for s in reversed(list(_scripts().walk_revisions()))]


def begin_writing(db: Session) -> None:
    """Begin the session's transaction with the write lock; it waits for those that write before it."""
    db.connection(execution_options=_WRITING)


def migrate(engine: Engine, path: Path) -> None:
    """Bring the database to the newest revision, in one transaction; what is in it is copied beside it first."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    newest = _scripts().get_current_head() or ""
    with engine.connect().execution_options(**_WRITING) as connection, connection.begin():
        here = MigrationContext.configure(connection).get_current_revision()
        if here == newest:
            return
        if here is not None:
            back_up(path, before_migration(path, newest))
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
    with engine.connect() as connection:
        fold_in(connection)


def fold_in(connection: Connection) -> None:
    """Move what is in the write-ahead log into the file itself, so that a copy of the file is whole."""
    raw: Any = connection.connection.dbapi_connection
    raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def close(engine: Engine) -> None:
    """Fold the log into the file and close it; whoever else has it open keeps it."""
    try:
        with engine.connect() as connection:
            fold_in(connection)
    except (DatabaseError, sqlite3.Error):
        pass  # somebody writes just now: the log stays beside the file, as after a power cut
    engine.dispose()


def sessions(engine: Engine) -> sessionmaker[Session]:
    """Return the session factory."""
    return sessionmaker(engine, expire_on_commit=False)
