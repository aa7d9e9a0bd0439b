"""The walks with the frame of a loaded line, each built on first use and never again."""

from __future__ import annotations

from functools import cached_property
from typing import Any

from vessel.core.model.fault_walk import FaultWalk, FrameReading
from vessel.formats.adapters import fault_walk_of, frame_reading_of


class LoadedWalk:
    """A walk with the frame; `line` and `job` are those of `loaded_job`, which builds on this module."""

    def __init__(self, line: Any, row: Any) -> None:
        self.line, self.row, self.job = line, row, line.job
        self.answers: dict[Any, Any] = {}

    @cached_property
    def walk(self) -> FaultWalk:
        """The walk as core takes it."""
        return fault_walk_of(self.row)

    @property
    def live_readings(self) -> list[Any]:
        """What the frame showed (documents or rows) and was not removed, by distance."""
        return sorted((r for r in self.row.readings if r.deleted_at is None), key=lambda r: float(r.distance_m))

    @cached_property
    def readings(self) -> tuple[FrameReading, ...]:
        """What the frame showed, by distance."""
        return tuple(frame_reading_of(r) for r in self.live_readings)

    @property
    def marks(self) -> list[Any]:
        """The marks (documents or rows) at its faults that were not withdrawn."""
        return [m for m in self.row.marks if m.withdrawn_at is None]

    def check(self) -> None:
        """Refuse what cannot be, in the walk and what was read on it."""
        _ = self.walk
        for r in self.row.readings:
            frame_reading_of(r)
