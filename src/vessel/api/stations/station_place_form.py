"""Where a station is, by tapes or by the device, on the job's plan."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.api.form_reading import Form, NameText, Reader, Typed
from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Drawn, Xy
from vessel.core.model.station_place import FAR_OFF_M, Fix, Side, by_baseline, by_tapes, on_line
from vessel.core.text.figures import show_length
from vessel.formats.job_file import PlacedDoc
from vessel.formats.loaded_job import LoadedLine
from vessel.formats.plan_doc import SitePlanDoc, known_points
from vessel.formats.projection import LatLon, on_plan

Degrees = Annotated[float, Field(allow_inf_nan=False)]


class PlaceForm(Form):
    """How a station was placed.

    `first_tape` from the first point; `second_tape` from the second, or square off the baseline. A device
    tells `latitude`, `longitude` [deg] and how good they are [m].
    """

    by: Literal["tapes", "baseline", "device"]
    first_at: NameText = ""
    second_at: NameText = ""
    first_tape: Typed = ""
    second_tape: Typed = ""
    side: Side = "left"
    latitude: Degrees | None = None
    longitude: Degrees | None = None
    accuracy_m: Annotated[float, Field(ge=0, le=1e6)] | None = None

    def placed(self, line: LoadedLine) -> tuple[float, PlacedDoc]:
        """Return distance along a line [m] and where the station stands; raise `BadInput`."""
        units = line.job.units
        drawn = _drawn(line)
        reader = Reader(self, units)
        fix = self._fix(reader, line.job.drawing)
        along_m, off_m = on_line(drawn, fix.at)
        if abs(off_m) > max(FAR_OFF_M, 2 * fix.pm_m):
            raise BadInput(
                f"That place is {show_length(abs(off_m), units)} off the line as drawn.",
                field="second_tape" if self.by != "device" else "latitude",
                fix="Check the points, the side and the figures; or draw the line where it is.",
            )
        if self.by == "device":
            known = {k: getattr(self, k) for k in ("latitude", "longitude", "accuracy_m")}
            told = {k: str(v) for k, v in known.items() if v is not None}
        else:
            told = {"first_at": self.first_at, "second_at": self.second_at, "side": self.side}
        return along_m, PlacedDoc(
            by=self.by,
            text=self._text(reader, fix, off_m),
            at=(round(fix.at[0], 3), round(fix.at[1], 3)),
            off_m=round(off_m, 3),
            pm_m=self.accuracy_m if self.by == "device" else None,
            typed={**told, **reader.typed},
        )

    def _fix(self, reader: Reader, plan: SitePlanDoc) -> Fix:
        if self.by == "device":
            return Fix(on_plan(self._where(), _origin(plan)), self.accuracy_m or 0.0)
        a, b = (point_of(plan, getattr(self, f), f) for f in ("first_at", "second_at"))
        first = reader.must("first_tape", "distance", "The tape from the first point")
        second = reader.must("second_tape", "distance", "The second tape")
        if self.by == "tapes":
            return by_tapes(a, b, from_a_m=first, from_b_m=second, side=self.side)
        return by_baseline(a, b, along_m=first, off_m=second, side=self.side)

    def _where(self) -> LatLon:
        if self.latitude is None or self.longitude is None:
            raise BadInput("The device gave no position.", field="latitude", fix="Let it take its position again.")
        return self.latitude, self.longitude

    def _text(self, reader: Reader, fix: Fix, off_m: float) -> str:
        """How it was placed, and how far off the line as drawn that is, in words."""
        units = reader.units
        first, second = (
            show_length(reader.read(f, "distance") or 0.0, units, fine=True) for f in ("first_tape", "second_tape")
        )
        how = {
            "tapes": f"{first} from {self.first_at}, {second} from {self.second_at}",
            "baseline": f"{first} from {self.first_at} towards {self.second_at}, {second} square to the {self.side}",
            "device": "By this device's own position",
        }[self.by]
        good = f"± {show_length(fix.pm_m, units, fine=self.by != 'device')}"
        if self.by == "device" and self.accuracy_m is None:
            good = "range not given"
        side = "left" if off_m > 0 else "right"
        return f"{how} ({good}): {show_length(abs(off_m), units, fine=True)} {side} of the line as drawn"


class TieForm(Form):
    """The device stands at a known `point` of the plan, at this latitude and longitude [deg]."""

    point: NameText
    latitude: Degrees
    longitude: Degrees


def _drawn(line: LoadedLine) -> Drawn:
    course = line.line.course if line.has_metal and line.row.route else None
    if course is None:
        raise BadInput(
            "This line is not drawn on the site plan.", field="by", fix="Draw it, or give the distance along it."
        )
    return course.drawn


def point_of(plan: SitePlanDoc, name: str, field: str) -> Xy:
    """Return where a known point of a plan is [m]; raise `BadInput` for another name."""
    found = known_points(plan).get(name)
    if found is None:
        raise BadInput(
            f"“{name}” is no point of the plan." if name else "No point is chosen.",
            field=field,
            fix="Choose one of the list; further points are access points on the site plan.",
        )
    return found


def _origin(plan: SitePlanDoc) -> LatLon:
    if plan.origin is None:
        raise BadInput(
            "The plan does not say where on earth it lies.",
            field="by",
            fix="Stand at a known point of it and tie the plan to this device's position there.",
        )
    return plan.origin
