"""What the forms of a walk with the frame send."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

from pydantic import Field

from vessel.api.entry_forms import EntryForm, entry_form
from vessel.api.form_reading import Form, LongText, NameText, Reader, Typed
from vessel.api.meanwhile import Seen
from vessel.core.model.fault_walk import FaultWalk
from vessel.core.model.special_fields import FRAME_FIELDS
from vessel.core.text.units import Units

_USUAL = FaultWalk(560.0)


class WalkForm(Form):
    """A walk with the frame: how the signal is put on, the loop, the frame, the stake and the level there.

    `stake_back`: how far beyond the near end the stake stands, along the line.
    """

    freq_hz: Typed = Field(alias="freq")
    start_m: Typed = Field("", alias="start")
    volts: Typed = ""
    amps: Typed = Field("", alias="milliamps")
    frame_m: Typed = Field("", alias="frame")
    stake_along_m: Typed = Field("", alias="stake_back")
    stake_away_m: Typed = Field("", alias="stake_away")
    reference: Typed = ""
    technician: NameText = ""
    seen: Seen = None

    def values(self, units: Units, *, usual_m: float) -> dict[str, Any]:
        """Return column values; raises `BadInput`. `usual_m`: between the spikes of the kit's own frame [m]."""
        reader = Reader(self, units)
        frame, back, away = (
            reader.read("frame_m", "offset"),
            reader.read("stake_along_m", "distance"),
            reader.read("stake_away_m", "distance"),
        )
        return {
            "freq_hz": reader.must("freq_hz", "frequency", "Frequency"),
            "start_m": reader.read("start_m", "distance") or 0.0,
            "volts": reader.read("volts", "volts"),
            "amps": reader.read("amps", "current"),
            "frame_m": usual_m if frame is None else frame,
            "stake_along_m": _USUAL.stake_along_m if back is None else -back,
            "stake_away_m": _USUAL.stake_away_m if away is None else away,
            "reference": reader.read("reference", "signal"),
            "typed": reader.typed,
        }


class FaultStepsForm(Form):
    """The steps before the walk that are done."""

    steps_done: list[str] = Field(max_length=20)


if TYPE_CHECKING:
    _Frame: TypeAlias = EntryForm
else:
    _Frame = entry_form("_Frame", FRAME_FIELDS, "What the frame showed at a place.")


class FrameForm(_Frame):
    """What the frame showed at a place; `insist`: keep a reading that looks like a slip."""

    insist: bool = False
    seen: Seen = None


class FaultMarkForm(Form):
    """Mark the fault `at_m` along the line [m]; a reason is needed where it is not found for sure."""

    at_m: float = Field(ge=0, le=2e4, allow_inf_nan=False)
    reason: LongText = ""
    technician: NameText = ""
