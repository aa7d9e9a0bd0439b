"""Schools of choosing a frequency: the order in which a crew tries them."""

from __future__ import annotations

from typing import Literal

import numpy as np

School = Literal["lowest", "middle", "high"]
SCHOOLS: tuple[School, ...] = ("lowest", "middle", "high")
_START_HZ = {"middle": 9e3, "high": 35e3}


def frequency_order(freq_hz: float, school: School) -> float:
    """Return a figure that sorts frequencies as an approach tries them.

    Args:
        freq_hz: Signal frequency [Hz].
        school: The crew's frequency approach.

    Returns:
        Least for the frequency tried first.
    """
    if school == "lowest":
        return freq_hz
    return float(abs(np.log(freq_hz / _START_HZ[school])))
