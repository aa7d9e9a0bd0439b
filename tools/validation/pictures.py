"""The pictures of the document."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import matplotlib as mpl
import numpy as np
from matplotlib import pyplot as plt

from tests.core import corpus_figures as figures
from tests.core.bench import driven
from vessel.core.model.line import Line
from vessel.core.signal.circuit.line_circuit import LineCircuit

PLOTS = Path(__file__).parents[2] / "docs" / "validation"


def plot(name: str, draw: Callable[[Any], None]) -> None:
    figure, axes = plt.subplots(figsize=(7, 3.6), layout="constrained")
    draw(axes)
    axes.grid(alpha=0.3)
    axes.legend(frameon=False, fontsize=9)
    figure.savefig(PLOTS / f"{name}.svg", metadata={"Date": None})
    plt.close(figure)


def draw_current(axes: Any) -> None:
    x = np.linspace(0, 200, 81)
    for freq, style in ((8960.0, "C0"), (71680.0, "C1")):
        circuit = LineCircuit(Line(figures.TRACER, 200.0, 0.8, 0.8), figures.LOAM, freq_hz=freq)
        p = circuit.params
        gl, gx = p.gamma * 200.0, p.gamma * (200.0 - x)
        reflect = (30.0 - p.zc) / (30.0 + p.zc)
        forms = {
            None: np.sinh(gx) / np.sinh(gl),
            30.0: (np.exp(gx) - reflect * np.exp(-gx)) / (np.exp(gl) - reflect * np.exp(-gl)),
        }
        for far, exact in forms.items():
            label = f"{freq / 1e3:g} kHz, far end {'open' if far is None else 'earthed'}"
            axes.plot(x, np.abs(exact), style, ls="-" if far else "--", label=label)
            axes.plot(x[::5], circuit.current_at(driven(circuit, far_ohm=far), x[::5]), style + "o", ms=4)
    axes.set(
        xlabel="distance along a 200 m tracer wire, m",
        ylabel="current per ampere",
        title="Lines: closed form. Dots: the model.",
    )


def draw_bleed_off(axes: Any) -> None:
    freqs = np.geomspace(400, 150e3, 30)
    for spacing in (0.5, 1.0, 2.0, 4.0):
        share = [100 * abs(figures.bleed_off(float(f), spacing_m=spacing)) for f in freqs]
        axes.loglog(freqs / 1e3, share, label=f"{spacing:g} m aside")
    axes.set(
        xlabel="frequency, kHz",
        ylabel="neighbour's current, % of the line's",
        title="Bleed-off onto an earthed cable, half way along 220 m",
    )


def draw_shifts(axes: Any) -> None:
    away = np.linspace(0.4, 3.0, 27)
    found = np.array([figures.shifts(-0.3, away_m=float(a), depth_m=1.0) for a in away])
    for k, label in ((0, "peak"), (1, "null")):
        axes.plot(away, -100 * found[:, k], label=label)
    axes.set(
        xlabel="distance to a neighbour with -0.3 of the current, m",
        ylabel="shift away from it, cm",
        title="Both lines 1 m deep",
    )


DRAWN: dict[str, tuple[str, Callable[[Any], None]]] = {
    "current": ("Current along a line against the closed form", draw_current),
    "bleed-off": ("Bleed-off against frequency and spacing", draw_bleed_off),
    "shifts": ("Peak and null shift against a neighbour's distance", draw_shifts),
}


def pictures() -> list[str]:
    """Draw them all; return where each stands."""
    mpl.rcParams.update({"svg.hashsalt": "vessel", "svg.fonttype": "path", "font.size": 9})
    PLOTS.mkdir(parents=True, exist_ok=True)
    for name, (_, draw) in DRAWN.items():
        plot(name, draw)
    return [f"![{caption}](validation/{name}.svg)\n" for name, (caption, _) in DRAWN.items()]
