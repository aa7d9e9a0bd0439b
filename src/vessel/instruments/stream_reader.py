"""A byte stream read as messages: lines that are cut, doubled, late or unknown are counted, and never stop it."""

from __future__ import annotations

import json
from collections import deque
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import datetime
from math import cos, hypot, radians

import pynmea2
from pydantic import ValidationError

from vessel.instruments.messages import KINDS, Known, PositionMessage, message_of

LONGEST = 65_536
"""A line longer than this is no message [bytes]."""
CLOCK_OFF_S = 300.0
JUMP_M, JUMP_WITHIN_S = 20.0, 2.0
_KEPT = 512  # messages remembered, to know a double
_M_PER_DEG = 111_320.0
_HDOP_M = 3.0  # what a dilution of 1 is worth where nothing better is given


@dataclass
class Counts:
    """What else came in a stream than messages that were taken."""

    taken: int = 0
    unknown: int = 0
    broken: int = 0
    doubled: int = 0
    late: int = 0


@dataclass
class StreamReader:
    """Reads one stream piece by piece; `now` tells the time of arrival.

    `clock_off_s`: how far the instrument's clock was off when it last spoke [s]; `jumped_m`: how far the position last
    jumped [m], 0 if it moves as somebody walks.
    """

    now: Callable[[], datetime]
    counts: Counts = field(default_factory=Counts)
    clock_off_s: float = 0.0
    jumped_m: float = 0.0
    _rest: bytes = b""
    _too_long: bool = False
    _seen: deque[str] = field(default_factory=lambda: deque(maxlen=_KEPT))
    _last: dict[tuple[str, str], str] = field(default_factory=dict)
    _position: tuple[PositionMessage, datetime] | None = None

    def feed(self, data: bytes) -> Iterator[Known]:
        """Yield the messages that a further piece of the stream completes."""
        *lines, self._rest = (self._rest + data).split(b"\n")
        if lines and self._too_long:
            self._too_long = False
            del lines[0]  # the end of what was too long
        if len(self._rest) > LONGEST:
            self.counts.broken += not self._too_long
            self._rest, self._too_long = b"", True
        for line in lines:
            message = self._read(line.strip())
            if message is not None:
                yield message

    def _read(self, line: bytes) -> Known | None:
        if not line:
            return None
        try:
            text = line.decode()
            message = self._nmea(text) if text.startswith("$") else self._json(text)
        except (ValueError, RecursionError, pynmea2.ParseError):
            self.counts.broken += 1
            return None
        return None if message is None or self._is_old(message, text) else self._taken(message)

    def _json(self, text: str) -> Known | None:
        data = json.loads(text)
        if not isinstance(data, dict):
            raise ValueError("no object")
        if data.get("kind") not in KINDS:
            self.counts.unknown += 1
            return None
        try:
            return message_of(data)
        except ValidationError as e:
            raise ValueError("no message") from e

    def _nmea(self, text: str) -> PositionMessage | None:
        said = pynmea2.parse(text, check=True)
        if said.sentence_type not in ("GGA", "RMC"):
            self.counts.unknown += 1
            return None
        valid = said.gps_qual > 0 if said.sentence_type == "GGA" else said.status == "A"
        if not valid:
            return None
        hdop = float(getattr(said, "horizontal_dil", 0) or 0)
        return PositionMessage(latitude=said.latitude, longitude=said.longitude, accuracy_m=hdop * _HDOP_M)

    def _is_old(self, message: Known, text: str) -> bool:
        """Whether a message came before: the same line again, or one that another of its kind has overtaken."""
        if not message.time:
            return False
        if text in self._seen:
            self.counts.doubled += 1
            return True
        self._seen.append(text)
        of = (message.kind, message.serial)
        if message.kind != "button" and message.time < self._last.get(of, ""):
            self.counts.late += 1
            return True
        self._last[of] = message.time
        return False

    def _taken(self, message: Known) -> Known:
        self.counts.taken += 1
        now = self.now()
        if message.time:
            try:
                told = datetime.fromisoformat(message.time)
                self.clock_off_s = (told - now).total_seconds() if told.tzinfo else 0.0
            except ValueError:
                self.clock_off_s = 0.0
        if isinstance(message, PositionMessage):
            self._moved(message, now)
        return message

    def _moved(self, message: PositionMessage, now: datetime) -> None:
        if self._position is not None:
            was, at = self._position
            north = (message.latitude - was.latitude) * _M_PER_DEG
            east = (message.longitude - was.longitude) * _M_PER_DEG * cos(radians(was.latitude))
            far = hypot(east, north)
            self.jumped_m = far if far > JUMP_M and (now - at).total_seconds() < JUMP_WITHIN_S else 0.0
        self._position = message, now

    @property
    def clock_is_off(self) -> bool:
        """Whether the instrument's clock is off by minutes."""
        return abs(self.clock_off_s) > CLOCK_OFF_S
