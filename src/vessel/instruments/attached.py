"""Streams attached to a server: each read in a thread of its own, and taken up again when it is lost."""

from __future__ import annotations

import logging
import socket
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from importlib.metadata import entry_points
from threading import Event, Lock, Thread
from typing import Literal
from urllib.parse import parse_qs, urlsplit

import serial
from websockets.exceptions import ConnectionClosed, WebSocketException
from websockets.sync.client import connect

from vessel.core.base.errors import BadInput
from vessel.instruments.messages import Known
from vessel.instruments.stand_ins import usual_now
from vessel.instruments.stream_reader import Counts, StreamReader

State = Literal["connecting", "connected", "lost"]
Adapter = Callable[[Iterator[bytes], Callable[[], datetime]], Iterator[Known]]
"""Turns the pieces of a byte stream into messages; `vessel.instruments` is the group of its entry points."""
GROUP = "vessel.instruments"
_AGAIN_S, _WAIT_S, _PIECE, _BAUD, _LARGEST = 1.0, 0.5, 4096, 115_200, 1_000_000
_log = logging.getLogger("vessel.instruments")


@dataclass
class Attached:
    """One attached stream: how it stands, its last message of each kind, and how often each button was pressed."""

    address: str
    state: State = "connecting"
    latest: dict[str, Known] = field(default_factory=dict)
    pressed: dict[str, int] = field(default_factory=dict)
    counts: Counts = field(default_factory=Counts)
    clock_off_s: float = 0.0
    jumped_m: float = 0.0
    heard_at: datetime | None = None


class Instruments:
    """All streams attached to a server; `start` begins to read them, `stop` ends it."""

    def __init__(self, addresses: Sequence[str], *, now: Callable[[], datetime] = usual_now) -> None:
        self.streams = [Attached(a) for a in addresses]
        for each in self.streams:
            opener(each.address)  # refuses what is no address before anything is started
        self.now, self._stopping, self._lock, self._threads = now, Event(), Lock(), list[Thread]()

    def start(self) -> None:
        """Begin to read every stream."""
        for each in self.streams:
            thread = Thread(target=self._keep_reading, args=(each,), daemon=True, name=each.address)
            self._threads.append(thread)
            thread.start()

    def stop(self) -> None:
        """End reading."""
        self._stopping.set()
        for thread in self._threads:
            thread.join(timeout=2 * _WAIT_S)

    def snapshot(self) -> list[Attached]:
        """Return the streams as they are now."""
        with self._lock:
            return [
                Attached(**{**vars(s), "latest": dict(s.latest), "pressed": dict(s.pressed), "counts": s.counts})
                for s in self.streams
            ]

    def _keep_reading(self, stream: Attached) -> None:
        while not self._stopping.is_set():
            try:
                self._read(stream)
            except (OSError, serial.SerialException, WebSocketException) as e:
                _log.info("%s: %s", stream.address, e)
            stream.state = "lost"
            self._stopping.wait(_AGAIN_S)

    def _read(self, stream: Attached) -> None:
        open_it, adapter = opener(stream.address)
        pieces = open_it(self._stopping)
        first = next(pieces, None)
        if first is None:
            return
        stream.state = "connected"
        reader = StreamReader(self.now)

        def fed() -> Iterator[Known]:
            if adapter is not None:
                yield from adapter(pieces, self.now)
                return
            for piece in pieces:
                yield from reader.feed(piece)

        for message in fed():
            with self._lock:
                stream.latest[message.kind] = message
                stream.heard_at = self.now()
                stream.counts, stream.clock_off_s = reader.counts, reader.clock_off_s
                stream.jumped_m = reader.jumped_m
                if message.kind == "button":
                    stream.pressed[message.name] = stream.pressed.get(message.name, 0) + 1


def opener(address: str) -> tuple[Callable[[Event], Iterator[bytes]], Adapter | None]:
    """Return what reads an address piece by piece, and its adapter; raise `BadInput` for what is no address.

    The first piece is empty: it says that the connection stands.
    """
    parts = urlsplit(address)
    asked = {k: v[-1] for k, v in parse_qs(parts.query).items()}
    adapter = _adapter(asked["adapter"]) if "adapter" in asked else None
    if parts.scheme == "tcp" and parts.hostname and _port(parts):
        return lambda stopping: _tcp(parts.hostname or "", _port(parts), stopping), adapter
    if parts.scheme in ("ws", "wss") and parts.hostname:
        return lambda stopping: _websocket(address, stopping), adapter
    if parts.scheme == "serial" and parts.path:
        baud = asked.get("baud", str(_BAUD))
        if baud.isdigit():
            return lambda stopping: _serial(parts.path, int(baud), stopping), adapter
    raise BadInput(
        f"“{address}” is no address of an instrument.",
        field="instruments",
        fix="Write tcp://127.0.0.1:8430, ws://127.0.0.1:8431 or serial:///dev/ttyUSB0?baud=115200.",
    )


def _port(parts: object) -> int:
    try:
        return int(getattr(parts, "port", None) or 0)
    except ValueError:
        return 0


def _adapter(name: str) -> Adapter:
    for found in entry_points(group=GROUP):
        if found.name == name:
            return found.load()  # type: ignore[no-any-return]
    known = ", ".join(sorted(e.name for e in entry_points(group=GROUP)))
    raise BadInput(f"There is no adapter “{name}”.", field="instruments", fix=f"Installed: {known}.")


def _tcp(host: str, port: int, stopping: Event) -> Iterator[bytes]:
    with socket.create_connection((host, port), timeout=_WAIT_S) as link:
        yield b""
        while not stopping.is_set():
            try:
                piece = link.recv(_PIECE)
            except TimeoutError:
                continue
            if not piece:
                return
            yield piece


def _websocket(address: str, stopping: Event) -> Iterator[bytes]:
    """Pieces of a stream in a WebSocket's messages; a message that ends without a line's end is one line."""
    with connect(address, open_timeout=_WAIT_S * 4, max_size=_LARGEST) as link:
        yield b""
        while not stopping.is_set():
            try:
                said = link.recv(timeout=_WAIT_S)
            except TimeoutError:
                continue
            except ConnectionClosed:
                return
            piece = said.encode() if isinstance(said, str) else said
            yield piece if piece.endswith(b"\n") else piece + b"\n"


def _serial(path: str, baud: int, stopping: Event) -> Iterator[bytes]:
    with serial.Serial(path, baud, timeout=_WAIT_S) as link:
        yield b""
        while not stopping.is_set():
            piece = link.read(max(1, link.in_waiting))
            if piece:
                yield piece
