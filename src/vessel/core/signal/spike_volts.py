"""What two spikes in the ground pick up wherever somebody sets them: the soil's potential from all that leaks."""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.signal.circuit.mesh import Mesh
from vessel.core.signal.physics.inductive_coupling import mean_inverse
from vessel.core.signal.solved_site import SolvedSite

_FLOOR_M = 0.05  # no spike is set nearer to metal than this


def soil_volts(solved: SolvedSite, at_m: Floats) -> Complex:
    """Return the potential of the ground.

    Args:
        solved: The site under its hookup.
        at_m: Places, shape (n, 2) [m].

    Returns:
        Potential against remote earth, shape (n,) [V].

    Notes:
        V = rho / (2 pi) sum I / r over the stretches that leak, the earths and the stake: each with its mirror image,
        which at the surface is as far off as itself (Sunde 1949, ch. 2).
    """
    circuit, mesh = solved.circuit, solved.circuit.mesh
    leak = solved.excitation.response.leak * solved.output.drive
    cells = _leaks(mesh)
    volts = _mean_inverse(at_m, cells[:, 0], cells[:, 1]) @ leak
    if solved.hookup.by.connects:
        top = np.array([[*solved.hookup.stake_at, 0.0]])
        rod = top - [[0.0, 0.0, solved.hookup.stake.length_m]]
        volts = volts - _mean_inverse(at_m, top, rod)[:, 0] * solved.output.drive
    return np.asarray(circuit.soil.resistivity_ohm_m / (2 * np.pi) * volts)


def spike_volts(solved: SolvedSite, at_m: Floats, headings: Floats, frame_m: float) -> Complex:
    """Return what a two-spike frame picks up.

    Args:
        solved: The site under its hookup.
        at_m: Middle of the frame, shape (n, 2) [m].
        headings: Way from its rear spike to its front one, unit vectors, shape (n, 2).
        frame_m: Distance between the spikes [m].

    Returns:
        Front spike against the rear one, shape (n,) [V].
    """
    half = 0.5 * frame_m * headings
    return soil_volts(solved, at_m + half) - soil_volts(solved, at_m - half)


def _leaks(mesh: Mesh) -> Floats:
    """Where each node leaks from, (n, 2, 3) [m]: the circuit takes every earth for a rod, a fault lies at its line."""
    cells = mesh.cells_m.copy()
    for line in mesh.site.lines:
        for feature in line.features:
            if feature.kind == "fault":
                x, y, z = line.places(np.array([feature.at_m]))[0]
                rods = (mesh.owner < 0) & (np.abs(cells[:, 0, :2] - (x, y)) < 1e-6).all(1)
                cells[rods, :, 2] = z
    return cells


def _mean_inverse(at_m: Floats, start_m: Floats, end_m: Floats) -> Floats:
    """Mean of 1/r from places on the ground (n, 2) over stretches from `start_m` to `end_m` (k, 3), (n, k) [1/m]."""
    along = end_m - start_m
    length = np.maximum(np.linalg.norm(along, axis=1), 1e-9)
    r0 = np.column_stack([at_m, np.zeros(len(at_m))])[:, None] - start_m
    s = (r0 * (along / length[:, None])).sum(-1)
    return mean_inverse(s, (r0**2).sum(-1) - s**2, length, floor_m=_FLOOR_M)
