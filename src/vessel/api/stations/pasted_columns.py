"""Stations pasted or imported as columns."""

from __future__ import annotations

from bisect import bisect_left, insort

from fastapi import APIRouter
from pydantic import ValidationError

from vessel.api.on_the_line import refuse_far_beyond
from vessel.api.requests import REFUSALS, Db, load_setup, lock, stored
from vessel.api.stations.columns_views import ColumnField, ColumnProblem, ColumnsView, ColumnView
from vessel.api.stations.entry_checks import SAME_STATION_M, same_station
from vessel.api.stations.forms import ColumnsForm, StationForm
from vessel.core.base.errors import BadInput, VesselError
from vessel.formats.adapters import station_of
from vessel.formats.columns import Columns, column_fields, doubts, guessed, read_columns, station_texts
from vessel.formats.loaded_job import LoadedSetup
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import StationRow

router = APIRouter(prefix="/api/setups/{setup_id}/columns", tags=["stations"], responses=REFUSALS)
_SAMPLES = 3


@router.post("")
def columns(setup_id: int, form: ColumnsForm, db: Db) -> ColumnsView:
    """Say how pasted readings are understood; with `store` keep the good ones and give the others back."""
    if form.store:
        lock(db)
    setup = load_setup(db, setup_id)
    table = read_columns(form.text)
    mapping = guessed(table) if form.mapping is None else form.mapping
    _require_known(mapping)
    good, problems, asked = _stations(setup, table, mapping, entered_by(db, "", setup.job.row))
    left = form.text
    if form.store:
        if "distance" not in mapping:
            raise BadInput("No column holds the distance.", field="mapping", fix="Say which one it is.")
        setup.row.stations.extend(good)
        stored(db)
        lines = form.text.splitlines()
        left = "\n".join(lines[p.line - 1] for p in problems)
    return ColumnsView(
        columns=[_column(table, mapping, k) for k in range(table.count)],
        fields=[ColumnField(id=k, label=label) for k, label in column_fields().items()],
        good=len(good),
        problems=problems,
        doubts=asked,
        taken=len(good) if form.store else 0,
        left=left,
    )


def _require_known(mapping: list[str]) -> None:
    for field in mapping:
        if field and field not in column_fields():
            raise BadInput(f"“{field}” is nothing a station has.", field="mapping", fix="Choose from the list.")
        if field and field != "currents" and mapping.count(field) > 1:
            raise BadInput(
                f"Two columns would hold “{column_fields()[field]}”.", field="mapping", fix="Leave one of them out."
            )


def _column(table: Columns, mapping: list[str], k: int) -> ColumnView:
    cells = [row[k] for _, row in table.rows[:_SAMPLES] if k < len(row)]
    return ColumnView(
        name=table.names[k] if k < len(table.names) else f"Column {k + 1}",
        sample=", ".join(cells),
        field=mapping[k] if k < len(mapping) else "",
    )


def _stations(
    setup: LoadedSetup, table: Columns, mapping: list[str], by: str
) -> tuple[list[StationRow], list[ColumnProblem], list[str]]:
    """Return the stations that can be taken, what is wrong with each other line, and what one would ask about."""
    units = setup.job.units
    good, problems = list[StationRow](), list[ColumnProblem]()
    there = [s.row.distance_m for s in setup.stations]
    taken: list[float] = []
    rows: list[tuple[int, dict[str, str]]] = []
    for number, cells in table.rows:
        try:
            texts = station_texts(cells, mapping)
            form = StationForm.model_validate(texts)
            row = StationRow(**form.values(units), technician=by, taken_at=now())
            station_of(row)
            refuse_far_beyond(setup.line, row.distance_m)
            if _close_to(there, row.distance_m):
                raise same_station(row.distance_m, units)
            if _close_to(taken, row.distance_m):
                raise BadInput("Another line above has the same distance.", fix="Keep one of the two.")
        except VesselError as e:
            problems.append(ColumnProblem(line=number, text=str(e)))
        except ValidationError as e:
            problems.append(ColumnProblem(line=number, text=f"{e.errors()[0]['msg']}."))
        else:
            good.append(row)
            rows.append((number, texts))
            insort(taken, row.distance_m)
    return good, problems, doubts(rows, [row.distance_m for row in good])


def _close_to(distances_m: list[float], at_m: float) -> bool:
    """Whether one of sorted distances is the same station."""
    k = bisect_left(distances_m, at_m)
    return any(abs(d - at_m) < SAME_STATION_M for d in distances_m[max(k - 1, 0) : k + 1])
