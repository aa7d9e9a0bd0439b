"""A choice of a list, as every feature's form gets it."""

from __future__ import annotations

from pydantic import BaseModel


class ChoiceView(BaseModel):
    """One entry of a list to choose from."""

    id: str
    label: str
    note: str = ""
