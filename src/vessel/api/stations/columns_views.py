"""Readings pasted in columns."""

from __future__ import annotations

from pydantic import BaseModel


class ColumnView(BaseModel):
    """One column: its name if it has one, its first cells, and what it is taken to hold, empty for nothing."""

    name: str
    sample: str
    field: str


class ColumnProblem(BaseModel):
    """A line that cannot be taken, and why."""

    line: int
    text: str


class ColumnField(BaseModel):
    """Something a column can hold."""

    id: str
    label: str


class ColumnsView(BaseModel):
    """What was pasted: its columns, how many stations are good, what is wrong with the others.

    `left`: the lines that were not taken, to be corrected; `taken`: how many stations were stored.
    """

    columns: list[ColumnView]
    fields: list[ColumnField]
    good: int
    problems: list[ColumnProblem]
    doubts: list[str]
    taken: int
    left: str
