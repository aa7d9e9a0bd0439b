"""The order of work as a view."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.api.job_answers import (
    order_of,
    plan_of,
)
from vessel.api.work.views import LineWorkView, PieceView, SchoolPickView, VisitView, WorkView
from vessel.core.model.line import Line
from vessel.core.plan.frequency_order import SCHOOLS
from vessel.core.plan.work_order import Order, Remaining
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.text.figures import show_length
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.words.labels import SCHOOL_LABEL
from vessel.words.option_sentences import cautions, reason
from vessel.words.sonde_sentences import NO_METAL_FOR_SONDE
from vessel.words.transmitter_sentences import transmitter_text
from vessel.words.work_sentences import (
    place_text,
    remaining_text,
    rule_out_text,
    school_text,
    setup_words,
    stretch_text,
    total_text,
)


def _pieces(line: Line, stretches: Sequence[tuple[float, float]]) -> list[PieceView]:
    if line.course is None:
        return []
    return [PieceView(corners=list(line.course.drawn.between(a, b))) for a, b in stretches]


def _visit(order: Order, k: int, rows: Sequence[LoadedLine]) -> VisitView:
    visit = order.visits[k]
    row, option = rows[visit.line], visit.option
    line, units, names = row.line, row.job.units, [r.row.name for r in rows]
    u, s, hookup = row.utility, option.setup, hookup_on(line, option.setup)
    drawn = line.course is not None
    shown = sorted({transmitter_text(f.output) for f in option.forecasts})
    return VisitView(
        number=k + 1,
        line_id=row.row.id,
        line_name=row.row.name,
        letter=u.letter,
        hex=u.hex,
        hookup=s.method,
        place_text=place_text(option, units),
        setup_text=setup_words(s),
        proves_text=f"{show_length(visit.proved_m, units)}: {stretch_text(visit.stretches, units)}",
        transmitter_text=" or ".join(shown),
        walk_text="" if visit.walk_m is None else f"{show_length(visit.walk_m, units)} walk",
        rule_out=rule_out_text(visit, k, order, names),
        reason=reason(option, line, units),
        cautions=cautions(option, line, row.job.kit, units),
        at=hookup.coil_at if drawn else None,
        stake_at=hookup.stake_at if drawn and s.by.connects else None,
        coil_heading_deg=hookup.coil_heading_deg,
        pieces=_pieces(line, visit.stretches),
        freq_hz=s.freq_hz,
        output_a=s.output_a,
        position_m=s.position_m,
    )


def _line(row: LoadedLine, k: int, order: Order) -> LineWorkView:
    plan, line, u, units = plan_of(row), row.line, row.utility, row.job.units
    left: Remaining | None = next((r for r in order.remaining if r.line == k), None)
    visits = [v for v in order.visits if v.line == k]
    proved = sum(v.proved_m for v in visits)
    return LineWorkView(
        line_id=row.row.id,
        name=row.row.name,
        letter=u.letter,
        hex=u.hex,
        proved_m=proved,
        wanted_m=plan.wanted_m,
        proved_text=f"{show_length(proved, units)} of {show_length(plan.wanted_m, units)}",
        none_proves_it=not visits,
        schools=[
            SchoolPickView(id=s, label=SCHOOL_LABEL[s], text=text, will_do=does)
            for s in SCHOOLS
            for text, does in [school_text(plan, s, units)]
        ],
        remaining="" if left is None else remaining_text(left, units, whole=not visits),
        missing=[] if left is None else _pieces(line, left.stretches),
    )


def _without_metal(row: LoadedLine) -> LineWorkView:
    units = row.job.units
    wanted = sum(b - a for a, b in row.wanted_m)
    u, whole = row.utility, show_length(wanted, units)
    return LineWorkView(
        line_id=row.row.id,
        name=row.row.name,
        letter=u.letter,
        hex=u.hex,
        proved_m=0.0,
        wanted_m=wanted,
        proved_text=f"{show_length(0.0, units)} of {whole}",
        none_proves_it=True,
        schools=[],
        remaining=NO_METAL_FOR_SONDE.format(name="It"),
        missing=[PieceView(corners=[(x, y) for x, y in row.row.route])] if row.row.route else [],
    )


def work_view(job: LoadedJob) -> WorkView:
    """Return the order of work of a job."""
    units, rows = job.units, job.lines
    with_metal = [row for row in rows if row.has_metal]
    order = order_of(with_metal) if with_metal else Order((), ())
    visits = [_visit(order, k, with_metal) for k in range(len(order.visits))]
    lines = [_line(row, with_metal.index(row), order) if row.has_metal else _without_metal(row) for row in rows]
    walked = sum(v.walk_m or 0.0 for v in order.visits)
    proved, wanted = sum(x.proved_m for x in lines), sum(x.wanted_m for x in lines)
    return WorkView(
        job_id=job.row.id,
        school=job.drawing.school,
        visits=visits,
        lines=lines,
        total_text=total_text(len(visits), proved, wanted, walked, units),
    )
