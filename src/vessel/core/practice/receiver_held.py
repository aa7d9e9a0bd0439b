"""What the receiver shows where somebody holds it in the yard: the field there, the noise there, an unsteady hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.hum import Hum
from vessel.core.model.kit import SONDE_HZ, Frequency, Kit
from vessel.core.practice.energised import PutOn
from vessel.core.practice.passive_field import NOISE_T, passive_field
from vessel.core.practice.sonde_head import SondeHead, head_field
from vessel.core.practice.yard_lesson import Plant, YardLesson
from vessel.core.signal.physics.dipole_field import sonde_depth
from vessel.core.signal.physics.magnetic_field import electronic_depth
from vessel.core.signal.receiver.instrument import CLEAR_COS, LIFT_M, current_for
from vessel.core.signal.receiver.plant_noise import noise_times
from vessel.core.signal.solved_site import FULL_SCALE_T
from vessel.core.signal.spot_field import SpotField, no_field, spot_field

HAND_M, HAND_DEG = 0.01, 2.0
"""How far a hand strays from where it means to hold the receiver, and how far it turns it: standard deviations."""
_READABLE = 0.2  # noise of more than this share of the signal leaves no depth to show
_SIDE_SHARE = 0.06  # a vertical field of less than this share of the horizontal one points to neither side
_LOUD_DB = 120.0
_PASSIVE = Frequency(50.0, 1.0, NOISE_T, reads_depth=False)  # no depth of a passive hit is to be trusted
_MOST_DEPTH_M, _MOST_A = 15.0, 5.0  # figures beyond these no display shows


@dataclass(frozen=True)
class Held:
    """How the receiver is held: where (east, north [m]), which way it faces [deg], lifted or on the ground.

    `freq_hz`: what it is set to [Hz]; `gain_db` [dB]. `sonde`: in sonde mode, its coils turned a quarter, so that it
    reads in line with the way it faces, and depth by the cube law.
    """

    at: tuple[float, float]
    heading_deg: float
    freq_hz: float
    gain_db: float = 0.0
    lifted: bool = False
    sonde: bool = False


@dataclass(frozen=True)
class Face:
    """What the receiver shows. None: it shows nothing.

    `level`, `null_level`: share of full scale at its gain, of the horizontal and of the vertical field; over 1 it is
    overdriven. `side`: where the vertical field points. `direction`: which way the current runs, seen from the
    transmitter. `noisy`: noise is a fifth of the signal or more.
    """

    level: float
    null_level: float
    side: Literal["", "left", "right"]
    depth_m: float | None
    current_a: float | None
    direction: Literal["", "away", "towards"]
    noisy: bool


def noise_at(plant: Sequence[Plant], noise_t: float, freq_hz: float, at_m: Floats) -> Floats:
    """Return the noise in a coil at several places.

    Args:
        plant: What hums on the site.
        noise_t: The kit's own noise at the frequency, rms [T].
        freq_hz: The frequency [Hz].
        at_m: Places, shape (n, 2) [m].

    Returns:
        Noise, shape (n,) [T].
    """
    away = [np.hypot(*(at_m - np.asarray(each.at)).T) for each in plant]
    hums = [(Hum(each.times, each.reach_m, each.upto_hz), d) for each, d in zip(plant, away, strict=True)]
    return noise_t * noise_times(hums, freq_hz, len(at_m))


def faces(
    put: PutOn | None,
    held: Sequence[Held],
    kit: Kit,
    plant: Sequence[Plant],
    chance: np.random.Generator,
    *,
    passive: YardLesson | None = None,
    head: SondeHead | None = None,
) -> list[Face]:
    """Return what the receiver shows.

    Args:
        put: The hookup that is on; None: the transmitter is off.
        held: How the receiver is held, all at one frequency and in one mode.
        kit: Transmitter and receiver in use.
        plant: What hums on the site.
        chance: Where noise and the hand's unsteadiness come from.
        passive: The lesson whose lines are heard without a transmitter; None: the receiver listens for a signal.
        head: The sonde in the ground, if one is.

    Returns:
        One for each.
    """
    n, sonde = len(held), held[0].sonde
    at = np.array([h.at for h in held]) + chance.normal(0, HAND_M, (n, 2))
    turn = np.radians(np.array([h.heading_deg for h in held]) + chance.normal(0, HAND_DEG, n))
    headings = np.column_stack([np.sin(turn), np.cos(turn)])
    if sonde:
        headings = np.column_stack([headings[:, 1], -headings[:, 0]])
    frequency = _PASSIVE if passive is not None else kit.frequency(held[0].freq_hz)
    field = _heard(put, at, headings, kit, frequency, passive=passive, head=head)
    noise = noise_at(plant, frequency.noise_t, frequency.freq_hz, at)
    low, high, up = _noisy(field, np.array([h.lifted for h in held]), noise, chance)
    aways = None if put is None or passive is not None else ((at - np.asarray(put.at)) * headings).sum(1)
    found = []
    for i, h in enumerate(held):
        size = abs(low[i])
        noisy = bool(noise[i] > _READABLE * size)
        depth = None if noisy or not frequency.reads_depth else _depth(size, abs(high[i]), kit, sonde=sonde)
        found.append(
            Face(
                _level(size, h.gain_db),
                _level(abs(up[i]), h.gain_db),
                "" if noisy or sonde else _side(complex(low[i]), complex(up[i])),
                depth,
                None if depth is None or sonde else _current(size, depth, kit),
                ""
                if noisy or sonde or aways is None or not frequency.reads_direction
                else _direction(complex(low[i]), float(aways[i])),
                noisy,
            )
        )
    return found


def _heard(
    put: PutOn | None,
    at: Floats,
    headings: Floats,
    kit: Kit,
    frequency: Frequency,
    *,
    passive: YardLesson | None,
    head: SondeHead | None,
) -> SpotField:
    """The field at the coils of what sends at that frequency: the mains, the hookup that is on, the sonde."""
    r = kit.receiver
    heights = np.array([r.low_m, r.high_m, r.low_m + LIFT_M, r.high_m + LIFT_M])
    if passive is not None:
        return passive_field(passive, at, headings, heights)
    field = no_field(len(at))
    if put is not None and put.solved.hookup.freq_hz == frequency.freq_hz:
        field = spot_field(put.solved, at, headings)
    if head is not None and frequency.freq_hz == SONDE_HZ:
        field = field + head_field(head, at, headings, heights)
    return field


def _noisy(
    field: SpotField, lifted: np.ndarray[tuple[int], np.dtype[np.bool_]], noise: Floats, chance: np.random.Generator
) -> tuple[Complex, Complex, Complex]:
    """The field at the lower coil, at the upper one and upwards, each with noise of its own."""
    n = len(noise)
    random = chance.normal(size=(3, n)) + 1j * chance.normal(size=(3, n))
    hum = random * noise / np.sqrt(2)
    low = np.where(lifted, field.lifted_low, field.low)
    high = np.where(lifted, field.lifted_high, field.high)
    return low + hum[0], high + hum[1], field.up + hum[2]


def _level(field_t: float, gain_db: float) -> float:
    return float(field_t / FULL_SCALE_T * 10 ** (min(gain_db, _LOUD_DB) / 20))


def _depth(low_t: float, high_t: float, kit: Kit, *, sonde: bool) -> float | None:
    r = kit.receiver
    if sonde:
        below = float(sonde_depth(low_t, high_t, separation_m=r.separation_m)) - r.low_m if low_t > high_t else np.nan
        return None if np.isnan(below) or not 0 < below <= _MOST_DEPTH_M else below
    shown = float(electronic_depth(np.array(low_t), np.array(high_t), low_m=r.low_m, separation_m=r.separation_m))
    return None if np.isnan(shown) or shown > _MOST_DEPTH_M else shown


def _current(low_t: float, depth_m: float, kit: Kit) -> float | None:
    amps = float(current_for(low_t, depth_m=depth_m, low_m=kit.receiver.low_m))
    return amps if amps <= _MOST_A else None


def _side(low: complex, up: complex) -> Literal["", "left", "right"]:
    """Where the line is: up and to the right of a current the field goes down, on its left it comes up."""
    against = (up * low.conjugate()).real / max(abs(low) ** 2, 1e-40)
    if abs(against) < _SIDE_SHARE:
        return ""
    return "right" if against < 0 else "left"


def _direction(low: complex, away: float) -> Literal["", "away", "towards"]:
    if abs(low.real) < CLEAR_COS * abs(low) or away == 0:
        return ""
    # above a current along the heading the field points to the right, against the coils' axis
    along = low.real < 0
    return "away" if along == (away > 0) else "towards"
