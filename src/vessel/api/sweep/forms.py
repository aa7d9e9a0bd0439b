"""What the form of a centre line sends."""

from __future__ import annotations

from typing import Any, Literal

from vessel.api.form_reading import Form, LongText, NameText, Reader, Typed
from vessel.core.text.units import Units


class CandidateForm(Form):
    """A centre line met on the first sweep; `direction`: away from the hookup, towards it, or not told."""

    bearing: Typed
    current: Typed = ""
    depth: Typed = ""
    signal: Typed = ""
    signal_lifted: Typed = ""
    lift_height: Typed = ""
    direction: Literal["", "away", "towards"] = ""
    note: LongText = ""
    technician: NameText = ""

    def values(self, units: Units) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, units)
        return {
            "bearing_deg": reader.must("bearing", "bearing", "Bearing") % 360.0,
            "current_a": reader.read("current", "current"),
            "depth_m": reader.read("depth", "depth"),
            "signal": reader.read("signal", "signal"),
            "signal_lifted": reader.read("signal_lifted", "signal"),
            "lift_m": reader.read("lift_height", "offset"),
            "direction": {"away": 1, "towards": -1, "": 0}[self.direction],
            "note": self.note,
            "typed": reader.typed,
        }
