"""A receiver with two horizontal coils and a vertical one, and what somebody reads with it over a peak."""

import numpy as np

from tests.trouble.network import MU0
from tests.trouble.soil import added


class Ears:
    """A receiver over a solved network: `amps` in its pieces, noise [T], coils at two heights [m]."""

    def __init__(self, net, amps, noise_t, low_m, high_m, rng):
        self.net, self.amps, self.noise = net, amps, noise_t
        self.low, self.high, self.rng = low_m, high_m, rng
        self._heard = {}  # what is at a place is there at every repeat

    def coils(self, places, heading, height):
        """Horizontal (across the heading) and vertical field at places (n, 2)."""
        b = self.net.field(np.column_stack([places, np.full(len(places), height)]), self.amps)
        b = b + self._returned(places, height)
        return np.abs(-heading[1] * b[:, 0] + heading[0] * b[:, 1]), np.abs(b[:, 2])

    def _returned(self, places, height):
        """The field of the current that comes home through the soil, each wire taken as long where it passes."""
        total = np.zeros((len(places), 3), dtype=complex)
        for wire in self.net.ground.wires:
            s, off, depth = wire.nearest(places)
            inside = (s > 0.5) & (s < wire.length_m - 0.5) & (off < 8.0)
            if not inside.any():
                continue
            way = wire.heading(s)
            left = np.column_stack([-way[:, 1], way[:, 0]])
            side = np.sign(((places - wire.at(s)[:, :2]) * left).sum(1))
            horizontal, vertical = added(
                self.net.ground.rho, self.net.freq_hz, float(depth[inside].mean()), side * off, height
            )
            amps = MU0 / (2 * np.pi) * np.where(inside, self.net.phasor_on(self.amps, wire.name, s), 0.0)
            total[:, :2] -= (amps * horizontal)[:, None] * left
            total[:, 2] += amps * vertical
        return total

    def display(self, place, heading, lift=0.0, noisy=True):
        """Depth [m] below the unlifted receiver's foot and current [A] as displayed; NaN where none is."""
        key = (*place, *heading, lift)
        if key not in self._heard:
            self._heard[key] = [self.coils(place[None], heading, h + lift)[0][0] for h in (self.low, self.high)]
        b = self._heard[key]
        if noisy:
            b = [abs(x + self.rng.normal(0, self.noise / np.sqrt(2))) for x in b]
        ratio = b[0] / b[1]
        depth = (self.high - self.low) / (ratio - 1) - self.low if ratio > 1.001 else np.nan
        return depth, 2 * np.pi * b[0] * (depth + self.low) / MU0, b[0]

    def peaks(self, middle, heading, reach, step=0.04):
        """Offsets left of `middle` of the local peaks within reach, loudest first, with their strength."""
        left = np.array([-heading[1], heading[0]])
        x = np.arange(-reach, reach + 1e-9, step)
        h, v = self.coils(middle + x[:, None] * left, heading, self.low)
        top = [k for k in range(1, len(x) - 1) if h[k] >= h[k - 1] and h[k] > h[k + 1]]
        top.sort(key=lambda k: -h[k])
        return [(float(x[k]), float(h[k])) for k in top], x, h, v
