"""Kinds of things that only the interface tells apart."""

from __future__ import annotations

from typing import Literal

StepName = Literal["plan", "hookup", "sweep", "trace", "sonde", "fault", "mark"]
