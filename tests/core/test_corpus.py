"""Seeded circuits with hidden faults: a part of the corpus of docs/validation.md."""

from tests.core.circuits import tally


def test_the_true_cause_is_named_and_never_proved_wrong():
    found = tally(60)
    assert found["first"] >= 0.85
    assert found["two"] >= 0.97
    assert found["placed"] >= 0.8
    assert found["apart_wrong"] <= 0.02
    assert found["told_apart"] >= 0.6
