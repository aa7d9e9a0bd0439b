"""Schools of choosing a frequency: the order in which a crew tries them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Literal

import numpy as np

if TYPE_CHECKING:
    from vessel.core.plan.options import Option

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


def pick(ranked: Sequence[Option], school: School) -> Option | None:
    """Return what a school would use, whatever it proves: its first frequency that is any use with the best hookup.

    Of the outputs at that frequency the one that proves most, and then the least.
    """
    if not ranked:
        return None
    same = [o for o in ranked if o.setup.method == ranked[0].setup.method]
    first = min(same, key=lambda o: frequency_order(o.setup.freq_hz, school)).setup.freq_hz
    return max((o for o in same if o.setup.freq_hz == first), key=lambda o: (o.proved_m, o.usable_m, -o.setup.output_a))
