"""A crew's kit and a line's construction as documents, shared by the file formats."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.core.model.kit import FRAME_M, SONDE_HZ
from vessel.formats.document import Doc, Name, Number, Text


class FrequencyDoc(Doc):
    """One frequency of a kit."""

    freq_hz: Number
    watts: Number
    noise_t: Number
    reads_depth: bool = True
    reads_direction: bool = False


class ClampDoc(Doc):
    """Clamp data."""

    turns: Annotated[float, Field(gt=0.5, le=10000)]
    magnetising_h: Annotated[float, Field(gt=0, le=10)]
    min_freq_hz: Annotated[float, Field(ge=0, le=1e6)]


class CoilDoc(Doc):
    """Induction coil data."""

    moment_a_m2: Annotated[float, Field(gt=0, le=1000)]
    corner_hz: Annotated[float, Field(gt=0, le=1e6)]
    height_m: Annotated[float, Field(gt=0, le=3)]
    min_freq_hz: Annotated[float, Field(ge=0, le=1e6)]


class ReceiverDoc(Doc):
    """Heights of the receiver's two horizontal coils above ground."""

    low_m: Annotated[float, Field(ge=0, le=2)]
    high_m: Annotated[float, Field(gt=0, le=3)]


class BoundDoc(Doc):
    """A crew's own limits of one rule of the judge; see `core.judge.rules`."""

    rule: Annotated[str, Field(max_length=40)]
    care: Number | None
    hold: Number | None
    reason: Text = ""
    by: Text = ""
    at: Text = ""


class KitDoc(Doc):
    """A crew's kit and the limits it judges by where they are its own.

    `sonde_hz`, `frame_m` (since 1.10): what its sonde sends at, and the distance between its frame's spikes.
    """

    name: Name
    frequencies: Annotated[list[FrequencyDoc], Field(max_length=40)]
    outputs_a: Annotated[list[Number], Field(max_length=20)]
    volts_max: Number
    battery_wh: Number
    idle_w: Number
    efficiency: Number
    lead_m: Number
    clamp: ClampDoc | None
    coil: CoilDoc | None
    receiver: ReceiverDoc
    sonde_hz: Number = SONDE_HZ
    frame_m: Number = FRAME_M
    bounds: Annotated[list[BoundDoc], Field(max_length=40)] = Field(default_factory=list)


class ConstructionDoc(Doc):
    """Electrical make-up of a line; see `core.model.construction`."""

    metal: Literal["solid", "tube", "clad"]
    radius_m: Number
    conductivity_s_m: Number
    rel_permeability: Number
    wall_m: Number
    core_conductivity_s_m: Number
    core_rel_permeability: Number
    insulation_m: Number
    insulation_eps_r: Number
    coating_s_m2: Number
    joint_spacing_m: Number
    joint_ohm: Number
    joint_f: Number
