"""What a story needs: a transmitter and a line that are not core's, and every screen asked for the same thing."""

import json
from dataclasses import dataclass, field

import numpy as np

from tests.conftest import sent
from tests.trouble.grounds import TARGET, along, wire_of
from tests.trouble.network import Ground, Net
from vessel.cli import main
from vessel.core.model.kit import SAMPLE_KIT


@dataclass
class Buried:
    """A line in the ground as it really is; ohms, metres. `stake`, `clip`: of the hookup at its near end."""

    preset: str = "tracer_wire"
    length: float = 140.0
    depth: float = 0.8
    rho: float = 120.0
    stake: float = 240.0
    clip: float = 0.5
    near: float | None = None
    far: float | None = None
    broken: tuple = ()
    earths: list = field(default_factory=list)

    def _driven(self, freq_hz, asked_a):
        path = along(self.length, self.depth)
        wire = wire_of(self.preset, TARGET, path, freq_hz, start=self.near, end=self.far, broken=self.broken)
        net = Net(Ground([wire], self.rho, [], self.earths), freq_hz)
        per_amp, line_ohm = net.direct(TARGET, 0.0)
        loop = line_ohm + self.stake + self.clip
        watts = SAMPLE_KIT.frequency(freq_hz).watts
        amps = min(asked_a, SAMPLE_KIT.volts_max / abs(loop), np.sqrt(watts / max(loop.real, 1e-9)))
        return net, per_amp, amps, abs(loop)

    def shown(self, freq_hz=8960.0, asked_a=0.12):
        """Volts and milliamps that the transmitter shows."""
        _, _, amps, ohms = self._driven(freq_hz, asked_a)
        return f"{min(amps * ohms, SAMPLE_KIT.volts_max):.3g}", f"{1e3 * amps:.3g}"

    def milliamps(self, at_m, freq_hz=8960.0, asked_a=0.12):
        """Current on the line [mA]."""
        net, per_amp, amps, _ = self._driven(freq_hz, asked_a)
        return 1e3 * amps * float(net.current_on(per_amp, TARGET, at_m))


def hooked(client, line, **body):
    """Hook up by direct connection unless told otherwise; return the setup's address."""
    made = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "direct", "output": "120", **body}))
    return f"/api/setups/{made['id']}"


def read(client, path, shown, **more):
    """Enter what the transmitter shows; return the hookup's screen."""
    volts, milliamps = shown
    return sent(client.post(f"{path}/readings", json={"volts": volts, "milliamps": milliamps, **more}))


def on_the_command_line(command, text, tmp_path, capsys):
    """What a command answers on a job file."""
    file = tmp_path / "story.vessel.json"
    file.write_text(text, encoding="utf-8")
    capsys.readouterr()
    assert main([command, str(file)]) == 0
    return json.loads(capsys.readouterr().out)


def one_story(client, job, path, run, done=()):
    """The hookup's leading explanation, after every screen was asked for the same: (cause, put right since).

    `run(command, text)` asks the command line; `done`: what was changed at the hookup so far.
    """
    screen = sent(client.get(path))
    lead = screen["hypotheses"][0]
    said = (lead["cause"], lead["mended"])
    record = sent(client.get(f"/api/jobs/{job}/record"))
    on_record = [h for x in record["lines"] for h in x["hookups"] if h["hypotheses"]]
    assert said in [(h["hypotheses"][0]["cause"], h["hypotheses"][0]["mended"]) for h in on_record]
    assert screen["headline"] in [h["headline"] for h in on_record]
    *_, told = run("diagnose", client.get(f"/api/jobs/{job}/export").text)["hookups"]
    assert (told["explanations"][0]["cause"], told["explanations"][0]["mended"]) == said
    # nothing that was done is advised again, on no screen
    helps = sent(client.get(f"{path}/remedies"))
    assert not set(done) & ({r["kind"] for r in helps["helping"]} - {"stake"})
    shares = screen["explained"]["shares"]
    assert min(s["volts"] for s in shares) >= 0
    volts = float(screen["readings"][-1]["volts_text"].split()[0])
    assert max(s["volts"] for s in shares) <= volts * 1.001
    assert ("far_open" in said and not lead["mended"]) <= (far_volts(screen) == 0)
    return said


def far_volts(screen):
    """Volts that a hookup's screen puts into the far earth."""
    return sum(s["volts"] for s in screen["explained"]["shares"] if "far end" in s["label"])


def station(client, path, at_m, milliamps, **more):
    """Take a clean station; return the trace."""
    body = {"distance": f"{at_m:g}m", "currents": f"{milliamps:.3g} {1.01 * milliamps:.3g} {milliamps:.3g}"}
    good = {"depth": "0.8", "lift_height": "0.5", "depth_lifted": "1.3", "peak_null": "0.02", "neighbour": "0"}
    return sent(client.post(f"{path}/stations", json={**body, **good, **more}))


def kept(client, job):
    """The job as its file has it."""
    return json.loads(client.get(f"/api/jobs/{job}/export").text)["job"]
