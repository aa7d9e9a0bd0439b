"""Direct connection, clamp and induction as sources on a line, and what the transmitter then shows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from vessel.core.model.errors import BadInput
from vessel.core.model.kit import Kit
from vessel.core.model.setup import Setup
from vessel.core.signal.field import coil_emf
from vessel.core.signal.line_circuit import Floats, LineCircuit, Response
from vessel.core.signal.network import Complex
from vessel.core.signal.stake import lead_impedance, mutual_earth_ohm, stake_ohm

LimitedBy = Literal["asked", "volts", "watts"]


@dataclass(frozen=True)
class Excitation:
    """Line driven by one unit: per ampere of transmitter output (direct, clamp) or per full coil moment (induction).

    `load_ohm` is what the transmitter drives into [ohm], None for induction.
    """

    response: Response
    load_ohm: complex | None


@dataclass(frozen=True)
class Output:
    """What the transmitter puts out and shows; volts, amps and ohms are None for induction (it cannot tell)."""

    drive: float
    volts: float | None
    amps: float | None
    ohms: float | None
    limited_by: LimitedBy
    watts: float
    battery_h: float


def stake_potentials(circuit: LineCircuit, setup: Setup) -> Floats:
    """Return the mutual resistance (n,) [ohm] between the stake, off to the side of the near end, and each node."""
    away = setup.stake.away_m
    mutual = mutual_earth_ohm(circuit.soil, np.sqrt(away**2 + circuit.x_m**2 + circuit.depth_m**2))
    # an earth of R ohm holds the soil within rho/(2 pi R) at its own potential, so no mutual exceeds either self
    mutual = np.minimum(mutual, stake_ohm(setup.stake, circuit.soil))
    for node, ohm in circuit.concentrated_earths().items():
        mutual[node] = min(mutual[node], ohm)
    return mutual


def leak_amps(circuit: LineCircuit, setup: Setup, response: Response) -> Complex:
    """Return the current (n,) [A] leaving each node to the soil, per ampere of direct connection."""
    return np.asarray(circuit.network.y * (response.volts + stake_potentials(circuit, setup)))


def excite(circuit: LineCircuit, setup: Setup, kit: Kit, *, far_ohms: tuple[float | None, ...]) -> list[Excitation]:
    """Return the excitation of `circuit` under `setup` for each far-end resistance [ohm] (None: open).

    Raises `BadInput` where the kit lacks the clamp or coil. Output limits are not in it: see `output`.
    """
    if setup.method == "direct":
        return _direct(circuit, setup, kit, far_ohms)
    setup.require_on(circuit.line.length_m)
    return _clamp(circuit, setup, kit, far_ohms) if setup.method == "clamp" else _coil(circuit, setup, kit, far_ohms)


def _direct(circuit: LineCircuit, setup: Setup, kit: Kit, far_ohms: tuple[float | None, ...]) -> list[Excitation]:
    mutual = stake_potentials(circuit, setup)
    # the stake sinks the unit current: soil near it sits at -rho/(2 pi r), which draws current out of the line
    inject = -circuit.network.y * mutual
    inject[0] += 1.0
    opened = circuit.respond(injected=inject)
    series = complex(stake_ohm(setup.stake, circuit.soil) + setup.clip_ohm)
    series += lead_impedance(circuit.soil, freq_hz=circuit.freq_hz, length_m=setup.stake.away_m)
    found = []
    for far in far_ohms:
        r = circuit.close_far(opened, far)
        back = (mutual * leak_amps(circuit, setup, r)).sum()
        found.append(Excitation(r, complex(r.volts[0] + series - back)))
    return found


def _clamp(circuit: LineCircuit, setup: Setup, kit: Kit, far_ohms: tuple[float | None, ...]) -> list[Excitation]:
    if kit.clamp is None:
        raise BadInput(f"{kit.name} has no clamp.", field="hookup", fix="Choose another hookup.")
    k = circuit.branch_at(setup.position_m)
    jwl = 2j * np.pi * circuit.freq_hz * kit.clamp.magnetising_h
    emf = np.zeros(len(circuit.mid_m), dtype=np.complex128)
    emf[k] = jwl / kit.clamp.turns
    source_ohm = jwl / kit.clamp.turns**2
    opened = circuit.respond(emf=emf)
    found = []
    for far in far_ohms:
        r = circuit.close_far(opened, far)
        admittance = r.amps[k] / emf[k]
        factor = 1 / (1 + admittance * source_ohm)
        loaded = Response(r.volts * factor, r.amps * factor, r.far_amps * factor)
        found.append(Excitation(loaded, complex(jwl * (1 - loaded.amps[k] / kit.clamp.turns))))
    return found


def _coil(circuit: LineCircuit, setup: Setup, kit: Kit, far_ohms: tuple[float | None, ...]) -> list[Excitation]:
    if kit.coil is None:
        raise BadInput(f"{kit.name} has no induction coil.", field="hookup", fix="Choose another hookup.")
    at, moment = coil_geometry(setup, kit, freq_hz=circuit.freq_hz)
    starts, ends = line_segments(circuit.x_m, circuit.depth_m)
    emf = coil_emf(starts, ends, at_m=at, moment_a_m2=moment, freq_hz=circuit.freq_hz)
    opened = circuit.respond(emf=emf)
    return [Excitation(circuit.close_far(opened, far), None) for far in far_ohms]


def coil_geometry(setup: Setup, kit: Kit, *, freq_hz: float) -> tuple[Floats, Floats]:
    """Return position (3,) [m] and full-output moment (3,) [A m2] of the coil, its axis across the line."""
    if kit.coil is None:
        raise BadInput(f"{kit.name} has no induction coil.", field="hookup", fix="Choose another hookup.")
    return np.array([setup.position_m, 0.0, kit.coil.height_m]), np.array([0.0, kit.coil.moment_at(freq_hz), 0.0])


def line_segments(x_m: Floats, depth_m: float) -> tuple[Floats, Floats]:
    """Return starts and ends (s, 3) [m] of a straight line's segments along x at `depth_m`."""
    nodes = np.column_stack([x_m, np.zeros_like(x_m), np.full_like(x_m, -depth_m)])
    return nodes[:-1], nodes[1:]


def output(load_ohm: complex | None, setup: Setup, kit: Kit) -> Output:
    """Return the transmitter's output: the least of current asked, volts ceiling and power ceiling."""
    frequency = kit.frequency(setup.freq_hz)
    if load_ohm is None:
        drive = min(1.0, setup.output_a / max(kit.outputs_a))
        watts = frequency.watts * drive**2
        return Output(drive, None, None, None, "asked", watts, _battery_h(kit, watts))
    by_volts = kit.volts_max / abs(load_ohm)
    by_watts = float(np.sqrt(frequency.watts / max(load_ohm.real, 1e-9)))
    drive = min(setup.output_a, by_volts, by_watts)
    limited: LimitedBy = "asked" if drive == setup.output_a else "volts" if drive == by_volts else "watts"
    watts = drive**2 * max(load_ohm.real, 0.0)
    return Output(drive, drive * abs(load_ohm), drive, abs(load_ohm), limited, watts, _battery_h(kit, watts))


def _battery_h(kit: Kit, watts: float) -> float:
    return kit.battery_wh / (kit.idle_w + watts / kit.efficiency)
