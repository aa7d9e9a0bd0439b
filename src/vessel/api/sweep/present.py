"""The first sweep as a view."""

from __future__ import annotations

from typing import Literal

from vessel.api.choices import ChoiceView
from vessel.api.job_answers import (
    circle_of,
    sweep_of,
)
from vessel.api.retyped_text import entry_typed
from vessel.api.striking import struck
from vessel.api.sweep.views import CandidateView, ConcernView, ExpectedView, SweepView
from vessel.core.judge.sweep_verdict import UNSWEPT, Role, SweepVerdict
from vessel.core.model.entry_fields import CANDIDATE_FIELDS
from vessel.core.model.first_sweep import OnCircle
from vessel.formats.adapters import candidate_of
from vessel.formats.loaded_job import LoadedSetup
from vessel.words.sweep_sentences import (
    WAYS,
    circle_text,
    concerns,
    expected_text,
    headline,
    proved_text,
    readings_text,
    role_text,
    warning_text,
    way,
)


def _state(verdict: SweepVerdict, met: int) -> Literal["not_swept", "sure", "doubt", "not_met"]:
    if not met:
        return "not_swept"
    return "sure" if verdict.sure else "not_met" if verdict.target is None else "doubt"


def candidate_role(
    role: Role, expected: tuple[OnCircle, ...], *, chosen: bool
) -> Literal["target", "beside", "unknown", "maybe"]:
    """Return what a centre line is taken for."""
    if chosen:
        return "target"
    if role.crossing is None:
        return "unknown"
    return "maybe" if expected[role.crossing].ours else "beside"


def sweep_view(setup: LoadedSetup) -> SweepView:
    """Return the first sweep of a stored hookup with its verdict."""
    drawn, units = is_drawn(setup), setup.job.units
    circle, verdict = circle_of(setup), sweep_of(setup)
    rows, met = setup.live_candidates, setup.candidates
    most = max((x.current_a[1] for x in circle.expected), default=0.0)
    most = max([most, *(c.current_a or 0.0 for c in met)]) or 1.0
    return SweepView(
        setup_id=setup.row.id,
        line_id=setup.line.row.id,
        state=_state(verdict, len(met)),
        headline=headline(verdict, met, drawn=drawn),
        reason=proved_text(verdict, met, circle.expected, units, drawn=drawn),
        concerns=[ConcernView(text=c.text, do=c.do) for c in concerns(verdict)] if met else [],
        circle_text=circle_text(circle, units, drawn=drawn),
        from_north=drawn,
        ways=[] if drawn else [ChoiceView(id=str(k), label=text) for k, text in WAYS.items()],
        told_beside=len({x.name for x in circle.expected}) > 1,
        expected=[
            ExpectedView(
                name=x.name,
                ours=x.ours,
                bearing_deg=x.bearing_deg,
                share=x.current_a[1] / most,
                text=expected_text(x, units, drawn=drawn),
            )
            for x in circle.expected
        ],
        candidates=[
            CandidateView(
                id=row.id,
                bearing_deg=row.bearing_deg,
                role=candidate_role(role, circle.expected, chosen=k == verdict.target),
                share=(c.current_a or 0.0) / most,
                title=way(c.bearing_deg, c.seen, drawn=drawn),
                readings_text=readings_text(c, units),
                role_text=role_text(role, c, circle.expected, chosen=k == verdict.target),
                note=row.note,
                technician=row.technician,
                taken_at=row.taken_at,
                typed=entry_typed(row, CANDIDATE_FIELDS, units),
            )
            for k, (row, c, role) in enumerate(zip(rows, met, verdict.roles, strict=True))
        ],
        struck=struck(
            setup.row.candidates,
            lambda c: f"{way(c.bearing_deg, c.note, drawn=drawn)}: {readings_text(candidate_of(c), units)}",
        ),
    )


def sweep_headline(setup: LoadedSetup) -> str:
    """Return the verdict on the first sweep of a stored hookup in a sentence."""
    met = setup.candidates
    return headline(sweep_of(setup) if met else UNSWEPT, met, drawn=is_drawn(setup))


def sweep_warning(setup: LoadedSetup) -> str:
    """Return what the first sweep leaves in doubt, empty where it proved the signal to be on the line."""
    met = setup.candidates
    return warning_text(sweep_of(setup) if met else UNSWEPT, met, drawn=is_drawn(setup))


def is_drawn(setup: LoadedSetup) -> bool:
    """Return whether the line of a hookup is on the plan, so that bearings count from north."""
    return setup.line.own is not None
