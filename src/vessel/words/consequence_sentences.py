"""What a change would do to stations and marks, in words."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.judge.station.verdict import Verdict
from vessel.core.text.figures import counted
from vessel.words.labels import VERDICT_LABEL

_NAMED = 4  # places named at most


def changed_text(changed: int, stations: int) -> str:
    """Return how many stations would have another verdict."""
    return f"{changed} of {counted(stations, 'station')} would have another verdict."


def verdict_change(was: Verdict, now: Verdict) -> str:
    """Return a change of verdict: `Mark with care → Mark`."""
    return f"{VERDICT_LABEL[was]} → {VERDICT_LABEL[now]}"


def said_text(changes: Sequence[tuple[str, str]]) -> str:
    """Return what (change, place) pairs say in one line: `12 m, 16 m: Mark with care → Mark.`"""
    by: dict[str, list[str]] = {}
    for change, place in changes:
        by.setdefault(change, []).append(place)
    return " ".join(f"{_places(each)}: {change}." for change, each in by.items())


def _places(each: Sequence[str]) -> str:
    more = len(each) - _NAMED
    return ", ".join(each[:_NAMED]) + (f" and {more} more" if more > 0 else "")


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
    them = "it" if one else "them"
    lost = f"{on} and" if worse == marked else f"{on}; {worse} of them"
    return (
        f"{lost} would no longer be proved. Withdraw {them} with the change, or let {them} stand. Either way "
        "check the paint on the ground."
    )


def withdrawn_because(was: Verdict, now: Verdict) -> str:
    """Return why a mark is withdrawn that a change left unproved."""
    return f"Judged again after a change: {VERDICT_LABEL[was]} became {VERDICT_LABEL[now]}."
