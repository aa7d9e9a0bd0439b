"""Backups in words."""

from __future__ import annotations

from vessel.core.text.figures import counted

_WHY = {"daily": "Daily", "by-hand": "Made by hand", "before-restore": "Before a restore"}


def why_text(why: str) -> str:
    """Return why a backup was made."""
    return _WHY.get(why, "Before an update of Vessel")


def size_text(size: int) -> str:
    """Return a file's size: `1.2 MB`."""
    return f"{size / 1e6:.1f}\u00a0MB" if size >= 1e5 else f"{size / 1e3:.0f}\u00a0kB"


def kept_text(count: int, most: int) -> str:
    """Return what is kept and for how long."""
    if not count:
        return "No backup yet. Vessel makes one a day while it runs."
    return f"{counted(count, 'backup')}. Vessel makes one a day while it runs and keeps the last {most}."
