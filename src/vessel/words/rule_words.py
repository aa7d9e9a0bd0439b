"""The words of one criterion of the judge."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class CriterionWords:
    """Words of one criterion.

    `found`: a finding with its figure, `found_none` where that is nothing; `ask`: the evidence that forms its measure;
    `care_step`: what to do in the care zone, where `next_step` is too strong.
    """

    title: str
    measures: str
    found: str
    why: str
    next_step: str
    found_none: str = ""
    ask: str = ""
    care_step: str = ""
