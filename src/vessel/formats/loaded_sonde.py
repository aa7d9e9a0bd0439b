"""The sonde runs of a loaded line, each built on first use and never again."""

from __future__ import annotations

from functools import cached_property
from typing import Any

from vessel.core.model.sonde import SondeRun, SondeStop
from vessel.formats.adapters import sonde_run_of, stop_of


class LoadedRun:
    """A sonde run of a loaded line; `line` and `job` are those of `loaded_job`, which builds on this module."""

    def __init__(self, line: Any, row: Any) -> None:
        self.line, self.row, self.job = line, row, line.job
        self.answers: dict[Any, Any] = {}
        self._stops: dict[int, LoadedStop] = {}

    @cached_property
    def run(self) -> SondeRun:
        """The run as core takes it."""
        return sonde_run_of(self.row)

    @property
    def stops(self) -> list[LoadedStop]:
        """The stops that were not removed, by distance along the line."""
        live = (s for s in self.row.stops if s.deleted_at is None)
        return [self.stop(s) for s in sorted(live, key=lambda s: float(s.distance_m))]

    def stop(self, row: Any) -> LoadedStop:
        """Return one of its stops."""
        if id(row) not in self._stops:
            self._stops[id(row)] = LoadedStop(self, row)
        return self._stops[id(row)]

    def check(self) -> None:
        """Refuse what cannot be, in the run and what was read at its stops."""
        _ = self.run
        for s in self.row.stops:
            stop_of(s)


class LoadedStop:
    """A stop of a loaded sonde run."""

    def __init__(self, run: LoadedRun, row: Any) -> None:
        self.run, self.row = run, row
        self.answers: dict[Any, Any] = {}

    @cached_property
    def reading(self) -> SondeStop:
        """What was read there."""
        return stop_of(self.row)

    @property
    def mark(self) -> Any | None:
        """The mark (document or row) that was not withdrawn, None without one."""
        return next((m for m in self.row.marks if m.withdrawn_at is None), None)
