"""The example of an adapter: plain columns, separated by commas, under a first line that names them."""

from __future__ import annotations

import csv
from collections.abc import Callable, Iterator
from datetime import datetime

from pydantic import ValidationError

from vessel.instruments.messages import Known, message_of

MAPPING = {
    "frequency": "freq_hz",
    "freq": "freq_hz",
    "depth": "depth_m",
    "current": "ma",
    "ma": "ma",
    "gain": "gain_db",
    "signal": "level",
    "level": "level",
    "compass": "heading_deg",
    "serial": "serial",
    "time": "time",
}
"""What a column's name, in small letters, is called in a receiver's message."""
_WORDS = ("serial", "time")


def columns(pieces: Iterator[bytes], _now: Callable[[], datetime]) -> Iterator[Known]:
    """Yield a receiver's message for every row; rows that are none are left out."""
    names: list[str] = []
    for row in csv.reader(_lines(pieces)):
        if not names:
            names = [MAPPING.get(cell.strip().lower(), "") for cell in row]
            continue
        said = {n: cell.strip() for n, cell in zip(names, row, strict=False) if n and cell.strip()}
        try:
            figures = {k: v if k in _WORDS else float(v) for k, v in said.items()}
            yield message_of({"kind": "receiver", **figures})
        except (ValueError, ValidationError):
            continue


def _lines(pieces: Iterator[bytes]) -> Iterator[str]:
    rest = b""
    for piece in pieces:
        *whole, rest = (rest + piece).split(b"\n")
        for line in whole:
            yield line.decode(errors="replace").rstrip("\r")
