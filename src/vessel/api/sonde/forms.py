"""What the forms of a sonde run send."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

from pydantic import Field

from vessel.api.entry_forms import EntryForm, entry_form
from vessel.api.form_reading import Form, NameText, Reader, Typed
from vessel.api.meanwhile import Seen
from vessel.core.model.sonde import Way
from vessel.core.model.special_fields import STOP_FIELDS
from vessel.core.text.units import Units


class RunForm(Form):
    """A sonde run: its frequency, where it goes in, which way; the function check and the fall where they are known."""

    freq_hz: Typed = Field(alias="freq")
    start_m: Typed = Field("", alias="start")
    way: Way = "on"
    check_m: Typed = Field("", alias="check_at")
    check_signal: Typed = ""
    fall: Typed = ""
    technician: NameText = ""
    seen: Seen = None

    def values(self, units: Units) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, units)
        return {
            "freq_hz": reader.must("freq_hz", "frequency", "Frequency"),
            "start_m": reader.read("start_m", "distance") or 0.0,
            "way": self.way,
            "check_m": reader.read("check_m", "distance"),
            "check_signal": reader.read("check_signal", "signal"),
            "fall": reader.read("fall", "fall"),
            "typed": reader.typed,
        }


class StepsForm(Form):
    """The steps before the rod goes in that are done."""

    steps_done: list[str] = Field(max_length=20)


if TYPE_CHECKING:
    _Stop: TypeAlias = EntryForm
else:
    _Stop = entry_form("_Stop", STOP_FIELDS, "What was read at a stop of a sonde run.")


class StopForm(_Stop):
    """A stop of a sonde run; `insist`: keep readings that look like a slip."""

    insist: bool = False
    seen: Seen = None
