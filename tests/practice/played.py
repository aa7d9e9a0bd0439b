"""A scripted technician in the yard: does what a lesson's walk says, through the same addresses as the browser."""

from dataclasses import dataclass, field

import numpy as np

from tests.conftest import sent
from vessel.core.model.site_plan import Drawn

GAIN_DB = 30.0
LIFT_M = 0.5
HEARD = 0.5  # of full scale: above this a passive hit is logged


@dataclass
class Player:
    """Plays one exercise; `said`: what the coach said, `bodies`: every answer, to be searched for the truth."""

    client: object
    job: int
    said: list = field(default_factory=list)
    bodies: list = field(default_factory=list)
    lines: dict = field(default_factory=dict)
    setup: int = 0
    line: str = ""
    hz: float = 0.0
    tick: int = 0
    change: str = ""
    listens: float | None = None

    def ask(self, how, path, **body):
        call = getattr(self.client, how)
        response = call(path, json=body) if how != "get" else call(path)
        self.bodies.append(response.text)
        return sent(response)

    def __post_init__(self):
        site = self.ask("get", f"/api/jobs/{self.job}/site")
        self.lines = {x["name"]: x for x in site["lines"]}

    def play(self, steps):
        for step in steps:
            getattr(self, step.do)(step)
        return self

    def hook_up(self, s):
        self.line, self.hz = s.line, s.freq_hz
        body = {"hookup": s.what, "freq": f"{s.freq_hz}Hz", "output": f"{1e3 * s.amps:g}", "position": f"{s.at_m:g}"}
        body |= {"rx_freq": f"{s.freq_hz}Hz"}
        if s.place is not None:
            east, north = s.place
            body["stake_at"] = f"{abs(east):g} {'E' if east >= 0 else 'W'}, {abs(north):g} {'N' if north >= 0 else 'S'}"
        made = self.ask("post", f"/api/lines/{self.lines[s.line]['id']}/setups", **body)
        self.setup = made["id"]
        steps = [x["id"] for x in self.ask("get", f"/api/setups/{self.setup}")["steps"]]
        self.ask("patch", f"/api/setups/{self.setup}", steps_done=steps)

    def receiver(self, s):
        self.listens = s.freq_hz

    def _switch(self, on, hz=None):
        path = f"/api/jobs/{self.job}/yard/transmitter"
        view = self.ask("put", path, on=on, setup_id=self.setup, freq_hz=hz)
        self.said.append(view["remark"])
        return view

    def on(self, s):
        self.hz = s.freq_hz or self.hz
        self._switch(True, s.freq_hz)

    def off(self, _):
        self._switch(False)

    def read(self, s):
        view = self._switch(True, s.freq_hz) if s.freq_hz else self.ask("get", f"/api/jobs/{self.job}/yard")
        self.hz = s.freq_hz or self.hz
        if view["volts"] is None:
            return
        shown = {"volts": f"{view['volts']:.3g}", "milliamps": f"{view['milliamps']:.3g}", "freq": f"{self.hz}Hz"}
        self.ask("post", f"/api/setups/{self.setup}/readings", **shown, change=self.change, insist=True)
        self.change = ""
        self.said.append(self.ask("post", f"/api/jobs/{self.job}/yard/remark", after="read")["text"])

    def act(self, s):
        self.said.append(self.ask("post", f"/api/jobs/{self.job}/yard/acts", act=s.what)["remark"])
        self.change = {"stake_deeper": "stake", "clean_clip": "clip", "earth_far": "far", "open_bonds": "bond"}[s.what]

    def evidence(self, s):
        self.ask("post", f"/api/setups/{self.setup}/identity", kind=s.what, answer="for")

    def held(self, places, heading, lifted=False):
        self.tick += 1
        body = [{"east": x, "north": y, "heading": heading, "lifted": lifted} for x, y in places]
        path = f"/api/jobs/{self.job}/yard/receiver"
        return self.ask("post", path, freq_hz=self.listens or self.hz, gain_db=GAIN_DB, tick=self.tick, held=body)

    def trace(self, s):
        name = s.line or self.line
        route = Drawn(name, None, tuple(tuple(c) for c in self.lines[name]["corners"]), 1.0, 1.0)
        for at_m in np.arange(s.at_m, s.to_m + 1e-6, s.step_m):
            self._station(route, float(at_m), s)

    def _station(self, route, at_m, s):
        here, ahead = route.places(np.array([at_m - 0.05, at_m + 0.05]))
        run = (ahead - here) / np.linalg.norm(ahead - here)
        middle, left = 0.5 * (here + ahead), np.array([-run[1], run[0]])
        heading = float(np.degrees(np.arctan2(run[0], run[1])))
        offsets = np.linspace(-s.aside_m, s.aside_m, 25) if s.aside_m > 0 else np.zeros(1)
        levels = [f["level"] for f in self.held(middle + offsets[:, None] * left, heading)]
        peak = middle + _top(offsets, levels) * left
        beside = np.linspace(-0.5, 0.5, 13)
        low = [f["null_level"] for f in self.held(peak + beside[:, None] * left, heading)]
        faces = self.held([peak] * 3, heading)
        lifted = self.held([peak], heading, lifted=True)[0] if s.lift else {"depth": ""}
        place = {
            "by": "device",
            "latitude": faces[0]["latitude"],
            "longitude": faces[0]["longitude"],
            "accuracy_m": 0.05,
        }
        body = {
            "distance": self.ask("post", f"/api/setups/{self.setup}/place", **place)["distance"],
            "currents": " ".join(f["milliamps"] for f in faces if f["milliamps"]),
            "depth": faces[0]["depth"],
            "lift_height": f"{LIFT_M}m" if lifted["depth"] else "",
            "depth_lifted": lifted["depth"],
            "peak_null": f"{abs(_bottom(beside, low)):.2f}m" if s.null else "",
            "direction": faces[0]["direction"],
            "lost": not any(f["milliamps"] for f in faces),
            "place": place,
            "insist": True,
        }
        self.ask("post", f"/api/setups/{self.setup}/stations", **body)

    def sweep(self, s):
        view = self.ask("get", f"/api/jobs/{self.job}/yard")["hooked"]
        bearings = np.arange(0, 360, 9.0)
        turn = np.radians(bearings)
        at = np.array(view["at"]) + s.aside_m * np.column_stack([np.sin(turn), np.cos(turn)])
        levels = []
        for k in range(0, len(at), 30):
            # faced outwards: a line that leaves the hookup runs with the heading
            for place, bearing in zip(at[k : k + 30], bearings[k : k + 30], strict=True):
                levels.append(self.held([place], float(bearing))[0])
        size = np.array([f["level"] if f["milliamps"] else 0.0 for f in levels])
        peaks = np.flatnonzero((size > np.roll(size, 1)) & (size > np.roll(size, -1)))
        for k in sorted(peaks, key=lambda k: -size[k])[:3]:
            face = levels[int(k)]
            body = {"bearing": f"{bearings[k]:g}", "current": face["milliamps"], "depth": face["depth"]}
            self.ask("post", f"/api/setups/{self.setup}/candidates", **body)

    def passive(self, s):
        turn = np.radians(s.at_m)
        way = np.array([np.sin(turn), np.cos(turn)])
        steps = np.arange(0, s.to_m + 0.01, 0.25)
        faces = []
        for k in range(0, len(steps), 50):
            # faced across the walk: what is crossed is heard, what runs along it is not
            faces += self._held_passive(np.array(s.place) + steps[k : k + 50, None] * way, s.at_m - 90)
        level = np.array([f["level"] if f["level"] > HEARD else 0.0 for f in faces])
        before = sent(self.client.get(f"/api/jobs/{self.job}/before"))["passive"]
        hits = [{"source": h["source"], "place": h["place"], "note": h["note"]} for h in before["hits"]]
        for k in range(1, len(level) - 1):
            if level[k] > 0 and level[k] == level[max(0, k - 12) : k + 13].max() and 0 < k < len(level) - 1:
                east, north = np.array(s.place) + steps[k] * way
                place = f"{abs(east):.2f} {'E' if east >= 0 else 'W'}, {abs(north):.2f} {'N' if north >= 0 else 'S'}"
                hits.append({"source": "mains", "place": place, "note": ""})
        self.ask("put", f"/api/jobs/{self.job}/before/passive", spacing=before["spacing"], hits=hits)

    def _held_passive(self, places, heading):
        self.tick += 1
        body = [{"east": x, "north": y, "heading": heading} for x, y in places]
        path = f"/api/jobs/{self.job}/yard/receiver"
        return self.ask("post", path, freq_hz=0, gain_db=GAIN_DB, tick=self.tick, held=body)

    def mark(self, s):
        for station in self.ask("get", f"/api/setups/{self.setup}/trace")["stations"]:
            proved = station["verdict"] in ("mark", "mark_with_care")
            if proved or s.what == "all":
                reason = "" if proved else "The signal is loud and clear here."
                self.ask("post", f"/api/stations/{station['id']}/marks", reason=reason)
                remark = {"after": "mark", "station_id": station["id"]}
                self.said.append(self.ask("post", f"/api/jobs/{self.job}/yard/remark", **remark)["text"])

    def end(self):
        return sent(self.client.post(f"/api/jobs/{self.job}/yard/finish"))


def begun(client, **body):
    """A player in a fresh exercise."""
    return Player(client, sent(client.post("/api/practice", json={"technician": "R. Tallow", "seed": 1, **body}))["id"])


def _top(offsets, levels):
    """Where a peak is, by a parabola through its three highest."""
    if len(levels) < 3:
        return float(offsets[0])
    k = int(np.clip(np.argmax(levels), 1, len(levels) - 2))
    a, b, c = levels[k - 1], levels[k], levels[k + 1]
    bend = a - 2 * b + c
    shift = 0.5 * (a - c) / bend if bend < 0 else 0.0
    return float(offsets[k] + np.clip(shift, -1, 1) * (offsets[1] - offsets[0]))


def _bottom(offsets, levels):
    """Where a null is: its level falls straight to nothing from either side."""
    k = int(np.argmin(levels))
    j = min(
        max(k + (1 if k == 0 or (k + 1 < len(levels) and levels[k + 1] < levels[k - 1]) else -1), 0), len(levels) - 1
    )
    share = levels[k] / max(levels[k] + levels[j], 1e-12)
    return float(offsets[k] + share * (offsets[j] - offsets[k]))
