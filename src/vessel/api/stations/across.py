"""Across the line at one place as a view: the forecast field, or what was read and fitted."""

from __future__ import annotations

import numpy as np

from vessel.api.job_answers import (
    across_of,
    profile_of,
)
from vessel.api.stations.views import AcrossPoint, AcrossView, BelowView
from vessel.core.judge.across.conductor_fit import Conductor, field_across
from vessel.core.text.figures import show_length, show_ma, show_station
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedSetup, LoadedStation
from vessel.words.across_sentences import across_step, across_text, forecast_text

_CURVE = 161


def profile_view(s: LoadedStation) -> AcrossView | None:
    """Return the readings across the line at a station with what was fitted to them, None without any."""
    found, units = profile_of(s), s.setup.job.units
    if found is None:
        return None
    fit, low = found.fit, s.setup.job.kit.receiver.low_m
    reach = 1.15 * max(abs(p.offset_m) for p in found.points)
    offsets = np.linspace(-reach, reach, _CURVE)
    conductors = [(c.offset_m, c.depth_m, c.current_a) for c in fit.conductors]
    horizontal, vertical = field_across(offsets, conductors, low_m=low)
    greatest = float(max(horizontal.max(), 1e-30))
    return AcrossView(
        title=f"Across the line as read at {show_station(s.row.distance_m, units)}",
        offsets_m=offsets.tolist(),
        horizontal=(horizontal / greatest).tolist(),
        vertical=(vertical / greatest).tolist(),
        peak_m=fit.peak_m,
        null_m=fit.null_m,
        below=[
            BelowView(
                name="fitted" if k == 0 else "another line",
                target=k == 0,
                offset_m=c.offset_m,
                depth_m=c.depth_m,
                current_text=_fitted_text(k, c, fit.conductors[0], scaled=found.scaled, units=units),
            )
            for k, c in enumerate(fit.conductors)
        ],
        points=[AcrossPoint(offset_m=p.offset_m, share=p.horizontal_t / greatest) for p in found.points],
        text=across_text(found, units),
        next_step=across_step(found),
    )


def _fitted_text(k: int, c: Conductor, first: Conductor, *, scaled: bool, units: Units) -> str:
    deep = show_length(c.depth_m, units, fine=True)
    if scaled:
        return f"{show_ma(abs(c.current_a))}, {deep}"
    return deep if k == 0 else f"{100 * abs(c.current_a) / abs(first.current_a):.0f}\u00a0% of it, {deep}"


def across_view(setup: LoadedSetup, at_m: float) -> AcrossView:
    """Return the forecast across the line at one place."""
    units = setup.job.units
    found = across_of(setup, at_m)
    greatest = float(max(found.horizontal_t.max(), 1e-30))
    return AcrossView(
        title=f"Across the line at {show_station(at_m, units)}",
        offsets_m=found.offsets_m.tolist(),
        horizontal=(found.horizontal_t / greatest).tolist(),
        vertical=(found.vertical_t / greatest).tolist(),
        peak_m=found.peak_m,
        null_m=found.null_m,
        points=[],
        next_step="",
        below=[
            BelowView(
                name=b.name or setup.line.row.name,
                target=b.name is None,
                offset_m=b.offset_m,
                depth_m=b.depth_m,
                current_text=show_ma(b.current_a),
            )
            for b in found.below
        ],
        text=forecast_text(found.peak_m, found.null_m, units),
    )
