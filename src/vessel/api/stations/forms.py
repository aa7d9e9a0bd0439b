"""What the forms of stations and marks send."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, TypeAlias

from pydantic import Field

from vessel.api.entry_forms import EntryForm, entry_form
from vessel.api.form_reading import Form
from vessel.api.meanwhile import Seen
from vessel.api.stations.station_place_form import PlaceForm
from vessel.core.model.entry_fields import STATION_FIELDS
from vessel.formats.loaded_job import LoadedLine

if TYPE_CHECKING:
    StationForm: TypeAlias = EntryForm
else:
    StationForm = entry_form(
        "StationForm",
        STATION_FIELDS,
        "Receiver readings at a station. `lost`: signal and guidance were gone there.",
    )


class PlacedStationForm(StationForm):
    """A station, with how it was placed where that was not by its distance along the line.

    `insist`: keep readings that look like a slip.
    """

    place: PlaceForm | None = None
    insist: bool = False
    seen: Seen = None

    def on(self, line: LoadedLine) -> dict[str, Any]:
        """Return column values of a station of a line; raises `BadInput`."""
        found = self.values(line.job.units)
        placed = None if self.place is None else self.place.placed(line)[1].model_dump(mode="json")
        return {**found, "place": placed}


class ColumnsForm(Form):
    """Text in columns and what each holds; `mapping` None: as the names say. `store`: keep the good ones."""

    text: Annotated[str, Field(max_length=1_000_000)]
    mapping: Annotated[list[str], Field(max_length=40)] | None = None
    store: bool = False
