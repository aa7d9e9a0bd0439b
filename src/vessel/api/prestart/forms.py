"""What the forms before anything is switched on send."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.api.form_reading import Form, LongText, NameText, Reader, Typed
from vessel.api.stations.station_place_form import point_of
from vessel.core.model.drawn_line import Xy
from vessel.core.model.pre_start import Source
from vessel.core.model.station_place import beyond
from vessel.core.text.route_text import understand_place
from vessel.core.text.units import Units
from vessel.formats.plan_doc import SitePlanDoc


class CheckForm(Form):
    """The answer to one check; an empty one takes it back."""

    answer: Literal["", "yes", "no", "not_needed"]
    note: LongText = ""
    technician: NameText = ""


class AmbientForm(Form):
    """What the display shows at one frequency with the transmitter off, here and in a quiet place."""

    freq_hz: float
    here: Typed = ""
    quiet: Typed = ""


class NoiseForm(Form):
    """The noise check as a whole; a frequency left empty was not read."""

    rows: Annotated[list[AmbientForm], Field(max_length=50)]


class HitForm(Form):
    """A passive hit; `place` is east and north on the plan, empty where it is only in words.

    Without a place: `away` in the direction `towards` (N, NE, ...) from a point of the plan named `near`.
    """

    source: Source
    place: Typed = ""
    note: LongText = ""
    near: Typed = ""
    away: Typed = ""
    towards: Typed = ""

    def at(self, plan: SitePlanDoc, units: Units) -> Xy | None:
        """Return where it is on the plan [m]; None for one in words only. Raises `BadInput`."""
        if self.place:
            return understand_place(self.place, units=units, field="place")
        if not self.near:
            return None
        away = Reader(self, units).must("away", "distance", "The distance from there")
        return beyond(point_of(plan, self.near, "near"), away, self.towards)


class StripForm(Form):
    """Whether a strip of the grid is walked; `false` takes it back."""

    walked: bool
    technician: NameText = ""


class PassiveForm(Form):
    """The distance between walks and all hits of the passive sweep; what is walked is said way by way or by strip."""

    spacing: Typed = ""
    hits: Annotated[list[HitForm], Field(default_factory=list, max_length=200)]
