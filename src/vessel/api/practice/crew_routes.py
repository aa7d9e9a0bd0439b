"""What there is to practise, and what each of the crew did."""

from __future__ import annotations

import csv
import io
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from vessel.api.practice.listed import crew_table, practice_view
from vessel.api.practice.views import CrewTable, PracticeView
from vessel.api.requests import REFUSALS, Db
from vessel.store.journal import signed_by

router = APIRouter(prefix="/api", tags=["practice"], responses=REFUSALS)
_STARTS_ON_CELLS = ("=", "+", "-", "@")


@router.get("/practice")
def practice(db: Db, technician: Annotated[str, Query(max_length=200)] = "") -> PracticeView:
    """Return the lessons with a technician's results, and the exercises begun and ended."""
    return practice_view(db, technician or signed_by(db))


@router.get("/practice/crew")
def crew(db: Db) -> CrewTable:
    """Return what each technician of the crew did in the yard."""
    return crew_table(db)


@router.get("/practice/crew.csv", response_class=Response)
def crew_csv(db: Db) -> Response:
    """Return the crew's table as CSV."""
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(["technician", "exercises", "lessons passed", "mean score", "strikes", "last"])
    for r in crew_table(db).rows:
        table.writerow([_cell(r.technician), r.exercises, r.lessons_passed, r.mean_score, r.strikes, r.last_at])
    return Response(
        out.getvalue(),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="practice.csv"'},
    )


def _cell(text: str) -> str:
    """A text that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(_STARTS_ON_CELLS) else text
