"""Two devices that do the same, or different things, at the same instant; sixteen that write for a while."""

import statistics
import threading
import time

from tests.soak.kills import sent

STATION = {
    "currents": "25.8 26.1 25.9",
    "depth": "0.78",
    "lift_height": "0.5",
    "depth_lifted": "1.28",
    "peak_null": "0.02",
    "neighbour": "1.8",
    "insist": True,
}
LINE = {"utility": "gas", "preset": "tracer_wire", "length": "140", "depth_min": "0.6", "depth_max": "1.0"}


def both(first, second):
    """Call two things at the same instant; return what both answered."""
    answers, gate = [None, None], threading.Barrier(2)

    def call(k, what):
        gate.wait()
        answers[k] = what()

    threads = [threading.Thread(target=call, args=(k, what)) for k, what in enumerate((first, second))]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    return answers


class Ground:
    """A job with a line and a hookup on a server."""

    def __init__(self, url: str, length: str = LINE["length"]) -> None:
        self.url = url
        self.job = self.made("/api/jobs", {"name": "Apron", "technician": "R. Tallow"})
        self.line = self.made(f"/api/jobs/{self.job}/lines", {"name": "Gas", **LINE, "length": length})
        hookup = {"hookup": "direct", "freq": "35.84k", "output": "30"}
        self.setup = self.made(f"/api/lines/{self.line}/setups", hookup)

    def made(self, path, body):
        """Return the id of what is made."""
        status, answer = sent(self.url + path, body)
        assert status == 201, answer
        return answer["id"]

    def get(self, path):
        """Return what is at an address."""
        return sent(self.url + path, method="GET")[1]

    def station(self, at):
        """Take a station; return status and answer."""
        return sent(f"{self.url}/api/setups/{self.setup}/stations", {"distance": f"{at:.2f}m", **STATION})


def two_answers(g: Ground, k: int) -> str:
    """Two checks of the sheet answered at once: both are there."""
    checks = [c["id"] for group in g.get(f"/api/jobs/{g.job}/before")["groups"] for c in group["checks"]]
    pair = checks[(2 * k) % len(checks)], checks[(2 * k + 1) % len(checks)]
    for check in pair:
        sent(f"{g.url}/api/jobs/{g.job}/before/checks/{check}", {"answer": ""}, "PUT")

    def answer(check):
        return sent(f"{g.url}/api/jobs/{g.job}/before/checks/{check}", {"answer": "yes"}, "PUT")

    both(lambda: answer(pair[0]), lambda: answer(pair[1]))
    groups = g.get(f"/api/jobs/{g.job}/before")["groups"]
    answered = {c["id"] for group in groups for c in group["checks"] if c["answer"]}
    return "" if set(pair) <= answered else "an answer is lost"


def one_station_twice(g: Ground, k: int) -> str:
    """The same station from two phones: one is stored, the other is told."""
    at = 0.5 + 0.25 * k
    codes = sorted(a[0] for a in both(lambda: g.station(at), lambda: g.station(at)))
    stations = g.get(f"/api/setups/{g.setup}/trace")["stations"]
    there = sum(abs(s["distance_m"] - at) < 0.005 for s in stations)
    return "" if there == 1 and codes in ([201, 409], [201, 422]) else f"stored {there} times, answered {codes}"


def one_mark_twice(g: Ground, k: int) -> str:
    """The same mark from two phones: one stands."""
    g.station(0.5 + 0.25 * k)
    stations = g.get(f"/api/setups/{g.setup}/trace")["stations"]
    free = next(s["id"] for s in stations if s["mark_id"] is None)

    def mark():
        return sent(f"{g.url}/api/stations/{free}/marks", {"reason": "Painted at once by two."})

    codes = sorted(a[0] for a in both(mark, mark))
    standing = sum(not m["withdrawn_at"] for m in g.get(f"/api/lines/{g.line}/marks") if m["station_id"] == free)
    return "" if standing == 1 and codes == [201, 409] else f"{standing} marks stand, answered {codes}"


PAIRS = {"two answers": two_answers, "one station twice": one_station_twice, "one mark twice": one_mark_twice}


def writing(url: str, *, writers: int, seconds: float) -> tuple[int, int, float]:
    """Let several write for a while; return how many writes were done, how many refused, and their p95 [s]."""
    grounds, took, refused = [Ground(url) for _ in range(writers)], [], []
    until = time.monotonic() + seconds

    def write(g: Ground) -> None:
        k = 0
        while time.monotonic() < until:
            k += 1
            start = time.monotonic()
            status, answer = sent(f"{url}/api/jobs/{g.job}/lines", {"name": f"Line {k}", **LINE})
            took.append(time.monotonic() - start)
            if status != 201:
                refused.append(answer)

    threads = [threading.Thread(target=write, args=(g,)) for g in grounds]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    return len(took), len(refused), statistics.quantiles(took, n=20)[-1]


def on_a_long_line(url: str, *, stations: int, posts: int) -> tuple[int, list[str], float, float]:
    """Take stations on a line that has thousands.

    Return how many it had, what was refused, the p95 of a post [s], and how long the trace takes to be judged anew [s].
    """
    g, took, refused = Ground(url, length=str(stations)), [], []
    rows = "".join(f"{1 + 0.9 * k:.1f};{25 - 2e-3 * k:.2f};0.78\n" for k in range(stations))
    status, answer = sent(
        f"{url}/api/setups/{g.setup}/columns", {"text": "distance;current;depth\n" + rows, "store": True}
    )
    if status >= 400:
        refused.append(answer)
    for k in range(posts):
        start = time.monotonic()
        status, answer = g.station(0.55 + k * 0.9)
        took.append(time.monotonic() - start)
        if status not in (201, 202):
            refused.append(answer)
    start = time.monotonic()
    had = len(g.get(f"/api/setups/{g.setup}/trace")["stations"]) - posts
    return had, refused, statistics.quantiles(took, n=20)[-1], time.monotonic() - start
