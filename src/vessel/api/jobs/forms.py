"""What the forms of a job send."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from pydantic import Field

from vessel.api.form_reading import Form, Id, LongText, NameText, Reader, Typed, need
from vessel.api.meanwhile import Seen
from vessel.core.base.errors import BadInput
from vessel.core.text.units import Units


class JobForm(Form):
    """Create or change a job."""

    name: NameText
    dig: LongText = ""
    address: NameText = ""
    notice: NameText = ""
    client: NameText = ""
    contact: NameText = ""
    due_at: Typed = ""
    units: Units = "metric"
    soil_kind: Typed = "loam"
    soil_resistivity_ohm_m: Typed = Field("", alias="soil_resistivity")
    technician: NameText
    kit_id: Id | None = None
    seen: Seen = None

    def values(self) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, self.units)
        if self.due_at:
            try:
                datetime.fromisoformat(self.due_at)
            except ValueError as e:
                raise BadInput(
                    f"“{self.due_at}” is not a date and time.", field="due_at", fix="Write it as 2026-11-30T08:00."
                ) from e
        return {
            "name": need(self.name, field="name", name="Job name"),
            **{k: getattr(self, k).strip() for k in ("dig", "address", "notice", "client", "contact")},
            "due_at": self.due_at or None,
            "units": self.units,
            "soil_kind": self.soil_kind,
            "soil_resistivity_ohm_m": reader.read("soil_resistivity_ohm_m", "resistivity"),
            "technician": need(self.technician, field="technician", name="Technician"),
            "typed": reader.typed,
        }


class ImportForm(Form):
    """The text of a job file."""

    text: Annotated[str, Field(max_length=20_000_000)]
