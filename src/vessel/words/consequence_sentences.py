"""What a change would do to stations and marks, in words."""

from __future__ import annotations

from vessel.core.text.figures import counted


def changed_text(changed: int, stations: int) -> str:
    """Return how many stations would have another verdict."""
    return f"{changed} of {counted(stations, 'station')} would have another verdict."


def nothing_text(stations: int) -> str:
    """Return that no verdict would change."""
    return "Every station keeps its verdict." if stations else "No station has been taken yet."


def marks_text(marked: int, worse: int) -> str:
    """Return what becomes of the marks that stand on changed stations; `worse`: no longer proved; empty for none."""
    if not marked:
        return ""
    on = f"{counted(marked, 'mark')} {'stands' if marked == 1 else 'stand'} on them"
    if not worse:
        return f"{on}. Paint and record stay as they are."
    one = worse == 1
    which = "it" if one and marked == 1 else f"{worse} of them"
    return (
        f"{on}; {which} would no longer be proved. A mark stays until you withdraw it: on the Mark page, with the "
        "reason. Check the paint on the ground."
    )
