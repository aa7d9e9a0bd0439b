"""Stand-ins for transmitter, receiver, sonde, frame, log button and positioning: a site's model, and an unsteady hand.

They send what instruments would, and can be made to fail as instruments do.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from math import cos, log10, radians, sin
from typing import Literal

import numpy as np
import pynmea2

from vessel.core.base.errors import BadInput
from vessel.core.model.kit import SONDE_HZ, Kit
from vessel.core.model.network import SiteLine
from vessel.core.practice.energised import PutOn
from vessel.core.practice.frame_held import Spiked, frame_faces
from vessel.core.practice.receiver_held import Face, Held, faces
from vessel.core.practice.sonde_head import head_in
from vessel.core.practice.yard_lesson import Plant
from vessel.formats.projection import LatLon, on_earth
from vessel.instruments.messages import (
    ButtonMessage,
    FrameMessage,
    Message,
    ReceiverMessage,
    TransmitterMessage,
    line_of,
)

RATE_HZ = 20
_POSITION_EVERY, _TRANSMITTER_EVERY = 4, 20
_WALK_M_S = 1.4
_ACCURACY_M = 0.02
_MICROVOLTS = 1e3


def usual_now() -> datetime:
    """Return the time in UTC."""
    return datetime.now(UTC)


@dataclass
class StandIns:
    """The instruments on a site: `put` is the site under its hookup, `origin` where its plan lies on the earth [deg].

    `drain`: the line that a sonde is in, `rod_m` of rod behind it. `framed`: the frame is in hand and not the receiver.
    `now` tells the time; noise comes from `chance`.
    """

    put: PutOn
    kit: Kit
    origin: LatLon
    chance: np.random.Generator
    now: Callable[[], datetime] = usual_now
    plant: tuple[Plant, ...] = ()
    drain: SiteLine | None = None
    rod_m: float = 0.0
    framed: bool = False
    on: bool = True
    at: tuple[float, float] = (0.0, 0.0)
    heading_deg: float = 90.0
    lifted: bool = False
    mode: str = "peak"
    gain_db: float = 36.0
    freq_hz: float = 0.0
    battery: float = 0.81
    target: tuple[float, float] | None = None
    clock_off: timedelta = timedelta()
    jump_m: float = 0.0
    _tick: int = 0
    _pressed: list[str] = field(default_factory=list)
    _fault: str = ""
    _last: bytes = b""

    def __post_init__(self) -> None:
        self.freq_hz = self.freq_hz or self.put.solved.hookup.freq_hz
        self.at = self.at if self.at != (0.0, 0.0) else self.put.at

    def tick(self) -> bytes:
        """Return what is sent in the next twentieth of a second."""
        self._tick += 1
        self._walk()
        sent = b"".join(self._lines())
        fault, self._fault = self._fault, ""
        if fault == "cut":
            sent = sent[: len(sent) // 3] + b"\n"
        elif fault == "double":
            sent += sent
        elif fault == "late":
            sent, self._last = self._last + sent, b""
        self._last = sent
        return sent

    def _lines(self) -> Iterator[bytes]:
        yield line_of(self._in_hand())
        if self._tick % _POSITION_EVERY == 1:
            yield self._position()
        if self._tick % _TRANSMITTER_EVERY == 1:
            yield line_of(self._transmitter())
        while self._pressed:
            yield line_of(ButtonMessage(name=self._pressed.pop(0), time=self._time(), serial="sim-rx-1"))

    def _in_hand(self) -> Message:
        """What the instrument in hand shows."""
        put = self.put if self.on else None
        if self.framed:
            face = frame_faces(put, [Spiked(self.at, self.heading_deg)], self.kit.frame_m, self.chance)[0]
            return FrameMessage(
                time=self._time(),
                serial="sim-fr-1",
                direction=_POINTS[face.points],
                level_db=round(20 * log10(max(face.level, 1e-3) * _MICROVOLTS), 1),
            )
        head = None if self.drain is None else head_in(self.drain, self.rod_m)
        sonde = self.mode == "sonde"
        held = Held(self.at, self.heading_deg, self.freq_hz, self.gain_db, self.lifted, sonde)
        return self._receiver(faces(put, [held], self.kit, self.plant, self.chance, head=head)[0])

    def _time(self) -> str:
        return (self.now() + self.clock_off).isoformat(timespec="milliseconds")

    def _receiver(self, face: Face) -> ReceiverMessage:
        return ReceiverMessage(
            time=self._time(),
            serial="sim-rx-1",
            freq_hz=self.freq_hz,
            mode=self.mode,
            gain_db=self.gain_db,
            level=round(face.null_level if self.mode == "null" else face.level, 4),
            depth_m=None if face.depth_m is None else round(face.depth_m, 3),
            ma=None if face.current_a is None else round(1e3 * face.current_a, 2),
            direction=face.direction,
            heading_deg=round(self.heading_deg, 1),
            side=face.side,
            battery=self.battery,
        )

    def _transmitter(self) -> TransmitterMessage:
        output, hookup = self.put.solved.output, self.put.solved.hookup
        shown = output if self.on else None
        return TransmitterMessage(
            time=self._time(),
            serial="sim-tx-1",
            on=self.on,
            freq_hz=hookup.freq_hz,
            asked_ma=round(1e3 * hookup.output_a, 2),
            ma=None if shown is None or shown.amps is None else round(1e3 * shown.amps, 2),
            volts=None if shown is None or shown.volts is None else round(shown.volts, 2),
            battery=self.battery,
        )

    def _position(self) -> bytes:
        east, north = self.at
        latitude, longitude = on_earth((east + self.jump_m, north), self.origin)
        self.jump_m = 0.0
        at = self.now() + self.clock_off
        said = pynmea2.GGA(
            "GP",
            "GGA",
            (
                f"{at:%H%M%S}.00",
                *_angle(latitude, "NS", 2),
                *_angle(longitude, "EW", 3),
                "4",
                "12",
                f"{_ACCURACY_M / 3:.3f}",
                "0.0",
                "M",
                "0.0",
                "M",
                "",
                "",
            ),
        )
        return f"{said}\r\n".encode()

    def _walk(self) -> None:
        if self.target is None:
            return
        way = np.subtract(self.target, self.at)
        far, step = float(np.hypot(*way)), _WALK_M_S / RATE_HZ
        if far <= step:
            self.at, self.target = self.target, None
        else:
            self.at = (self.at[0] + float(way[0]) / far * step, self.at[1] + float(way[1]) / far * step)

    def do(self, command: str) -> str:
        """Do what a line of the console says; return what to print. Raises `BadInput` for what it does not know."""
        name, *given = command.split()
        done = _COMMANDS.get(name)
        if done is None:
            raise BadInput(f"“{name}” is no command.", field="console", fix=f"Known: {', '.join(_COMMANDS)}.")
        try:
            done(self, *(float(g) for g in given))
        except (TypeError, ValueError) as e:
            raise BadInput(f"“{command}” is not understood.", field="console", fix=_HELP[name]) from e
        east, north = self.at
        state, held = "on" if self.on else "off", "lifted" if self.lifted else "down"
        return f"{state}, {east:.2f} E, {north:.2f} N, facing {self.heading_deg:.0f}, {held}"

    def step(self, ahead_m: float, right_m: float = 0.0) -> None:
        """Step so far ahead and to the right [m]."""
        turn = radians(self.heading_deg)
        east, north = sin(turn), cos(turn)
        self.at = (self.at[0] + ahead_m * east + right_m * north, self.at[1] + ahead_m * north - right_m * east)

    def find_sonde(self) -> None:
        """Turn the receiver to the sonde: its mode and its frequency. Raises `BadInput` where none is in a drain."""
        if self.drain is None:
            raise BadInput("No sonde is in the ground.", field="console", fix="Start with --sonde and a line's name.")
        self.mode, self.freq_hz, self.framed = "sonde", SONDE_HZ, False

    def press(self, button: str) -> None:
        """Press a button of the receiver."""
        self._pressed.append(button)

    def fail(self, how: str) -> None:
        """Let the next twentieth of a second be cut off, sent twice, or followed by what came before it."""
        self._fault = how


_POINTS: dict[str, Literal["", "forward", "back"]] = {"ahead": "forward", "behind": "back", "null": ""}


def _angle(degrees: float, sides: str, digits: int) -> tuple[str, str]:
    whole, minutes = divmod(round(60 * abs(degrees), 7), 60)
    return f"{whole:0{digits}.0f}{minutes:010.7f}", sides[0] if degrees >= 0 else sides[1]


def _set(name: str) -> Callable[..., None]:
    return lambda s, value: setattr(s, name, value)


_COMMANDS: dict[str, Callable[..., None]] = {
    "on": lambda s: setattr(s, "on", True),
    "off": lambda s: setattr(s, "on", False),
    "to": lambda s, east, north: setattr(s, "target", (east, north)),
    "step": StandIns.step,
    "turn": _set("heading_deg"),
    "lift": lambda s: setattr(s, "lifted", True),
    "down": lambda s: setattr(s, "lifted", False),
    "frame": lambda s: setattr(s, "framed", True),
    "receiver": lambda s: setattr(s, "framed", False),
    "sonde": StandIns.find_sonde,
    "rod": _set("rod_m"),
    "peak": lambda s: setattr(s, "mode", "peak"),
    "null": lambda s: setattr(s, "mode", "null"),
    "gain": _set("gain_db"),
    "freq": _set("freq_hz"),
    "log": lambda s: s.press("log"),
    "battery": _set("battery"),
    "clock": lambda s, hours: setattr(s, "clock_off", timedelta(hours=hours)),
    "jump": _set("jump_m"),
    "cut": lambda s: s.fail("cut"),
    "double": lambda s: s.fail("double"),
    "late": lambda s: s.fail("late"),
    "show": lambda s: None,
}
_HELP = {
    "to": "Write: to EAST NORTH [m].",
    "step": "Write: step AHEAD [RIGHT] [m].",
    "turn": "Write: turn DEGREES, clockwise from north.",
    "rod": "Write: rod METRES of rod out.",
    "gain": "Write: gain DECIBELS.",
    "freq": "Write: freq HERTZ.",
    "battery": "Write: battery SHARE, from 0 to 1.",
    "clock": "Write: clock HOURS.",
    "jump": "Write: jump METRES.",
    **dict.fromkeys(
        (
            "on",
            "off",
            "frame",
            "receiver",
            "sonde",
            "lift",
            "down",
            "peak",
            "null",
            "log",
            "cut",
            "double",
            "late",
            "show",
        ),
        "It takes no figure.",
    ),
}
