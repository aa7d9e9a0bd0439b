"""What the forms of a hookup send."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

from pydantic import Field

from vessel.api.entry_forms import EntryForm, entry_form
from vessel.api.form_reading import Form, NameText, Reader, Typed
from vessel.core.model.entry_fields import READING_FIELDS
from vessel.core.model.methods import Method
from vessel.core.model.setup import Setup, Stake, usual_stake
from vessel.core.text.route_text import understand_place
from vessel.core.text.units import Units


class SetupForm(Form):
    """Start a hookup of a line."""

    hookup: Method
    freq_hz: Typed = Field(alias="freq")
    output_ma: Typed = Field(alias="output")
    rx_freq_hz: Typed = Field("", alias="rx_freq")
    position_m: Typed = Field("", alias="position")
    stake_away_m: Typed = Field("", alias="stake_away")
    stake_at: Typed = ""
    apart_m: Typed = Field("", alias="apart")
    stake_ohm: Typed = Field("", alias="stake")
    clip_ohm: Typed = Field("", alias="clip")
    technician: NameText = ""

    def values(self, units: Units, *, lead_m: float) -> dict[str, Any]:
        """Return column values; the stake stands as far off as usual or as the lead [m] allows. Raises `BadInput`."""
        reader = Reader(self, units)
        away, clip = reader.read("stake_away_m", "distance"), reader.read("clip_ohm", "ohms")
        return {
            "hookup": self.hookup,
            "freq_hz": reader.must("freq_hz", "frequency", "Frequency"),
            "output_a": reader.must("output_ma", "current", "Output"),
            "rx_freq_hz": reader.read("rx_freq_hz", "frequency"),
            "position_m": reader.read("position_m", "distance") or 0.0,
            "stake_away_m": usual_stake(lead_m).away_m if away is None else away,
            "stake_at": self._stake_at(units),
            "apart_m": reader.read("apart_m", "distance"),
            "stake_ohm": reader.read("stake_ohm", "ohms"),
            "clip_ohm": Setup("direct", 1e3, 1e-3).clip_ohm if clip is None else clip,
        }

    def _stake_at(self, units: Units) -> list[float] | None:
        if not self.stake_at:
            return None
        return list(understand_place(self.stake_at, units=units, field="stake_at"))


class SetupPatch(Form):
    """What can still change on a running hookup."""

    rx_freq_hz: Typed | None = Field(None, alias="rx_freq")
    stake_away_m: Typed | None = Field(None, alias="stake_away")
    stake_ohm: Typed | None = Field(None, alias="stake")
    steps_done: list[str] | None = None

    def values(self, units: Units) -> dict[str, Any]:
        """Return the columns that were sent; an empty text clears an optional one."""
        reader, found = Reader(self, units), dict[str, Any]()
        if self.rx_freq_hz is not None:
            found["rx_freq_hz"] = reader.read("rx_freq_hz", "frequency")
        if self.stake_away_m is not None:
            found["stake_away_m"] = reader.read("stake_away_m", "distance") or Stake().away_m
        if self.stake_ohm is not None:
            found["stake_ohm"] = reader.read("stake_ohm", "ohms")
        if self.steps_done is not None:
            found["steps_done"] = self.steps_done
        return found


if TYPE_CHECKING:
    _Reading: TypeAlias = EntryForm
else:
    _Reading = entry_form("_Reading", READING_FIELDS, "Transmitter volts and milliamps.")


class ReadingPatch(Form):
    """What can still change on a reading: whether what is known of the loop starts with it."""

    anew: bool


class ReadingForm(_Reading):
    """Transmitter volts and milliamps; without `freq`, at the hookup's own. `insist`: keep a reading that cannot be."""

    freq_hz: Typed = Field("", alias="freq")
    insist: bool = False

    def at(self, freq_hz: float) -> ReadingForm:
        """Return the form with a frequency [Hz] where none was typed."""
        return self if self.freq_hz else self.model_copy(update={"freq_hz": f"{freq_hz!r}Hz"})
