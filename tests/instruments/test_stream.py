"""The instrument stream: what is read of it, however it fails, and what stand-ins and adapters send."""

import json
import os
import pty
import time
import tracemalloc
import tty
from datetime import UTC, datetime, timedelta
from importlib.resources import files
from threading import Event

import jsonschema
import numpy as np
import pynmea2
import pytest

from vessel.cli.instruments import Served, stand_ins_of
from vessel.core.base.errors import BadInput
from vessel.formats.lesson_file import OPEN_SEA
from vessel.formats.projection import on_plan
from vessel.instruments.attached import Instruments, opener
from vessel.instruments.messages import PositionMessage, ReceiverMessage, line_of, schema_text
from vessel.instruments.stream_reader import StreamReader

START = datetime(2026, 11, 20, 9, 0, tzinfo=UTC)
SITE = files("vessel.demo").joinpath("ostrel-bay.vessel-site.json").read_text()


class Clock:
    """A clock that a test moves."""

    def __init__(self):
        self.time = START

    def __call__(self):
        return self.time

    def ahead(self, seconds):
        self.time += timedelta(seconds=seconds)


@pytest.fixture
def clock():
    return Clock()


@pytest.fixture
def bench(clock):
    """Stand-ins and a reader of what they send, by one clock."""
    stand_ins = stand_ins_of(SITE, seed=2)
    stand_ins.now = clock
    return stand_ins, StreamReader(clock)


def heard(bench, clock, ticks=20):
    stand_ins, reader = bench
    found = []
    for _ in range(ticks):
        clock.ahead(0.05)
        found += reader.feed(stand_ins.tick())
    return found


def until(told, wanted, seconds=10):
    """Wait until something is so."""
    end = time.monotonic() + seconds
    while not wanted(told()) and time.monotonic() < end:
        time.sleep(0.05)
    assert wanted(told()), told()
    return told()


def test_stand_ins_send_what_the_model_reads_where_they_stand(bench, clock):
    stand_ins, reader = bench
    stand_ins.do("step 10")
    found = heard(bench, clock)
    kinds = [m.kind for m in found]
    assert (kinds.count("receiver"), kinds.count("transmitter"), kinds.count("position")) == (20, 1, 5)
    shown = [m for m in found if m.kind == "receiver"]
    assert np.median([m.ma for m in shown]) == pytest.approx(1e3 * stand_ins.put.solved.output.amps, rel=0.15)
    place = on_plan((found[kinds.index("position")].latitude, found[kinds.index("position")].longitude), OPEN_SEA)
    assert place == pytest.approx((10.0, 0.0), abs=0.02)
    stand_ins.do("off")
    assert all(m.ma is None for m in heard(bench, clock, 5) if m.kind == "receiver")
    stand_ins.do("to 20 0")
    heard(bench, clock, 20 * 8)  # at walking pace
    assert stand_ins.at == (20.0, 0.0)
    with pytest.raises(BadInput, match="no command"):
        stand_ins.do("fly")
    with pytest.raises(BadInput, match="Write: to EAST NORTH"):
        stand_ins.do("to 3")
    assert reader.counts.broken == 0


def test_a_sonde_is_heard_over_its_head_and_a_frame_points_where_current_leaves(bench, clock):
    stand_ins = stand_ins_of(SITE, seed=2, sonde="Storm drain")
    stand_ins.now = clock
    for command in ("sonde", "rod 20", "gain 20"):
        stand_ins.do(command)
    head = stand_ins.drain.places([20.0])[0]
    over, aside = [], []
    for east, found in ((float(head[0]), over), (float(head[0]) + 9.0, aside)):
        stand_ins.at = (east, float(head[1]))
        found += [m for m in heard((stand_ins, bench[1]), clock, 5) if m.kind == "receiver"]
    assert all(m.mode == "sonde" and m.freq_hz == 560.0 for m in over)
    assert np.median([m.level for m in over]) > 5 * np.median([m.level for m in aside])
    assert np.median([m.depth_m for m in over]) == pytest.approx(-head[2], rel=0.1)
    stand_ins.do("frame")
    stand_ins.at, stand_ins.heading_deg = stand_ins.put.at, 90.0
    ahead = [m for m in heard((stand_ins, bench[1]), clock, 5) if m.kind == "frame"]
    stand_ins.heading_deg = 270.0
    back = [m for m in heard((stand_ins, bench[1]), clock, 5) if m.kind == "frame"]
    assert {m.direction for m in ahead} | {m.direction for m in back} == {"forward", "back"}
    assert ahead[0].level_db == pytest.approx(back[0].level_db, abs=3)
    with pytest.raises(BadInput, match="No sonde"):
        bench[0].do("sonde")


def test_lines_of_the_stream_fit_the_published_schema(bench, clock):
    stand_ins, _ = bench
    stand_ins.press("log")
    lines = [x for _ in range(3) for x in stand_ins.tick().decode().splitlines() if x.startswith("{")]
    assert {json.loads(x)["kind"] for x in lines} == {"receiver", "transmitter", "button"}
    for line in lines:
        jsonschema.validate(json.loads(line), json.loads(schema_text()))


@pytest.mark.parametrize("fault", ["cut", "double", "late", "clock 1", "jump 30", "battery 0.05"])
def test_a_stream_that_fails_loses_nothing_but_the_line_that_failed(bench, clock, fault):
    stand_ins, reader = bench
    before = [m for m in heard(bench, clock, 40) if m.kind == "receiver"]
    stand_ins.do(fault)
    during, jumps = [], []
    for _ in range(41):
        during += [m for m in heard(bench, clock, 1) if m.kind == "receiver"]
        jumps.append(reader.jumped_m)
    assert len(before) == 40
    lost = {"cut": (0, 1)}.get(fault, (0, 0))
    assert 41 - len(during) in range(lost[0], lost[1] + 1)
    counts = reader.counts
    assert (counts.broken > 0) == (fault == "cut")
    assert (counts.doubled > 0) == (fault in ("double", "late"))
    assert reader.clock_is_off == (fault == "clock 1")
    assert (max(jumps) > 20) == fault.startswith("jump")
    assert during[-1].battery == (0.05 if fault.startswith("battery") else 0.81)


def test_what_is_unknown_is_kept_or_counted_and_what_is_broken_is_neither(clock):
    reader = StreamReader(clock)
    good = ReceiverMessage(freq_hz=8960, ma=27.4, time=START.isoformat(), serial="a")
    odd = {"kind": "receiver", "freq_hz": 8960, "compass_error": 3, "time": "2026-11-20T09:00:01+00:00"}
    stream = line_of(good) + b'{"kind":"kettle","hot":true}\n' + json.dumps(odd).encode() + b"\n"
    stream += b'{"kind":"receiver","freq_hz":-1}\nnot json\n[1]\n\xff\xfe\n$GPGGA,123,*00\n' + b"x" * 70_000
    found = [m for k in range(0, len(stream), 7) for m in reader.feed(stream[k : k + 7])]
    assert [m.ma for m in found] == [27.4, None]
    assert found[1].model_extra == {"compass_error": 3}
    assert (reader.counts.unknown, reader.counts.broken) == (1, 6)
    nmea = str(
        pynmea2.RMC(
            "GP", "RMC", ["090000.00", "A", "1200.0000", "N", "15000.0000", "W", "0.0", "0.0", "201126", "", ""]
        )
    )
    (at,) = [*reader.feed(b"x\n" + nmea[:20].encode()), *reader.feed(nmea[20:].encode() + b"\r\n")]
    assert isinstance(at, PositionMessage)
    assert (at.latitude, at.longitude) == (12.0, -150.0)


def test_fifteen_minutes_at_twenty_hertz_leave_no_memory_behind(clock):
    reader, k = StreamReader(clock), 0

    def minutes(n):
        nonlocal k
        for _ in range(int(n * 60 * 20)):
            k += 1
            clock.ahead(0.05)
            sent = line_of(ReceiverMessage(freq_hz=8960, ma=k % 7, time=clock().isoformat(), serial="a"))
            list(reader.feed(sent))

    minutes(1)
    tracemalloc.start()
    first = tracemalloc.get_traced_memory()[0]
    minutes(14)
    grown = tracemalloc.get_traced_memory()[0] - first
    tracemalloc.stop()
    assert reader.counts.taken == 15 * 60 * 20
    assert grown < 150_000


@pytest.mark.parametrize("over", ["tcp", "ws"])
def test_a_server_takes_a_stream_up_again_when_it_was_lost(over):
    served = Served(stand_ins_of(SITE))
    port = served.port if over == "tcp" else served.serve_websocket()
    attached = Instruments([f"{over}://127.0.0.1:{port}"])
    attached.start()
    try:
        one = lambda: attached.snapshot()[0]  # noqa: E731
        until(one, lambda s: {"receiver", "position", "transmitter"} <= s.latest.keys())
        served.do("log")
        until(one, lambda s: s.pressed == {"log": 1})
        served.drop()
        until(one, lambda s: s.state == "lost")
        until(one, lambda s: s.state == "connected")
    finally:
        attached.stop()
        served.stop()


def test_a_serial_port_is_read_like_any_stream(clock):
    ours, theirs = pty.openpty()
    tty.setraw(ours)
    open_it, adapter = opener(f"serial://{os.ttyname(theirs)}?baud=9600&adapter=columns")
    stopping = Event()
    pieces = open_it(stopping)
    assert next(pieces) == b""
    os.write(ours, b"time,frequency,current,depth\r\n09:00,8960,27.4,0.78\r\n09:01,x,1,1\r\n09:02,8960,26.1,0.80\r\n")
    messages = adapter(pieces, clock)
    assert [(m.ma, m.depth_m) for m in (next(messages), next(messages))] == [(27.4, 0.78), (26.1, 0.8)]
    stopping.set()
    os.close(ours)
    os.close(theirs)


@pytest.mark.parametrize("address", ["8430", "tcp://here", "udp://127.0.0.1:1", "serial://", "tcp://a:1?adapter=none"])
def test_what_is_no_address_is_refused_with_an_example(address):
    with pytest.raises(BadInput, match=r"tcp://127|adapter"):
        Instruments([address])
