"""The site plan."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.background.views import BackgroundView
from vessel.api.choices import ChoiceView
from vessel.api.site.forms import SiteForm
from vessel.core.text.units import Units

Corner = tuple[float, float]


class DrawnLineView(BaseModel):
    """A line on the plan, in its marking colour, pattern and letter."""

    id: int
    name: str
    hex: str
    letter: str
    pattern: str
    corners: list[Corner]
    metal: bool
    text: str


class ThingView(BaseModel):
    """A structure or a patch of ground."""

    name: str
    text: str
    corners: list[Corner]


class AccessView(BaseModel):
    """An access point, with the lines that can be reached there; `hums_m`: how far it hums, None where it does not."""

    name: str
    kind: str
    at: Corner
    live: bool
    text: str
    lines: list[str]
    hums_m: float | None


class PlacedHitView(BaseModel):
    """A passive hit that has a place: something is here."""

    at: Corner
    text: str
    explained: bool


class UndrawnView(BaseModel):
    """A line of the job that has no route yet."""

    id: int
    name: str


class SiteView(BaseModel):
    """Everything on the plan, what was assumed, and the plan as typed."""

    job_id: int
    units: Units
    lines: list[DrawnLineView]
    structures: list[ThingView]
    access: list[AccessView]
    hard: list[ThingView]
    dig: list[Corner]
    hits: list[PlacedHitView]
    background: BackgroundView | None
    undrawn: list[UndrawnView]
    notices: list[str]
    access_kinds: list[ChoiceView]
    schools: list[ChoiceView]
    typed: SiteForm
    seen: int


class RouteUnderstood(BaseModel):
    """How a route's text is understood."""

    ok: bool
    corners: list[Corner]
    shown: str
    fix: str


class TrackView(BaseModel):
    """A track of a file as a route: its text for the form, and what was done to it."""

    name: str
    route: str
    corners: list[Corner]
    length_text: str
    notice: str


class TracksView(BaseModel):
    """Tracks of a file; `origin` belongs into the plan when one of them is taken."""

    tracks: list[TrackView]
    system: str
    origin: Corner | None
