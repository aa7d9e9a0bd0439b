"""What the forms of a hookup send."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

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
    freq: Typed
    output: Typed
    rx_freq: Typed = ""
    position: Typed = ""
    stake_away: Typed = ""
    stake_at: Typed = ""
    stake: Typed = ""
    clip: Typed = ""
    technician: NameText = ""

    def values(self, units: Units, *, lead_m: float) -> dict[str, Any]:
        """Return column values; the stake stands as far off as usual or as the lead [m] allows. Raises `BadInput`."""
        reader = Reader(self, units)
        away, clip = reader.read("stake_away", "distance"), reader.read("clip", "ohms")
        return {
            "hookup": self.hookup,
            "freq_hz": reader.must("freq", "frequency", "Frequency"),
            "output_a": reader.must("output", "current", "Output"),
            "rx_freq_hz": reader.read("rx_freq", "frequency"),
            "position_m": reader.read("position", "distance") or 0.0,
            "stake_away_m": usual_stake(lead_m).away_m if away is None else away,
            "stake_at": self._stake_at(units),
            "stake_ohm": reader.read("stake", "ohms"),
            "clip_ohm": Setup("direct", 1e3, 1e-3).clip_ohm if clip is None else clip,
        }

    def _stake_at(self, units: Units) -> list[float] | None:
        if not self.stake_at:
            return None
        return list(understand_place(self.stake_at, units=units, field="stake_at"))


class SetupPatch(Form):
    """What can still change on a running hookup."""

    rx_freq: Typed | None = None
    stake_away: Typed | None = None
    stake: Typed | None = None
    steps_done: list[str] | None = None

    def values(self, units: Units) -> dict[str, Any]:
        """Return the columns that were sent; an empty text clears an optional one."""
        reader, found = Reader(self, units), dict[str, Any]()
        if self.rx_freq is not None:
            found["rx_freq_hz"] = reader.read("rx_freq", "frequency")
        if self.stake_away is not None:
            found["stake_away_m"] = reader.read("stake_away", "distance") or Stake().away_m
        if self.stake is not None:
            found["stake_ohm"] = reader.read("stake", "ohms")
        if self.steps_done is not None:
            found["steps_done"] = self.steps_done
        return found


if TYPE_CHECKING:
    _Reading: TypeAlias = EntryForm
else:
    _Reading = entry_form("_Reading", READING_FIELDS, "Transmitter volts and milliamps.")


class ReadingForm(_Reading):
    """Transmitter volts and milliamps; without `freq`, at the hookup's own. `insist`: keep a reading that cannot be."""

    freq: Typed = ""
    insist: bool = False

    def at(self, freq_hz: float) -> ReadingForm:
        """Return the form with a frequency [Hz] where none was typed."""
        return self if self.freq else self.model_copy(update={"freq": f"{freq_hz!r}Hz"})
