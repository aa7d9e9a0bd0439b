"""What all tables of the store have in common: their base, what is taken on site, columns made of a table of fields."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import JSON, Boolean, Double, Integer, MetaData, String
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from vessel.core.model.entry_fields import EntryField

Json = dict[str, Any]


class Base(DeclarativeBase):
    """Base of all tables, with named constraints so that migrations can address them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = dict.fromkeys(
        (Json, list[Json], list[float], list[str], list[list[float]], list[list[float | None]]), JSON
    )


class TakenOnSite:
    """What every entry taken on site has: a note, who and when, and who struck it out, when and why."""

    note: Mapped[str]
    technician: Mapped[str]
    taken_at: Mapped[str]
    deleted_at: Mapped[str | None]
    struck_by: Mapped[str | None]
    struck_why: Mapped[str | None]


_TYPES: dict[str, tuple[Any, Any]] = {
    "number": (Double(), None),
    "numbers": (JSON(), list),
    "pairs": (JSON(), list),
    "beside": (JSON(), list),
    "tick": (Boolean(), False),
}
"""SQL type and default of each shape that is not a choice."""


def _column_of(f: EntryField) -> Any:
    if f.shape == "choice":
        kind: Any = Integer() if isinstance(f.nothing, int) else String()
        return mapped_column(kind, nullable=False, default=f.nothing)
    kind, default = _TYPES[f.shape]
    return mapped_column(kind, nullable=f.shape == "number" and not f.required, default=default)


def with_columns(row: type[Base], fields: Sequence[EntryField]) -> None:
    """Give a table the columns of its fields that it does not have."""
    for field in fields:
        if not hasattr(row, field.column):
            setattr(row, field.column, _column_of(field))
