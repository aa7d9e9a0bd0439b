"""Attached instruments: what is connected, and what they show, as it comes."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated, Any, Literal, TypeVar

from fastapi import APIRouter, Query, Request
from fastapi.responses import StreamingResponse

from vessel.api.instruments.views import (
    InstrumentsView,
    LiveFrame,
    LivePosition,
    LiveReceiver,
    LiveTransmitter,
    StreamView,
)
from vessel.api.requests import REFUSALS
from vessel.core.text.units import FOOT_M, Units
from vessel.instruments.attached import Attached, Instruments
from vessel.instruments.messages import FrameMessage, Message, PositionMessage, ReceiverMessage, TransmitterMessage
from vessel.instruments.stream_reader import CLOCK_OFF_S
from vessel.words.instrument_sentences import (
    LOW_BATTERY,
    STATE_TEXT,
    frame_text,
    other_frequency_text,
    receiver_text,
    sonde_text,
    stream_warning,
    transmitter_text,
)

router = APIRouter(prefix="/api/instruments", tags=["instruments"], responses=REFUSALS)
_EVERY_S, _STILL_THERE_S = 0.1, 15.0
_FRESH_S = 3.0
"""What an instrument said longer ago is not shown as what it shows now [s]."""
_Units = Annotated[Units, Query()]
_PLACED = tuple(LivePosition.model_fields)
M = TypeVar("M", bound=Message)


def _attached(request: Request) -> Instruments | None:
    found: Any = getattr(request.app.state, "instruments", None)
    return found if isinstance(found, Instruments) else None


@router.get("")
def instruments(request: Request, units: _Units = "metric") -> InstrumentsView:
    """Return the attached instruments and what they show now."""
    return _view(_attached(request), units)


@router.get("/live", response_class=StreamingResponse)
async def live(request: Request, units: _Units = "metric") -> StreamingResponse:
    """Tell what the attached instruments show, whenever it changes."""
    return StreamingResponse(
        _told(request, units), media_type="text/event-stream", headers={"Cache-Control": "no-store"}
    )


async def _told(request: Request, units: Units) -> AsyncIterator[str]:
    last, quiet_s = "", 0.0
    yield "retry: 1000\n\n"
    while not request.app.state.stopping.is_set() and not await request.is_disconnected():
        text = _view(_attached(request), units).model_dump_json()
        if text != last:
            last, quiet_s = text, 0.0
            yield f"data: {text}\n\n"
        elif quiet_s >= _STILL_THERE_S:
            quiet_s = 0.0
            yield ": still there\n\n"
        await asyncio.sleep(_EVERY_S)
        quiet_s += _EVERY_S


def _view(attached: Instruments | None, units: Units) -> InstrumentsView:
    if attached is None:
        return InstrumentsView(streams=[], receiver=None, transmitter=None, frame=None, position=None, logs=0)
    streams = attached.snapshot()
    receiver = _newest(attached, streams, "receiver", ReceiverMessage)
    transmitter = _newest(attached, streams, "transmitter", TransmitterMessage)
    frame = _newest(attached, streams, "frame", FrameMessage)
    position = _newest(attached, streams, "position", PositionMessage)
    return InstrumentsView(
        streams=[_stream(s, units) for s in streams],
        receiver=None if receiver is None else _receiver(receiver, transmitter, units),
        transmitter=None if transmitter is None else _transmitter(transmitter),
        frame=None if frame is None else _frame(frame),
        position=None if position is None else LivePosition(**{k: getattr(position, k) for k in _PLACED}),
        logs=sum(s.pressed.get("log", 0) for s in streams),
    )


def _newest(attached: Instruments, streams: list[Attached], kind: str, of: type[M]) -> M | None:
    now = attached.now()
    fresh = [
        s.latest[kind]
        for s in streams
        if kind in s.latest
        and s.state == "connected"
        and s.heard_at is not None
        and (now - s.heard_at).total_seconds() < _FRESH_S
    ]
    return next((m for m in fresh if isinstance(m, of)), None)


def _stream(s: Attached, units: Units) -> StreamView:
    batteries = [getattr(m, "battery", None) for m in s.latest.values()]
    warning = stream_warning(
        clock_off_s=s.clock_off_s if abs(s.clock_off_s) > CLOCK_OFF_S else None,
        jumped_m=s.jumped_m,
        broken=s.counts.broken,
        low=any(b is not None and b < LOW_BATTERY for b in batteries),
        units=units,
    )
    return StreamView(address=s.address, state=s.state, text=STATE_TEXT[s.state], warning=warning)


def _receiver(m: ReceiverMessage, transmitter: TransmitterMessage | None, units: Units) -> LiveReceiver:
    per = 1.0 if units == "metric" else FOOT_M
    return LiveReceiver(
        serial=m.serial,
        text=sonde_text(m.level, m.depth_m, m.freq_hz, units)
        if m.mode == "sonde"
        else receiver_text(m.ma, m.depth_m, m.freq_hz, units),
        freq_hz=m.freq_hz,
        milliamps="" if m.ma is None else f"{m.ma:.3g}",
        depth="" if m.depth_m is None else f"{m.depth_m / per:.2f}",
        signal="" if m.level is None or m.level > 1 else f"{100 * m.level:.3g}",
        mode="sonde" if m.mode == "sonde" else "line",
        direction=m.direction,
        other_frequency=""
        if transmitter is None or m.mode == "sonde"
        else other_frequency_text(m.freq_hz, transmitter.freq_hz),
    )


def _transmitter(m: TransmitterMessage) -> LiveTransmitter:
    return LiveTransmitter(
        serial=m.serial,
        text=transmitter_text(on=m.on, volts=m.volts, ma=m.ma, freq_hz=m.freq_hz),
        on=m.on,
        freq_hz=m.freq_hz,
        volts="" if m.volts is None else f"{m.volts:.3g}",
        milliamps="" if m.ma is None else f"{m.ma:.3g}",
    )


def _frame(m: FrameMessage) -> LiveFrame:
    return LiveFrame(
        serial=m.serial,
        text=frame_text(m.direction, m.level_db),
        arrow=_ARROW[m.direction],
        level="" if m.level_db is None else f"{m.level_db:g}dB",
    )


_ARROW: dict[str, Literal["on", "back", "null"]] = {"forward": "on", "back": "back", "": "null"}
