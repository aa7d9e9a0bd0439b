"""Judge entered stations: against the forecast of their hookup, as the stations before narrow it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.diagnose.site_learning import Lesson
from vessel.core.hookup.air_shares import air_shares
from vessel.core.hookup.endless_line import endless
from vessel.core.hookup.hookup_state import Band, HookupState
from vessel.core.hookup.rivals_of_hookup import weighed
from vessel.core.hookup.taught import lesson
from vessel.core.judge.rivals.chances import Weighed
from vessel.core.judge.rivals.identity_finding import identity_of
from vessel.core.judge.rule import Outcome
from vessel.core.judge.station.batch import Batch, StationContext
from vessel.core.judge.station.carried_evidence import carried
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.judge.station.verdict import Judgement, judge_codes, judgements
from vessel.core.model.identity import Evidence, shows_it
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.marking import USUAL_TOLERANCE_M
from vessel.core.model.methods import HookupMethod
from vessel.core.model.readings import StationReading, TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.receiver.plant_noise import noise_along
from vessel.core.signal.receiver.return_undone import undoing
from vessel.core.simulate.disturbances import crossed_m, nearest_m, turns_m
from vessel.core.simulate.forecast import PROVED_CODES
from vessel.core.simulate.station_grid import end_distance

_BESIDE: Mapping[str, Outcome] = {"neighbour": "care", "symmetry": "care"}
"""What a line beside that is as loud asks for at most once it is likely which of the two is followed. What it makes of
depth and place, readings across among them, is weighed with the rivals."""
_MISSING = "current_low"


@dataclass(frozen=True, eq=False)
class Judged:
    """The judgement of each station, in the order given.

    `lesson`: what the stations taught, None if none passed. `weighed`: the rivals as everything leaves them.
    """

    judgements: tuple[Judgement, ...]
    lesson: Lesson | None
    weighed: Weighed

    @property
    def short(self) -> Mask:
        """Stations that do not pass because current is missing that the line cannot have leaked, shape (n,)."""
        return np.array(
            [any(f.rule.id == _MISSING and f.outcome != "pass" for f in j.findings) for j in self.judgements],
            dtype=bool,
        )


def judge_stations(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    readings: Sequence[StationReading],
    *,
    rx_freq_hz: float | None,
    transmitter: Sequence[TransmitterReading] = (),
    evidence: Sequence[Evidence] = (),
    tolerance_m: float = USUAL_TOLERANCE_M,
    passive_m: Sequence[float] | None = None,
    swept: StationReading | None = None,
) -> Judged:
    """Judge the stations of one hookup.

    The return current in the soil and the ends of the line are undone first. Each is judged against the forecast as
    the stations nearer the hookup narrow it, those that passed by what was known before. Narrowing never makes a
    verdict better: whether a forecast is tight enough is asked of it unnarrowed.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.
        readings: Readings at stations, in any order.
        rx_freq_hz: What the receiver is set to [Hz]; None if not checked.
        transmitter: Readings of the transmitter, in the order they were taken.
        evidence: What shows which line it is.
        tolerance_m: Half-width of the zone round a mark in which the line must lie [m].
        passive_m: Distance from each station's zone to the nearest passive hit that nothing explains [m]; None: none.
        swept: What the first sweep says of lines beside this one (`circle_look`); None: nothing.

    Returns:
        One judgement for each reading in its order, what the stations teach, and the rivals weighed.
    """
    free = undoing(setup, soil, kit.receiver)
    soil_off = np.nan_to_num(free.spread(np.array([r.depth_m or np.nan for r in readings])))
    readings, off = endless(setup, state, kit, free.readings(readings))
    rivals = weighed(
        line,
        soil,
        kit,
        setup,
        state,
        transmitter,
        readings,
        tolerance_m=tolerance_m,
        evidence=evidence,
        depth_known=np.hypot(soil_off, off).tolist(),
        swept=swept,
    )
    if not readings:
        return Judged((), None, rivals)
    batch = _batch(line, soil, kit, setup, state, readings, rx_freq_hz)
    batch = _weighed_with(batch, rivals, setup.by, at_most_a=_supplied(setup, transmitter), evidence=evidence)
    if passive_m is not None:
        batch = replace(batch, passive_m=np.asarray(passive_m, dtype=float))
    return _narrowing(batch, state, setup, readings, rivals)


def _narrowing(
    batch: Batch, state: HookupState, setup: Setup, readings: Sequence[StationReading], rivals: Weighed
) -> Judged:
    """The judgements by the forecast as the stations that passed narrow it."""
    at_m = np.array([r.distance_m for r in readings])
    batch = _each_after_a_proved_one(batch, at_m)
    checked = carried(batch, at_m)
    codes, _ = judge_codes(batch, carried=checked)
    passed = PROVED_CODES[np.broadcast_to(codes, at_m.shape)]
    taught = lesson(state.families, readings, passed, hookup_m=setup.position_m) if passed.any() else None
    if taught is not None:
        batch = replace(batch, narrowed_a=_within(batch.forecast_a, taught.before_a))
        checked = carried(batch, at_m)
    return Judged(tuple(judgements(batch, carried=checked)), taught, rivals)


def _weighed_with(
    batch: Batch, rivals: Weighed, by: HookupMethod, *, at_most_a: float, evidence: Sequence[Evidence]
) -> Batch:
    """The stations with what the rivals leave of them, and what speaks for this line."""
    at_most = np.maximum(at_most_a, batch.forecast_a[1])
    return replace(
        batch,
        # what a loose forecast leaves open is weighed with the rivals, and which of two lines as loud is followed
        rules=tuple(rule for rule in batch.rules if rule.id != "told"),
        softened=_BESIDE if identity_of(rivals, evidence, by).state != "not_shown" else {},
        wrong=rivals.wrong_chance,
        aside=rivals.aside_chance,
        unshown=0.0 if shows_it(evidence, by) else 1.0,
        # a line near resonance may carry more than is put in: then the forecast says so
        surplus=batch.amps / at_most,
        lift_left=rivals.left.lift,
        lift_along=rivals.left.lift_along,
        gap_left_m=rivals.left.gap_m,
        lopsided_left=rivals.left.lopsided,
        misfit_left=rivals.left.misfit,
        pull=rivals.left.pull,
    )


def _supplied(setup: Setup, transmitter: Sequence[TransmitterReading]) -> float:
    """What the transmitter last showed that it puts on the line [A]; NaN where it does not tell."""
    shown = last_at(transmitter, setup.freq_hz)
    return shown.amps if shown is not None and setup.by.connects else float("nan")


def learned_band(state: HookupState, taught: Lesson) -> Band:
    """Return the forecast as all stations narrow it.

    Args:
        state: What the readings leave possible at the hookup.
        taught: What stations that passed teach.

    Returns:
        The narrowed band.
    """
    x_m = np.array(state.band.distance_m)
    low, high = _within(state.band.along(x_m), taught.band(x_m))
    return Band(state.band.distance_m, tuple(low.tolist()), tuple(high.tolist()))


def _within(band: tuple[Floats, Floats], narrower: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
    """What two bands (low, high) (n,) share; where they do not meet, the edge of the first that is nearer."""
    low, high = (np.clip(edge, *band) for edge in narrower)
    return low, high


def _expected(state: HookupState, at_m: Floats) -> tuple[Floats, Floats]:
    """The forecast band (n,) [A], wider by what soil and coating, told roughly, may make of the current."""
    low, high = state.band.along(at_m)
    for family in state.families:
        there = family.along(at_m)
        told = [k for k, u in enumerate(family.unknowns) if u.id in ("soil", "leakage")]
        off, carries = np.sqrt((there.slope[told] ** 2).sum(0)), np.exp(there.level)
        low, high = np.minimum(low, carries * np.exp(-off)), np.maximum(high, carries * np.exp(off))
    return low, high


def _batch(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    readings: Sequence[StationReading],
    rx_freq_hz: float | None,
) -> Batch:
    frequency = kit.frequency(setup.freq_hz)
    at_m = np.array([r.distance_m for r in readings])
    low, high = _expected(state, at_m)
    air = air_shares(line, soil, kit, setup, at_m.tolist())
    context = StationContext(
        tx_freq_hz=setup.freq_hz,
        rx_freq_hz=rx_freq_hz,
        noise_t=frequency.noise_t,
        receiver=kit.receiver,
        reads_depth=frequency.reads_depth,
        depth_range_m=(line.depth_min_m, line.depth_max_m),
        end_m=float("nan"),
        loop_gap=state.loop_gap,
        between=float(setup.by.between),
    )
    return replace(
        Batch.of(readings, [context] * len(readings), rules=rules_of(kit.bounds)),
        end_m=end_distance(line, setup.coil_m(at_m), at_m),
        forecast_a=(low, high),
        air_share=np.array(air, dtype=float),
        noise_t=frequency.noise_t * noise_along(line, setup.freq_hz, at_m),
        turn_m=nearest_m(turns_m(line), at_m),
        crossing_m=nearest_m(crossed_m(line), at_m),
    )


def _each_after_a_proved_one(batch: Batch, at_m: Floats) -> Batch:
    """Each station with the last one before it that passed; whether one did depends on those before it in turn."""
    order = np.argsort(at_m, kind="stable")
    usable = ~np.isnan(batch.depth_m) & ~np.isnan(batch.amps)
    before = np.full(len(at_m), -1, dtype=np.intp)
    while True:  # what is settled before a station settles it, so every round settles one more at least
        codes, _ = judge_codes(batch)
        passed = (PROVED_CODES[np.broadcast_to(codes, at_m.shape)] & usable)[order]
        last = np.maximum.accumulate(np.where(passed, np.arange(len(order)), -1))
        found = np.full(len(at_m), -1, dtype=np.intp)
        found[order[1:]] = np.where(last[:-1] >= 0, order[last[:-1]], -1)
        if (found == before).all():
            return batch
        before, batch = found, batch.after(found)
