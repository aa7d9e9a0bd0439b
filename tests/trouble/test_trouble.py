"""On ground made by other means than core's: what is marked is right, and nothing is marked before it is asked for."""

import pytest

from tests.trouble.grounds import KINDS
from tests.trouble.play import ASKS, figures, play_all


@pytest.mark.long
def test_trouble_is_marked_right_or_not_at_all():
    every = play_all(1, first=700, kinds=KINDS[::3])  # every third kind; all of them in docs/trouble.md
    found = figures(every)
    assert found["stations"] > 40
    assert found["unanswered_marks"] == 0  # without an answer the end is care or hold
    assert found["wrong_marks"] <= 0.005 * found["marks"]
    assert max(len(p.answers) for p in every) <= ASKS
    assert found["wrong_held"] >= 0.5


def test_a_lone_line_is_marked_after_an_answer_or_two():
    found = figures(play_all(2, first=800, kinds=["lone"]))
    assert found["good_marked"] > 0.5
    assert found["wrong_marks"] == 0
    assert found["good_held"] < 0.15
