"""Messages of the instrument stream: one JSON object a line; see docs/formats/instrument-stream.md."""

from __future__ import annotations

import json
from typing import Annotated, Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

_Figure = Annotated[float, Field(allow_inf_nan=False)]
_Share = Annotated[float, Field(ge=0, allow_inf_nan=False)]
_Word = Annotated[str, Field(max_length=100)]
_Hz = Annotated[float, Field(gt=0, le=1e6)]


class Message(BaseModel):
    """What every message says: when, in ISO 8601 with its offset, and which instrument. Unknown fields are kept."""

    model_config = ConfigDict(extra="allow")
    time: _Word = ""
    serial: _Word = ""


class TransmitterMessage(Message):
    """What a transmitter shows; `volts` and `ma` null where it cannot tell."""

    kind: Literal["transmitter"] = "transmitter"
    on: bool
    freq_hz: _Hz
    asked_ma: _Share | None = None
    ma: _Share | None = None
    volts: _Share | None = None
    battery: Annotated[float, Field(ge=0, le=1)] | None = None


class ReceiverMessage(Message):
    """What a receiver shows; `level` as a share of full scale at `gain_db`, `side` where the line lies.

    `direction`: which way the current runs, seen from the transmitter. `mode`: peak or null, or sonde.
    """

    kind: Literal["receiver"] = "receiver"
    freq_hz: _Hz
    mode: _Word = "peak"
    gain_db: _Figure | None = None
    level: _Share | None = None
    depth_m: Annotated[float, Field(gt=0, le=50)] | None = None
    ma: _Share | None = None
    direction: Literal["", "away", "towards"] = ""
    heading_deg: _Figure | None = None
    side: Literal["", "left", "right"] = ""
    battery: Annotated[float, Field(ge=0, le=1)] | None = None


class FrameMessage(Message):
    """What a two-spike frame shows."""

    kind: Literal["frame"] = "frame"
    direction: Literal["", "forward", "back"] = ""
    level_db: _Figure | None = None


class ButtonMessage(Message):
    """A button was pressed; `log` logs what is being entered."""

    kind: Literal["button"] = "button"
    name: _Word


class PositionMessage(Message):
    """A position in degrees, from this format or from NMEA 0183; `accuracy_m` 0 where it is not given."""

    kind: Literal["position"] = "position"
    latitude: Annotated[float, Field(ge=-90, le=90)]
    longitude: Annotated[float, Field(ge=-180, le=180)]
    accuracy_m: _Share = 0.0


Known = Annotated[
    TransmitterMessage | ReceiverMessage | FrameMessage | ButtonMessage | PositionMessage, Field(discriminator="kind")
]
_KNOWN: TypeAdapter[Known] = TypeAdapter(Known)
KINDS: Final = ("transmitter", "receiver", "frame", "button", "position")


def message_of(data: Any) -> Known:
    """Return the message in a JSON object; raises pydantic's `ValidationError` for one that is none."""
    return _KNOWN.validate_python(data)


def line_of(message: Message) -> bytes:
    """Return a message as its line."""
    return (json.dumps(message.model_dump(exclude_none=True), ensure_ascii=False) + "\n").encode()


def schema_text() -> str:
    """Return the published JSON Schema of one line."""
    schema = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Vessel instrument stream, version 1: one line",
        **_KNOWN.json_schema(),
    }
    return json.dumps(schema, indent=1) + "\n"
