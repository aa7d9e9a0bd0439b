"""The small tree of errors that core raises; one place in the API turns them into HTTP."""

from __future__ import annotations


class VesselError(Exception):
    """Anything Vessel refuses: a stable code, the field concerned, what is wrong and how to mend it."""

    code = "refused"

    def __init__(self, message: str, *, field: str = "", fix: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field
        self.fix = fix

    def __str__(self) -> str:
        return self.sentence()

    def sentence(self) -> str:
        """Return the message and its fix as one text.

        Returns:
            The message and its fix as one text.
        """
        return f"{self.message} {self.fix}".strip()


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
        shown = f"{value:g}" if value == value else "not a number"
        raise OutOfRange(
            f"{name} is {shown} {unit}.".replace(" .", "."),
            field=field,
            fix=f"Enter a value from {low:g} to {high:g} {unit}.".replace(" .", "."),
        )
    return value
