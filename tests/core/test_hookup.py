"""The hookup: the proof at low frequency (whole and earthed, open, in between, nothing to say), and the lead."""

from dataclasses import replace

import pytest

from vessel.core.base.errors import BadInput
from vessel.core.hookup.continuity import continuity
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.words.continuity_sentences import continuity_text

SOIL = Soil(120.0)
TRACER = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0)
SETUP = Setup("direct", 35840.0, 0.03)


def proof(line=TRACER, *, amps=None, volts=30.0, setup=SETUP, kit=SAMPLE_KIT):
    readings = () if amps is None else (TransmitterReading(volts, amps, 560.0),)
    return continuity(line, SOIL, kit, setup, readings)


def test_an_earthed_wire_carries_low_frequency_and_an_open_one_does_not():
    c = proof()
    assert (c.freq_hz, c.state) == (560.0, "not_read")
    assert c.opened.ohms > 10 * c.earthed.ohms
    assert proof(amps=30.0 / c.earthed.ohms).state == "proved"
    assert proof(amps=30.0 / c.opened.ohms).state == "not_proved"
    middle = proof(amps=30.0 / (c.earthed.ohms * c.opened.ohms) ** 0.5)
    assert middle.state == "between"
    assert "check stake and clip first" in continuity_text(middle)


def test_bare_metal_reads_alike_whole_or_not():
    bare = replace(TRACER, construction=PRESETS["jointed_iron_main"].construction, length_m=400.0)
    c = proof(bare, amps=0.03)
    assert c.state == "says_nothing"
    assert "The trace must prove it" in continuity_text(c)


@pytest.mark.parametrize(
    ("setup", "kit"),
    [
        (Setup("clamp", 35840.0, 0.03), SAMPLE_KIT),
        (SETUP, replace(SAMPLE_KIT, frequencies=SAMPLE_KIT.frequencies[3:])),
    ],
)
def test_without_a_direct_connection_or_a_low_frequency_there_is_no_such_proof(setup, kit):
    assert proof(setup=setup, kit=kit) is None


def test_a_stake_at_the_very_end_of_the_lead_is_within_its_reach():
    lead = SAMPLE_KIT.lead_m
    SAMPLE_KIT.require_lead(lead * (1 + 1e-12))
    with pytest.raises(BadInput, match="does not reach"):
        SAMPLE_KIT.require_lead(lead + 0.05)
