"""The picture under a site plan: take it in, place it by two points, show it, remove it."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Depends, Response

from vessel.api.background.forms import FadeForm, PictureForm, PlacingForm
from vessel.api.background.present import background_view, standing
from vessel.api.background.views import BackgroundView
from vessel.api.requests import REFUSALS, Created, Db, Saving, get, load_job
from vessel.api.striking import Why, restore, strike
from vessel.core.base.errors import Conflict
from vessel.formats.background_doc import laid_out
from vessel.formats.pictures import Picture, taken_in
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import BackgroundRow, JobRow

router = APIRouter(prefix="/api", tags=["background"], responses=REFUSALS)
_IMAGE: dict[int | str, dict[str, Any]] = {
    200: {"content": {"image/png": {}, "image/jpeg": {}}, "description": "The picture"}
}


def taken(form: PictureForm) -> tuple[PictureForm, Picture]:
    """Return a picture made ready: before the write lock is taken, for it takes a while."""
    return form, taken_in(form.data())


@router.post("/jobs/{job_id}/backgrounds", status_code=201)
def add_background(job_id: int, sent: Annotated[tuple[PictureForm, Picture], Depends(taken)], db: Saving) -> Created:
    """Take a picture in; the one before is struck out."""
    form, picture = sent
    job = get(db, JobRow, job_id, "job")
    before = standing(job)
    if before is not None:
        strike(db, before, "Replaced by another picture")
    row = BackgroundRow(
        job_id=job.id,
        name=form.name or "Plan",
        media=picture.media,
        width_px=picture.size_px[0],
        height_px=picture.size_px[1],
        image=picture.data,
        pins=[],
        fade="half",
        typed={},
        note="",
        technician=entered_by(db, form.technician, job),
        taken_at=now(),
        deleted_at=None,
    )
    job.backgrounds.append(row)
    db.flush()
    return Created(id=row.id)


@router.put("/backgrounds/{background_id}")
def place_background(background_id: int, form: PlacingForm, db: Saving) -> BackgroundView | None:
    """Place a picture by two points; raises before anything is stored if they place it nowhere."""
    row = get(db, BackgroundRow, background_id, "background")
    job = load_job(db, row.job_id)
    with db.no_autoflush:
        row.pins, row.typed, row.fade = form.pins(job), form.typed(), form.fade
        laid_out(row)
    db.flush()
    return background_view(job.row)


@router.put("/backgrounds/{background_id}/fade")
def fade_background(background_id: int, form: FadeForm, db: Saving) -> BackgroundView | None:
    """Draw a picture fainter or stronger."""
    row = get(db, BackgroundRow, background_id, "background")
    row.fade = form.fade
    db.flush()
    return background_view(get(db, JobRow, row.job_id, "job"))


@router.get("/backgrounds/{background_id}/image", response_class=Response, responses=_IMAGE)
def image(background_id: int, db: Db) -> Response:
    """Return the picture; the one of an id never changes."""
    row = get(db, BackgroundRow, background_id, "background", removed=True)
    return Response(row.image, media_type=row.media, headers={"Cache-Control": "private, max-age=31536000, immutable"})


@router.delete("/backgrounds/{background_id}", status_code=204)
def strike_background(background_id: int, db: Saving, why: Why = "") -> None:
    """Take the picture off the plan; it stays on record with the reason, and can be restored."""
    strike(db, get(db, BackgroundRow, background_id, "background"), why)


@router.post("/backgrounds/{background_id}/restore", status_code=204)
def restore_background(background_id: int, db: Saving) -> None:
    """Put a picture that was removed under the plan again."""
    row = get(db, BackgroundRow, background_id, "background", removed=True)
    if standing(get(db, JobRow, row.job_id, "job")) not in (None, row):
        raise Conflict("Another picture is under this plan.", fix="Remove that one first.")
    restore(row)
