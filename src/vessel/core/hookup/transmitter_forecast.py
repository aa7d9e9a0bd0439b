"""The hookup as planned and as read: forecast at the transmitter, and where the volts go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.diagnose.diagnosis import Hypothesis
from vessel.core.hookup.explained_setup import explained
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import Output, output
from vessel.core.signal.circuit.volt_shares import VoltShare, volt_shares
from vessel.core.signal.layout.line_on_site import BOND_AT_END_M, lay_out
from vessel.core.signal.layout.placed_hookup import hookup_on, square_to
from vessel.core.signal.layout.site_checks import check_stake
from vessel.core.simulate.stake_spots import spot_at


def require_sound(line: Line, soil: Soil) -> None:
    """Check that a line can be modelled with its neighbours.

    Args:
        line: The line to locate.
        soil: Soil of the site.

    Raises:
        BadInput: If it lies in one of its neighbours at a depth planned for, or is bonded past its end.
    """
    for n in line.neighbours:
        if n.bond_m is not None and not 0 <= n.bond_m <= line.length_m + BOND_AT_END_M:
            raise BadInput(
                "neighbour_bond_beyond", field="neighbours", name=n.name, at_m=n.bond_m, length_m=line.length_m
            )
    for deepest in (False, True):
        try:
            lay_out(line, soil, deepest=deepest)
        except BadInput as e:
            raise BadInput(e.what, field="neighbours", **e.facts) from e


def require_clear_stake(line: Line, soil: Soil, setup: Setup) -> None:
    """Check that the stake is clear of the line and its neighbours.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        setup: Method, place, frequency and output.

    Raises:
        BadInput: If it would be driven into one of them.
    """
    if setup.by.connects:
        try:
            check_stake(lay_out(line, soil), hookup_on(line, setup))
        except BadInput as e:
            raise BadInput(e.what, field="stake_away_m", **e.facts) from e


def require_place(line: Line, setup: Setup) -> None:
    """Check that a stake placed on the site plan may be driven there.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.

    Raises:
        BadInput: If it is over a line or in a hard surface.
    """
    if setup.stake_at is None:
        return
    spot = spot_at(line, at_m=setup.position_m, stake_at=setup.stake_at)
    if spot is not None and spot.against == "over_line":
        raise BadInput("stake_over", field="stake_at", name=spot.what)
    if spot is not None and spot.against == "hard":
        raise BadInput("stake_in_hard", field="stake_at", name=spot.what)


def stake_away_m(line: Line, setup: Setup) -> float:
    """Return how far from the hookup a stake placed on the site plan is.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.

    Returns:
        Distance [m].

    Raises:
        BadInput: If there is no site plan.
    """
    if line.course is None or setup.stake_at is None:
        raise BadInput("stake_needs_plan", field="stake_at")
    here, _ = square_to(line, setup.position_m)
    return float(np.hypot(*(np.asarray(setup.stake_at) - here)))


def stake_moved(line: Line, setup: Setup, before_m: float) -> tuple[float, float]:
    """Return where a stake goes when only its distance changes.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.
        before_m: How far off it was before [m].

    Returns:
        East and north of the place `stake.away_m` off on the same bearing [m].
    """
    here, _ = square_to(line, setup.position_m)
    if setup.stake_at is None or before_m <= 0:
        raise AssertionError("only a stake on the site plan can be moved on it")
    east, north = here + (np.asarray(setup.stake_at) - here) * setup.stake.away_m / before_m
    return float(east), float(north)


def stake_across(line: Line, soil: Soil, setup: Setup) -> tuple[float, float] | None:
    """Return where a stake goes that is moved to the other side of the line.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        setup: Method, place, frequency and output.

    Returns:
        East and north of its mirror image [m]; None where it has no place on a plan, or may not be driven there.
    """
    if line.course is None or setup.stake_at is None:
        return None
    here, left = square_to(line, setup.position_m)
    off = np.asarray(setup.stake_at) - here
    east, north = here + off - 2 * float(off @ left) * left
    moved = replace(setup, stake_at=(float(east), float(north)))
    try:
        require_place(line, moved)
        require_clear_stake(line, soil, moved)
    except BadInput:
        return None
    return moved.stake_at


@dataclass(frozen=True)
class LoopForecast:
    """What the transmitter should show in one far-end case, and the shares of its volts (direct only)."""

    far_case: str
    output: Output
    shares: tuple[VoltShare, ...]


def loop_forecasts(line: Line, soil: Soil, kit: Kit, setup: Setup) -> tuple[LoopForecast, ...]:
    """Return what the transmitter should show, for each far-end case of the line.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.

    Returns:
        One forecast of volts, current and limit for each case.
    """
    circuit = LineCircuit(line, soil, freq_hz=setup.freq_hz)
    cases = line.far_cases(between=setup.by.between)
    found = []
    for (name, ohm), e in zip(cases, excite(circuit, setup, kit, far_ohms=tuple(o for _, o in cases)), strict=True):
        out = output(e.load_ohm, setup, kit)
        shares: tuple[VoltShare, ...] = ()
        if setup.by.connects and e.load_ohm is not None:
            shares = tuple(volt_shares(circuit, setup, e.response, load_ohm=e.load_ohm, far_ohm=ohm, amps=out.drive))
        found.append(LoopForecast(name, out, shares))
    return tuple(found)


def explained_shares(
    h: Hypothesis, line: Line, soil: Soil, kit: Kit, setup: Setup, *, read: TransmitterReading
) -> tuple[VoltShare, ...]:
    """Return where the volts go on a direct connection if one explanation is true.

    Args:
        h: One explanation of the transmitter readings.
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        read: The reading whose volts are shared out.

    Returns:
        Shares of lead, clip, stake, line and far end: none below zero, and together the volts read.
    """
    x = explained(h, line, soil, setup, read.changes)
    circuit = LineCircuit(x.line, soil, freq_hz=setup.freq_hz, faults=x.faults)
    e = excite(circuit, x.setup, kit, far_ohms=(x.far_ohm,))[0]
    if e.load_ohm is None:
        return ()
    shares = volt_shares(circuit, x.setup, e.response, load_ohm=e.load_ohm, far_ohm=x.far_ohm, amps=read.amps)
    return _of_what_was_read(shares, read.volts)


def _of_what_was_read(shares: Sequence[VoltShare], volts: float) -> tuple[VoltShare, ...]:
    """Shares of the volts read. What swings against the rest is taken off the greatest, which it swings against."""
    whole, back = sum(s.volts for s in shares), sum(min(s.volts, 0.0) for s in shares)
    most = max(shares, key=lambda s: s.volts)
    kept = [replace(s, volts=s.volts + back) if s is most else s for s in shares if s.volts > 0]
    return tuple(replace(s, volts=s.volts * volts / whole) for s in kept)
