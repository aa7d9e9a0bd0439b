"""How well the signal model meets what it did not write itself: each figure once, for the tests and for the document."""

from collections.abc import Iterator

import numpy as np
from scipy.special import kv

from tests.core.bench import driven, power_lost, segment_fields
from vessel.core.base.errors import VesselError
from vessel.core.judge.across.conductor_fit import READING_SPREAD, ProfilePoint, field_across, fit_profile
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond, Hookup, Site, SiteLine
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.ports import seen
from vessel.core.signal.circuit.sources import direct_port
from vessel.core.signal.physics import magnetic_field as field
from vessel.core.signal.physics.earth_return import MU0, skin_depth, soil_propagation
from vessel.core.signal.physics.inductive_coupling import Coupling, Segments
from vessel.core.signal.solved_site import SolvedSite

LOAM = Soil(60.0)
KIT_HZ = [f.freq_hz for f in SAMPLE_KIT.frequencies]
TRACER, CABLE = (PRESETS[n].construction for n in ("tracer_wire", "armoured_cable"))


def mutual_earth_return(soil: Soil, *, freq_hz: float, spacing_m: float, depths_m: float, across_m: float) -> complex:
    """Return the mutual earth-return impedance of two long parallel wires.

    Args:
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].
        spacing_m: Direct distance D between them [m].
        depths_m: Sum of their depths h1 + h2 [m].
        across_m: Horizontal distance x between them [m].

    Returns:
        Z_m = (jw mu0 / 2 pi) [K0(m D) + 2 / (4 + m^2 x^2) exp(-m (h1 + h2))] [ohm/m], in the closed form that `earth_return` cites.
    """
    m = soil_propagation(soil, freq_hz=freq_hz)
    bracket = kv(0, m * spacing_m) + 2 / (4 + (m * across_m) ** 2) * np.exp(-m * depths_m)
    return complex(1j * 2 * np.pi * freq_hz * MU0 / (2 * np.pi) * bracket)


def closed_form_error(freq_hz: float, length_m: float) -> float:
    """Greatest relative error of input impedance, open and earthed, and of the current half way, of a tracer wire."""
    circuit = LineCircuit(Line(TRACER, length_m, 0.8, 0.8), LOAM, freq_hz=freq_hz)
    p, load = circuit.params, 30.0
    gl = p.gamma * length_m
    opened, closed = driven(circuit), driven(circuit, far_ohm=load)
    mid = circuit.current_at(opened, np.array([length_m / 2]))[0]
    textbook = p.zc * (load + p.zc * np.tanh(gl)) / (p.zc + load * np.tanh(gl))
    errors = [
        opened.volts[0] * np.tanh(gl) / p.zc - 1,
        mid / abs(np.sinh(gl / 2) / np.sinh(gl)) - 1,
        closed.volts[0] / textbook - 1,
    ]
    return float(np.abs(errors).max())


def saad_error(freq_hz: float, rho: float) -> float:
    """Greatest relative error of the per-metre coupling of long parallel lines up to a tenth of the skin depth apart."""
    soil = Soil(rho)
    skin = skin_depth(soil, freq_hz=freq_hz)
    x = np.linspace(-400 * skin, 400 * skin, 801)
    worst = 0.0
    for spacing in (0.3, 0.03 * skin, 0.1 * skin):
        if not 0.1 < spacing < 0.0999 * skin:
            continue
        wires = []
        for y, depth in ((0.0, 0.4), (spacing, 0.5)):
            nodes = np.column_stack([x, 0 * x + y, 0 * x - depth])
            wires.append(Segments(nodes[:-1], nodes[1:], np.full(800, 1e-3)))
        row = Coupling(*wires, np.full(800, 400), np.arange(800)).at(soil, freq_hz=freq_hz)[400]
        apart = float(np.hypot(spacing, 0.1))
        saad = mutual_earth_return(soil, freq_hz=freq_hz, spacing_m=apart, depths_m=0.9, across_m=spacing)
        worst = max(worst, float(abs(row.sum() / skin / saad - 1)))
    return worst


def bleed_off(
    freq_hz: float, *, spacing_m: float = 1.0, length_m: float = 220.0, over_m: float = 40.0, ohm: float = 45.0
) -> complex:
    """Neighbour's current against the line's, half way: an armoured cable earthed `over_m` beyond both ends."""
    beside = Neighbour("cable", CABLE, spacing_m, -over_m, length_m + over_m, 0.8, ohm, ohm)
    circuit = LineCircuit(Line(TRACER, length_m, 0.8, 0.8, neighbours=(beside,)), LOAM, freq_hz=freq_hz)
    r = excite(circuit, Setup("direct", freq_hz, 0.03), SAMPLE_KIT, far_ohms=(10.0,))[0].response
    middle, ends = np.array([length_m / 2]), circuit.site_circuit.ends(r)
    own, other = (circuit.site_circuit.current_on(ends, i, s)[0] for i, s in ((0, middle), (1, middle + over_m)))
    return complex(other / own)


def shifts(ratio: float, *, away_m: float, depth_m: float) -> tuple[float, float]:
    """Where peak and null lie across a line whose neighbour, `away_m` to the left, carries `ratio` of its current."""
    y = np.linspace(-1.2, 1.2, 4801)
    points = np.column_stack([0 * y, y, 0 * y + 0.05])
    b = sum(
        amps * segment_fields(points, np.array([[-5e3, at, -depth_m]]), np.array([[5e3, at, -depth_m]]))[:, 0]
        for amps, at in ((1.0, 0.0), (ratio, away_m))
    )
    near = np.abs(y) < 0.6 * away_m  # the neighbour has a null of its own
    return float(y[near][np.abs(b[near, 1]).argmax()]), float(y[near][np.abs(b[near, 2]).argmin()])


def straight_line_errors() -> tuple[float, float]:
    """Relative error of field and of electronic depth over a long line."""
    ends = np.array([[-2000.0, 0, -1.2]]), np.array([[2000.0, 0, -1.2]])
    low, high = np.abs(segment_fields(np.array([[0, 0, 0.05], [0, 0, 0.45]]), *ends)[:, 0, 1])
    depth = field.electronic_depth(low, high, low_m=0.05, separation_m=0.4)
    return abs(float(low) * 2 * np.pi * 1.25 / MU0 - 1), abs(float(depth) / 1.2 - 1)


def coil_error() -> float:
    """Relative error of the total EMF of a coil over a long line, free space."""
    x = np.linspace(-3000, 3000, 3001)
    nodes = np.column_stack([x, 0 * x, 0 * x - 1.0])
    emf = field.coil_emf(
        nodes[:-1], nodes[1:], at_m=np.array([0, 0, 0.25]), moment_a_m2=np.array([0, 10.0, 0]), freq_hz=35840.0
    )
    return float(abs(abs(emf.sum()) / (2 * np.pi * 35840.0 * MU0 * 10.0 / (2 * np.pi * 1.25)) - 1))


def random_sites(seed: int, count: int) -> Iterator[SolvedSite]:
    """Solved random sites of 2 to 5 lines, driven directly; those the model refuses are passed over."""
    rng, names = np.random.default_rng(seed), sorted(PRESETS)
    for _ in range(count):
        lines = []
        for i in range(int(rng.integers(2, 6))):
            place, route = rng.uniform(-30, 30, 2), []
            for _ in range(int(rng.integers(2, 5))):
                route.append((float(place[0]), float(place[1]), float(rng.uniform(0.3, 2.5))))
                turn = rng.uniform(0, 2 * np.pi)
                place = place + rng.uniform(8, 60) * np.array([np.cos(turn), np.sin(turn)])
            ends = [FarEnd("earthed" if rng.random() < 0.5 else "open", float(rng.uniform(1, 80))) for _ in range(2)]
            preset = PRESETS[names[int(rng.integers(len(names)))]]
            lines.append(SiteLine("ABCDE"[i], preset.construction, tuple(route), *ends))
        bonds = (Bond("A", lines[0].length_m / 2, "B", lines[1].length_m / 3, 0.05),) if rng.random() < 0.5 else ()
        soil = Soil(float(np.exp(rng.uniform(np.log(8), np.log(2500)))))
        x, y, _ = lines[0].route[0]
        stake = (float(x + rng.uniform(-9, 9)), float(y + rng.uniform(2, 9)))
        hookup = Hookup("direct", float(rng.choice(KIT_HZ)), 0.03, "A", 0.0, Stake(), stake)
        try:
            yield SolvedSite(Site(soil, tuple(lines), bonds), hookup, SAMPLE_KIT)
        except VesselError:
            continue


def power_error(site: SolvedSite) -> float:
    """Power put in less power lost, against the apparent power; infinite if the site gives power back."""
    load = site.excitation.load_ohm
    if load is None or load.real <= 0:
        return float("inf")
    return float(abs(load.real - power_lost(site.circuit, site.hookup, site.excitation.response)) / abs(load))


def reciprocity_error(site: SolvedSite) -> float:
    """Greatest difference of the two transfer impedances between three ports, against the ports' own."""
    c = site.circuit
    ends = c.mesh.node_at(0, 0.0), c.mesh.node_at(1, 0.0)
    ports = [direct_port(c, site.hookup), c.between(ends[1], None), c.between(*ends)]
    worst = 0.0
    for a in ports:
        for b in ports:
            worst = max(worst, abs(a.sees(b) - b.sees(a)) / np.sqrt(abs(seen(a) * seen(b))))
    return float(worst)


LOW_M, NOISE_T, OFFSETS = 0.05, 2e-11, np.linspace(-3.0, 3.0, 25)
Truth = list[tuple[float, float, complex]]


def noisy_profile(conductors: Truth, rng: np.random.Generator, *, vertical: bool = True) -> list[ProfilePoint]:
    """Readings across hidden conductors, as restless as the fit assumes."""
    h, v = field_across(OFFSETS, conductors, low_m=LOW_M)
    sigma = np.hypot(NOISE_T, READING_SPREAD * h.max())
    h, v = (np.abs(b + sigma * rng.standard_normal(len(b))) for b in (h, v))
    return [
        ProfilePoint(float(y), float(a), float(b) if vertical else None) for y, a, b in zip(OFFSETS, h, v, strict=True)
    ]


def hidden_pair(rng: np.random.Generator) -> Truth:
    """A line and a neighbour 1 to 2.2 m aside with a quarter to two thirds of its current at any phase."""
    turn = np.exp(1j * rng.uniform(0, np.pi))
    side = rng.choice([-1.0, 1.0])
    return [
        (float(rng.uniform(-0.3, 0.3)), float(rng.uniform(0.5, 1.6)), 0.02 + 0j),
        (
            float(side * rng.uniform(1.0, 2.2)),
            float(rng.uniform(0.5, 1.4)),
            complex(0.02 * rng.uniform(0.25, 0.7) * turn),
        ),
    ]


def profile_recovery(seed: int, cases: int) -> tuple[int, int]:
    """Of `cases` hidden pairs: how many lie within the fit's stated ranges, and how many of those ranges are narrow."""
    rng, within, narrow = np.random.default_rng(seed), 0, 0
    for _ in range(cases):
        truth = sorted(hidden_pair(rng))
        fit = fit_profile(noisy_profile(truth, rng), noise_t=NOISE_T, low_m=LOW_M)
        found = sorted(fit.conductors, key=lambda c: c.offset_m)
        within += len(found) == 2 and all(
            abs(c.offset_m - x) <= c.offset_pm_m and abs(c.depth_m - d) <= c.depth_pm_m
            for c, (x, d, _) in zip(found, truth, strict=True)
        )
        narrow += fit.conductors[0].offset_pm_m < 0.1 * fit.conductors[0].depth_m
    return within, narrow
