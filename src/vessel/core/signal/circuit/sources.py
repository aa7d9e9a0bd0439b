"""Direct connection, pair, clamp and induction as sources on a site, and the load each of them meets."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.base.errors import BadInput
from vessel.core.model.kit import Clamp, Kit
from vessel.core.model.methods import METHOD_TABLE
from vessel.core.model.network import Hookup
from vessel.core.signal.circuit.ports import Port, PortSpec, Response, drive, flows, seen
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.stake_resistance import lead_impedance, stake_ohm

Joined = Sequence[tuple[Port, complex]]

_LEAD_UP_M = 0.01  # the lead lies on the grass
_STAKE_DOWN = 0.5  # a rod's current leaves it, on the whole, at half its depth


@dataclass(frozen=True)
class Excitation:
    """The site driven by one unit: per ampere of transmitter output (direct, pair, clamp) or per full coil moment.

    `load_ohm` is what the transmitter drives into [ohm], None for induction. A coil that is carried along has a
    response in columns, one for each of its places.
    """

    response: Response
    load_ohm: complex | None


@dataclass(frozen=True)
class Excitations:
    """Many hookups (k) of one method in columns: see `Excitation`. `load_ohm` (k,), None for induction."""

    response: Response
    load_ohm: Complex | None

    @classmethod
    def of_one(cls, e: Excitation) -> Excitations:
        """Return one excitation as a column.

        Args:
            e: The excitation; it sees its load.

        Returns:
            One column.
        """
        r = e.response
        column = Response(r.amps[:, None], r.leak[:, None], r.joined[:, None], lambda: r.volts[:, None])
        return cls(column, None if e.load_ohm is None else np.array([e.load_ohm]))

    def of(self, k: int) -> Excitation:
        """Return one of the excitations.

        Args:
            k: Its number.

        Returns:
            The excitation.
        """
        return Excitation(self.response.column(k), None if self.load_ohm is None else complex(self.load_ohm[k]))


Group = tuple[Sequence[Hookup], Callable[[], Sequence[Joined]]]
"""Hookups of one method, and what gives each variant of what is joined to the ports, asked for once all is solved."""


def excite(circuit: SiteCircuit, hookup: Hookup, kit: Kit, *, variants: Sequence[Joined] = ((),)) -> list[Excitation]:
    """Return the excitation of a site under a hookup.

    Output limits are not in it: see `output`.

    Args:
        circuit: The site's circuit at one frequency.
        hookup: A hookup placed on the site.
        kit: Transmitter and receiver in use.
        variants: What is joined to the ports, one tuple for each variant.

    Returns:
        One excitation for each variant.

    Raises:
        BadInput: If the kit lacks the clamp or coil, or the line has no metal.
    """
    (found,) = excite_all(circuit, [([hookup], lambda: variants)], kit)
    return [each.of(0) for each in found]


def excite_carried(
    circuit: SiteCircuit, hookups: Sequence[Hookup], kit: Kit, *, variants: Sequence[Joined] = ((),)
) -> list[Excitation]:
    """Return the excitation of a site by a coil that is carried from place to place.

    Args:
        circuit: The site's circuit at one frequency.
        hookups: The coil at each of k places.
        kit: Transmitter and receiver in use.
        variants: What is joined to the ports, one tuple for each variant.

    Returns:
        One excitation for each variant, its response in k columns.
    """
    (found,) = excite_all(circuit, [(hookups, lambda: variants)], kit)
    return [Excitation(each.response, None) for each in found]


def excite_all(circuit: SiteCircuit, groups: Sequence[Group], kit: Kit) -> list[list[Excitations]]:
    """Return the excitations of many hookups, all columns solved together.

    What is alike for hookups of one method is worked out once for all groups that have them.

    Args:
        circuit: The site's circuit at one frequency.
        groups: Hookups of one line, with the variants of what is joined.
        kit: Transmitter and receiver in use.

    Returns:
        Of each group, one for each variant.
    """
    methods = dict.fromkeys(hookups[0].method for hookups, _ in groups)
    together = [[h for hookups, _ in groups if hookups[0].method == m for h in hookups] for m in methods]
    ports = dict(zip(methods, circuit.solve([_source_spec(circuit, each, kit) for each in together]), strict=True))
    used, found = dict.fromkeys(methods, 0), []
    for hookups, variants in groups:
        method = hookups[0].method
        first, used[method] = used[method], used[method] + len(hookups)
        port = ports[method].columns(slice(first, used[method]))
        found.append([_excitations(circuit, hookups[0], kit, port, joined) for joined in variants()])
    return found


def _source_spec(circuit: SiteCircuit, hookups: Sequence[Hookup], kit: Kit) -> PortSpec:
    """What hookups of one method drive, per ampere between terminals, per volt in a branch, or per full coil moment."""
    method = hookups[0].method
    if METHOD_TABLE[method].through_air:
        return circuit.spec(columns=len(hookups), emf=coil_drive(circuit, hookups, kit))
    if METHOD_TABLE[method].encloses:
        if kit.clamp is None:
            raise BadInput("kit_without_clamp", field="hookup", kit=kit.name)
        inside = [circuit.mesh.branch_at(_line_with_metal(circuit, h), h.at_m) for h in hookups]
        return PortSpec.as_columns([circuit.inside_spec(branch) for branch in inside])
    if METHOD_TABLE[method].connects:
        return direct_spec(circuit, hookups)
    return PortSpec.as_columns([_pair_spec(circuit, h) for h in hookups])


def _excitations(circuit: SiteCircuit, first: Hookup, kit: Kit, port: Port, joined: Joined) -> Excitations:
    flowing = flows(port, joined)
    driven = drive(port, joined, flowing=flowing)
    if first.by.through_air:
        return Excitations(driven, None)
    found = seen(port, joined, flowing=flowing)
    if first.by.encloses and kit.clamp is not None:
        return _clamped(circuit, kit.clamp, driven, found)
    return Excitations(driven, found)


def _line_with_metal(circuit: SiteCircuit, hookup: Hookup, *, other: bool = False) -> int:
    field, name, at_m = ("other", hookup.other, hookup.other_m) if other else ("line", hookup.line, hookup.at_m)
    i = circuit.site.index(name, field=field)
    line = circuit.site.lines[i]
    if line.construction is None:
        raise BadInput("line_without_metal", field=field, name=name)
    line.require_on(at_m, what="The hookup")
    return i


def direct_port(circuit: SiteCircuit, hookup: Hookup) -> Port:
    """Return the port that a direct connection drives.

    Args:
        circuit: The site's circuit at one frequency.
        hookup: A hookup placed on the site.

    Returns:
        The port.
    """
    return circuit.solve([direct_spec(circuit, [hookup]).column(0)])[0]


def direct_spec(circuit: SiteCircuit, hookups: Sequence[Hookup]) -> PortSpec:
    """Return what direct connections drive, as columns.

    Args:
        circuit: The site's circuit at one frequency.
        hookups: k hookups of one method.

    Returns:
        The description: metal, lead, clip and stake.
    """
    nodes = [circuit.mesh.node_at(_line_with_metal(circuit, h), h.at_m) for h in hookups]
    each = [stake_lead(circuit, h) for h in hookups]
    leads = Segments(*(np.concatenate([getattr(s, f) for s in each]) for f in ("start_m", "end_m", "radius_m")))
    reach = np.array([np.hypot(*s.along_m[0, :2]) for s in each])
    per_m = lead_impedance(circuit.soil, freq_hz=circuit.freq_hz, length_m=1.0)
    own = per_m * reach + np.array([h.clip_ohm for h in hookups])
    middles = np.array([[*h.stake_at, -_STAKE_DOWN * h.stake.length_m] for h in hookups])
    ohms = np.array([stake_ohm(h.stake, circuit.soil) for h in hookups])
    return circuit.staked_spec(np.array(nodes), middles, stakes_ohm=ohms, leads=leads, own_ohm=own)


def stake_lead(circuit: SiteCircuit, hookup: Hookup) -> Segments:
    """Return the stake lead.

    Args:
        circuit: The site's circuit at one frequency.
        hookup: A hookup placed on the site.

    Returns:
        Along the ground from the stake to the access point, then down to the metal.
    """
    i = circuit.site.index(hookup.line)
    metal = circuit.site.lines[i].places(np.array([hookup.at_m]))[0]
    stake = np.array([*hookup.stake_at, _LEAD_UP_M])
    above = np.array([metal[0], metal[1], _LEAD_UP_M])
    return Segments(np.stack([stake, above]), np.stack([above, metal]), np.full(2, 2e-3))


def _pair_spec(circuit: SiteCircuit, hookup: Hookup) -> PortSpec:
    i, k = _line_with_metal(circuit, hookup), _line_with_metal(circuit, hookup, other=True)
    if i == k:
        raise BadInput("pair_needs_two", field="other")
    spec = circuit.spec(own_ohm=complex(hookup.clip_ohm))
    spec.j[circuit.mesh.node_at(i, hookup.at_m)] += 1.0
    spec.j[circuit.mesh.node_at(k, hookup.other_m)] -= 1.0
    return spec


def _clamped(circuit: SiteCircuit, clamp: Clamp, driven: Response, admittance: Complex) -> Excitations:
    jwl = 2j * np.pi * circuit.freq_hz * clamp.magnetising_h
    # per ampere of primary: EMF jwL/N behind the source impedance jwL/N^2 that the magnetising path leaves
    emf, source_ohm = jwl / clamp.turns, jwl / clamp.turns**2
    loaded = emf / (1 + admittance * source_ohm)
    return Excitations(driven.times(loaded), jwl * (1 - loaded * admittance / clamp.turns))


def coil_geometry(hookup: Hookup, kit: Kit) -> tuple[Floats, Floats]:
    """Return place and moment of a transmitter coil.

    Args:
        hookup: A hookup placed on the site.
        kit: Transmitter and receiver in use.

    Returns:
        Position (3,) [m] and full-output moment (3,) [A m2], its axis across `coil_heading_deg`.

    Raises:
        BadInput: If the kit has no induction coil.
    """
    if kit.coil is None:
        raise BadInput("kit_without_coil", field="hookup", kit=kit.name)
    turn = np.radians(hookup.coil_heading_deg)
    axis = np.array([-np.cos(turn), np.sin(turn), 0.0])
    return np.array([*hookup.coil_at, kit.coil.height_m]), axis * kit.coil.moment_at(hookup.freq_hz)


def coil_drive(circuit: SiteCircuit, hookups: Sequence[Hookup], kit: Kit) -> Complex:
    """Return the EMF that the full coil puts along every branch.

    Args:
        circuit: The site's circuit at one frequency.
        hookups: k hookups by induction.
        kit: Transmitter and receiver in use.

    Returns:
        EMF, shape (m, k) [V].
    """
    at, moment = (np.array(each) for each in zip(*(coil_geometry(h, kit) for h in hookups), strict=True))
    size = float(np.linalg.norm(moment[0]))  # one coil, one frequency
    emf = np.zeros((len(circuit.mesh.start), len(hookups)), dtype=np.complex128)
    reach = circuit.geometry.coil_reach(at, moment / size)
    emf[: circuit.mesh.metal] = reach.emf(size, freq_hz=circuit.freq_hz, soil=circuit.soil).T
    return emf
