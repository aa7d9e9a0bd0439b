"""Speed of the core as ratios against a plain reference in the same run, and how it grows. Nothing here is a test."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import groupby

import numpy as np

from benchmarks.sites import demo_site, drawn_lines, hookups_on, site_of
from vessel.core.base.parallel import close_workers, open_workers
from vessel.core.diagnose.ranking import diagnose
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.hookup.rivals_of_hookup import rivals_of, weighed
from vessel.core.judge.across.conductor_fit import ProfilePoint, field_across, fit_profile
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Site
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.model.vicinity import share_one
from vessel.core.plan.options import base_setup, setup_at
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.what_if import what_if
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.circuit.sources import direct_spec, excite_all
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.solved_site import SolvedSite
from vessel.core.simulate import solved_world as world
from vessel.core.simulate.hookup_places import Place
from vessel.core.simulate.stake_spots import best_spots

SOIL = Soil(60.0)
KIT = replace(SAMPLE_KIT, frequencies=(*SAMPLE_KIT.frequencies, replace(SAMPLE_KIT.frequencies[3], freq_hz=17920.0)))
TOP_HZ = max(f.freq_hz for f in KIT.frequencies)


def median_ms(run: Callable[[], object], repeat: int = 5) -> float:
    """Return the median time [ms] of `run`."""
    times = []
    for _ in range(repeat):
        start = time.perf_counter()
        run()
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times)


def options_of(site: Site, freqs: list[float]) -> int:
    """Solve every hookup, far end and power of a site from one factorisation a frequency; return how many there are."""
    lines = len(site.lines)
    geometry = SiteGeometry(lay_mesh(site, top_hz=TOP_HZ, access=dict.fromkeys(range(lines), (0.0, 0.5))))
    count = 0
    for freq in freqs:
        circuit = SiteCircuit(geometry, freq_hz=freq)
        circuit.prepare_far([(i, "end") for i in range(lines)])
        hookups = hookups_on(site, freq)
        far = {line.name: circuit.far(i, "end") for i, line in enumerate(site.lines)}
        # a line's two direct connections, its clamp, its coil
        alike = [list(g) for _, g in groupby(hookups, key=lambda h: (h.line, h.coil_at, h.method))]
        groups = [(g, lambda f=far[g[0].line or "L0"]: [(), [(f, 0j)]]) for g in alike]
        for (same, _), cases in zip(groups, excite_all(circuit, groups, KIT), strict=True):
            for each in cases:
                for k, hookup in enumerate(same):
                    load = None if each.load_ohm is None else complex(each.load_ohm[k])
                    for amps in KIT.outputs_a:
                        output(load, replace(hookup, output_a=amps), KIT)
                        count += 1
    return count


def plain_option_ms(site: Site, freq_hz: float) -> float:
    """Fill and solve one option alone, densely, as without ports."""
    geometry = SiteGeometry(lay_mesh(site, top_hz=TOP_HZ))
    hookup = hookups_on(site, freq_hz)[0]

    def run() -> None:
        circuit = SiteCircuit(geometry, freq_hz=freq_hz)
        spec = direct_spec(circuit, [hookup]).column(0)
        a = geometry.incidence.toarray()
        k = circuit.series + a.T @ circuit.potentials @ a
        np.linalg.solve(k, spec.emf + a.T @ (circuit.potentials @ spec.j + spec.stake))

    return median_ms(run, 3)


def site_planning() -> None:
    freqs = [f.freq_hz for f in KIT.frequencies]
    print("a site: every hookup (2 stakes, clamp, coil on each line) x power x far end, mesh and integrals included")
    for lines, used in ((3, freqs), (6, freqs), (12, freqs), (12, freqs[:4]), (12, freqs[:2]), (24, freqs)):
        site = site_of(lines)
        took = median_ms(lambda s=site, u=used: options_of(s, u), 3)
        count = options_of(site, used[:1]) * len(used)
        plain = plain_option_ms(site, 8960.0) * count / len(KIT.outputs_a)  # outputs only scale: not solved again
        branches = lay_mesh(site, top_hz=TOP_HZ).metal
        print(
            f"  {lines:3d} lines {len(used)} frequencies {branches:5d} branches {count:6d} options {took:8.0f} ms"
            f"   a plain dense solve per option: {plain / took:6.0f} times as long"
        )
    for length in (40.0, 80.0, 160.0, 640.0):
        site = site_of(6, length_m=length)
        print(f"    6 lines of {length:4.0f} m: {median_ms(lambda s=site: options_of(s, freqs), 3):8.0f} ms")


def large_site() -> None:
    site = site_of(24, length_m=300.0)
    for refine in (1.0, 2.0):
        geometry = SiteGeometry(lay_mesh(site, top_hz=8960.0, refine=refine))
        hookup = hookups_on(site, 8960.0)[0]
        fill = median_ms(lambda g=geometry: SiteCircuit(g, freq_hz=8960.0).far(0, "end"), 1)
        circuit = SiteCircuit(geometry, freq_hz=8960.0)
        circuit.far(0, "end")
        again = median_ms(lambda c=circuit, h=hookup: excite_all(c, [([h], lambda: [()])], KIT), 3)
        print(f"  {geometry.mesh.metal:5d} branches: fill and factor {fill:7.0f} ms, then a hookup {again:6.0f} ms")


def readings() -> None:
    site = site_of(12)
    solved = SolvedSite(site, hookups_on(site, 8960.0)[0], KIT)
    for count in (1, 50, 1000):
        at = np.column_stack([np.linspace(1, 40, count), np.zeros(count)])
        heading = np.tile([1.0, 0.0], (count, 1))
        took = median_ms(lambda a=at, h=heading: solved.read(a, h), 3)
        print(f"  {count:5d} places, each with peak and null looked for: {took / count:7.2f} ms a reading")


def profiles() -> None:
    rng, y = np.random.default_rng(1), np.linspace(-3, 3, 25)
    for name, lines in (("one", [(0.1, 1.0, 0.02)]), ("two", [(0.1, 1.0, 0.02), (1.4, 0.8, 0.008 + 0.004j)])):
        h, v = (b * (1 + 0.01 * rng.standard_normal(len(y))) for b in field_across(y, lines, low_m=0.05))
        points = [ProfilePoint(*map(float, p)) for p in zip(y, h, v, strict=True)]
        took = median_ms(lambda p=points: fit_profile(p, noise_t=2e-11, low_m=0.05))
        print(f"  {name} conductor(s): {took:6.1f} ms")


def one_line() -> None:
    beside = Neighbour("main", PRESETS["coated_steel_pipe"].construction, -2.0, -30.0, 200.0, 1.2, 10.0, 10.0)
    for length in (50.0, 140.0, 500.0, 3000.0):
        for neighbours in ((), (beside,)):
            line = Line(PRESETS["tracer_wire"].construction, length, 0.6, 1.0, neighbours=neighbours)
            took = median_ms(lambda x=line: plan_lines([x], SOIL, SAMPLE_KIT)[0], 3)
            print(f"  plan of {length:5.0f} m, {len(neighbours)} neighbours: {took:7.0f} ms")
            frequencies = SAMPLE_KIT.frequencies[2:4]
            read = [TransmitterReading(8.0, 0.03, f.freq_hz) for f in frequencies]
            setup = Setup("direct", frequencies[0].freq_hz, 0.03)
            took = median_ms(lambda x=line, r=read, s=setup: diagnose(x, s, SOIL, SAMPLE_KIT, r), 3)
            print(f"  diagnosis from 2 readings, the same line:  {took:7.0f} ms")


def long_trace() -> None:
    """Judge a logger's trace: everything checked everywhere, and at every fiftieth station only."""
    line, setup = Line(PRESETS["tracer_wire"].construction, 600.0, 0.6, 1.0), Setup("direct", 8960.0, 0.03)
    state = hookup_state(line, SOIL, KIT, setup, [TransmitterReading(8.0, 0.03, 8960.0)])
    for count in (500, 5000):
        for every in (1, 50):
            read = [
                StationReading(
                    float(x),
                    (0.02, 0.0201, 0.0199),
                    0.8,
                    *((0.5, 1.3, 0.02, 0.0) if k % every == 0 else ()),
                )
                for k, x in enumerate(np.linspace(5, 595, count))
            ]
            took = median_ms(lambda r=read: judge_stations(line, SOIL, KIT, setup, state, r, rx_freq_hz=8960.0), 3)
            print(f"  {count:5d} stations, checked at every {every:2d}: {took:7.0f} ms")


def rivals() -> None:
    """Work out the rivals of a hookup on a drawn site of eight lines, and weigh twenty stations by them."""
    line, soil = drawn_lines(8)[0], SOIL
    setup = Setup("direct", 8960.0, 0.03)
    shown = (TransmitterReading(8.0, 0.03, 8960.0),)
    state = hookup_state(line, soil, KIT, setup, shown)
    at = np.linspace(5.0, line.length_m - 5.0, 20)
    read = [StationReading(float(x), (0.02, 0.0201, 0.0199), 0.8, 0.5, 1.3, 0.02, 0.0) for x in at]
    fresh = iter(Soil(100.0 + k) for k in range(9))  # nothing remembered
    cold = median_ms(lambda: rivals_of(line, next(fresh), KIT, setup, state), 5)
    rivals_of(line, soil, KIT, setup, state)
    took = median_ms(lambda: weighed(line, soil, KIT, setup, state, shown, read, tolerance_m=0.45), 5)
    whole = median_ms(
        lambda: judge_stations(line, soil, KIT, setup, state, read, rx_freq_hz=8960.0, transmitter=shown), 5
    )
    print(f"  eight lines: rivals once {cold:.0f} ms; then 20 stations weighed {took:.0f} ms, judged {whole:.0f} ms")


def planned(drawn: Sequence[Line]) -> None:
    """Plan drawn lines as the application does: together, or each in a circuit of its own on a large plan."""
    shared = drawn[0].course is not None and share_one(drawn[0].course.plan)
    for lines in [tuple(drawn)] if shared else [(line,) for line in drawn]:
        plan_lines(lines, SOIL, SAMPLE_KIT)


def whole_site() -> None:
    """Plan drawn sites as the interface does, and ask what-ifs: the first meshes, the rest follow a dragged stake."""
    start = time.perf_counter()
    sum(k for k in range(5_000_000))
    loop = 1e3 * (time.perf_counter() - start)
    shared = open_workers() + 1
    plan_lines(drawn_lines(2), SOIL, SAMPLE_KIT)  # until they have started
    print(f"  shared out over {shared} processes; a loop of five million additions: {loop:.0f} ms")
    for lines in (4, 8, 16, 24, 40):
        drawn = drawn_lines(lines)
        took = median_ms(lambda d=drawn: planned(d), 1 if lines > 16 else 9)
        print(f"  {lines:3d} lines: {took:8.0f} ms, {took / loop:6.1f} times that loop")
        if lines > 8:
            continue
        spot = best_spots(drawn[0], at_m=0.0, lead_m=SAMPLE_KIT.lead_m)[0]
        place = Place("direct", 0.0, "near end", spot.at, spot.away_m)
        setup = replace(setup_at(place, base_setup(SAMPLE_KIT), 8960.0), output_a=0.06)
        first = median_ms(lambda d=drawn, s=setup: what_if(d, 0, SOIL, SAMPLE_KIT, s), 1)
        moved = iter(replace(setup, stake_at=(spot.at[0] + 0.1 * k, spot.at[1])) for k in range(1, 9))
        drag = median_ms(lambda d=drawn, m=moved: what_if(d, 0, SOIL, SAMPLE_KIT, next(m)), 7)
        wetter = iter(Soil(60.0 - k) for k in range(1, 9))
        wet = median_ms(lambda d=drawn, w=wetter, s=setup: what_if(d, 0, next(w), SAMPLE_KIT, s), 7)
        print(f"      what if: first {first:.0f} ms, stake moved {drag:.0f} ms, soil changed {wet:.0f} ms")
    demo, soil, kit = demo_site()
    took = median_ms(lambda: plan_lines(demo, soil, kit), 9)
    print(f"  the demo's {len(demo)} lines, {sum(line.length_m for line in demo):.0f} m: {took:.0f} ms")
    close_workers()


def plan_mesh() -> None:
    """Currents of every setup of a plan against those of a mesh four times as fine, in wet to dry soil."""
    for ohm_m in (15.0, 60.0, 800.0):
        fine, usual = (_currents(refine, Soil(ohm_m)) for refine in (4 * world.REFINE, world.REFINE))
        off = [np.abs(np.log(np.maximum(usual[k], 1e-6) / np.maximum(a, 1e-6)))[a > 1e-4] for k, a in fine.items()]
        half, most = 100 * np.percentile(np.concatenate(off), [50, 99])
        print(f"  {ohm_m:4.0f} ohm m: half of the currents within {half:.2f} %, 99 % within {most:.2f} %")


def _currents(refine: float, soil: Soil) -> dict[tuple[int, Setup, str], np.ndarray]:
    """Current along each of six lines under every setup rated, by far end, from a mesh so fine."""
    usual, world.REFINE = world.REFINE, refine
    try:
        plans = plan_lines(drawn_lines(6), soil, SAMPLE_KIT)
    finally:
        world.REFINE = usual
    return {
        (k, o.setup, f.far_case): f.current_a
        for k, plan in enumerate(plans)
        for o in (*plan.ranked, *plan.rejected)
        if o.rating is not None
        for f in o.rating.forecasts
    }


def main() -> None:
    for title, run in (
        ("Site", site_planning),
        ("Large site", large_site),
        ("A plan's mesh", plan_mesh),
        ("Simulated readings", readings),
        ("Profile fit", profiles),
        ("A long trace judged", long_trace),
        ("Rivals of a hookup", rivals),
        ("One line: judge and diagnosis included", one_line),
        ("A drawn site: every line, hookup, place, frequency and output, order of work included", whole_site),
    ):
        print(title)
        run()


if __name__ == "__main__":
    main()
