"""What the transmitter puts out into a load: the least of what is asked, its volts and its watts."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.kit import Kit
from vessel.core.model.network import Hookup
from vessel.core.model.setup import Setup

LimitedBy = Literal["asked", "volts", "watts"]


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


def drives(load_ohm: Any, output_a: Any, *, watts: Any, kit: Kit) -> tuple[Floats, Floats, Floats]:
    """Return the currents that each limit of the transmitter allows.

    What it puts out is the least of them.

    Args:
        load_ohm: Loads of any shape [ohm].
        output_a: Current asked [A].
        watts: Power ceiling [W].
        kit: Transmitter and receiver in use.

    Returns:
        Current as asked, as the volts and as the power allow, each of the loads' shape [A].
    """
    load, asked = np.broadcast_arrays(np.asarray(load_ohm, dtype=np.complex128), np.asarray(output_a, dtype=float))
    return asked, kit.volts_max / np.abs(load), np.sqrt(watts / np.maximum(load.real, 1e-9))


def output(load_ohm: complex | None, setup: Setup | Hookup, kit: Kit) -> Output:
    """Return the transmitter's output into a load.

    Args:
        load_ohm: The loop [ohm]; None for a method that does not see it.
        setup: Method, place, frequency and output.
        kit: Transmitter and receiver in use.

    Returns:
        Current, volts, power, and which limit holds.
    """
    frequency = kit.frequency(setup.freq_hz)
    if load_ohm is None:
        drive = float(coil_share(setup.output_a, kit))
        watts = frequency.watts * drive**2
        return Output(drive, None, None, None, "asked", watts, _battery_h(kit, watts))
    asked, by_volts, by_watts = (float(x) for x in drives(load_ohm, setup.output_a, watts=frequency.watts, kit=kit))
    drive = min(asked, by_volts, by_watts)
    limited: LimitedBy = "asked" if drive == asked else "volts" if drive == by_volts else "watts"
    watts = drive**2 * max(load_ohm.real, 0.0)
    return Output(drive, drive * abs(load_ohm), drive, abs(load_ohm), limited, watts, _battery_h(kit, watts))


def coil_share(output_a: Any, kit: Kit) -> Any:
    """Return the share of its full moment that the coil has.

    Args:
        output_a: Output step [A].
        kit: Transmitter and receiver in use.

    Returns:
        Share, 0 to 1.
    """
    return np.minimum(1.0, output_a / max(kit.outputs_a))


def _battery_h(kit: Kit, watts: float) -> float:
    return kit.battery_wh / (kit.idle_w + watts / kit.efficiency)
