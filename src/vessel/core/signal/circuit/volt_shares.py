"""Where the volts go: each part's share of the transmitter's volts in a direct connection."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.model.setup import Setup
from vessel.core.signal.circuit.line_circuit import LineCircuit
from vessel.core.signal.circuit.ports import Response
from vessel.core.signal.physics.stake_resistance import lead_impedance, stake_ohm


@dataclass(frozen=True)
class VoltShare:
    """One part of the loop and its share of the volts [V], in phase with the total; shares add up to the total.

    A share may be below zero: wire inductance and capacitance to soil swing against each other.
    """

    part: str
    volts: float


def volt_shares(
    circuit: LineCircuit, setup: Setup, response: Response, *, load_ohm: complex, far_ohm: float | None, amps: float
) -> list[VoltShare]:
    """Return where the terminal volts go at an output.

    Complex power of each part divided by the current is its part of the terminal volts (Tellegen's theorem).

    Args:
        circuit: The line's circuit at one frequency.
        setup: Method, place, frequency and output.
        response: A solved response, per ampere.
        load_ohm: The loop [ohm].
        far_ohm: Earth at the far end [ohm]; None for open.
        amps: Output [A].

    Returns:
        Shares of lead, clip, stake, line and far end.
    """
    mesh, site = circuit.mesh, circuit.site_circuit
    near = circuit.line.near.earth_ohm
    near_amps = response.leak[mesh.far[circuit.target, "start"][1]]
    far_amps = complex(response.joined[0]) if len(response.joined) else 0j
    own = mesh.of_line(circuit.target)
    parts = {
        "clip": complex(setup.clip_ohm),
        "lead": lead_impedance(circuit.soil, freq_hz=circuit.freq_hz, length_m=setup.stake.away_m),
        "stake": complex(stake_ohm(setup.stake, circuit.soil)),
        # what neighbours induce in the metal is part of its volts
        "metal": complex((np.conj(response.amps[own]) * (site.series[own] @ response.amps)).sum()),
        "near_earth": 0j if near is None else complex(near * abs(near_amps) ** 2),
        "far_earth": 0j if far_ohm is None else complex(far_ohm * abs(far_amps) ** 2),
    }
    # what remains is the way from metal to soil along the line, together with the soil it shares with the stake
    parts["along"] = load_ohm - sum(parts.values())
    turn = np.conj(load_ohm) / abs(load_ohm)
    return [VoltShare(name, float((z * turn).real) * amps) for name, z in parts.items() if z != 0]
