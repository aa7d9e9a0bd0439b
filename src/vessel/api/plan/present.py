"""The plan of a line as a view."""

from __future__ import annotations

from dataclasses import replace

from vessel.api.job_answers import plan_of
from vessel.api.plan.views import (
    BleedOffView,
    FactView,
    ForecastView,
    IfEarthedView,
    LandmarkView,
    MovingView,
    OptionView,
    PairView,
    PlanRestView,
    PlanView,
    ZoneView,
)
from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.judge.station.verdict import outcomes_of
from vessel.core.model.kit import Kit
from vessel.core.model.landmarks import Landmark, landmarks
from vessel.core.model.setup import Setup
from vessel.core.plan.options import base_setup
from vessel.core.plan.pair_hookup import pair_reach
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.simulate.forecast import Forecast
from vessel.core.simulate.simulated_trace import NOISE_MARGIN
from vessel.core.text.figures import show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedLine
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.fact_sentences import against_best, facts, for_other_soil
from vessel.words.labels import CASE_LABEL, EVERY_CHECK_PASSES, METHOD_LABEL
from vessel.words.option_sentences import PROVES, bleed_off_text, cautions, pair_text, reason, rejection
from vessel.words.sonde_sentences import NO_METAL_FOR_SONDE
from vessel.words.transmitter_sentences import transmitter_text
from vessel.words.work_sentences import (
    if_earthed_text,
    moving_text,
    nothing_text,
    place_text,
    setup_text,
)


def forecast_views(o: Option, units: Units) -> list[ForecastView]:
    """Return the far-end cases of an option, none where it was ruled out."""
    return [] if o.rating is None else [_forecast(f, o.rating.of.kit, units) for f in o.forecasts]


def _forecast(f: Forecast, kit: Kit, units: Units) -> ForecastView:
    return ForecastView(
        far_case=CASE_LABEL[f.far_case],
        transmitter_text=transmitter_text(f.output),
        end_text=show_ma(f.current_a[-1]),
        marked_text=show_length(f.length_m("mark"), units),
        zones=[
            ZoneView(
                start_m=z.start_m,
                end_m=z.end_m,
                verdict=z.verdict,
                why=CRITERION_WORDS[z.rule_id].title if z.rule_id else EVERY_CHECK_PASSES,
            )
            for z in f.zones
        ],
        bleed_off=[
            BleedOffView(
                name=b.name,
                share=min(b.share, 10.0),
                outcome=outcome,
                text=bleed_off_text(b, units),
            )
            for b, outcome in zip(f.bleed_off, outcomes_of(rule_of(kit, "neighbour"), f.bleed_shares), strict=True)
        ],
    )


def _option(loaded: LoadedLine, o: Option, best: Option | None, *, first: bool, soil_text: str = "") -> OptionView:
    line, soil, kit, units = loaded.line, loaded.job.soil, loaded.job.kit, loaded.job.units
    s = o.setup
    return OptionView(
        key=option_key(o),
        hookup=s.method,
        hookup_label=METHOD_LABEL[s.method],
        freq_hz=s.freq_hz,
        freq_text=show_hz(s.freq_hz),
        output_a=s.output_a,
        output_text=show_ma(s.output_a),
        place_text=place_text(o, units),
        position_m=s.position_m,
        stake_at=s.stake_at,
        proves=o.proves,
        proves_text="" if o.rejected else PROVES[o.proves],
        reason="" if o.rejected else reason(o, line, units),
        cautions=[] if o.rejected else [t for t in (soil_text, *cautions(o, line, kit, units)) if t],
        facts=[] if o.rejected else [FactView(label=a, text=b) for a, b in facts(o, line, soil, kit, units)],
        against_best="" if o.rejected or best is None else against_best(o, best, units),
        forecasts=forecast_views(o, units),
        best_of_kind=first,
        rejected=rejection(o, kit, units) if o.rejected else None,
    )


def _landmark(mark: Landmark, units: Units) -> LandmarkView:
    name = mark.name or "Bend"
    return LandmarkView(at_m=mark.at_m, kind=mark.kind, text=f"{name}, {show_length(mark.at_m, units)}")


def option_key(o: Option) -> str:
    """Return what tells an option from every other of its line."""
    s = o.setup
    where = "" if s.stake_at is None else f"-{s.stake_at[0]:.1f},{s.stake_at[1]:.1f}"
    return f"{s.method}-{s.position_m:.1f}-{s.freq_hz:g}-{s.output_a:g}{where}"


def plan_view(loaded: LoadedLine) -> PlanView:
    """Return the plan of a line; the first option of each hookup and frequency is the best of its kind."""
    row, units, soil = loaded.row, loaded.job.units, loaded.job.soil
    if not loaded.has_metal:
        return PlanView(
            line_id=row.id,
            length_m=row.length_m,
            soil_ohm_m=soil.resistivity_ohm_m,
            landmarks=[],
            far_cases=[],
            noise_margin=NOISE_MARGIN,
            options=[],
            ranked_count=0,
            rejected_count=0,
            if_earthed=None,
            moving=None,
            no_signal=NO_METAL_FOR_SONDE.format(name=row.name),
            nothing_text="",
        )
    line, plan = loaded.line, plan_of(loaded)
    return PlanView(
        line_id=row.id,
        length_m=line.length_m,
        soil_ohm_m=soil.resistivity_ohm_m,
        landmarks=[_landmark(mark, units) for mark in landmarks(line)],
        far_cases=[CASE_LABEL[n] for n, _ in line.far_cases()],
        noise_margin=NOISE_MARGIN,
        options=[_ranked(loaded, plan, o) for o in _looked_at_first(plan)],
        ranked_count=len(plan.ranked),
        rejected_count=len(plan.rejected),
        if_earthed=if_earthed_view(plan, units),
        moving=_moving_view(plan, kit=loaded.job.kit, units=units),
        no_signal=None,
        nothing_text="" if plan.ranked else nothing_text(line, row.name),
    )


def plan_rest_view(loaded: LoadedLine) -> PlanRestView:
    """Return every option of a line's plan."""
    if not loaded.has_metal:
        return PlanRestView(options=[], rejected=[], pair=None)
    plan = plan_of(loaded)
    return PlanRestView(
        options=[_ranked(loaded, plan, o) for o in plan.ranked],
        rejected=[_option(loaded, o, None, first=False) for o in plan.rejected],
        pair=_pair(loaded),
    )


def _pair(loaded: LoadedLine) -> PairView | None:
    """What both leads on two conductors of the line would do."""
    best = pair_reach(loaded.line, loaded.job.kit)
    if best is None:
        return None
    setup = Setup("pair", best.freq_hz, best.output_a, position_m=best.at_m)
    return PairView(
        hookup=setup.method,
        title=setup_text(setup, loaded.job.units),
        text=pair_text(best, loaded.job.units),
        freq_hz=best.freq_hz,
        output_a=best.output_a,
        position_m=best.at_m,
    )


def _looked_at_first(plan: Plan) -> list[Option]:
    """The best of each hookup and frequency, of each hookup and place, and the one for an earthed far end."""
    seen = set[tuple[str, str, float]]()
    found = []
    for o in plan.ranked:
        kinds = {(o.setup.method, "at", o.setup.position_m), (o.setup.method, "hz", o.setup.freq_hz)}
        if o is plan.if_earthed or not kinds <= seen:
            found.append(o)
        seen |= kinds
    return found


def _ranked(loaded: LoadedLine, plan: Plan, o: Option) -> OptionView:
    best = plan.ranked[0]
    kind = (o.setup.method, o.setup.freq_hz)
    first = next(x for x in plan.ranked if (x.setup.method, x.setup.freq_hz) == kind) is o
    soil_text = for_other_soil(plan, loaded.job.units) if o is best else ""
    return _option(loaded, o, best, first=first, soil_text=soil_text)


def _moving_view(plan: Plan, *, kit: Kit, units: Units) -> MovingView | None:
    m = plan.worth_moving
    if m is None:
        return None
    setup = replace(base_setup(kit), method="induction", freq_hz=m.freq_hz, output_a=m.output_a, apart_m=m.apart_m)
    return MovingView(
        hookup=setup.method,
        freq_hz=m.freq_hz,
        output_a=m.output_a,
        position_m=setup.position_m,
        apart_m=m.apart_m,
        title=setup_text(setup, units),
        text=moving_text(m, plan.standing_m, units),
    )


def if_earthed_view(plan: Plan, units: Units) -> IfEarthedView | None:
    """Return what having the far end earthed is worth, None where it would gain nothing to speak of."""
    if plan.if_earthed is None:
        return None
    return IfEarthedView(key=option_key(plan.if_earthed), text=if_earthed_text(plan, units))
