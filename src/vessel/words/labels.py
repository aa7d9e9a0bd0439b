"""Names of things as screens show them: methods, verdicts, frequency approaches, parts of the loop, access points."""

from __future__ import annotations

from vessel.core.judge.station.verdict import Verdict
from vessel.core.model.methods import Method
from vessel.core.model.setup import Setup
from vessel.core.plan.frequency_order import School

METHOD_LABEL: dict[Method, str] = {
    "direct": "Direct connection",
    "clamp": "Clamp",
    "induction": "Induction",
    "pair": "Both leads on a pair",
}


def method_label(setup: Setup) -> str:
    """Return the name of a setup's method; a coil that is carried along has one of its own."""
    return "Moving induction" if setup.moving else METHOD_LABEL[setup.method]


VERDICT_LABEL: dict[Verdict, str] = {
    "mark": "Mark",
    "mark_with_care": "Mark with care",
    "hold": "Hold",
    "need_more": "Need more",
}


SCHOOL_LABEL: dict[School, str] = {
    "lowest": "Lowest that works",
    "middle": "Middle first",
    "high": "High first",
}


SCHOOL_NOTE: dict[School, str] = {
    "lowest": "Start low, prove continuity, go up only when forced: travels furthest, bleeds off least.",
    "middle": "Start at about 9 kHz: works without a far-end earth, and direction can still be read.",
    "high": "Start at about 35 kHz: for clamp, induction and stubborn lines; bleeds off.",
}


PART_LABEL = {
    "clip": "Clip contact",
    "lead": "Stake lead",
    "stake": "Ground stake",
    "metal": "Along the metal",
    "along": "Metal to soil, along the way",
    "near_earth": "Earth at the near end",
    "far_earth": "Earth at the far end",
}


ACCESS_LABEL: dict[str, str] = {
    "meter": "Meter",
    "riser": "Riser",
    "valve": "Valve",
    "hydrant": "Hydrant",
    "pedestal": "Pedestal",
    "pillar": "Pillar or cabinet",
    "lamp_column": "Lamp column",
    "manhole": "Manhole",
    "test_post": "Test post",
    "valve_box": "Valve box with wires",
    "turbine": "Turbine",
    "substation": "Substation",
    "rectifier": "Rectifier",
    "other": "Other",
}


POINT_LABEL: dict[str, str] = {
    **{k: label for k, label in ACCESS_LABEL.items() if k != "other"},
    "anode": "Anode, buried",
    "earth": "Earth, buried",
    "other": ACCESS_LABEL["other"],
}


CASE_LABEL = {"open": "far end open", "earthed": "far end earthed"}
PAIR_CASE_LABEL = {"open": "far ends open", "earthed": "far ends joined"}
EVERY_CHECK_PASSES = "Every check would pass"


NEXT_LABEL = {
    "plan": "Choose a setup",
    "hookup": "Read the transmitter",
    "sweep": "Sweep round the hookup",
    "trace": "Take stations",
    "sonde": "Push the sonde",
    "fault": "Find the fault",
    "mark": "Mark what passed",
}


MISSING_LABEL = {"need": "Need more", "care": "Mark with care", "skip": "not used"}
MEASURE_UNIT_LABEL = {
    "ratio": "in percent",
    "times": "times",
    "length": "",
    "depths": "in depths of the line",
    "ohm": "in ohms",
}
