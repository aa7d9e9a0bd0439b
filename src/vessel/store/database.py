"""Opening the database: SQLite in WAL mode, migrated to the newest revision."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.orm import Session, sessionmaker

MIGRATIONS = Path(__file__).parent / "migrations"


def now() -> str:
    """Return the present time as ISO 8601 UTC text to the second."""
    return datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def open_engine(path: Path) -> Engine:
    """Return an engine on the SQLite file at `path`, migrated; its folder is made if missing."""
    path.parent.mkdir(parents=True, exist_ok=True)
    engine = create_engine(f"sqlite:///{path}")

    @event.listens_for(engine, "connect")
    def _pragmas(connection: Any, _record: Any) -> None:
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.execute("PRAGMA busy_timeout=5000")
        cursor.close()

    migrate(engine)
    return engine


def begin_writing(connection: Connection) -> None:
    """Take the write lock before anything is read: of processes that start together one migrates, the others wait."""
    connection.exec_driver_sql("BEGIN IMMEDIATE")


def migrate(engine: Engine) -> None:
    """Bring the database to the newest revision."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        begin_writing(connection)
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def sessions(engine: Engine) -> sessionmaker[Session]:
    """Return the session factory."""
    return sessionmaker(engine, expire_on_commit=False)
