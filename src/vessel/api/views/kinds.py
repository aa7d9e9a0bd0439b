"""Kinds of things the interface tells apart."""

from __future__ import annotations

from typing import Literal

Verdict = Literal["mark", "mark_with_care", "hold", "need_more"]
StepName = Literal["plan", "hookup", "sweep", "trace", "mark"]
Outcome = Literal["pass", "care", "hold", "need", "skip"]
Hookup = Literal["direct", "clamp", "induction"]
Units = Literal["metric", "imperial"]
