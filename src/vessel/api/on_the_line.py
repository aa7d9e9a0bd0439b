"""What is refused of a place along a line, and of steps ticked before others."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.base.errors import BadInput
from vessel.core.text.figures import show_length
from vessel.formats.loaded_job import LoadedLine

_FAR = 1.5  # times the line's length: an entered length may be that wrong


def require_on_line(line: LoadedLine, at_m: float, *, field: str, doing: str) -> None:
    """Refuse a place [m] beyond the end of a line; `doing`: what is done there, as `Connect`."""
    length, units = line.row.length_m, line.job.units
    if at_m > length:
        raise BadInput(
            f"{show_length(at_m, units)} is beyond the line's {show_length(length, units)}.",
            field=field,
            fix=f"{doing} somewhere on the line, or first make the line longer.",
        )


def refuse_far_beyond(line: LoadedLine, at_m: float) -> None:
    """Refuse an entry at a distance [m] far beyond the end of a line."""
    length, units = line.row.length_m, line.job.units
    if at_m > _FAR * length:
        raise BadInput(
            f"{show_length(at_m, units)} is far beyond the line's {show_length(length, units)}.",
            field="distance",
            fix="Correct the distance, or first make the line longer.",
        )


def require_steps(done: Sequence[str], steps: Sequence[str]) -> None:
    """Refuse steps that there are not, and any before the first, which protects."""
    if not set(done) <= set(steps) or (done and steps[0] not in done):
        raise BadInput("The steps are out of order.", field="steps_done", fix="Tick them from the first.")
