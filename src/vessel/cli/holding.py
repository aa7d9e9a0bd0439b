"""One server on one database: a second would go unnoticed until somebody wonders where their entries are."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from vessel.store.unusable import StoreRefused


@contextmanager
def held(database: Path) -> Iterator[None]:
    """Hold the database for this process until the block ends; raise `StoreRefused` if another one does."""
    try:
        import fcntl
    except ImportError:  # no such locks here: nothing is checked
        yield
        return
    database.parent.mkdir(parents=True, exist_ok=True)
    with database.with_name(f"{database.name}.lock").open("a+") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as e:
            file.seek(0)
            by = file.read().strip()
            raise StoreRefused(
                f"{database} is being served already{f', by process {by}' if by else ''}.",
                "Stop that server first, or name another database.",
            ) from e
        file.truncate(0)
        file.write(str(os.getpid()))
        file.flush()
        yield
