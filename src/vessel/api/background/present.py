"""The picture under a site plan as a view."""

from __future__ import annotations

from typing import cast

from vessel.api.background.views import BackgroundView, PinView
from vessel.core.text.units import Units
from vessel.formats.background_doc import Fade, laid_out
from vessel.store.tables import BackgroundRow, JobRow
from vessel.words.background_sentences import laid_text


def standing(job: JobRow) -> BackgroundRow | None:
    """Return the picture under the plan of a job, None if it has none."""
    return next((b for b in reversed(job.backgrounds) if b.deleted_at is None), None)


def background_view(job: JobRow) -> BackgroundView | None:
    """Return the picture under the plan of a job."""
    row = standing(job)
    if row is None:
        return None
    found = laid_out(row)
    return BackgroundView(
        id=row.id,
        name=row.name,
        path=f"api/backgrounds/{row.id}/image",
        width_px=row.width_px,
        height_px=row.height_px,
        fade=cast(Fade, row.fade),
        pins=[
            PinView(x=pin[0], y=pin[1], at=row.typed.get(name, ""))
            for pin, name in zip(row.pins, ("first", "second"), strict=False)
        ],
        corners=None if found is None else found.corners,
        text="" if found is None else laid_text(found, cast(Units, job.units)),
    )
