"""What happened along a trace: each kind from plain series, and a seeded part of the walks of docs/validation.md."""

import numpy as np
import pytest

from tests.core import corpus_walks as walks
from vessel.core.judge.trace.events import Event, Taken, events
from vessel.words.event_sentences import EVENT_LABEL, EVENT_STEP, event_text

AT = np.arange(5.0, 105.0, 5.0)


def trace(*, after=50.0, current=1.0, depth=1.0, seed=0, drift=0.0):
    """Stations of a steady line whose current and depth are multiplied beyond `after` [m]."""
    rng = np.random.default_rng(seed)
    beyond = after < AT
    amps = 0.03 * np.exp(rng.normal(0, 0.02, len(AT)) - drift * AT) * np.where(beyond, current, 1.0)
    deep = 0.8 * np.exp(rng.normal(0, 0.02, len(AT))) * np.where(beyond, depth, 1.0)
    return [Taken(float(x), float(a), float(d), 0.03) for x, a, d in zip(AT, amps, deep, strict=True)]


@pytest.mark.parametrize(
    ("change", "kind"),
    [
        ({"current": 0.5}, "drop"),
        ({"current": 1.6}, "rise"),
        ({"depth": 1.5}, "depth"),
        ({"depth": 0.6, "current": 0.6}, "jump"),
        ({"current": 0.05}, "end"),
    ],
)
def test_a_step_is_named_by_which_of_the_two_moved(change, kind):
    (found,) = events(trace(**change), hookup_m=0.0)
    assert (found.kind, found.start_m, found.end_m) == (kind, 50.0, 55.0)
    assert found.current_ratio == pytest.approx(change.get("current", 1.0), rel=0.1)
    assert found.depth_ratio == pytest.approx(change.get("depth", 1.0), rel=0.1)


def test_noise_an_odd_station_and_a_forecast_a_little_off_are_no_events():
    for seed in range(20):
        steady = trace(seed=seed, drift=0.004)
        assert events(steady, hookup_m=0.0) == ()
        steady[7] = Taken(steady[7].distance_m, 0.012, 1.4, 0.03)
        assert events(steady, hookup_m=0.0) == ()


def test_guidance_lost_is_a_bend_only_if_the_current_comes_back():
    stations = trace()
    gone = Taken(52.0, None, None, 0.03, lost=True)
    assert [e.kind for e in events([*stations, gone], hookup_m=0.0)] == ["bend"]
    assert [e.kind for e in events([*stations[:10], gone], hookup_m=0.0)] == ["lost"]
    assert [e.kind for e in events([*trace(current=0.05), gone], hookup_m=0.0)] == ["end"]


def test_both_ways_from_a_hookup_along_the_line_and_a_current_that_turns_back():
    # away from 80 m the current falls at 50 m: seen by distance alone it would rise there
    (found,) = events(trace(after=50.0, current=2.0), hookup_m=80.0)
    assert (found.kind, found.start_m, found.end_m) == ("drop", 50.0, 55.0)
    turned = [*trace()[:9], Taken(50.0, 0.03, 0.8, 0.03, towards=True)]
    assert [e.kind for e in events(turned, hookup_m=0.0)] == ["returns"]


def test_every_kind_has_words():
    assert set(EVENT_LABEL) == set(EVENT_STEP)
    for kind in EVENT_LABEL:
        assert "Between 10 m and 14 m" in event_text(Event(kind, 10.0, 14.0, 0.4, 1.5), "metric")
        assert "Between 32.8 ft" in event_text(Event(kind, 10.0, 14.0, 0.4, 1.5), "imperial")


def test_on_simulated_ground_what_happened_is_named():
    by, _ = walks.tally(20)
    assert sum(right for _, right in by.values()) / sum(n for n, _ in by.values()) >= 0.9
    assert by["nothing"][0] == by["nothing"][1]
