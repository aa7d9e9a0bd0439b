"""Tables and figures as the document shows them."""

from __future__ import annotations


def percent(value: float) -> str:
    return f"{100 * value:.2g} %"


def table(head: list[str], rows: list[list[str]]) -> list[str]:
    lines = ["| " + " | ".join(head) + " |", "|" + "---|" * len(head)]
    return [*lines, *("| " + " | ".join(row) + " |" for row in rows), ""]
