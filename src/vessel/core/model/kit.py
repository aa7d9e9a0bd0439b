"""Transmitter, clamp, coil and receiver as data that the user can replace by their own."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.methods import METHOD_TABLE


@dataclass(frozen=True)
class Frequency:
    """One frequency of the kit: what the transmitter may put out there and what the receiver can read.

    `freq_hz` [Hz]; `watts` power ceiling [W]; `noise_t` ambient noise in the receiver's bandwidth [T rms].
    """

    freq_hz: float
    watts: float
    noise_t: float
    reads_depth: bool = True
    reads_direction: bool = False


@dataclass(frozen=True)
class Clamp:
    """A transformer round the line: `turns` of primary, EMF of 1/turns of the primary volts.

    `magnetising_h` [H] is the primary's own inductance: below the frequency where it lets the transmitter
    reach its volts ceiling the EMF is proportional to frequency, above it is flat.
    """

    turns: float = 40.0
    magnetising_h: float = 1.48e-3
    min_freq_hz: float = 4000.0


@dataclass(frozen=True)
class Coil:
    """The transmitter's own induction coil: full-output moment [A m2], flat up to `corner_hz`, then as 1/f."""

    moment_a_m2: float = 10.0
    corner_hz: float = 36000.0
    height_m: float = 0.25
    min_freq_hz: float = 4000.0

    def moment_at(self, freq_hz: float) -> float:
        """Return the coil's moment at full output.

        Args:
            freq_hz: Signal frequency [Hz].

        Returns:
            Moment [A m2]; it falls off above the corner frequency.
        """
        return self.moment_a_m2 * min(1.0, self.corner_hz / freq_hz)


@dataclass(frozen=True)
class Receiver:
    """Two horizontal coils `low_m` and `high_m` above ground [m]."""

    low_m: float = 0.05
    high_m: float = 0.45

    @property
    def separation_m(self) -> float:
        """Distance between the two horizontal coils [m]."""
        return self.high_m - self.low_m


@dataclass(frozen=True)
class Bound:
    """A crew's own limits of one rule of the judge, in the rule's own measure; `reason` says why, `by` who agreed."""

    rule: str
    care: float | None
    hold: float | None
    reason: str = ""
    by: str = ""
    at: str = ""


SONDE_HZ = 560.0
"""What a sonde usually sends at [Hz]: the lowest goes through iron best."""
FRAME_M = 0.6
"""A usual frame's distance between its spikes [m]."""
_QUIET_T = 1e-14  # the least noise that a kit may have [T]
_LEAD_GIVE_M = 0.01  # a spot exactly at the end of the lead is within its reach, despite rounding


@dataclass(frozen=True)
class Kit:
    """Everything a crew carries, and the limits it judges by where they are its own.

    Outputs in A, volts ceiling in V, energy in Wh. `sonde_hz`: what its sonde sends [Hz]; `frame_m`: distance between
    the spikes of its A-frame [m].
    """

    name: str
    frequencies: tuple[Frequency, ...]
    outputs_a: tuple[float, ...]
    volts_max: float = 40.0
    battery_wh: float = 70.0
    idle_w: float = 1.5
    efficiency: float = 0.6
    lead_m: float = 10.0
    clamp: Clamp | None = field(default_factory=Clamp)
    coil: Coil | None = field(default_factory=Coil)
    receiver: Receiver = field(default_factory=Receiver)
    sonde_hz: float = SONDE_HZ
    frame_m: float = FRAME_M
    bounds: tuple[Bound, ...] = ()

    @property
    def lowest_hz(self) -> float:
        """Its lowest frequency [Hz]."""
        return min(f.freq_hz for f in self.frequencies)

    def __post_init__(self) -> None:
        if not self.frequencies:
            raise BadInput("no_frequency", field="frequencies")
        if not self.outputs_a:
            raise BadInput("no_output", field="outputs_a")
        require_range(self.volts_max, low=1, high=1000, field="volts_max", name="Volts ceiling", unit="V")
        require_range(self.battery_wh, low=1, high=5000, field="battery_wh", name="Battery", unit="Wh")
        require_range(self.idle_w, low=0, high=100, field="idle_w", name="Idle power", unit="W")
        require_range(self.efficiency, low=0.05, high=1, field="efficiency", name="Efficiency", unit="")
        require_range(self.lead_m, low=0.5, high=200, field="lead_m", name="Lead length", unit="m")
        require_range(self.sonde_hz, low=1, high=500e3, field="sonde_hz", name="Sonde frequency", unit="Hz")
        require_range(self.frame_m, low=0.2, high=3, field="frame_m", name="Distance between the spikes", unit="m")
        for i, f in enumerate(self.frequencies):
            at = f"frequencies.{i}"
            require_range(f.freq_hz, low=100, high=500e3, field=f"{at}.freq_hz", name="Frequency", unit="Hz")
            require_range(f.watts, low=0.01, high=100, field=f"{at}.watts", name="Power ceiling", unit="W")
            require_range(f.noise_t, low=_QUIET_T, high=1e-6, field=f"{at}.noise_t", name="Noise", unit="T")
        if len({f.freq_hz for f in self.frequencies}) < len(self.frequencies):
            raise BadInput("frequency_twice", field="frequencies")
        for i, amps in enumerate(self.outputs_a):
            require_range(amps, low=1e-4, high=5, field=f"outputs_a.{i}", name="Output step", unit="A")
        if self.receiver.separation_m < 0.05 or self.receiver.low_m < 0:
            raise BadInput("coils_too_close", field="receiver.high_m", least_m=0.05)

    @property
    def bare(self) -> Kit:
        """The kit with the usual limits: what the physics of a hookup depends on, whatever a crew judges by."""
        return replace(self, bounds=()) if self.bounds else self

    @property
    def quiet(self) -> Kit:
        """The same without noise or limits of a crew: what goes into the ground depends on neither."""
        return replace(self, bounds=(), frequencies=tuple(replace(f, noise_t=_QUIET_T) for f in self.frequencies))

    def frequency(self, freq_hz: float, *, at: str = "freq_hz") -> Frequency:
        """Return the kit's entry for a frequency.

        Args:
            freq_hz: Signal frequency [Hz].
            at: Name of the field a refusal is to name.

        Returns:
            The entry.

        Raises:
            BadInput: If the kit does not have it; names those it has.
        """
        found = self._entry(freq_hz)
        if found is not None:
            return found
        raise BadInput(
            "no_such_frequency",
            field=at,
            kit=self.name,
            freq_hz=freq_hz,
            known_hz=[f.freq_hz for f in self.frequencies],
        )

    def meant_hz(self, freq_hz: float) -> float:
        """Return the kit's own frequency that a typed one means.

        Args:
            freq_hz: Frequency as typed [Hz].

        Returns:
            The kit's frequency if one is close, else what was typed [Hz].
        """
        found = self._entry(freq_hz)
        return freq_hz if found is None else found.freq_hz

    def _entry(self, freq_hz: float) -> Frequency | None:
        return next((f for f in self.frequencies if abs(f.freq_hz - freq_hz) <= 1e-3 * f.freq_hz), None)

    def require_lead(self, away_m: float) -> None:
        """Check that the stake lead reaches.

        Args:
            away_m: Distance of the stake from the line [m].

        Raises:
            BadInput: If the kit's lead is shorter.
        """
        if away_m > self.lead_m + _LEAD_GIVE_M:
            raise BadInput("lead_too_short", field="stake_away_m", kit=self.name, lead_m=self.lead_m, away_m=away_m)

    def tool_for(self, method: str) -> Clamp | Coil | None:
        """Return the part of the kit that a method needs beside the transmitter.

        Args:
            method: Id of the method.

        Returns:
            Clamp or coil; None if the method needs neither or the kit lacks it.
        """
        tool = METHOD_TABLE[method].tool
        return getattr(self, tool) if tool else None

    def require(self, method: str, freq_hz: float, *, at: str = "kit_id") -> None:
        """Check that a hookup on record can still be computed with this kit.

        Args:
            method: Id of the method.
            freq_hz: Signal frequency [Hz].
            at: Name of the field a refusal is to name.

        Raises:
            BadInput: If the frequency, the clamp or the coil is missing.
        """
        self.frequency(freq_hz, at=at)
        if method in METHOD_TABLE and METHOD_TABLE[method].tool and self.tool_for(method) is None:
            raise BadInput("kit_lacks_tool", field=at, kit=self.name, method=method)


def _sample_frequency(freq_hz: float, watts: float, noise_pt: float, depth: bool = True) -> Frequency:
    return Frequency(freq_hz, watts, noise_pt * 1e-12, depth, freq_hz < 10_000)


SAMPLE_KIT = Kit(
    name="Sample kit",
    frequencies=(
        _sample_frequency(560.0, 5.0, 100.0),
        _sample_frequency(1120.0, 5.0, 70.0),
        _sample_frequency(4480.0, 5.0, 30.0),
        _sample_frequency(8960.0, 5.0, 20.0),
        _sample_frequency(35840.0, 5.0, 2.0),
        _sample_frequency(71680.0, 1.0, 2.0),
        _sample_frequency(143360.0, 1.0, 2.0, depth=False),
    ),
    outputs_a=(0.005, 0.015, 0.030, 0.060, 0.120),
)

SAMPLE_KITS: tuple[Kit, ...] = (
    replace(
        SAMPLE_KIT,
        name="Small kit",
        frequencies=tuple(replace(f, watts=min(f.watts, 1.0)) for f in SAMPLE_KIT.frequencies[3:5]),
        outputs_a=(0.005, 0.015, 0.030),
        volts_max=25.0,
        battery_wh=25.0,
        lead_m=5.0,
        clamp=None,
        coil=Coil(moment_a_m2=4.0),
    ),
    replace(SAMPLE_KIT, name="Middle kit"),
    replace(
        SAMPLE_KIT,
        name="Large kit",
        frequencies=tuple(replace(f, watts=10.0 if f.freq_hz < 50e3 else 1.0) for f in SAMPLE_KIT.frequencies),
        outputs_a=(*SAMPLE_KIT.outputs_a, 0.240, 0.500),
        volts_max=90.0,
        battery_wh=160.0,
        lead_m=20.0,
        coil=Coil(moment_a_m2=25.0),
    ),
)
"""Three sizes to start from, the smallest first."""
