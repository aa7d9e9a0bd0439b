"""Backups of the database: what there is, and one made now."""

from __future__ import annotations

from pathlib import Path

from fastapi import APIRouter, Request
from pydantic import BaseModel

from vessel.api.requests import REFUSALS
from vessel.core.base.errors import Conflict
from vessel.store.backup import KEPT_DAILY, Backup, back_up, backups_of, by_hand, folder_of
from vessel.store.database import as_stored
from vessel.store.unusable import StoreRefused
from vessel.words.backup_sentences import kept_text, size_text, why_text

router = APIRouter(prefix="/api/backups", tags=["backups"], responses=REFUSALS)


class BackupView(BaseModel):
    """A backup: its file, when it was made, why, and how large it is."""

    name: str
    made_at: str
    why: str
    size_text: str


class BackupsView(BaseModel):
    """The backups of the database, newest first, and where they are."""

    folder: str
    text: str
    backups: list[BackupView]


def _view(b: Backup) -> BackupView:
    return BackupView(name=b.path.name, made_at=as_stored(b.made_at), why=why_text(b.why), size_text=size_text(b.size))


def _all(database: Path) -> BackupsView:
    found = backups_of(database)
    return BackupsView(
        folder=folder_of(database).name, text=kept_text(len(found), KEPT_DAILY), backups=[_view(b) for b in found]
    )


@router.get("")
def backups(request: Request) -> BackupsView:
    """Return the backups of the database."""
    return _all(request.app.state.database)


@router.post("", status_code=201)
def make_backup(request: Request) -> BackupsView:
    """Make a backup now."""
    database: Path = request.app.state.database
    try:
        back_up(database, by_hand(database))
    except (StoreRefused, OSError) as e:
        raise Conflict(f"No backup was made: {e}", fix="Make room on the disk, or back up elsewhere.") from e
    return _all(database)
