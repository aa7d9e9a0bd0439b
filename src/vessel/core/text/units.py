"""Systems of units: metric, and feet and inches."""

from __future__ import annotations

from typing import Literal

Units = Literal["metric", "imperial"]


FOOT_M = 0.3048


INCH_M = 0.0254
