"""Plant that hums: how loud it is by distance and frequency, and what that leaves of a plan and a station."""

from dataclasses import replace

import numpy as np
import pytest

from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.hum import HUMS, Humming
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_site import plan_lines
from vessel.core.signal.receiver.plant_noise import loudest_along, noise_along

GRID, SOIL = HUMS["substation"], Soil(60.0)
WIRE = Line(PRESETS["tracer_wire"].construction, 120.0, 0.6, 1.0, far=FarEnd("earthed", 20.0))
BESIDE = replace(WIRE, accesses=(Access("Substation 2", 60.0, AccessPoint(), hum=GRID),))


def drawn(*humming):
    route = Drawn("Wire", WIRE.construction, ((0.0, 0.0), (120.0, 0.0)), 0.6, 1.0, end=WIRE.far)
    return replace(WIRE, course=Course(SitePlan((route,), humming=humming), 0))


def test_it_halves_at_its_reach_and_falls_with_frequency():
    at_m = np.array([60.0, 60.0 + GRID.reach_m, 120.0])
    assert noise_along(BESIDE, 560.0, at_m) == pytest.approx(1 + GRID.times * np.array([1.0, 0.5, 1 / 6.76]))
    assert noise_along(BESIDE, 35840.0, at_m)[0] == pytest.approx(1 + GRID.times * 1200 / 35840)
    assert (noise_along(WIRE, 560.0, at_m) == 1.0).all()


def test_on_a_plan_it_counts_from_where_it_stands_and_each_once():
    off = drawn(Humming("Substation 2", (60.0, 25.0), GRID))
    assert noise_along(off, 560.0, np.array([60.0]))[0] == pytest.approx(1 + GRID.times / 2)
    on_it = replace(drawn(Humming("Substation 2", (60.0, 0.0), GRID)), accesses=BESIDE.accesses)
    assert noise_along(on_it, 560.0, np.array([60.0]))[0] == pytest.approx(1 + GRID.times)
    loudest = loudest_along(off, 560.0)
    assert (loudest.name, round(loudest.at_m)) == ("Substation 2", 60)
    assert loudest_along(WIRE, 560.0) is None


def test_the_plan_loses_low_frequencies_near_it_and_a_station_there_is_held():
    kit = replace(SAMPLE_KIT, outputs_a=(0.12,))

    def markable(line, freq_hz):
        every = plan_lines([line], SOIL, kit)[0].ranked
        return max((o.proved_m for o in every if o.setup.freq_hz == freq_hz), default=0.0)

    assert markable(WIRE, 560.0) > 100
    assert markable(BESIDE, 560.0) < 0.5 * markable(WIRE, 560.0)
    assert markable(BESIDE, 35840.0) == pytest.approx(markable(WIRE, 35840.0), abs=5)
    setup = Setup("direct", 560.0, 0.12)
    read = [StationReading(x, (0.02, 0.0201, 0.0199), 0.8, 0.5, 1.3, 0.02, 0.0) for x in (5.0, 58.0)]

    def held(line):
        state = hookup_state(line, SOIL, kit, setup, ())
        judged = judge_stations(line, SOIL, kit, setup, state, read, rx_freq_hz=560.0).judgements
        return [f.outcome for j in judged for f in j.findings if f.rule.id == "signal"]

    assert held(WIRE) == ["pass", "pass"]
    assert held(BESIDE)[1] == "hold"
