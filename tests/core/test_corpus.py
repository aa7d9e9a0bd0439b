"""Seeded circuits with hidden faults, and sites traced to the mark: parts of the corpora of docs/validation.md."""

import pytest

from tests.core import corpus_traces as traces
from tests.core.corpus_circuits import LEAKING, tally
from vessel.core.diagnose.ranking import diagnose
from vessel.core.model.kit import SAMPLE_KIT


def test_the_true_cause_is_named_and_never_proved_wrong():
    found = tally(14)
    assert found["first"] >= 0.85
    assert found["two"] >= 0.97
    assert found["placed"] >= 0.8
    assert found["apart_wrong"] <= 0.02
    assert found["told_apart"] >= 0.6


def test_what_a_leaking_line_does_not_show_is_not_proved():
    found = tally(12, kinds=LEAKING)
    assert 4 <= found["observable"] < 12
    assert found["first"] >= 0.85
    assert found["apart_wrong"] <= 0.02


def test_a_bond_to_a_line_beside_is_never_proved_to_be_something_else():
    found = tally(12, causes=("bonded",))
    assert found["apart_wrong"] <= 0.1  # one at most
    assert found["two"] > 0.3


def test_a_far_end_that_the_transmitter_makes_unlikely_is_shown_by_the_trace():
    walk = traces.walk_of(12_025)  # entered as earthed, and open
    causes = diagnose(walk.line, walk.setup, walk.soil, SAMPLE_KIT, walk.readings)
    assert "far_open" in {h.family.id for h in causes.doubted} - {h.family.id for h in causes.plausible}
    found = traces.traced(12_025)
    assert found.scenario == "target"
    assert found.verdicts.count("hold") < 0.3 * len(found.verdicts)


@pytest.mark.long
def test_a_mark_is_where_the_line_is_and_a_good_station_is_not_held_back_with_readings_across_or_without():
    some = traces.walked(5)
    found = traces.figures([*some, *traces.walked(15, first=5)])
    assert found["marks"] > 40
    assert found["mark_inside"] >= 0.995
    assert found["mark_depth"] >= 0.97
    assert found["good_let"] >= 0.85
    assert found["mark_aside"] >= 0.93
    # so what is missing is asked for in this order
    alone = found["alone"]
    assert alone["peak_null"] >= alone["steady"] >= max(alone["neighbour"], alone["lift"])
    # the stations nearer the hookup foretell those further on
    assert found["ahead"] > 40
    assert found["ahead_in"] >= 0.9
    # what those would have marked who look at less
    assert max(found[k] for k in ("peak_inside", "strongest_inside", "plausible_inside")) < found["mark_inside"]

    # readings across at every station are a further check of the field, and rule rivals out: more is proved, not wrongly
    plain, across = traces.figures(some), traces.figures(traces.walked(5, across_m=traces.ACROSS_M))
    assert across["marks"] > 10
    assert across["mark_inside"] >= 0.995
    assert min(across["mark_range"], across["mark_aside"]) >= 0.93
    assert across["proved_inside"] >= plain["proved_inside"]
