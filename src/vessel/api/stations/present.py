"""Stations, verdicts and marks as views."""

from __future__ import annotations

from statistics import median
from typing import Any, Literal

from vessel.api.entry_views import EntryFieldView, field_views
from vessel.api.job_answers import (
    ask_of,
    end_of,
    estimate_of,
    events_of,
    identity_finding,
    judged_of,
    judged_stations,
    judgement_of,
    rivals_left,
    state_of,
    undoing_of,
)
from vessel.api.mark_labels import label_of
from vessel.api.retyped_text import entry_typed
from vessel.api.stations.across import profile_view
from vessel.api.stations.views import (
    BandView,
    BesideView,
    EstimateView,
    EventView,
    FindingView,
    StationDetail,
    StationPlace,
    StationView,
    TracedEnd,
    TraceView,
)
from vessel.api.stations.where_next import where_next
from vessel.api.striking import struck
from vessel.api.sweep.present import sweep_warning
from vessel.core.hookup.hookup_state import Band
from vessel.core.hookup.judge_trace import learned_band
from vessel.core.judge.rivals.chances import Alive
from vessel.core.judge.station.crew_bounds import rules_of, version_of
from vessel.core.judge.station.verdict import PROVED, Judgement, Verdict
from vessel.core.model.construction import preset
from vessel.core.model.entry_fields import STATION_FIELDS
from vessel.core.model.station_place import astray
from vessel.core.signal.layout.beside_line import Beside, lines_beside
from vessel.core.text.figures import show_length, show_ma, show_station
from vessel.core.text.units import FOOT_M, Units
from vessel.formats.loaded_job import LoadedSetup, LoadedStation
from vessel.formats.plan_doc import known_points
from vessel.store.tables import StationRow
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.event_sentences import EVENT_LABEL, EVENT_STEP, event_text, tapered_text
from vessel.words.finding_sentences import explain, headline, next_step
from vessel.words.identity_sentences import TRACE_AGAIN, ask_step, identity_headline, identity_text, proving_step
from vessel.words.proof_sentences import taught_text
from vessel.words.station_sentences import (
    band_text,
    beside_text,
    carried_text,
    coil_text,
    estimate_text,
    pair_depth_text,
    placed_text,
)
from vessel.words.work_sentences import setup_text

_ORDER = {"hold": 0, "need": 1, "care": 2, "pass": 3, "skip": 4}


def readings_text(station: LoadedStation) -> str:
    """Return a station's readings in one phrase."""
    s, units = station.row, station.setup.job.units
    parts = [f"{show_ma(median(s.currents_a))} ({len(s.currents_a)}×)" if s.currents_a else "no current"]
    parts.append(f"depth {show_length(s.depth_m, units, fine=True)}" if s.depth_m is not None else "no depth")
    if s.depth_lifted_m is not None and s.lift_height_m is not None:
        lifted, by = (show_length(v, units, fine=True) for v in (s.depth_lifted_m, s.lift_height_m))
        parts.append(f"{lifted} lifted by {by}")
    if s.peak_null_m is not None:
        parts.append(f"peak to null {show_length(s.peak_null_m, units, fine=True)}")
    if s.direction:
        parts.append(f"current runs {s.direction}")
    if s.lost:
        parts.append("guidance gone")
    if s.signal is not None:
        parts.append(f"signal {s.signal:.4g}")
    best = station.reading.best_neighbour_a
    if best is not None:
        parts.append(f"neighbour {show_ma(best) if best else '0 mA'}")
    at = coil_text(station.setup.setup, s.distance_m, units)
    if at:
        parts.append(at)
    return ", ".join(parts)


def _estimate_text(s: LoadedStation, verdict: Verdict, units: Units) -> str:
    """Where the line most likely is; over a pair, what the depth shown means."""
    shown_m = s.row.depth_m
    if s.setup.setup.by.between:
        return "" if shown_m is None else pair_depth_text(shown_m, undoing_of(s.setup).depth_of(shown_m), units)
    # where the field is judged distorted a best estimate would lend it a trust it does not have
    return "" if verdict == "hold" else estimate_text(estimate_of(s), units)


def _estimate_view(s: LoadedStation) -> EstimateView | None:
    best = estimate_of(s)
    if best is None:
        return None
    return EstimateView(
        offset_m=best.offset_m, offset_pm_m=best.offset_pm_m, depth_m=best.depth_m, depth_pm_m=best.depth_pm_m
    )


def _place_view(s: StationRow) -> StationPlace | None:
    if s.place is None:
        return None
    off = astray(s.place["off_m"], s.place["pm_m"] or 0.0)
    return StationPlace(
        by=s.place["by"], text=placed_text(s.place["text"], astray=off), astray=off, typed=s.place["typed"]
    )


def findings_view(j: Judgement, units: Units) -> list[FindingView]:
    """Return the findings, gravest first; of what is missing the most valuable first."""
    ordered = sorted(j.findings, key=lambda f: (_ORDER[f.outcome], f.to_ask))
    return [
        FindingView(
            rule_id=f.rule.id,
            title=CRITERION_WORDS[f.rule.id].title,
            outcome=f.outcome,
            sentence=explain(f, units),
            why=CRITERION_WORDS[f.rule.id].why,
        )
        for f in ordered
    ]


def _explaining(station: LoadedStation, j: Judgement) -> list[Alive]:
    """The rivals that a Hold may be put down to: those that make a mark wrong at this station."""
    doubt = next((f for f in j.findings if f.rule.id == "aside"), None)
    return rivals_left(station.setup) if doubt is not None and doubt.outcome == "hold" else []


def _station(station: LoadedStation, j: Judgement) -> dict[str, Any]:
    s, units = station.row, station.setup.job.units
    mark, beside = station.mark, station.reading.best_neighbour_a
    return {
        "id": s.id,
        "distance_m": s.distance_m,
        "distance_text": show_station(s.distance_m, units),
        "current_a": median(s.currents_a) if s.currents_a else None,
        "current_text": show_ma(median(s.currents_a)) if s.currents_a else "–",
        "depth_m": s.depth_m,
        "depth_text": "–" if s.depth_m is None else show_length(s.depth_m, units, fine=True),
        "peak_null_text": "–" if s.peak_null_m is None else show_length(s.peak_null_m, units, fine=True),
        "neighbour_text": "–" if beside is None else show_ma(beside) if beside else "none",
        "lost": s.lost,
        "coil_text": coil_text(station.setup.setup, s.distance_m, units),
        "verdict": j.verdict,
        "proved": j.verdict in PROVED,
        "headline": headline(j, units, _explaining(station, j)),
        "note": s.note,
        "technician": s.technician,
        "taken_at": s.taken_at,
        "mark_id": mark.id if mark else None,
    }


def _next_step(station: LoadedStation, j: Judgement) -> str:
    """What to do next; where only the line's identity is open, what would show it."""
    first = j.deciding[0] if j.deciding else None
    if first is None or first.rule.id not in ("shown", "identity", "aside"):
        return next_step(j)
    found, ask = identity_finding(station.setup), ask_of(station.setup)
    if found.stake_spoils:
        return TRACE_AGAIN
    if ask is not None:
        return ask_step(ask, found)
    return proving_step(found) if first.rule.id == "identity" else next_step(j)


def station_detail(station: LoadedStation, *, seen: int = 0) -> StationDetail:
    """Return one station whole; `seen`: the newest change of its job."""
    s, units = station.row, station.setup.job.units
    j = judgement_of(station)
    return StationDetail(
        **_station(station, j),
        typed=entry_typed(s, STATION_FIELDS, units),
        place=_place_view(s),
        next_step=_next_step(station, j),
        next_at=where_next(
            j,
            asks=ask_of(station.setup) is not None,
            shown=identity_finding(station.setup).state == "shown",
        ),
        mark_label=label_of(station, j),
        estimate_text=_estimate_text(station, j.verdict, units),
        estimate=None if j.verdict == "hold" else _estimate_view(station),
        seen=seen,
        findings=findings_view(j, units),
        across=profile_view(station),
    )


def _next_distance(at_m: list[float], length_m: float, units: Units) -> str:
    """Suggest the next station: as far again as the last two were apart, not past the end; empty at the end."""
    if not at_m:
        return ""
    at = at_m[-1] + max(at_m[-1] - (at_m[-2] if len(at_m) > 1 else 0.0), 1.0)
    return "" if at > length_m else f"{at if units == 'metric' else at / FOOT_M:.4g}"


def _band(band: Band) -> BandView:
    return BandView(distance_m=list(band.distance_m), low_a=list(band.low_a), high_a=list(band.high_a))


def _beside(n: Beside, band: Band, units: Units) -> BesideView:
    most = max(band.high_a)
    at_m = band.distance_m[band.high_a.index(most)]
    side: Literal["left", "right"] = "left" if n.offset_m > 0 else "right"
    text = beside_text(n, most, at_m, units)
    return BesideView(name=n.name, side=side, band=_band(band), text=text)


def _fields(setup: LoadedSetup) -> list[EntryFieldView]:
    """What a station is asked for: the current's direction only where the receiver reads it."""
    reads_direction = setup.job.kit.frequency(setup.setup.freq_hz).reads_direction
    return field_views([f for f in STATION_FIELDS if f.id != "direction" or reads_direction], setup.job.units)


def _struck_text(station: LoadedStation) -> str:
    return f"{show_station(station.row.distance_m, station.setup.job.units)}: {readings_text(station)}"


def tapered_end_text(setup: LoadedSetup) -> tuple[str, str]:
    """Return where the stations say that the wire ends and what to do, both empty where they do not."""
    ended, line = end_of(setup), setup.line
    rod = preset(line.row.preset).rod
    return ("", "") if ended is None else tapered_text(ended, line.line, setup.job.units, rod=rod)


def trace_view(setup: LoadedSetup) -> TraceView:
    """Return the trace under one hookup."""
    line, job, units = setup.line.row, setup.job, setup.job.units
    stations, state, beside = judged_stations(setup), state_of(setup), lines_beside(setup.line.line)
    taught, found = judged_of(setup).lesson, identity_finding(setup)
    ended, (end_text, end_step) = end_of(setup), tapered_end_text(setup)
    return TraceView(
        setup_id=setup.row.id,
        line_id=line.id,
        title=setup_text(setup.setup, units),
        length_m=line.length_m,
        units=units,
        depth_min_m=line.depth_min_m,
        depth_max_m=line.depth_max_m,
        criteria_version=version_of(rules_of(job.kit.bounds)),
        band=_band(state.band),
        band_text=band_text(read=state.diagnosis is not None),
        learned=None if taught is None or not taught.narrows else _band(learned_band(state, taught)),
        learned_text=taught_text(taught, state.possible, state.soil),
        sweep_text=sweep_warning(setup),
        carried_text=carried_text(setup.setup, units),
        identity_text=f"{identity_headline(found)}. {identity_text(found)}",
        beside=[_beside(n, band, units) for n, band in zip(beside, state.beside, strict=True)],
        next_distance=_next_distance([s.row.distance_m for s, _ in stations], line.length_m, units),
        drawn=bool(line.route),
        points=list(known_points(job.drawing)) if line.route else [],
        tied=job.drawing.origin is not None,
        fields=_fields(setup),
        events=[
            EventView(
                kind=e.kind,
                label=EVENT_LABEL[e.kind],
                at_m=e.at_m,
                start_m=e.start_m,
                end_m=e.end_m,
                text=event_text(e, units),
                next_step=EVENT_STEP[e.kind],
            )
            for e in events_of(setup)
        ],
        end=None if ended is None else TracedEnd(at_m=ended.at_m, low_m=ended.low_m, high_m=ended.high_m),
        end_text=end_text,
        end_step=end_step,
        stations=[StationView(**_station(s, j)) for s, j in stations],
        struck=struck(setup.row.stations, lambda s: _struck_text(setup.station(s))),
    )
