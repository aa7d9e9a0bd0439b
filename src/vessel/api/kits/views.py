"""A kit as the interface gets it."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.formats.kit_doc import KitDoc


class KitView(BaseModel):
    """A kit on the list."""

    id: int
    kit: KitDoc
    in_use: int
