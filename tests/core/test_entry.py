"""Entry as the trade says it."""

import pytest

from vessel.core.base.errors import VesselError
from vessel.core.model.construction import Construction
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.text.entry import understand
from vessel.words.refusals import refusal


@pytest.mark.parametrize(
    ("text", "quantity", "units", "value", "shown"),
    [
        ("1'11", "depth", "imperial", 0.5842, "1'11\""),
        ("23in", "depth", "metric", 0.5842, "0.58 m"),
        ("23", "depth", "imperial", 0.5842, "1'11\""),
        ("0.58", "depth", "metric", 0.58, "0.58 m"),
        ("63", "depth", "metric", 0.63, "0.63 m"),
        ("2cm", "offset", "metric", 0.02, "0.02 m"),
        ("63", "distance", "metric", 63.0, "63 m"),
        ("63", "distance", "imperial", 19.2024, "63 ft"),
        ("63", "current", "metric", 0.063, "63 mA"),
        ("0.03A", "current", "metric", 0.03, "30 mA"),
        ("8.96k", "frequency", "metric", 8960.0, "8.96 kHz"),
        ("560 Hz", "frequency", "metric", 560.0, "560 Hz"),
        ("1.5 kohm", "ohms", "metric", 1500.0, "1500 ohm"),
    ],
)
def test_understood_and_shown_back(text, quantity, units, value, shown):
    found = understand(text, quantity=quantity, units=units)
    assert found.value == pytest.approx(value)
    assert found.shown == shown


def test_several_currents_in_one_field():
    assert understand("28.6 28.4;28.7", quantity="currents").values == pytest.approx((0.0286, 0.0284, 0.0287))


@pytest.mark.parametrize(
    ("text", "quantity", "message"),
    [
        ("63,0", "current", "63.0"),
        ("63,0 64", "currents", "63.0"),
        ("-0.5", "depth", "below zero"),
        ("7", "depth", "7 m or 7 cm"),
        ("abc", "volts", "not a number"),
        ("5 parsec", "distance", "not a unit"),
        ("5'13", "depth", "a foot or more"),
        ("", "volts", "Nothing entered"),
    ],
)
def test_refused_with_the_field_and_the_fix(text, quantity, message):
    with pytest.raises(VesselError) as e:
        understand(text, quantity=quantity, field="here")
    assert e.value.field == "here"
    assert message in str(e.value)
    assert all(refusal(e.value))


@pytest.mark.parametrize(
    ("build", "field"),
    [
        (lambda: Soil(0.0), "soil_resistivity_ohm_m"),
        (lambda: Soil(float("nan")), "soil_resistivity_ohm_m"),
        (lambda: Soil.of_kind("moon"), "soil_kind"),
        (lambda: Setup("direct", 8960.0, 0.0), "output_ma"),
        (lambda: Setup("magic", 8960.0, 0.03), "hookup"),
        (lambda: Stake(away_m=0.0), "stake_away_m"),
        (lambda: SAMPLE_KIT.frequency(9000.0), "freq_hz"),
        (lambda: Line(Construction("solid", 1e-3, 5.8e7), 10.0, 1.2, 0.8), "depth_min_m"),
        (lambda: Construction("tube", 0.05, 6e6), "construction.wall_m"),
        (lambda: TransmitterReading(30.0, 0.0, 560.0), "milliamps"),
        (lambda: StationReading(10.0, depth_m=-0.5), "depth"),
        (lambda: StationReading(10.0, depth_lifted_m=1.0), "lift_height_m"),
    ],
)
def test_model_objects_refuse_what_cannot_be(build, field):
    with pytest.raises(VesselError) as e:
        build()
    assert e.value.field == field
    assert refusal(e.value)[1]
