"""Attached instruments as the interface gets them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel


class StreamView(BaseModel):
    """An attached stream: how it stands, and what is wrong with it in words."""

    address: str
    state: Literal["connecting", "connected", "lost"]
    text: str
    warning: str


class LiveReceiver(BaseModel):
    """What the receiver shows now, as a form takes it; empty where it shows nothing. `signal`: of 100 at its gain."""

    serial: str
    text: str
    freq_hz: float
    milliamps: str
    depth: str
    signal: str
    mode: Literal["line", "sonde"]
    direction: Literal["", "away", "towards"]
    other_frequency: str


class LiveTransmitter(BaseModel):
    """What the transmitter shows now, as a form takes it."""

    serial: str
    text: str
    on: bool
    freq_hz: float
    volts: str
    milliamps: str


class LiveFrame(BaseModel):
    """What the frame shows now, as a form takes it, its front to the far end."""

    serial: str
    text: str
    arrow: Literal["on", "back", "null"]
    level: str


class LivePosition(BaseModel):
    """Where the positioning says that the receiver is [deg], and how well that is known [m]."""

    latitude: float
    longitude: float
    accuracy_m: float


class InstrumentsView(BaseModel):
    """All attached instruments; `logs`: how often the log button was pressed since the server started."""

    streams: list[StreamView]
    receiver: LiveReceiver | None
    transmitter: LiveTransmitter | None
    frame: LiveFrame | None
    position: LivePosition | None
    logs: int
