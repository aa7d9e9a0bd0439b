"""The diagnosis on circuits that are not core's: what is wrong comes first, and what may be bonded is never sound."""

from tests.trouble.circuits import figures, one


def test_the_cause_is_named_and_a_bond_is_never_called_a_sound_loop():
    found = figures([one(seed) for seed in range(7)])  # one of each cause; more of them in docs/trouble.md
    assert found["others_first"] >= 0.8
    assert found["bonds_two"] >= 0.6  # none of two is missed
    assert found["bonds_called_sound"] == 0
    assert found["sure_wrong"] == 0
