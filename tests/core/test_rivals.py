"""Rival explanations: what followers of a peak read, how evidence weighs, and that a clean field alone proves nothing."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.bench import SHOWN
from tests.core.traced_cable import CABLE, SETUP, SOIL, chance_of, found, hooked_cable, stations
from vessel.core.hookup import rivals_of_hookup
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.hookup.rivals_of_hookup import rivals_of, weighed
from vessel.core.hookup.transmitter_forecast import loop_forecasts
from vessel.core.judge.rivals.at_stations import at_stations
from vessel.core.judge.rivals.chances import PLAIN
from vessel.core.judge.rivals.filaments import apparent, shown_beside
from vessel.core.judge.rivals.identity_finding import identity_of
from vessel.core.judge.rivals.likelihood import of_directions
from vessel.core.judge.rivals.next_ask import next_ask
from vessel.core.judge.rivals.rival_kinds import SAME_TRENCH_M
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.model.construction import PRESETS
from vessel.core.model.identity import EVIDENCE, Evidence
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.opened_bonds import begins_beside
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.words.rival_sentences import rival_text

RECEIVER = SAMPLE_KIT.receiver


def seen_over(amps, offsets, depths):
    row = (np.asarray(x, dtype=t)[None] for x, t in ((amps, complex), (offsets, float), (depths, float)))
    return apparent(*row, np.zeros(1), RECEIVER)


def test_one_conductor_reads_true_and_a_neighbour_moves_peak_and_null_as_known():
    alone = seen_over([0.03], [0.0], [0.8])
    read = [float(getattr(alone, f)[0]) for f in ("offset_m", "depth_m", "current", "lift", "gap_m")]
    assert read == pytest.approx([0.0, 0.8, 0.03, 0.0, 0.0], abs=2e-3)
    # a neighbour with -0.3 of the current 1 m to the side moves the peak about 7 cm and the null about 18 cm away
    beside = seen_over([1.0, -0.3], [0.0, 1.0], [1.0, 1.0])
    assert beside.offset_m[0] == pytest.approx(-0.07, abs=0.015)
    assert beside.gap_m[0] == pytest.approx(0.11, abs=0.03)
    # two equal currents close together read as one between them, deeper and with all the current
    both = seen_over([0.5, 0.5], [0.0, 0.4], [1.0, 1.0])
    assert both.offset_m[0] == pytest.approx(0.2, abs=0.01)
    assert both.depth_m[0] > 1.0
    assert both.current[0] == pytest.approx(1.0, rel=0.06)


@pytest.mark.parametrize(
    ("amps", "offsets"),
    [([1.0, -0.82], [0.0, 0.85]), ([1.0, -0.65], [0.0, -0.84]), ([1.0, 0.5], [0.0, 1.6]), ([1.0, 0.1], [0.0, 0.7])],
)
def test_over_another_centre_line_the_display_shows_what_all_conductors_make_there(amps, offsets):
    x = np.arange(-4.0, 4.0, 0.01)

    def strength(height):
        down = 0.7 + height
        return abs(sum(i * down / ((x - o) ** 2 + down**2) for i, o in zip(amps, offsets, strict=True)))

    low, high = strength(RECEIVER.low_m), strength(RECEIVER.high_m)
    shown = low * RECEIVER.separation_m / (low / high - 1)  # B times the depth below the lower coil
    tops = [k for k in range(1, len(x) - 1) if low[k] >= low[k - 1] and low[k] > low[k + 1]]
    own = min(tops, key=lambda k: abs(x[k]))
    others = [shown[k] for k in tops if abs(x[k] - x[own]) > 0.5]
    beside = shown_beside(np.array(amps, dtype=complex), np.array(offsets), np.full(2, 0.7), x[own], RECEIVER)
    assert beside == pytest.approx(max(others, default=0.0), rel=0.12)


@pytest.fixture(scope="module")
def hooked():
    return hooked_cable()


def verdicts(hooked, read, evidence=()):
    state, shown = hooked
    judged = judge_stations(
        CABLE, SOIL, SAMPLE_KIT, SETUP, state, read, rx_freq_hz=8960.0, transmitter=shown, evidence=evidence
    )
    return [j.verdict for j in judged.judgements], judged


def test_a_perfect_trace_alone_is_never_a_plain_mark_and_two_answers_make_it_one(hooked):
    read = stations(hooked[0])
    first, judged = verdicts(hooked, read)
    assert set(first) == {"mark_with_care"}
    assert identity_of(judged.weighed, (), SETUP.by).state == "not_shown"
    evidence, asks = [], []
    while (ask := next_ask(found(hooked, read, evidence), SETUP.by, evidence)) is not None:
        asks.append(ask.kind)
        evidence.append(Evidence(ask.kind, "for"))
    assert len(asks) <= 2
    assert "access" in asks  # cables that share a box are bonded twins until it is looked into
    last, judged = verdicts(hooked, read, evidence)
    assert last.count("mark") > 7
    assert identity_of(judged.weighed, evidence, SETUP.by).state == "shown"
    # answers that could not be had change nothing, and the next best is asked for
    for kind in ("access", "ends_at"):
        given = [Evidence(kind, "cannot")]
        assert next_ask(found(hooked, read, given), SETUP.by, given).kind != kind
    cannot = [Evidence(kind, "cannot") for kind in EVIDENCE]
    assert found(hooked, read, cannot).wrong_chance == pytest.approx(found(hooked, read).wrong_chance)


def test_missing_current_is_asked_about_until_a_bond_that_explains_it_is_known(hooked):
    read = stations(hooked[0], of=0.4)
    judged = verdicts(hooked, read)[1]
    assert judged.short.all()
    given = [Evidence("access", "for"), Evidence("ends_at", "for"), Evidence("far_access", "against")]
    judged = verdicts(hooked, read, given)[1]
    ask = next_ask(judged.weighed, SETUP.by, given, judged.short)
    assert (ask.kind, ask.short) == ("far_kept_open", True)


def test_other_noise_works_no_rival_out_anew(hooked, monkeypatch):
    state, shown = hooked
    worked = []
    make = rivals_of_hookup.rival_explanations
    monkeypatch.setattr(rivals_of_hookup, "rival_explanations", lambda *a: worked.append(1) or make(*a))
    louder = replace(SAMPLE_KIT, frequencies=tuple(replace(f, noise_t=3 * f.noise_t) for f in SAMPLE_KIT.frequencies))

    def spread(kit):
        w = weighed(CABLE, SOIL, kit, SETUP, state, shown, stations(state, depth=1.35), tolerance_m=0.45)
        return w.placed.depth_pm_m.max()

    usual = spread(SAMPLE_KIT)
    first = len(worked)
    assert spread(louder) > usual
    assert len(worked) == first <= 1


def test_a_line_from_the_same_box_that_is_bonded_nowhere_may_end_open_or_earthed(hooked):
    rivals = found(hooked, stations(hooked[0])).rivals.explanations
    own = [e.conductors.amps[e.rivals[0]] for e in rivals if e.kind == "parallel" and e.follows == 0]
    start, end = (np.array([abs(amps[k]) for amps in own]) for k in (1, -2))
    assert (start < 0.2 * end).any()  # earthed at its far end only
    assert (end < 0.2 * start).any()


def test_a_current_that_runs_back_speaks_for_what_carries_it_home(hooked):
    read = stations(hooked[0])
    rivals = found(hooked, read).rivals
    home = [
        k
        for k, e in enumerate(rivals.explanations)
        if e.kind == "twin_far" and e.follows and e.of_m == pytest.approx(1.4) and len(e.rivals) == 1
    ]

    def says(direction):
        used = UsedStations.of([replace(r, direction=direction) for r in read])
        return of_directions(used, at_stations(rivals, used.distance_m, used.depth_m), 0.0)

    away, back, not_read = says("away"), says("towards"), says("")
    assert (not_read == 0).all()
    lead = int(np.where(rivals.entered, rivals.weights, 0.0).argmax())  # past a break the direction is not clear
    assert away[lead] > 0 > -10 > back[lead]
    # what a twin that is bonded where the line ends carries runs the other way
    assert back[home].max() > 0 > away[home].min()


def test_a_line_in_the_same_trench_is_a_rival_bonded_or_not_and_is_said_to_be_there(hooked):
    rivals = found(hooked, stations(hooked[0])).rivals.explanations
    close = {e.kind for e in rivals if e.of_m == SAME_TRENCH_M}
    assert {"twin_both", "twin_near", "twin_far", "broken", "parallel"} <= close
    assert (
        rival_text("parallel", SAME_TRENCH_M, "metric") == "this line and one that was not entered, in the same trench"
    )
    assert rival_text("parallel", -0.6, "metric").endswith("about 0.6 m aside")


def test_what_speaks_against_the_line_holds_it_and_the_other_answer_never_does_worse(hooked):
    read = stations(hooked[0])
    plain = found(hooked, read).wrong_chance
    for kind in ("access", "ends_at", "second_hookup", "beside_located", "exposed"):
        yes, no = (found(hooked, read, [Evidence(kind, a)]).wrong_chance for a in ("for", "against"))
        assert (yes <= plain + 1e-9).all(), kind
        assert (no >= plain - 1e-9).all(), kind
    against = [Evidence("ends_at", "against"), Evidence("second_hookup", "against")]
    assert "mark" not in verdicts(hooked, read, against)[0]
    assert identity_of(found(hooked, read, against), against, SETUP.by).state == "not_shown"
    # what speaks for it elsewhere does not talk away that another conductor carries more, or that the clamp is elsewhere
    told = [Evidence("second_hookup", "for"), Evidence("ends_at", "for"), Evidence("exposed", "for", 60.0)]
    for kind in ("conductors", "clamp", "beside_located"):
        assert "mark" not in verdicts(hooked, read, [*told, Evidence(kind, "against")])[0], kind
    assert "mark" in verdicts(hooked, read, [*told, Evidence("access", "for")])[0]


def test_no_reading_over_the_ground_excludes_a_line_that_goes_on_with_all_the_current(hooked):
    few, many = (found(hooked, stations(hooked[0])[:k]) for k in (3, 11))
    goes_on = [chance_of("goes_on", w) for w in (few, many)]
    assert goes_on[1] > 0.5 * goes_on[0]


def test_current_that_is_missing_from_some_place_on_condemns_what_lies_past_it_only(hooked):
    read = stations(hooked[0], of=0.4, from_m=50.0)
    w = found(hooked, read, SHOWN[:1])
    at = np.array([r.distance_m for r in read])
    assert w.wrong_chance[at < 45].max() < 0.1
    assert w.wrong_chance[at > 60].min() > 0.5
    assert {a.kind for a in w.alive()} & {"goes_on", "leaves"}


def test_a_bonded_twin_that_takes_most_of_the_current_is_named_with_its_distance(hooked):
    state, shown = hooked
    rivals = rivals_of(CABLE, SOIL, SAMPLE_KIT, SETUP, state)
    k = next(
        k
        for k, e in enumerate(rivals.explanations)
        if e.kind == "twin_near" and e.of_m == 0.75 and e.rivals == (e.follows,)
    )
    at, a = np.arange(10.0, 90.0, 10.0), rivals.shown
    row = 2  # one of the depths it was worked out for

    def along(values):
        return np.interp(at, rivals.at_m, values[k, row])

    amps, depth, lift, gap = along(a.current) * shown[0].amps, along(a.depth_m), along(a.lift), along(a.gap_m)
    read = [
        StationReading(float(x), (i, i, i), float(d), 0.5, float(d + 0.5 + 0.5 * up), float(g), 0.0)
        for x, i, d, up, g in zip(at, amps, depth, lift, gap, strict=True)
    ]
    w = weighed(CABLE, SOIL, SAMPLE_KIT, SETUP, state, shown, read, tolerance_m=0.45)
    assert w.wrong_chance.min() > PLAIN
    twins = [x for x in w.alive() if x.kind.startswith(("twin", "broken"))]
    assert twins
    # somebody who looks into the box and sees it settles it
    told = found(hooked, read, [Evidence("access", "against"), Evidence("conductors", "against")])
    assert told.alive()[0].kind in ("twin_near", "twin_both", "broken")
    assert told.wrong_chance.min() > 50 * PLAIN  # both share evenly: the peak lies between them, and too deep
    assert told.alive()[0].of_m == pytest.approx(0.75, abs=0.5)


def test_more_than_the_transmitter_supplies_is_never_explained(hooked):
    state = hooked[0]
    over = [replace(r, currents_a=(0.085, 0.0852, 0.0848)) for r in stations(state)]
    got, judged = verdicts(hooked, over, SHOWN)
    assert set(got) == {"hold"}
    assert all("surplus" in {f.rule.id for f in j.deciding} for j in judged.judgements)


def beside_a_main(start_m=-30.0, end_m=130.0):
    main = Neighbour("Water main", PRESETS["bare_copper_service"].construction, 0.9, start_m, end_m, 0.9, 5.0, 5.0)
    return replace(CABLE, neighbours=(main,))


def test_what_was_bonded_and_is_entered_where_its_own_hookup_found_it_is_no_line_that_nobody_knows():
    off = [Evidence(kind, "for") for kind in ("kept_open", "far_kept_open", "beside_located")]

    def unknown(line):
        state = hookup_state(line, SOIL, SAMPLE_KIT, SETUP, ())
        w = weighed(line, SOIL, SAMPLE_KIT, SETUP, state, (), stations(state), tolerance_m=0.45, evidence=off)
        return chance_of("parallel", w)

    begins, passes = beside_a_main(0.0, 100.0), beside_a_main()
    assert begins_beside(begins, SETUP) == {"here", "far"}
    assert not begins_beside(passes, SETUP)
    assert begins_beside(beside_a_main(0.0), replace(SETUP, position_m=100.0)) == {"far"}
    assert unknown(begins) < 0.2 * unknown(passes)


def test_the_estimate_takes_off_what_a_known_neighbour_does_to_the_depth():
    line = beside_a_main()
    (loop,) = loop_forecasts(line, SOIL, SAMPLE_KIT, SETUP)
    shown = (TransmitterReading(loop.output.volts, loop.output.amps, SETUP.freq_hz),)
    state = hookup_state(line, SOIL, SAMPLE_KIT, SETUP, shown)
    rivals = rivals_of(line, SOIL, SAMPLE_KIT, SETUP, state)
    true, at = rivals.depths_m[2], np.array([30.0, 50.0, 70.0])
    a = rivals.shown  # the first explanation is the line as entered

    def along(values):
        return np.interp(at, rivals.at_m, values[0, 2])

    read = [
        StationReading(float(x), (i, i, i), float(d), 0.5, float(d + 0.5 + 0.5 * up), float(g), 0.0)
        for x, i, d, up, g in zip(
            at, along(a.current) * shown[0].amps, along(a.depth_m), along(a.lift), along(a.gap_m), strict=True
        )
    ]
    off_shown = abs(read[1].depth_m / true - 1)
    assert off_shown > 0.04
    w = weighed(line, SOIL, SAMPLE_KIT, SETUP, state, shown, read, tolerance_m=0.45, evidence=SHOWN)
    assert abs(w.placed.depth_m[1] / true - 1) < 0.6 * off_shown
    # that its neighbour is fitted makes it no likelier that another line goes on
    w = weighed(line, SOIL, SAMPLE_KIT, SETUP, state, shown, read, tolerance_m=0.45, evidence=SHOWN[:1])
    assert chance_of("goes_on", w) < 0.04 * chance_of(None, w)
    assert abs(w.placed.depth_m[1] - true) < w.placed.depth_pm_m[1]
