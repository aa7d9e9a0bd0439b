"""What pasted columns leave in doubt, in words."""

from __future__ import annotations


def backwards_text(line: int, more: int) -> str:
    """Return what to ask where distances run backwards at a line, and at so many more."""
    others = f" and at {more} more" if more else ""
    return (
        f"Distances run backwards at line {line}{others}: is each one where you took it? They are kept as typed and "
        "shown by distance."
    )


def mixed_units_text(column: str, with_unit: str, bare: str) -> str:
    """Return what to ask where some entries of a column carry a unit and others do not."""
    return f"{column}: some lines carry a unit ({with_unit}) and others do not ({bare}). Each is read as typed."
