"""Readings in columns, as any logger writes them: pasted or from a file. Columns are told apart, never guessed at."""

from __future__ import annotations

import csv
import re
from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.base.errors import BadInput
from vessel.core.model.entry_fields import STATION_FIELDS
from vessel.words.column_sentences import backwards_text, mixed_units_text
from vessel.words.entry_labels import label_of

MOST_ROWS = 5000
_NOTE = ("note", "remark", "comment")


def column_fields() -> dict[str, str]:
    """Return what a column can hold, by the field of the station's form; several columns may hold currents."""
    return {**{f.id: label_of(f) for f in STATION_FIELDS if f.headers}, "note": "Note"}


_UNIT = re.compile(r"[a-z'\"′″]", re.IGNORECASE)
_NUMBER = re.compile(r"^\s*-?[\d.,]")


@dataclass(frozen=True)
class Columns:
    """A table of texts: the names of its columns if it has any, and its rows with their line numbers in the text."""

    names: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]

    @property
    def count(self) -> int:
        """How many columns there are."""
        return max([len(self.names), *(len(cells) for _, cells in self.rows)], default=0)


def read_columns(text: str) -> Columns:
    """Return the table in `text`: separated by tabs, semicolons, commas or spaces, with a line of names or without.

    Raises `BadInput` for no row and for too many.
    """
    lines = [(n, line) for n, line in enumerate(text.splitlines(), start=1) if line.strip()]
    if not lines:
        raise BadInput("There is no reading in it.", field="text", fix="Paste one station a line.")
    between = _separator([line for _, line in lines])
    rows = [(n, tuple(_cell(c, between) for c in _split(line, between))) for n, line in lines]
    names: tuple[str, ...] = ()
    if not any(_NUMBER.match(c) for c in rows[0][1]):
        (_, names), *rows = rows
    if not rows:
        raise BadInput("There is no reading below the names.", field="text", fix="Paste one station a line.")
    if len(rows) > MOST_ROWS:
        raise BadInput(
            f"{len(rows)} lines at once.", field="text", fix=f"Paste at most {MOST_ROWS} stations, then the next ones."
        )
    return Columns(names, tuple(rows))


def _separator(lines: Sequence[str]) -> str:
    for mark in ("\t", ";"):
        if mark in lines[0]:
            return mark
    # a comma may also be a decimal point: it separates only where every line has as many of them
    counts = {len(_split(line, ",")) for line in lines}
    return "," if len(counts) == 1 and counts != {1} else " "


def _split(line: str, between: str) -> list[str]:
    return line.split() if between == " " else next(csv.reader([line], delimiter=between, skipinitialspace=True))


def _cell(text: str, between: str) -> str:
    clean = text.strip().strip('"').strip()
    # where commas do not separate they are decimal points
    return re.sub(r"^(\d+),(\d+)", r"\1.\2", clean) if between != "," else clean


def guessed(columns: Columns) -> list[str]:
    """Return what each column may hold by its name, empty where it does not say; only currents may stand twice."""
    found: list[str] = []
    for k in range(columns.count):
        name = columns.names[k].lower() if k < len(columns.names) else ""
        field = _named(name)
        found.append("" if field in found and field != "currents" else field)
    return found


def _named(name: str) -> str:
    """The field that a column's name says most of: `depth lifted` is that, not `depth`."""
    headers = [*((f.id, w) for f in STATION_FIELDS for w in f.headers), *(("note", w) for w in _NOTE)]
    said = [(len(word), field) for field, word in headers if re.search(rf"\b{word}\b", name)]
    return max(said, default=(0, ""))[1]


def doubts(rows: Sequence[tuple[int, dict[str, str]]], distances_m: Sequence[float]) -> list[str]:
    """Return what in columns one would ask about: distances that run backwards, units given in some lines only.

    `rows`: line number and texts of the stations taken, with their `distances_m` [m]. All are kept as they are.
    """
    found = []
    back = [k for k in range(1, len(rows)) if distances_m[k] < distances_m[k - 1]]
    turned = bool(back) and len(back) == len(rows) - 1
    if back and not turned:
        found.append(backwards_text(rows[back[0]][0], len(back) - 1))
    for field, label in column_fields().items():
        texts = [texts[field] for _, texts in rows if field in texts and field not in ("note", "currents")]
        bare, with_unit = (next((t for t in texts if bool(_UNIT.search(t)) == has), None) for has in (False, True))
        if bare is not None and with_unit is not None:
            found.append(mixed_units_text(label, with_unit, bare))
    return found


def station_texts(cells: Sequence[str], mapping: Sequence[str]) -> dict[str, str]:
    """Return one row as the texts of the station's form."""
    texts: dict[str, str] = {}
    for field, cell in zip(mapping, cells, strict=False):
        if field and cell:
            texts[field] = f"{texts[field]} {cell}" if field in texts else cell
    return texts
