"""A hookup as a view: safe order, forecast, readings, diagnosis, where the volts go."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, cast

from vessel.api.hookup.views import (
    CauseView,
    ContinuityView,
    HookupView,
    HypothesisView,
    LoopView,
    PreviewView,
    ReadingView,
    RemediesView,
    RemedyView,
    ShareView,
    StepAnswer,
    StepQuestion,
    StepView,
)
from vessel.api.job_answers import (
    continuity_of,
    judged_of,
    judged_stations,
    loops_of,
    moving_remedies_of,
    remedies_of,
    state_of,
    state_with,
)
from vessel.api.striking import struck
from vessel.core.diagnose.diagnosis import Diagnosis
from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.hookup.loop_verdict import judge_loop
from vessel.core.hookup.proof_ahead import ahead
from vessel.core.hookup.safe_order import Step, checklist, stake_on
from vessel.core.hookup.transmitter_forecast import explained_shares
from vessel.core.model.identity import EVIDENCE
from vessel.core.model.readings import Change, TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.remedies.remedy_search import Remedies, Remedy
from vessel.core.signal.circuit.volt_shares import VoltShare
from vessel.core.text.figures import show_hz, show_length, show_ma
from vessel.core.text.units import FOOT_M, Units
from vessel.formats.adapters import first_counted, reading_of
from vessel.formats.loaded_job import LoadedSetup
from vessel.words.continuity_sentences import continuity_text
from vessel.words.diagnosis_sentences import BESIDE_LABEL, CHANGE_LABEL, cause_remedy, cause_title, explain
from vessel.words.identity_sentences import answer_label
from vessel.words.labels import CASE_LABEL, PAIR_CASE_LABEL, PART_LABEL, method_label
from vessel.words.loop_sentences import loop_advice, loop_headline
from vessel.words.proof_sentences import ahead_text
from vessel.words.refusals import refusal
from vessel.words.remedy_sentences import (
    caution,
    expect_text,
    gain_text,
    headline,
    moving_gain,
    moving_headline,
    moving_title,
    title,
)
from vessel.words.safe_order_sentences import step_text
from vessel.words.station_sentences import carried_text
from vessel.words.transmitter_sentences import limit_text, stake_text, transmitter_text
from vessel.words.work_sentences import setup_text


def shares_view(shares: Sequence[VoltShare]) -> list[ShareView]:
    """Return the volt shares, largest first."""
    ordered = sorted(shares, key=lambda s: -abs(s.volts))
    return [
        ShareView(label=PART_LABEL[s.part], volts=s.volts, text=f"{s.volts:.1f} V".replace("-0.0", "0.0"))
        for s in ordered
    ]


def reading_view(r: Any, s: LoadedSetup, *, counts: bool) -> ReadingView:
    """Return a transmitter reading as a view; `counts`: none after it starts again."""
    wrong = doubt(reading_of(r), s.setup, s.job.kit)
    return ReadingView(
        id=r.id,
        volts_text=f"{r.volts:g} V",
        amps_text=show_ma(r.amps),
        ohms_text=f"{r.volts / r.amps:.0f} ohm",
        freq_text=show_hz(r.freq_hz),
        change_text=CHANGE_LABEL[cast(Change, r.change)] if r.change else "",
        beside_text=BESIDE_LABEL[r.beside] if r.beside else "",
        doubt_text="" if wrong is None else f"Not used: {refusal(wrong)[0]}",
        anew=r.anew,
        counts=counts,
        note=r.note,
        technician=r.technician,
        taken_at=r.taken_at,
    )


def _readings(s: LoadedSetup) -> list[ReadingView]:
    live = s.live_readings
    start = first_counted(live)
    return [reading_view(r, s, counts=k >= start) for k, r in enumerate(live)]


def _where(setup: Setup, units: Units) -> str:
    """Where the clamp or the coil is; nothing of a connection, which is at its access point."""
    if setup.by.touches:
        return ""
    return carried_text(setup, units) or f"{show_length(setup.position_m, units)} along the line"


def hookup_view(loaded: LoadedSetup) -> HookupView:
    """Return a stored hookup as a view."""
    s, line, units = loaded.row, loaded.line.line, loaded.job.units
    setup, state = loaded.setup, state_of(loaded)
    asked = state.diagnosis
    loop = judge_loop(setup.method, state, loaded.job.kit)
    return HookupView(
        id=s.id,
        line_id=s.line_id,
        hookup=setup.method,
        hookup_label=method_label(setup),
        title=setup_text(setup, units),
        freq_hz=s.freq_hz,
        freq_text=show_hz(s.freq_hz),
        output_text=show_ma(s.output_a),
        rx_freq_hz=s.rx_freq_hz,
        rx_freq_text="" if s.rx_freq_hz is None else show_hz(s.rx_freq_hz),
        stake_text=stake_text(line, setup, loaded.job.soil, units),
        stake_side=stake_on(line, setup),
        stake_away_text=show_length(setup.stake.away_m, units),
        stake_away_typed=f"{round(s.stake_away_m if units == 'metric' else s.stake_away_m / FOOT_M, 1):g}",
        stake_ohm_typed="" if s.stake_ohm is None else f"{s.stake_ohm:g}",
        position_text=_where(setup, units),
        technician=s.technician,
        created_at=s.created_at,
        steps=_steps(loaded),
        forecasts=_forecasts(loaded),
        readings=_readings(loaded),
        struck=struck(s.readings, lambda r: f"{r.volts:g} V, {show_ma(r.amps)} at {show_hz(r.freq_hz)}"),
        state=loop.state,
        headline=loop_headline(loop),
        advice=loop_advice(loop),
        asks_far=asked is not None and not asked.told_apart and asked.next_reading.look_far,
        asks_beside=asked is not None and asked.next_reading.beside,
        continuity=_continuity_view(loaded),
        explained=_explained(state.diagnosis, loaded) if state.diagnosis else None,
        hypotheses=_hypotheses(asked, line.length_m, units),
    )


def _steps(loaded: LoadedSetup) -> list[StepView]:
    line, setup, units = loaded.line.line, loaded.setup, loaded.job.units
    return [
        StepView(
            id=x.id,
            text=step_text(x, line, setup, units),
            protects=x.protects,
            part=x.part,
            done=x.id in loaded.row.steps_done if asks is None else asks.given is not None,
            asks=asks,
        )
        for x in checklist(line, setup, bonds_open=loaded.bonds_open)
        for asks in (_question(x, loaded),)
    ]


def _question(step: Step, loaded: LoadedSetup) -> StepQuestion | None:
    if step.asks is None:
        return None
    given = next((e for e in reversed(loaded.live_evidence) if e.kind == step.asks), None)
    return StepQuestion(
        kind=step.asks,
        answers=[StepAnswer(answer=a, label=answer_label(step.asks, a)) for a in EVIDENCE[step.asks].answers],
        given=None if given is None else given.answer,
        evidence_id=None if given is None else given.id,
    )


def _forecasts(loaded: LoadedSetup) -> list[LoopView]:
    label = PAIR_CASE_LABEL if loaded.setup.by.between else CASE_LABEL
    return [
        LoopView(
            title=label[f.far_case],
            text=transmitter_text(f.output),
            limit_text=limit_text(f.output),
            shares=shares_view(f.shares),
        )
        for f in loops_of(loaded)
    ]


def _hypotheses(d: Diagnosis | None, line_m: float, units: Units) -> list[HypothesisView]:
    return [
        HypothesisView(
            cause=h.family.id,
            mended=h.mended,
            title=cause_title(h),
            sentence=explain(h, line_m=line_m, units=units),
            remedy=cause_remedy(h),
            share=h.probability,
            share_text=f"{100 * h.probability:.0f} %",
        )
        for h in (d.hypotheses if d is not None else ())
        if h.probability >= 0.01
    ]


def _explained(d: Diagnosis, s: LoadedSetup) -> LoopView | None:
    last = last_at(s.readings, s.setup.freq_hz)
    if last is None:
        return None
    shares = explained_shares(d.hypotheses[0], s.traced, s.job.soil, s.job.kit, s.setup, read=last)
    return LoopView(
        title=f"As read, if “{cause_title(d.hypotheses[0]).lower()}” is right",
        text=f"{last.volts:g} V, {show_ma(last.amps)}, {last.volts / last.amps:.0f} ohm",
        limit_text="",
        shares=shares_view(shares),
    )


def _continuity_view(s: LoadedSetup) -> ContinuityView | None:
    found = continuity_of(s)
    if found is None:
        return None
    return ContinuityView(
        freq_hz=found.freq_hz, freq_text=show_hz(found.freq_hz), state=found.state, text=continuity_text(found)
    )


def preview_view(s: LoadedSetup, more: TransmitterReading) -> PreviewView:
    """Return what one more reading would say of a stored hookup."""
    setup, kit = s.setup, s.job.kit
    wrong = doubt(more, setup, kit)
    if wrong is not None:
        message, fix = refusal(wrong)
        return PreviewView(state="unexplained", headline=message, advice=fix, doubt_text=message, causes=[])
    state = state_with(s, more)
    loop = judge_loop(setup.method, state, kit)
    likely = state.diagnosis.hypotheses[:3] if state.diagnosis else ()
    return PreviewView(
        state=loop.state,
        headline=loop_headline(loop),
        advice=loop_advice(loop),
        doubt_text="",
        causes=[
            CauseView(title=cause_title(h), share_text=f"{100 * h.probability:.0f} %")
            for h in likely
            if h.probability >= 0.05
        ],
    )


def remedies_view(s: LoadedSetup) -> RemediesView:
    """Return what would help a stored hookup."""
    if s.setup.moving:
        return _moving_remedies_view(s)
    found, units = remedies_of(s), s.job.units
    stations = [(x.row.distance_m, j.verdict) for x, j in judged_stations(s)]
    there = ahead(s.traced, found.now[0].forecast, stations, hookup_m=s.setup.position_m)
    return RemediesView(
        headline=headline(found, units),
        ahead_text=ahead_text(there, judged_of(s).lesson, units),
        helping=[_remedy(r, found, units) for r in found.helping],
        useless=[title(r, units) for r in found.useless],
    )


def _moving_remedies_view(s: LoadedSetup) -> RemediesView:
    found, units = moving_remedies_of(s), s.job.units
    return RemediesView(
        headline=moving_headline(found, units),
        ahead_text="",
        helping=[
            RemedyView(
                kind="apart" if m.freq_hz == found.now.freq_hz else "frequency",
                also=False,
                title=moving_title(m, units),
                gain_text=moving_gain(m, found, units),
                expect_text="",
                caution="",
                hookup=s.setup.method,
                freq_hz=m.freq_hz,
                output_a=m.output_a,
                position_m=s.setup.position_m,
                stake_at=None,
                apart_m=m.apart_m,
            )
            for m in found.helping
        ],
        useless=[moving_title(m, units) for m in found.useless],
    )


def _remedy(r: Remedy, of: Remedies, units: Units) -> RemedyView:
    return RemedyView(
        kind=r.kind,
        also=r.also,
        title=title(r, units),
        gain_text=gain_text(r, of, units),
        expect_text=expect_text(r),
        caution=caution(r),
        hookup=r.setup.method,
        freq_hz=r.setup.freq_hz,
        output_a=r.setup.output_a,
        position_m=r.setup.position_m,
        stake_at=r.setup.stake_at,
        apart_m=None,
    )
