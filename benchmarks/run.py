"""Speed of the core, with how it grows. Figures are medians; nothing here is a test."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

import numpy as np

from vessel.core.diagnose.circuit import diagnose
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.reading import TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.options import plan_line
from vessel.core.signal.line_circuit import LineCircuit

SOIL = Soil(60.0)


def median_ms(run: Callable[[], object], repeat: int = 7) -> float:
    """Return the median time [ms] of `run`."""
    times = []
    for _ in range(repeat):
        start = time.perf_counter()
        run()
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times)


def tracer(length_m: float) -> Line:
    return Line(PRESETS["tracer_wire"].construction, length_m, 0.6, 1.0)


def factor_sparse(length_m: float) -> float:
    def run() -> None:
        circuit = LineCircuit(tracer(length_m), SOIL, freq_hz=8960.0)
        inject = np.zeros(len(circuit.x_m), complex)
        inject[0] = 1.0
        circuit.respond(injected=inject)

    return median_ms(run)


def solve_dense(length_m: float) -> float:
    circuit = LineCircuit(tracer(length_m), SOIL, freq_hz=8960.0)
    network, n = circuit.network, len(circuit.x_m)
    full = np.diag(network.y).astype(complex)
    for a, b, z in zip(network.start, network.end, network.z, strict=True):
        full[a, a] += 1 / z
        full[b, b] += 1 / z
        full[a, b] -= 1 / z
        full[b, a] -= 1 / z
    inject = np.zeros(n, complex)
    inject[0] = 1.0
    return median_ms(lambda: np.linalg.solve(full, inject))


def main() -> None:
    base = Setup("direct", 560.0, 0.005)
    print("circuit of one line, factor and solve, against a plain dense solve of the same matrix")
    for length in (50.0, 500.0, 3000.0):
        sparse, dense = factor_sparse(length), solve_dense(length)
        nodes = len(LineCircuit(tracer(length), SOIL, freq_hz=8960.0).x_m)
        print(
            f"  {length:6.0f} m  {nodes:5d} nodes  {sparse:7.2f} ms  dense {dense:8.2f} ms  ratio {dense / sparse:6.1f}"
        )
    print("plan of one line: 3 hookups x 7 frequencies x 5 outputs x 2 far ends")
    for length in (50.0, 140.0, 500.0, 3000.0):
        took = median_ms(lambda length=length: plan_line(tracer(length), SOIL, SAMPLE_KIT, base=base), 3)
        print(f"  {length:6.0f} m  {took:7.0f} ms")
    for n in (1, 2, 4):
        readings = [TransmitterReading(8.0, 0.03, f.freq_hz) for f in SAMPLE_KIT.frequencies[2 : 2 + n]]
        took = median_ms(
            lambda r=readings: diagnose(tracer(140.0), Setup("direct", 35840.0, 0.03), SOIL, SAMPLE_KIT, r), 5
        )
        print(f"circuit diagnosis from {n} readings  {took:7.0f} ms")


if __name__ == "__main__":
    main()
