"""A bench for the tests: one line driven at its near end, or read above, without any transmitter."""

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.signal.circuit.line_circuit import LineCircuit
from vessel.core.signal.circuit.ports import drive
from vessel.core.signal.circuit.sources import direct_port, stake_lead
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.magnetic_field import axis_fields
from vessel.core.signal.physics.stake_resistance import lead_impedance, stake_ohm
from vessel.core.signal.receiver.field_at_coils import ReceiverGeometry

SHOWN = tuple(Evidence(kind, "for") for kind in ("access", "ends_at", "beside_located"))
"""What shows on simple ground which line it is."""


def driven(circuit: LineCircuit, far_ohm=None):
    """Response to 1 A into the near end, returned far away; the far end earthed to remote soil or open."""
    site = circuit.site_circuit
    near, far = circuit.mesh.node_at(circuit.target, 0.0), circuit.mesh.node_at(circuit.target, circuit.line.length_m)
    joined = [] if far_ohm is None else [(site.between(far, None), far_ohm)]
    return drive(site.between(near, None), joined)


def straight(*, length_m=1600.0, depth_m=1.0, pieces=800):
    """Segments of a straight line along east, centred on the origin."""
    x = np.linspace(-length_m / 2, length_m / 2, pieces + 1)
    nodes = np.column_stack([x, 0 * x, 0 * x - depth_m])
    return Segments(nodes[:-1], nodes[1:], np.full(pieces, 1e-3))


def geometry(segments, stations=(0.0,), *, depth_m=1.0, kit=SAMPLE_KIT):
    """Receiver at distances along east, heading east."""
    n = len(stations)
    return ReceiverGeometry(
        segments,
        at_m=np.column_stack([stations, np.zeros(n)]),
        headings=np.tile([1.0, 0.0], (n, 1)),
        depths_m=np.full(n, depth_m),
        receiver=kit.receiver,
    )


def segment_fields(points_m, starts_m, ends_m):
    """B per ampere (p, s, 3) [T/A] at points (p, 3) of segments from starts to ends (s, 3) [m]."""
    parts = axis_fields(points_m, [np.tile(axis, (len(points_m), 1)) for axis in np.eye(3)], starts_m, ends_m)
    return np.stack([a + b for a, b in parts], axis=-1)


def power_lost(circuit, hookup, response):
    """Watts lost per ampere squared of a direct connection: metal, soil, coupled soil, stake, clip, lead."""
    amps, leak = response.amps, response.leak
    inside = (np.conj(amps) @ circuit.series @ amps).real + (np.conj(leak) @ circuit.potentials @ leak).real
    port = direct_port(circuit, hookup)
    reach = float(np.hypot(*stake_lead(circuit, hookup).along_m[0, :2]))
    own = stake_ohm(hookup.stake, circuit.soil) + hookup.clip_ohm
    own += lead_impedance(circuit.soil, freq_hz=circuit.freq_hz, length_m=reach).real
    # stake and leakage share soil, lead and branches share flux: both ways round
    shared = 2 * (port.spec.stake.real * leak.real).sum()
    return inside + own + shared - 2 * (port.spec.emf.real * amps.real).sum()


_AXES = (np.array([1.0, 0.0, 0.0]), np.array([0.0, 1.0, 0.0]))


def horizontal_field(points_m: Floats, segments: Segments, into: Complex, out: Complex) -> Complex:
    """Return the horizontal field phasor of a site's currents.

    Args:
        points_m: Points, shape (n, 3) [m].
        segments: s straight pieces of conductor.
        into: Currents at the segments' starts, shape (s,) [A].
        out: Currents at their ends, shape (s,) [A].

    Returns:
        East and north, shape (n, 2) [T].
    """
    axes = [np.tile(axis, (len(points_m), 1)) for axis in _AXES]
    each = axis_fields(points_m, axes, segments.start_m, segments.end_m)
    return np.column_stack([at_start @ into + at_end @ out for at_start, at_end in each])


def turned_for_best(field_t: Complex) -> tuple[Floats, Floats]:
    """Return the strongest response of coils turned in the horizontal.

    The major half-axis of the ellipse that the phasors draw; the heading lies to the right of the coils' axis.

    Args:
        field_t: Horizontal field phasors, shape (n, 2) [T].

    Returns:
        Response (n,) [T] and the heading (n, 2) that gives it.
    """
    x, y = field_t[:, 0], field_t[:, 1]
    sum2, difference2 = np.abs(x) ** 2 + np.abs(y) ** 2, np.abs(x) ** 2 - np.abs(y) ** 2
    both = 2 * (x * np.conj(y)).real
    turn = 0.5 * np.arctan2(both, difference2)
    strongest = np.sqrt(0.5 * (sum2 + np.hypot(difference2, both)))
    return strongest, np.column_stack([np.sin(turn), -np.cos(turn)])


def steps_short(options, wanted_m, of=()):
    """How many steps of 2 % of what is wanted each option proves less than the best, of all those given."""
    most = max((o.proved_m for o in (*options, *of)), default=0.0)
    return [int((most - o.proved_m) / (0.02 * wanted_m) + 1e-6) for o in options]
