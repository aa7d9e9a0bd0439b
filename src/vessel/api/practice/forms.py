"""What the practice yard is sent."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.api.form_reading import Form, Id, NameText
from vessel.core.practice.frame_held import Spiked
from vessel.core.practice.random_site import MOST_SEED, Level
from vessel.core.practice.receiver_held import Held
from vessel.core.practice.yard_lesson import Act

_MOST_HELD = 60
_Metres = Annotated[float, Field(ge=-2e4, le=2e4, allow_inf_nan=False)]


class StartForm(Form):
    """Start an exercise: a lesson by its id, or by the text of its file, or a random site by level and seed.

    `seed` None: any.
    """

    lesson: NameText = ""
    file: Annotated[str, Field(max_length=1_000_000)] = ""
    level: Level | None = None
    seed: Annotated[int, Field(ge=0, le=MOST_SEED)] | None = None
    units: Literal["metric", "imperial"] = "metric"
    technician: NameText = ""


class SwitchForm(Form):
    """Switch the transmitter on or off at a hookup or for a walk with the frame.

    `freq_hz`: at another frequency than the hookup's own.
    """

    on: bool
    setup_id: Id | None = None
    walk_id: Id | None = None
    freq_hz: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)] | None = None


class MoveForm(Form):
    """Set the transmitter, or its stake, down at another place (east, north [m])."""

    what: Literal["transmitter", "stake"]
    east: _Metres
    north: _Metres


class ActForm(Form):
    """Do something at the hookup."""

    act: Act


class RodForm(Form):
    """Push the rod in, or draw it back: rod out since the head left the mouth of the pipe [m]."""

    rod_m: Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)]


class SpikedForm(Form):
    """Where the frame is set; `heading`: the way from its rear to its front spike, clockwise from north [deg]."""

    east: _Metres
    north: _Metres
    heading: Annotated[float, Field(ge=-720, le=720, allow_inf_nan=False)]


class FrameSetForm(Form):
    """Read the frame where it is set; `tick` as for the receiver."""

    tick: Id = 0
    spiked: Annotated[list[SpikedForm], Field(min_length=1, max_length=_MOST_HELD)]

    def as_spiked(self) -> list[Spiked]:
        """Return what core takes."""
        return [Spiked((s.east, s.north), s.heading) for s in self.spiked]


class HeldForm(Form):
    """How the receiver is held; `heading` clockwise from north [deg]."""

    east: _Metres
    north: _Metres
    heading: Annotated[float, Field(ge=-720, le=720, allow_inf_nan=False)]
    lifted: bool = False


class ReceiverForm(Form):
    """Read the receiver where it is held; `tick` counts the readings of an exercise, so that no two have one noise.

    `freq_hz` 0: it listens for mains, without a transmitter. `sonde`: it is in sonde mode, turned a quarter.
    """

    freq_hz: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
    gain_db: Annotated[float, Field(ge=0, le=120, allow_inf_nan=False)] = 40.0
    sonde: bool = False
    tick: Id = 0
    held: Annotated[list[HeldForm], Field(min_length=1, max_length=_MOST_HELD)]

    def as_held(self) -> list[Held]:
        """Return what core takes."""
        return [Held((h.east, h.north), h.heading, self.freq_hz, self.gain_db, h.lifted, self.sonde) for h in self.held]


class RemarkForm(Form):
    """What was just done: a reading of the transmitter, a station, a mark (by its station's number), a stop of a sonde
    run, a reading of the frame (by its walk's number).

    `freq_hz`: what the receiver was set to.
    """

    after: Literal["read", "log", "mark", "stop", "frame"]
    station_id: Id | None = None
    stop_id: Id | None = None
    walk_id: Id | None = None
    freq_hz: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)] | None = None
