"""A scripted technician in the yard: does what a lesson's walk says, through the same addresses as the browser."""

from dataclasses import dataclass, field

import numpy as np

from tests.conftest import sent
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.kit import SONDE_HZ

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
    run: int = 0
    walk: int = 0

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
        body |= {} if s.apart_m is None else {"apart": f"{s.apart_m:g}"}
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
        if s.what == "access" and self.ask("get", f"/api/jobs/{self.job}/yard")["looks"]:
            self.said.append(self.ask("post", f"/api/jobs/{self.job}/yard/look")["remark"])
        self.ask("post", f"/api/setups/{self.setup}/identity", kind=s.what, answer="for")

    def held(self, places, heading, lifted=False, **how):
        self.tick += 1
        body = [{"east": x, "north": y, "heading": heading, "lifted": lifted} for x, y in places]
        path = f"/api/jobs/{self.job}/yard/receiver"
        return self.ask(
            "post", path, freq_hz=self.listens or self.hz, gain_db=GAIN_DB, tick=self.tick, held=body, **how
        )

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

    def rod(self, s):
        """Stops of a sonde run: find peak and nulls along the pipe as drawn, read depth, and lift."""
        line = self.lines[s.line]
        if not self.run:
            self.hz = SONDE_HZ
            self.run = self.ask("post", f"/api/lines/{line['id']}/sonde-runs", freq="560")["id"]
            steps = [x["id"] for x in self.ask("get", f"/api/lines/{line['id']}/sonde")["run"]["steps"]]
            self.ask("patch", f"/api/sonde-runs/{self.run}", steps_done=steps)
        route = Drawn(s.line, None, tuple(tuple(c) for c in line["corners"]), 1.0, 1.0)
        for rod_m in np.arange(s.at_m, s.to_m + 1e-6, s.step_m):
            self._stop(route, float(rod_m), s)

    def _stop(self, route, rod_m, s):
        view = self.ask("put", f"/api/jobs/{self.job}/yard/rod", rod_m=rod_m)["rod"]
        sonde = s.what != "line"
        # a receiver in line mode is held across the pipe to hear the head at all
        turn = 0.0 if sonde else 90.0

        def heard(first_m, last_m, count):
            at_m = np.linspace(first_m, last_m, count)
            run = route.places(at_m)
            here, ahead = route.places(np.array([at_m.mean() - 0.05, at_m.mean() + 0.05]))
            heading = float(np.degrees(np.arctan2(*(ahead - here)))) + turn
            return at_m, [f["level"] for f in self.held(run, heading, sonde=sonde)], heading

        at_m, levels, heading = heard(max(rod_m - 6.0, 0.0), rod_m + 6.0, 60)
        near = at_m[int(np.argmax(levels))]
        at_m, levels, heading = heard(near - 1.0, near + 1.0, 41)
        peak = float(at_m[0] + _top(at_m - at_m[0], levels))
        at_m, levels, _ = heard(peak - 3.0, peak - 0.2, 57)
        before = _first_null(at_m[::-1], levels[::-1])
        at_m, levels, _ = heard(peak + 0.2, peak + 3.0, 57)
        after = _first_null(at_m, levels)
        if s.what == "ghost":  # the loudest beyond a null, taken for the head; nobody looks for its nulls
            at_m, levels, heading = heard(after + 0.1, after + 2.0, 39)
            peak, before, after = float(at_m[int(np.argmax(levels))]), None, None
        place = route.places(np.array([peak]))
        face = self.held(place, heading, sonde=sonde)[0]
        lifted = self.held(place, heading, lifted=True, sonde=sonde)[0]
        body = {
            "distance": face["along"],
            "rod": f"{view['rod_m']:g}",
            "null_before": "" if before is None else f"{before:.2f}",
            "null_after": "" if after is None else f"{after:.2f}",
            "depth": face["depth"],
            "mode": "sonde" if sonde else "",
            "signal": f"{1000 * face['level']:.3g}",
            "lift_height": f"{LIFT_M}m" if lifted["depth"] and s.lift else "",
            "depth_lifted": lifted["depth"] if s.lift else "",
            "insist": True,
        }
        self.ask("post", f"/api/sonde-runs/{self.run}/stops", **body)

    def ready(self, s):
        """A walk with the frame made ready, its loop and the level at the stake read."""
        line = self.lines[s.line]
        form = {"freq": "560", "stake_back": "5", "stake_away": "12"}
        self.walk = self.ask("post", f"/api/lines/{line['id']}/fault-walks", **form)["id"]
        steps = [x["id"] for x in self.ask("get", f"/api/lines/{line['id']}/fault")["shown"]["walk"]["steps"]]
        left_out = s.what.split()
        self.ask("patch", f"/api/fault-walks/{self.walk}", steps_done=[x for x in steps if x not in left_out])
        view = self.ask("put", f"/api/jobs/{self.job}/yard/transmitter", on=True, walk_id=self.walk)
        self.said.append(view["remark"])
        stake, frame_m = np.array(view["walk"]["stake_at"]), 0.6
        reference = self._spiked([stake - [0.0, 0.5 + 0.5 * frame_m]], 0.0)[0]
        form |= {"volts": f"{view['volts']:.3g}", "milliamps": f"{view['milliamps']:.3g}"}
        self.ask("put", f"/api/fault-walks/{self.walk}", **form, reference=reference["level"])

    def _spiked(self, places, heading):
        self.tick += 1
        spiked = [{"east": float(x), "north": float(y), "heading": heading} for x, y in places]
        return self.ask("post", f"/api/jobs/{self.job}/yard/frame", tick=self.tick, spiked=spiked)

    def frame(self, s):
        line = self.lines[s.line]
        route = Drawn(s.line, None, tuple(tuple(c) for c in line["corners"]), 1.0, 1.0)
        for at_m in np.arange(s.at_m, s.to_m + 1e-6, s.step_m):
            here, ahead = route.places(np.array([at_m, at_m + 0.05]))
            heading = float(np.degrees(np.arctan2(*(ahead - here))))
            along = self._spiked([here], heading)[0]
            # turned across and moved a hand's width to either side: where it turns over, it is on the route
            left = np.array([-(ahead - here)[1], (ahead - here)[0]]) / np.linalg.norm(ahead - here)
            beside = self._spiked([here - 0.1 * left, here, here + 0.1 * left], heading - 90.0)
            sides = {each["across"] for each in beside}
            across = "null" if "null" in sides or len(sides) > 1 else sides.pop()
            body = {"distance": along["along"], "arrow": along["arrow"], "level": along["level"], "insist": True}
            self.ask("post", f"/api/fault-walks/{self.walk}/readings", **body, across=across if s.lift else "")

    def mark_faults(self, s):
        line = self.lines[s.line]
        for found in self.ask("get", f"/api/lines/{line['id']}/fault")["shown"]["faults"]:
            sure = found["said"] == "found"
            if sure or s.what == "all":
                body = {"at_m": found["at_m"], "reason": "" if sure else "The frame flips here."}
                self.ask("post", f"/api/fault-walks/{self.walk}/marks", **body)

    def _mark_stops(self, s):
        for stop in self.ask("get", f"/api/lines/{self.lines[s.line]['id']}/sonde")["stops"]:
            proved = stop["verdict"] in ("mark", "mark_with_care")
            if proved or s.what == "all":
                reason = "" if proved else "The head is loud here."
                self.ask("post", f"/api/stops/{stop['id']}/marks", reason=reason)

    def mark(self, s):
        if self.run:
            return self._mark_stops(s)
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


def _first_null(at_m, levels):
    """The first place from the peak on where the level turns up again."""
    k = next((k for k in range(1, len(levels) - 1) if levels[k] < levels[k - 1] and levels[k] <= levels[k + 1]), None)
    return None if k is None else float(at_m[k])


def _bottom(offsets, levels):
    """Where a null is: its level falls straight to nothing from either side."""
    k = int(np.argmin(levels))
    j = min(
        max(k + (1 if k == 0 or (k + 1 < len(levels) and levels[k + 1] < levels[k - 1]) else -1), 0), len(levels) - 1
    )
    share = levels[k] / max(levels[k] + levels[j], 1e-12)
    return float(offsets[k] + share * (offsets[j] - offsets[k]))
