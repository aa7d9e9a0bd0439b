"""The signal model against closed forms, textbooks, practice and itself."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np

from tests.core import corpus_figures as figures
from tests.core.bench import driven
from tests.core.soil_figures import RETURN_CASES, return_errors
from tools.validation.tables import percent, table
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.limits import passivity
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.physics.stake_resistance import driven_rod_ohm
from vessel.core.signal.solved_site import SolvedSite, convergence
from vessel.formats import site_file

DEMO = Path(__file__).parents[2] / "src" / "vessel" / "demo" / "ostrel-bay.vessel-site.json"
SITES, SEED = 1000, 11


def ohms_law_error() -> float:
    """An earthed wire at 100 Hz against copper, earths and Carson's earth resistance."""
    circuit = LineCircuit(Line(figures.TRACER, 300.0, 0.8, 0.8), figures.LOAM, freq_hz=100.0)
    c = figures.TRACER
    law = 300.0 / (c.conductivity_s_m * np.pi * c.radius_m**2) + 30.0 + 300.0 * np.pi**2 * 100e-7
    return float(abs(driven(circuit, far_ohm=30.0).volts[0].real / law - 1))


def site_figures() -> tuple[int, float, float, int]:
    """Random sites solved, worst power balance, worst reciprocity, how many touch the flag of giving power back."""
    sites = list(figures.random_sites(SEED, SITES))
    flagged = sum(bool(passivity(site.circuit)) for site in sites)
    return len(sites), max(map(figures.power_error, sites)), max(map(figures.reciprocity_error, sites)), flagged


def halving() -> list[tuple[float, dict[str, float]]]:
    doc = site_file.load(DEMO.read_text(encoding="utf-8")).site
    site, kit, hookup = site_file.site_of(doc), site_file.kit_used(doc), site_file.hookup_of(doc.hookup)
    found = []
    for freq in (560.0, 8960.0, 35840.0, 143360.0):
        coarse, fine = (
            SolvedSite(site, replace(hookup, freq_hz=freq), kit, unknown="earthed", refine=r) for r in (1.0, 2.0)
        )
        found.append((freq, convergence(coarse, fine, [line.name for line in site.lines])))
    return found


def tracer_amps(freq: float, far: float | None) -> float:
    kit = replace(SAMPLE_KIT, volts_max=30.0, outputs_a=(0.1,))
    setup = Setup("direct", freq, 0.1)
    circuit = LineCircuit(Line(figures.TRACER, 200.0, 0.8, 0.8), figures.LOAM, freq_hz=freq)
    return output(excite(circuit, setup, kit, far_ohms=(far,))[0].load_ohm, setup, kit).amps or 0.0


def agreement() -> list[str]:
    solved, power, reciprocity, flagged = site_figures()
    straight, depth = figures.straight_line_errors()
    within, narrow = figures.profile_recovery(3, 200)
    closed = max(figures.closed_form_error(f, length) for f in figures.KIT_HZ for length in (20.0, 200.0, 3000.0))
    saad = max(figures.saad_error(f, rho) for f in figures.KIT_HZ for rho in (20.0, 200.0, 2000.0))
    rod = abs(driven_rod_ohm(Soil(60.0), length_m=0.4, radius_m=0.006) / 109.48 - 1)
    deep, amps = zip(*(return_errors(*case) for case in RETURN_CASES), strict=True)
    target = max(change["Gas service to ticket hall"] for _, change in halving())
    return table(
        ["check", "reached", "wanted"],
        [
            [
                "insulated wire, open and earthed, coth and tanh forms, all kit frequencies, 20 m to 3 km",
                percent(closed),
                "0.5 %",
            ],
            ["earthed wire at 100 Hz against Ohm's law", percent(ohms_law_error()), "1 %"],
            [
                "coupling of long parallel lines against Saad's mutual, up to a tenth of the skin depth apart",
                percent(saad),
                "3 %",
            ],
            [f"reciprocity between three ports, {solved} random sites of 2 to 5 lines", f"{reciprocity:.1g}", "1e-9"],
            [
                f"power in against power lost, of the apparent power, {solved} random sites, none active",
                f"{power:.1g}",
                "1e-6",
            ],
            ["of these sites, flagged: approximate mutual terms could give power back", f"{flagged}", ""],
            ["halving the segments: current on the hooked-up line of the demo site", percent(target), "1 %"],
            ["straight line: field; electronic depth", f"{percent(straight)}; {percent(depth)}", "0.5 %"],
            ["coil over a long line, total EMF, free space", percent(figures.coil_error()), "1 %"],
            ["driven rod against its closed form", percent(rod), "0.1 %"],
            [
                "return current in the soil up to m d = 1, against Pollaczek's integral: depth; current shown",
                f"{percent(max(deep))}; {percent(max(amps))}",
                "1 %",
            ],
            [
                "two hidden conductors in 200 noisy profiles: within the fit's stated ranges",
                f"{within / 2:g} %",
                "95 %",
            ],
            ["of these profiles, ranges of the main line narrower than a tenth of its depth", f"{narrow / 2:g} %", ""],
        ],
    )


def halving_table() -> list[str]:
    found = halving()
    names = list(found[0][1])
    text = (
        "Greatest change of current on each line, against the greatest on that line (neighbours carry a small part of\n"
        "the signal; far ends said to be unknown are earthed).\n"
    )
    rows = table(
        ["line", *(f"{f / 1e3:g} kHz" for f, _ in found)], [[n, *(percent(c[n]) for _, c in found)] for n in names]
    )
    return [text, *rows]


def trends() -> list[str]:
    rows = []
    for freq, said in ((500.0, "about 1 %"), (8000.0, "about a tenth"), (33000.0, "about a third")):
        ratio = figures.bleed_off(freq)
        rows.append(
            [
                f"bleed-off at {freq / 1e3:g} kHz, earthed cable 1 m aside",
                f"{100 * abs(ratio):.1f} %, phase {np.degrees(np.angle(ratio)):.0f} degrees",
                said,
            ]
        )
    rows += [
        [
            "unearthed 200 m tracer wire, 100 mA asked, 30 V: 560 Hz",
            f"{1e3 * tracer_amps(560.0, None):.2g} mA",
            "almost nothing",
        ],
        ["the same at 8.96 kHz", f"{1e3 * tracer_amps(8960.0, None):.0f} mA", "about half"],
        [
            "the same, far end earthed, 560 Hz to 35.84 kHz",
            f"{1e3 * min(tracer_amps(f, 30.0) for f in figures.KIT_HZ[:5]):.0f} mA",
            "all of it",
        ],
    ]
    peak, null = figures.shifts(-0.3, away_m=1.0, depth_m=1.05)
    rows.append(
        [
            "neighbour with -0.3 of the current 1 m aside, 1.05 m deep: peak, null",
            f"{100 * peak:.0f} cm, {100 * null:.0f} cm",
            "about 7 cm, 18 cm away",
        ]
    )
    return table(["trend", "reached", "practice"], rows)
