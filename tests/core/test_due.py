"""Which marks a line still lacks."""

from hypothesis import given
from hypothesis import strategies as st

from vessel.core.judge.trace.coverage import MARK_EVERY_M
from vessel.core.judge.trace.events import Event
from vessel.core.judge.trace.marks_due import Places, marks_due
from vessel.words.event_sentences import due_text

PLACES = Places(60.0, ((0.0, 60.0),), bends_m=(25.0,), tees_m=(41.0,))


def due(marks, places=PLACES, events=()):
    return [(d.kind, d.start_m, d.end_m) for d in marks_due(marks, places, events)]


def test_a_line_without_marks_lacks_all_of_them():
    assert due([]) == [("end", 0, 0), ("gap", 0, 60), ("bend", 25, 25), ("tee", 41, 41), ("end", 60, 60)]


def test_marks_at_every_place_and_close_enough_leave_nothing_due():
    assert due([0.5, 9, 17, 25, 33, 41, 50, 59]) == []
    assert due([0.5, 9, 17, 25, 41, 50, 59]) == [("gap", 25, 41)]
    assert due([0.5, 9, 17, 23, 33, 41, 50, 59]) == [("bend", 25, 25)]
    assert due([0.5, 9, 17, 25, 33, 41, 50]) == [("gap", 50, 60), ("end", 60, 60)]


def test_only_what_is_to_be_located_needs_marks():
    part = Places(60.0, ((20.0, 44.0),), bends_m=(10.0, 25.0), tees_m=(41.0,))
    assert due([22, 25, 33, 41], part) == []
    assert due([33], part) == [("gap", 20, 33), ("bend", 25, 25), ("gap", 33, 44), ("tee", 41, 41)]


def test_what_happened_along_the_trace_needs_a_mark_once():
    events = (Event("bend", 24.0, 27.0), Event("depth", 30.0, 34.0), Event("jump", 50.0, 54.0))
    marks = [0.5, 9, 17, 33, 41, 50, 59]
    assert due(marks, events=events) == [("gap", 17, 33), ("bend", 25, 25)]
    assert ("depth", 30, 34) in due([0.5, 9, 17, 25, 41, 50, 59], events=events)


@given(st.lists(st.floats(0, 60), max_size=40))
def test_one_more_mark_never_makes_more_due_than_it_meets(marks):
    before, after = marks_due(marks, PLACES), marks_due([*marks, 30.0], PLACES)
    assert len(after) <= len(before) + 1  # a gap may fall in two
    assert all(d.end_m - d.start_m > MARK_EVERY_M / 2 for d in after if d.kind == "gap")


def test_what_is_due_is_said_with_its_place():
    texts = [due_text(d, "metric") for d in marks_due([], PLACES, (Event("depth", 30.0, 34.0),))]
    assert texts[1] == "0 m to 60 m without a mark: one is due at least every 10 m."
    assert texts[2] == "Bend at 25 m: mark the corner itself, found from both sides."
    assert "Depth change between 30 m and 34 m: mark it with both depths." in texts
