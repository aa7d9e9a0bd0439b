"""What the forms of stations and marks send."""

from __future__ import annotations

from typing import Any, cast

from vessel.api.inputs import Form, LongText, NameText, Reader, Typed
from vessel.api.place_inputs import PlaceForm
from vessel.core.base.errors import BadInput
from vessel.core.model.readings import Heading
from vessel.core.model.station_place import MOST_OFFSET_M, Side
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units
from vessel.store.tables import LineRow


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

    def on(self, line: LineRow) -> dict[str, Any]:
        """Return column values of a station of a line; raises `BadInput`."""
        found = self.values(cast(Units, line.job.units))
        placed = None if self.place is None else self.place.placed(line)[1].model_dump(mode="json")
        return {**found, "place": placed}


class MarkForm(Form):
    """Mark a station; a reason is needed where the verdict does not allow a mark.

    `offset`, `side`: where the paint stands beside the line, looking along it from its near end; empty: over it.
    """

    reason: LongText = ""
    offset: Typed = ""
    side: Side = "left"
    technician: NameText = ""

    def painted_off_m(self, units: Units) -> float | None:
        """Return how far left of the line the paint stands [m], right below zero; None: over it."""
        off_m = Reader(self, units).read("offset", "distance")
        if not off_m:
            return None
        if off_m > MOST_OFFSET_M:
            raise BadInput(
                f"Paint {show_length(off_m, units)} beside the line.",
                field="offset",
                fix=f"Nobody would measure that back: stay within {show_length(MOST_OFFSET_M, units)}.",
            )
        return off_m if self.side == "left" else -off_m


class WithdrawForm(Form):
    """Withdraw a mark; it stays on record."""

    reason: LongText
    technician: NameText = ""
