"""Readings across the line at a station: typed, fitted, kept, and given back."""

import numpy as np
import pytest

from tests.conftest import STATION, detail, entered, sent
from vessel.core.base.errors import BadInput
from vessel.core.judge.across.conductor_fit import field_across
from vessel.core.judge.across.cross_section import fit_across
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.readings import StationReading
from vessel.core.text.entry import understand
from vessel.words.across_sentences import across_step, across_text

OFFSETS = np.linspace(-2.4, 2.4, 17)
LOW_M = SAMPLE_KIT.receiver.low_m


def read(conductors, **more):
    """A station whose profile is that of hidden conductors, in display units of some gain."""
    h, _ = field_across(OFFSETS, conductors, low_m=LOW_M)
    rng = np.random.default_rng(2)
    shown = 80 * h / h.max() * (1 + 0.004 * rng.standard_normal(len(h)))
    return StationReading(12.0, profile=tuple(zip(OFFSETS.tolist(), shown.tolist(), strict=True)), **more)


def fitted(conductors, **more):
    return fit_across(read(conductors, **more), noise_t=2e-11, receiver=SAMPLE_KIT.receiver)


def test_one_line_is_found_beside_where_the_crew_stood():
    found = fitted([(0.15, 0.9, 0.02)], currents_a=(0.02, 0.02, 0.02), depth_m=0.9)
    (line,) = found.fit.conductors
    assert (line.offset_m, line.depth_m) == (pytest.approx(0.15, abs=0.03), pytest.approx(0.9, abs=0.05))
    assert abs(line.current_a) == pytest.approx(0.02, rel=0.1)
    text = across_text(found, "metric")
    assert text.startswith("One line explains them: it lies 0.15 m left of where you stood")
    assert "Mark over it" in across_step(found)


def test_two_lines_are_told_apart_and_the_crew_is_sent_back():
    found = fitted([(0.0, 0.8, 0.02), (-1.3, 0.9, 0.012)])
    assert len(found.fit.conductors) == 2
    assert not found.scaled  # no current was read: only shapes count
    text = across_text(found, "metric")
    assert text.startswith("Two lines: the stronger lies")
    assert "right of where you stood" in text
    assert "need not be the target" in across_step(found)


def test_what_does_not_tell_where_a_second_line_lies_is_not_called_two_lines():
    near = fitted([(0.0, 0.78, 0.055), (-1.4, 1.2, -0.009)])
    assert near.blurred or abs(near.fit.conductors[1].offset_m + 1.4) < near.fit.conductors[1].offset_pm_m + 0.2
    close = fitted([(0.0, 0.8, 0.02), (-0.25, 0.8, 0.012)])
    assert len(close.fit.conductors) == 1
    if close.blurred:
        assert "do not rely on that" in across_text(close, "metric")
        assert "smaller steps" in across_step(close)
        assert close.explained  # two lines do, but tell no place
        assert not close.places


def test_two_lines_are_never_placed_wrongly_without_saying_so():
    rng, named = np.random.default_rng(8), 0
    for _ in range(40):
        lines = [
            (0.0, rng.uniform(0.6, 1.0), 0.03),
            (-rng.uniform(0.5, 2.0), rng.uniform(0.6, 1.3), 0.03 * rng.uniform(-0.5, 0.6)),
        ]
        found = fitted(lines)
        if len(found.fit.conductors) == 2:
            named += 1
            first = found.fit.conductors[0]
            assert abs(first.offset_m) < max(2 * first.offset_pm_m, 0.15)
    assert named > 5


def test_what_straight_lines_do_not_explain_is_said():
    r = StationReading(12.0, profile=tuple((float(x), 50.0 + 40.0 * (k % 2)) for k, x in enumerate(OFFSETS)))
    found = fit_across(r, noise_t=2e-11, receiver=SAMPLE_KIT.receiver)
    assert not found.explained
    assert across_text(found, "metric").startswith("Neither one nor two straight lines explain")
    assert "do not mark from it" in across_step(found)
    assert fit_across(StationReading(12.0), noise_t=2e-11, receiver=SAMPLE_KIT.receiver) is None


@pytest.mark.parametrize(
    ("text", "units", "values"),
    [
        ("L0.5 62; 0 88; R0.5 60", "metric", (0.5, 62, 0, 88, -0.5, 60)),
        ("-0.5 62, 0 88\n+0.5 60", "metric", (-0.5, 62, 0, 88, -0.5, 60)),
        ("50cm l 20db; 1r 40%", "metric", (0.5, 10, -1.0, 40)),
        ("L20 62; R1'3 60", "imperial", (0.508, 62, -0.381, 60)),
    ],
)
def test_offsets_are_typed_as_people_say_them(text, units, values):
    found = understand(text, quantity="profile", units=units)
    signed = [abs(v) if k % 2 == 0 else v for k, v in enumerate(found.values)]
    assert signed == pytest.approx([abs(v) if k % 2 == 0 else v for k, v in enumerate(values)])
    assert "readings from" in found.shown


def test_minus_is_left_and_plus_is_right():
    assert understand("-0.5 62; +0.5 60; 0.7 50", quantity="profile").values[::2] == (0.5, -0.5, -0.7)


@pytest.mark.parametrize("text", ["0.5", "L0.5R 60", "L 60", "x 60", "0.5 sixty"])
def test_what_is_no_reading_across_is_refused_with_an_example(text):
    with pytest.raises(BadInput) as e:
        understand(text, quantity="profile", field="profile")
    assert e.value.field == "profile"


def test_a_profile_is_fitted_shown_and_kept(client, job, setup):
    pairs = read([(0.1, 0.8, 0.025)]).profile
    typed = "; ".join(f"{'L' if x > 0 else 'R'}{abs(x):.2f} {s:.1f}" for x, s in pairs)
    trace = sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "profile": typed}))
    s = detail(client, trace["stations"][0])
    assert s["across"]["text"].startswith("One line explains them")
    assert len(s["across"]["points"]) == len(pairs)
    assert max(p["share"] for p in s["across"]["points"]) == pytest.approx(1.0, abs=0.05)
    assert s["typed"]["profile"] == typed
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    assert entered(client.get(f"/api/jobs/{again}/export").text) == entered(text)
    plain = detail(
        client, sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "distance": "28"}))["stations"][1]
    )
    assert plain["across"] is None


@pytest.mark.parametrize("profile", ["L0.5 62; 0 88; R0.5 60", "0 1; 0.01 1; 0.02 1; 0.03 1; 0.04 1", "0 88; one"])
def test_a_profile_that_tells_no_place_is_refused_and_nothing_is_lost(client, setup, profile):
    answer = client.post(f"/api/setups/{setup}/stations", json={**STATION, "profile": profile})
    assert (answer.status_code // 100, answer.json()["field"]) == (4, "profile")
    assert sent(client.get(f"/api/setups/{setup}/trace"))["stations"] == []
