"""What the forms of stations and marks send."""

from __future__ import annotations

from typing import Any

from vessel.api.form_reading import Form, LongText, NameText, Reader, Typed
from vessel.api.stations.station_place_form import PlaceForm
from vessel.core.model.readings import Heading
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedLine


class StationForm(Form):
    """Receiver readings at a station. `lost`: signal and guidance were gone there."""

    distance: Typed
    currents: Typed = ""
    depth: Typed = ""
    lift_height: Typed = ""
    depth_lifted: Typed = ""
    peak_null: Typed = ""
    neighbour: Typed = ""
    direction: Heading = ""
    lost: bool = False
    profile: LongText = ""
    signal: Typed = ""
    neighbours: LongText = ""
    note: LongText = ""
    technician: NameText = ""

    def values(self, units: Units) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, units)
        return {
            "distance_m": reader.must("distance", "distance", "Distance"),
            "currents_a": reader.many("currents"),
            "depth_m": reader.read("depth", "depth"),
            "lift_height_m": reader.read("lift_height", "offset"),
            "depth_lifted_m": reader.read("depth_lifted", "depth"),
            "peak_null_m": reader.read("peak_null", "offset"),
            "neighbour_a": reader.read("neighbour", "current"),
            "direction": self.direction,
            "lost": self.lost,
            "profile": reader.pairs("profile"),
            "signal": reader.read("signal", "signal"),
            "neighbours": reader.beside("neighbours"),
            "note": self.note,
            "typed": reader.typed,
        }


class PlacedStationForm(StationForm):
    """A station, with how it was placed where that was not by its distance along the line.

    `insist`: keep readings that look like a slip.
    """

    place: PlaceForm | None = None
    insist: bool = False

    def on(self, line: LoadedLine) -> dict[str, Any]:
        """Return column values of a station of a line; raises `BadInput`."""
        found = self.values(line.job.units)
        placed = None if self.place is None else self.place.placed(line)[1].model_dump(mode="json")
        return {**found, "place": placed}
