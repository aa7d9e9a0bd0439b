"""What the yard's instruments show, with figures as a form takes them."""

from __future__ import annotations

import numpy as np

from vessel.api.practice.views import FaceView, FrameFaceView
from vessel.core.model.drawn_line import left_of
from vessel.core.practice.frame_held import FrameFace, Spiked, Turned, as_read, turned_to
from vessel.core.practice.receiver_held import Face, Held
from vessel.core.text.figures import show_length
from vessel.core.text.units import FOOT_M, Units
from vessel.formats.loaded_job import LoadedLine
from vessel.formats.projection import on_earth


def face_view(
    face: Face,
    held: Held,
    job_units: Units,
    origin: tuple[float, float],
    target: LoadedLine | None,
    coil: tuple[float, float] | None,
) -> FaceView:
    """Return what the receiver shows, with figures as a form takes them; `coil`: where one is on (east, north [m])."""
    latitude, longitude = on_earth(held.at, origin)
    per = 1.0 if job_units == "metric" else FOOT_M
    return FaceView(
        level=face.level,
        null_level=face.null_level,
        side=face.side,
        depth_m=face.depth_m,
        depth="" if face.depth_m is None else f"{face.depth_m / per:.2f}",
        depth_text="" if face.depth_m is None else show_length(face.depth_m, job_units, fine=True),
        current_a=face.current_a,
        milliamps="" if face.current_a is None else f"{1e3 * face.current_a:.3g}",
        direction=face.direction,
        noisy=face.noisy,
        coil=None if coil is None else [*coil],
        along=_along(target, held.at, job_units),
        latitude=latitude,
        longitude=longitude,
    )


def frame_view(face: FrameFace, spiked: Spiked, target: LoadedLine | None, units: Units) -> FrameFaceView:
    """Return what the frame shows, with figures as a form takes them."""
    drawn = None if target is None else target.drawn_as
    turned: Turned = ""
    if drawn is not None:
        left = left_of(drawn, np.array([drawn.nearest(spiked.at)[0]]))[0]
        turned = turned_to(spiked.heading_deg, (float(left[1]), -float(left[0])))
    reads = as_read(face.points, turned)
    return FrameFaceView(
        points=face.points,
        level=f"{face.level:g}",
        turned=turned,
        along=_along(target, spiked.at, units),
        arrow=reads.arrow,
        across=reads.across,
    )


def _along(target: LoadedLine | None, at: tuple[float, float], units: Units) -> str:
    """How far along the target as drawn a place is, as a form takes it."""
    drawn = None if target is None else target.drawn_as
    return "" if drawn is None else f"{drawn.nearest(at)[0] / (1.0 if units == 'metric' else FOOT_M):.2f}"
