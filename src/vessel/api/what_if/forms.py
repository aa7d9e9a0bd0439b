"""What a what-if asks."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.api.form_reading import Form, Typed
from vessel.core.model.methods import Method


class WhatIfForm(Form):
    """A setup and what is thought otherwise: place, stake, soil, far end, bonds away (their numbers on the plan)."""

    hookup: Method
    freq_hz: float
    output_a: float
    position_m: float = 0.0
    planned_position_m: float | None = None
    planned_stake_at: tuple[float, float] | None = None
    stake_at: tuple[float, float] | None = None
    soil_resistivity: Typed = ""
    far: Literal["", "open", "earthed"] = ""
    without_bonds: Annotated[list[int], Field(max_length=50)] = Field(default_factory=list)
