"""Every lesson can be passed by a good walk, fails by the walk it warns of, and hides its ground until the end."""

import pytest

from tests.practice.played import begun
from vessel.api.practice.lessons import lessons

LESSONS = {each.id: each for each in lessons()}


def test_the_lessons_stand_in_order_and_each_makes_its_point():
    assert len(LESSONS) >= 18
    assert [each.order for each in LESSONS.values()] == list(range(1, len(LESSONS) + 1))
    assert all(each.good and each.naive and each.hints for each in LESSONS.values())


@pytest.mark.parametrize("lesson", LESSONS)
def test_a_good_walk_passes_and_the_naive_one_fails(client, lesson):
    told = LESSONS[lesson]
    hidden = [line.name for line in told.lines if not line.known]
    for walk, passes in ((told.good, True), (told.naive, False)):
        player = begun(client, lesson=lesson).play(walk)
        # not even the name of what no record has is in any answer
        assert not any(name in body for name in hidden for body in player.bodies)
        looked = {said for said in player.said if said.startswith("You look in:")}
        # who knows the work says of a box what is seen in it
        assert not passes or looked <= {"You look in: nothing else is connected to this line here."}
        ended = player.end()
        assert ended["passed"] is passes, [(g["text"], g["reached"]) for g in ended["goals"]]
        assert {t["name"] for t in ended["truth"]} >= {told.target, *hidden}
