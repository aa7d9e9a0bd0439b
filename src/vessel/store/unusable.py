"""Why the store cannot be used, in words."""

from __future__ import annotations

import sqlite3
from pathlib import Path

from vessel.core.base.errors import VesselError


class StoreRefused(VesselError):
    """The database cannot be used: what is wrong, and what to do."""

    code = "not_stored"

    def __init__(self, what: str, fix: str) -> None:
        super().__init__(what, fix=fix)

    @classmethod
    def of(cls, error: BaseException, path: Path | str = "The database") -> StoreRefused:
        """Return what an error of SQLite means; `error` is the driver's or wraps it."""
        said = str(getattr(error, "orig", None) or error).lower()
        for words, what, fix in _MEANINGS:
            if words in said:
                return cls(what.format(path=path), fix)
        return cls(f"{path} cannot be read: {said}.", "Restore a backup: vessel restore.")


_MEANINGS = (
    (
        "locked",
        "{path} is in use by another program, which does not let go.",
        "Close what has it open, then try again. Nothing was stored.",
    ),
    (
        "full",
        "The disk is full. Nothing of this was stored, and nothing stored before is lost.",
        "Make room, then save again.",
    ),
    (
        "readonly",
        "{path} cannot be written.",
        "Allow Vessel to write the file and its folder, then save again. Nothing was stored.",
    ),
    (
        "unable to open",
        "{path} cannot be opened.",
        "Check that the disk is there and that Vessel may write the file and its folder.",
    ),
    (
        "i/o error",
        "The disk does not answer as it should. Nothing of this was stored.",
        "Check the disk, and make a backup elsewhere: vessel backup.",
    ),
    ("malformed", "{path} is damaged.", "Restore a backup: vessel restore. The damaged file stays beside it."),
    ("not a database", "{path} is damaged.", "Restore a backup: vessel restore. The damaged file stays beside it."),
)


def busy(error: sqlite3.Error | BaseException) -> bool:
    """Return whether an error only says that others are writing."""
    return "locked" in str(getattr(error, "orig", None) or error).lower()
