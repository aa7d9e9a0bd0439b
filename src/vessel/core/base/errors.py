"""The small tree of errors that core raises; one place in the API turns them into HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal


class VesselError(Exception):
    """Anything Vessel refuses.

    Core says which refusal it is and with what figures; `words.refusals` makes the sentence, in the user's units. Above
    the words, who raises may say it at once: then `what` is the message and `fix` how to put it right.

    Attributes:
        code: Stable name of the kind of refusal.
        what: Id of the refusal, or its message.
        field: Name of the field concerned.
        fix: How to put it right, if `what` is a message.
        facts: What the sentence is made of; SI units.
        units: The user's system of units, as far as whoever passes it on knows.
    """

    code = "refused"

    def __init__(self, what: str, *, field: str = "", fix: str = "", **facts: Any) -> None:
        super().__init__(what)
        self.what = what
        self.field = field
        self.fix = fix
        self.facts = facts
        self.units: Literal["metric", "imperial"] = "metric"

    def __str__(self) -> str:
        return _voice[0](self)


def _bare(e: VesselError) -> str:
    """The refusal without words: its id and its facts."""
    return f"{e.what} {e.facts}" if e.facts else e.what


_voice: list[Callable[[VesselError], str]] = [_bare]


def spoken_by(voice: Callable[[VesselError], str]) -> None:
    """Let refusals be printed in words.

    Args:
        voice: Returns the sentence of a refusal.
    """
    _voice[0] = voice


class BadInput(VesselError):
    """A value that cannot be taken as it stands."""

    code = "bad_input"


class Doubtful(BadInput):
    """A value that can hardly be: it is kept only if that is insisted on, and then not used."""

    code = "doubtful"


class OutOfRange(VesselError):
    """A value outside the range the model is valid for."""

    code = "out_of_range"


class NotFound(VesselError):
    """Something asked for does not exist."""

    code = "not_found"


class Conflict(VesselError):
    """The request contradicts what is on record."""

    code = "conflict"


def require_range(value: float, *, low: float, high: float, field: str, name: str, unit: str) -> float:
    """Return `value` if it lies in a range.

    Args:
        value: The figure to check; NaN is refused.
        low: Least value allowed.
        high: Greatest value allowed.
        field: Name of the field a refusal is to name.
        name: What the figure is, for the message.
        unit: Its unit, for the message; may be empty.

    Returns:
        `value` itself.

    Raises:
        OutOfRange: If it is outside; names the field and the limits.
    """
    if not low <= value <= high:  # also refuses NaN
        raise OutOfRange("out_of_range", field=field, name=name, value=value, low=low, high=high, unit=unit)
    return value
