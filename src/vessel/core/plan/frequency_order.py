"""Schools of choosing a frequency: the order in which a crew tries them."""

from __future__ import annotations

from typing import Literal

import numpy as np

School = Literal["lowest", "middle", "high"]
SCHOOLS: tuple[School, ...] = ("lowest", "middle", "high")
SCHOOL_LABEL: dict[School, str] = {
    "lowest": "Lowest that works",
    "middle": "Middle first",
    "high": "High first",
}
SCHOOL_NOTE: dict[School, str] = {
    "lowest": "Start low, prove continuity, go up only when forced: travels furthest, bleeds off least.",
    "middle": "Start at about 9 kHz: works without a far-end earth, and direction can still be told.",
    "high": "Start at about 35 kHz: for clamp, induction and stubborn lines; bleeds off.",
}
_START_HZ = {"middle": 9e3, "high": 35e3}


def frequency_order(freq_hz: float, school: School) -> float:
    """Return a figure that is least for the frequency [Hz] which a school tries first."""
    if school == "lowest":
        return freq_hz
    return float(abs(np.log(freq_hz / _START_HZ[school])))
