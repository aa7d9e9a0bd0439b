"""A hookup as a view: safe order, forecast, readings, diagnosis, where the volts go."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, cast

from vessel.api import views
from vessel.api.compute import live_readings, loops_of, state_of, world
from vessel.api.present.plan import CASE_TEXT, transmitter_text
from vessel.core.diagnose.circuit import Diagnosis
from vessel.core.diagnose.wording import advice, explain
from vessel.core.judge.rules import BY_ID
from vessel.core.model.entry import FOOT_M, Units, show_length
from vessel.core.model.kit import show_hz
from vessel.core.model.setup import METHOD_LABEL, Method
from vessel.core.plan.checklist import checklist
from vessel.core.plan.hookup import PART_LABEL, explained_shares
from vessel.core.plan.trace import HookupState
from vessel.core.plan.wording import show_ma
from vessel.core.signal.sources import Output
from vessel.core.signal.stake import stake_ohm
from vessel.core.signal.volts import VoltShare
from vessel.formats.to_core import setup_of
from vessel.store.tables import ReadingRow, SetupRow

_LIMIT = {
    "asked": "The transmitter reaches the current asked for.",
    "volts": "It stops at its volts ceiling, below the current asked for.",
    "watts": "It stops at its power ceiling, below the current asked for.",
}
_SOUND = {"far_earthed", "far_open"}
State = Literal["not_read", "as_forecast", "different", "unexplained", "cannot_tell"]


def setup_text(s: SetupRow) -> str:
    """Return a setup in one phrase: `Direct connection, 35.84 kHz, 30 mA`."""
    return f"{METHOD_LABEL[cast(Method, s.hookup)]}, {show_hz(s.freq_hz)}, {show_ma(s.output_a)}"


def shares_view(shares: Sequence[VoltShare]) -> list[views.ShareView]:
    """Return the volt shares, largest first."""
    ordered = sorted(shares, key=lambda s: -abs(s.volts))
    return [
        views.ShareView(label=PART_LABEL[s.part], volts=s.volts, text=f"{s.volts:.1f} V".replace("-0.0", "0.0"))
        for s in ordered
    ]


def _limit_text(out: Output) -> str:
    return "" if out.volts is None else _LIMIT[out.limited_by]


def reading_view(r: ReadingRow) -> views.ReadingView:
    """Return a transmitter reading as a view."""
    return views.ReadingView(
        id=r.id,
        volts_text=f"{r.volts:g} V",
        amps_text=show_ma(r.amps),
        ohms_text=f"{r.volts / r.amps:.0f} ohm",
        freq_text=show_hz(r.freq_hz),
        note=r.note,
        technician=r.technician,
        taken_at=r.taken_at,
    )


def _verdict_on_loop(state: HookupState, s: SetupRow) -> tuple[State, str, str]:
    """Return (state, headline, advice) for the loop as read."""
    if s.hookup == "induction":
        return (
            "cannot_tell",
            "With induction the transmitter cannot show whether signal is on the line.",
            ("Prove it with the receiver: lift it straight up, the signal must fall smoothly."),
        )
    d = state.diagnosis
    if d is None:
        if live_readings(s):
            return (
                "cannot_tell",
                "The clamp's own current hides what the line takes.",
                ("Prove the current with the receiver a few metres along the line."),
            )
        return "not_read", "Not read yet: the hookup is not proved.", "Enter the volts and milliamps below."
    bound = BY_ID["loop"].care or 0.0
    if d.gap > bound:
        return (
            "unexplained",
            (
                f"Nothing this line can do explains {100 * d.gap:.0f} % difference in ohms: check the reading, the "
                "line and the frequency."
            ),
            "Switch off, go over stake, clip and leads, and read again.",
        )
    lead = d.hypotheses[0]
    likely = lead.family.title
    if lead.family.id in _SOUND and d.told_apart:
        return "as_forecast", f"{likely[0].lower()}{likely[1:]}. Volts and milliamps fit.", lead.family.remedy
    if lead.family.id in _SOUND:
        return "different", f"Most likely: {likely.lower()}. But one reading cannot prove it.", advice(d)
    told = "Likely cause" if d.told_apart else "Not as forecast. Perhaps"
    return "different", f"{told}: {likely.lower()}.", lead.family.remedy if d.told_apart else advice(d)


def hookup_view(s: SetupRow) -> views.HookupView:
    """Return a stored hookup as a view."""
    line, soil, _ = world(s.line)
    units = cast(Units, s.line.job.units)
    setup, state = setup_of(s), state_of(s)
    readings = live_readings(s)
    verdict, headline, what_next = _verdict_on_loop(state, s)
    resistance = stake_ohm(setup.stake, soil)
    how = "measured" if setup.stake.measured_ohm is not None else "by the soil"
    return views.HookupView(
        id=s.id,
        line_id=s.line_id,
        hookup=setup.method,
        hookup_label=METHOD_LABEL[setup.method],
        title=setup_text(s),
        freq_hz=s.freq_hz,
        freq_text=show_hz(s.freq_hz),
        output_text=show_ma(s.output_a),
        rx_freq_hz=s.rx_freq_hz,
        rx_freq_text="" if s.rx_freq_hz is None else show_hz(s.rx_freq_hz),
        stake_text=(
            f"{show_length(setup.stake.away_m, units)} off the line, about {resistance:.0f} ohm {how}"
            if setup.method == "direct"
            else ""
        ),
        stake_away_typed=f"{round(s.stake_away_m if units == 'metric' else s.stake_away_m / FOOT_M, 1):g}",
        stake_ohm_typed="" if s.stake_ohm is None else f"{s.stake_ohm:g}",
        position_text=f"{show_length(s.position_m, units)} along the line" if setup.method != "direct" else "",
        technician=s.technician,
        created_at=s.created_at,
        steps=[
            views.StepView(id=x.id, text=x.text, protects=x.protects, done=x.id in s.steps_done)
            for x in checklist(setup.method, line)
        ],
        forecasts=[
            views.LoopView(
                title=CASE_TEXT[f.far_case],
                text=transmitter_text(f.output),
                limit_text=_limit_text(f.output),
                shares=shares_view(f.shares),
            )
            for f in loops_of(s)
        ],
        readings=[reading_view(r) for r in readings],
        state=verdict,
        headline=headline,
        advice=what_next,
        explained=_explained(state.diagnosis, s, readings) if state.diagnosis else None,
        hypotheses=[
            views.HypothesisView(
                title=h.family.title,
                sentence=explain(h, line_m=line.length_m, units=units),
                remedy=h.family.remedy,
                share=h.probability,
                share_text=f"{100 * h.probability:.0f} %",
            )
            for h in (state.diagnosis.hypotheses if state.diagnosis else ())
            if h.probability >= 0.01
        ],
    )


def _explained(d: Diagnosis, s: SetupRow, readings: Sequence[ReadingRow]) -> views.LoopView | None:
    last = next((r for r in reversed(readings) if r.freq_hz == s.freq_hz), None)
    if last is None:
        return None
    _, soil, kit = world(s.line)
    shares = explained_shares(d.hypotheses[0], soil, kit, setup_of(s), amps=last.amps)
    return views.LoopView(
        title=f"As read, if “{d.hypotheses[0].family.title.lower()}” is right",
        text=f"{last.volts:g} V, {show_ma(last.amps)}, {last.volts / last.amps:.0f} ohm",
        limit_text="",
        shares=shares_view(shares),
    )
