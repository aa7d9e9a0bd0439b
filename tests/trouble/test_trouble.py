"""On ground made by other means than core's: what is marked is right, and nothing is marked before it is asked for."""

import numpy as np
import pytest

from tests.trouble.grounds import KINDS
from tests.trouble.play import ASKS, figures, play_all, played


@pytest.mark.long
def test_trouble_is_marked_right_or_not_at_all():
    every = play_all(1, first=700, kinds=KINDS[3::4])  # every fourth kind; all of them in docs/trouble.md
    found = figures(every)
    assert found["stations"] > 40
    assert found["unanswered_marks"] == 0  # without an answer the end is care or hold
    assert found["wrong_marks"] <= 0.005 * found["marks"]
    assert max(p.asked for p in every) <= ASKS
    assert found["wrong_held"] >= 0.5


def test_a_lone_line_is_marked_after_an_answer_or_two():
    found = figures(play_all(2, first=800, kinds=["lone"]))
    assert found["good_marked"] > 0.5
    assert found["wrong_marks"] == 0
    assert found["good_held"] < 0.15


def test_a_far_end_that_is_open_and_told_earthed_makes_no_other_line_likely():
    p = played("far_not_as_told", 3002)
    assert p.good.sum() >= 10
    assert np.median(p.chance[p.good]) < 0.01
    assert np.mean([v in ("hold", "need_more") for v in p.last]) < 0.3  # but where the signal fades


def test_a_bond_that_no_look_sees_is_known_by_its_current_and_a_broken_line_falls_silent_once_it_is_open():
    p = played("broken_twin", 3006)
    assert p.answers[0] == ("access", "cannot")
    assert {("conductors", "against"), ("kept_open", "for")} <= set(p.answers)
    assert len(p.first) > 10 > 3 > len(p.last)
    assert "mark" not in [*p.first, *p.last]


def test_a_hold_for_missing_current_asks_for_the_bond_that_carries_it_home():
    p = played("twin_far", 3012)
    assert p.first.count("hold") == len(p.first)
    assert p.answers[1:] == [("ends_at", "for"), ("far_access", "against"), ("far_kept_open", "for")]
    assert np.mean([v == "mark" for v in p.last]) > 0.8
    assert not any(v == "mark" and not good for v, good in zip(p.last, p.good, strict=True))


def test_a_known_line_beside_is_fitted_wherever_it_lies_and_whatever_it_carries():
    p = played("known_deeper", 3001)
    assert p.good.all()
    assert np.mean([v == "mark" for v in p.last]) > 0.6


def test_a_twin_in_the_same_trench_is_not_marked_where_the_box_cannot_be_seen():
    p = played("twin_below", 3006)
    assert ("access", "cannot") in p.answers
    assert (~p.good).sum() > 10  # too deep, and nothing read over the ground says so
    assert set(p.last) <= {"mark_with_care", "hold"}


def test_by_coil_a_look_into_the_box_is_asked_for_and_clears_the_line():
    p = played("coil_alone", 3008)
    assert ("access", "for") in p.answers
    assert np.mean([v == "mark" for v in p.last]) > 0.5
    assert not {kind for kind, _ in p.alive} & {"twin_both", "twin_near"}


def test_what_comes_home_over_bare_metal_shows_when_the_stake_is_moved_and_is_never_marked_wrong():
    p = played("stake_by_other", 3007)
    assert ("stake_moved", "against") in p.answers
    assert not any(v == "mark" and not good for v, good in zip(p.last, p.good, strict=True))


def test_a_bonded_line_is_marked_once_its_bond_is_kept_open_and_it_is_traced_again():
    p = played("twin_both", 3007)
    assert p.answers[:2] == [("access", "against"), ("kept_open", "for")]
    assert "mark" not in p.first
    assert np.mean([v == "mark" for v in p.last]) > 0.6
    assert p.good.all()


def test_a_known_line_bonded_where_it_ends_is_kept_off_and_the_line_marked():
    p = played("known_bonded_far", 3000)
    assert ("far_kept_open", "for") in p.answers
    assert p.good.all()
    assert np.mean([v == "mark" for v in p.last]) > 0.6
