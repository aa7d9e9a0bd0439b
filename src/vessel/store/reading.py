"""Reading what hangs below rows with one statement a table, however many rows there are."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import Any, cast

from sqlalchemy import Select, inspect, select
from sqlalchemy.orm import QueryableAttribute, RelationshipProperty, Session, lazyload
from sqlalchemy.orm.attributes import set_committed_value

from vessel.store.special_tables import FaultWalkRow, SondeRunRow, StopRow
from vessel.store.table_base import Base
from vessel.store.tables import JobRow, LineRow, SetupRow, StationRow

_BELOW: dict[type[Base], tuple[QueryableAttribute[Any], ...]] = {
    JobRow: (JobRow.lines,),
    LineRow: (LineRow.setups, LineRow.sonde_runs, LineRow.fault_walks),
    SetupRow: (SetupRow.readings, SetupRow.candidates, SetupRow.evidence, SetupRow.stations),
    StationRow: (StationRow.marks,),
    SondeRunRow: (SondeRunRow.stops,),
    StopRow: (StopRow.marks,),
    FaultWalkRow: (FaultWalkRow.readings, FaultWalkRow.marks),
}


def read_below(db: Session, rows: Sequence[Base], ids: Select[Any]) -> None:
    """Read all that hangs below `rows`, all of one table; `ids` selects the ids of exactly those rows."""
    for relation in _BELOW.get(type(rows[0]), ()) if rows else ():
        children = read_children(db, rows, ids, relation)
        below = _relationship(relation)
        child = below.mapper.class_
        read_below(db, children, select(child.id).where(_parent_id(below).in_(ids)))


def read_children(db: Session, rows: Sequence[Base], ids: Select[Any], relation: QueryableAttribute[Any]) -> list[Base]:
    """Read one relation of `rows`, where it is not there yet; return all children."""
    below = _relationship(relation)
    waiting: list[Any] = [r for r in rows if below.key in inspect(r).unloaded]
    if waiting:
        parent = _parent_id(below)
        found = db.scalars(
            select(below.mapper.class_).where(parent.in_(ids)).order_by(*(below.order_by or ())).options(lazyload("*"))
        )
        of = defaultdict(list)
        for child in found:
            of[getattr(child, parent.key)].append(child)
        for row in waiting:
            set_committed_value(row, below.key, of[row.id])
    return [child for row in rows for child in getattr(row, below.key)]


def _relationship(relation: QueryableAttribute[Any]) -> RelationshipProperty[Any]:
    return cast("RelationshipProperty[Any]", relation.property)


def _parent_id(below: RelationshipProperty[Any]) -> Any:
    (column,) = below.remote_side
    return column
