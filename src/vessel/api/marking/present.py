"""The local rule of marking as a view."""

from __future__ import annotations

from vessel.api.catalogue.views import UtilityView
from vessel.api.marking.views import LookView, MarkingView
from vessel.core.model.marking import PATTERNS, USUAL_TOLERANCE_M, Marking
from vessel.core.model.utility import UTILITIES
from vessel.core.text.figures import show_length
from vessel.core.text.units import FOOT_M
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.marking_doc import marking_doc


def utility_view(name: str, marking: Marking) -> UtilityView:
    """Return one entry of the marking table as a local rule has it."""
    u = marking.utility(name)
    return UtilityView(id=name, label=u.label, colour=u.colour, hex=u.hex, letter=u.letter, pattern=u.pattern)


def marking_view(job: LoadedJob) -> MarkingView:
    """Return how a job marks every kind of line."""
    rule, doc, units, usual = job.marking, marking_doc(job.row), job.units, Marking()
    in_unit = rule.tolerance_m if units == "metric" else rule.tolerance_m / FOOT_M
    return MarkingView(
        job_id=job.row.id,
        looks=[
            LookView(
                id=key,
                label=UTILITIES[key].label,
                now=utility_view(key, rule),
                usual=utility_view(key, usual),
                own=key in rule.looks,
            )
            for key in UTILITIES
        ],
        patterns=list(PATTERNS),
        tolerance_typed=f"{round(in_unit, 3):g}",
        tolerance_text=show_length(rule.tolerance_m, units, fine=True),
        usual_tolerance_text=show_length(USUAL_TOLERANCE_M, units, fine=True),
        source=rule.source,
        by=doc.by,
        at=doc.at,
    )
