"""Where on the screen the next step of a station is taken: one place for each cause."""

from __future__ import annotations

from typing import Literal

from vessel.core.judge.station.verdict import Judgement

Where = Literal["", "identity", "correct", "help", "hookup", "sweep"]
"""Answer which line it is; correct this station; compare setups; go to the hookup or the sweep; empty: walk on."""

_BY_RULE: dict[str, Where] = {
    "frequency": "hookup",
    "loop": "hookup",
    "current_low": "hookup",
    "guidance": "sweep",
    "direction": "sweep",
    "signal": "help",
    "told": "help",
    "between": "help",
    "neighbour": "help",
    "peak_null": "help",
    "explained": "help",
    "symmetry": "help",
    "surplus": "identity",
    "steady": "correct",
    "gain": "correct",
}
_LINE_OPEN = ("shown", "identity", "aside")


def where_next(j: Judgement, *, asks: bool, shown: bool) -> Where:
    """Return where the next step is taken; `asks`: what would show the line is known; `shown`: it is shown already."""
    if j.verdict == "mark" or not j.deciding:
        return ""
    first = j.deciding[0]
    if first.rule.id in _LINE_OPEN:
        if asks:
            return "identity"
        # a line that is shown lacks depth alone: readings across; else nothing that can be asked for would help
        return "correct" if shown and first.rule.id == "identity" else ""
    if first.value is None:  # a reading that is missing: the hookup's own are entered there
        return "hookup" if first.rule.id in ("frequency", "loop") else "correct"
    return _BY_RULE.get(first.rule.id, "")
