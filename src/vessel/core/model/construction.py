"""Electrical make-up of a line: construction presets as visible data that can be overridden."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from vessel.core.base.errors import BadInput, require_range

_MOST_COATING_S_M2 = 10.0
MetalKind = Literal["solid", "tube", "clad"]


@dataclass(frozen=True)
class Construction:
    """The metal that carries the signal and what lies between it and the soil.

    Lengths in m, conductivity in S/m. `wall_m` is the wall of a tube or the outer skin of a clad wire.
    `coating_s_m2` is coating conductance per coated surface [S/m2]. Joints: every `joint_spacing_m`,
    `joint_ohm` in parallel with `joint_f` farad; spacing 0 means no joints.
    """

    metal: MetalKind
    radius_m: float
    conductivity_s_m: float
    rel_permeability: float = 1.0
    wall_m: float = 0.0
    core_conductivity_s_m: float = 0.0
    core_rel_permeability: float = 1.0
    insulation_m: float = 0.0
    insulation_eps_r: float = 2.3
    coating_s_m2: float = 0.0
    joint_spacing_m: float = 0.0
    joint_ohm: float = 0.0
    joint_f: float = 0.0

    def __post_init__(self) -> None:
        bounds = {
            "radius_m": (1e-4, 2.0, "m"),
            "conductivity_s_m": (1e4, 1e8, "S/m"),
            "rel_permeability": (1.0, 5000.0, ""),
            "wall_m": (0.0, self.radius_m, "m"),
            "core_conductivity_s_m": (0.0, 1e8, "S/m"),
            "core_rel_permeability": (1.0, 5000.0, ""),
            "insulation_m": (0.0, 0.2, "m"),
            "insulation_eps_r": (1.0, 20.0, ""),
            "coating_s_m2": (0.0, _MOST_COATING_S_M2, "S/m2"),
            "joint_spacing_m": (0.0, 1000.0, "m"),
            "joint_ohm": (0.0, 1e9, "ohm"),
            "joint_f": (0.0, 1e-3, "F"),
        }
        for name, (low, high, unit) in bounds.items():
            label = name.rsplit("_", 1)[0].replace("_", " ").capitalize()
            require_range(getattr(self, name), low=low, high=high, field=f"construction.{name}", name=label, unit=unit)
        if self.metal != "solid" and self.wall_m <= 0.0:
            raise BadInput("no_wall", field="construction.wall_m")
        if self.metal == "clad" and self.core_conductivity_s_m <= 0.0:
            raise BadInput("no_core", field="construction.core_conductivity_s_m")

    def leaking(self, factor: float) -> Construction:
        """Return the construction with another coating conductance.

        Args:
            factor: Factor on the conductance; the result stays within what a coating can have.

        Returns:
            The construction.
        """
        return replace(self, coating_s_m2=min(self.coating_s_m2 * factor, _MOST_COATING_S_M2))

    @property
    def outer_radius_m(self) -> float:
        """Radius over the insulation [m]."""
        return self.radius_m + self.insulation_m

    @property
    def bare(self) -> bool:
        """Whether the metal lies in the soil without insulation."""
        return self.insulation_m <= 0.0


COPPER_S_M = 5.8e7
STEEL_S_M = 6.0e6
LEAD_S_M = 4.8e6
IRON_S_M = 1.5e6


@dataclass(frozen=True)
class Preset:
    """A named construction; None where there is no metal. What it stands for is in `words.preset_notes`.

    `shielded`: it has a centre conductor inside what carries the signal. `hollow`: a sonde can be pushed through it.
    `pairs`: several such conductors lie side by side, and both leads could be put on two of them.
    `rod`: it is a push-rod, which ends where its head is. `controlled`: it begins at the terminals of a controller.
    """

    label: str
    construction: Construction | None
    shielded: bool = False
    hollow: bool = False
    pairs: bool = False
    rod: bool = False
    controlled: bool = False


PRESETS: dict[str, Preset] = {
    "tracer_wire": Preset(
        "Tracer wire on plastic",
        Construction("solid", 1.0e-3, COPPER_S_M, insulation_m=0.8e-3, insulation_eps_r=2.3),
    ),
    "tracer_wire_clad": Preset(
        "Copper-clad steel tracer wire",
        Construction(
            "clad",
            1.0e-3,
            COPPER_S_M,
            wall_m=3.0e-5,
            core_conductivity_s_m=STEEL_S_M,
            core_rel_permeability=200.0,
            insulation_m=0.8e-3,
            insulation_eps_r=2.3,
        ),
    ),
    "coated_steel_pipe": Preset(
        "Coated steel pipe",
        Construction(
            "tube",
            0.057,
            STEEL_S_M,
            rel_permeability=200.0,
            wall_m=4.0e-3,
            insulation_m=3.0e-3,
            insulation_eps_r=2.5,
            coating_s_m2=1.0e-4,
        ),
        hollow=True,
    ),
    "bare_steel_service": Preset(
        "Bare steel service",
        Construction("tube", 0.0135, STEEL_S_M, rel_permeability=200.0, wall_m=2.6e-3),
    ),
    "bare_copper_service": Preset(
        "Bare copper service",
        Construction("tube", 0.011, COPPER_S_M, wall_m=1.2e-3),
    ),
    "jointed_iron_main": Preset(
        "Jointed iron main",
        Construction(
            "tube",
            0.085,
            IRON_S_M,
            rel_permeability=300.0,
            wall_m=8.0e-3,
            joint_spacing_m=6.0,
            joint_ohm=1.0,
            joint_f=1.0e-9,
        ),
        hollow=True,
    ),
    "armoured_cable": Preset(
        "Armoured or shielded cable",
        Construction("tube", 0.012, LEAD_S_M, wall_m=1.2e-3, insulation_m=2.0e-3, insulation_eps_r=2.5),
        shielded=True,
    ),
    "pair_cable": Preset(
        "Unshielded pair cable",
        Construction("solid", 0.4e-3, COPPER_S_M, insulation_m=1.6e-3, insulation_eps_r=2.3),
        pairs=True,
    ),
    "valve_wire": Preset(
        "Valve wires of irrigation",
        Construction("solid", 0.8e-3, COPPER_S_M, insulation_m=0.8e-3, insulation_eps_r=2.3),
        pairs=True,
        controlled=True,
    ),
    "collector_cable": Preset(
        "Collector cable with a copper screen",
        Construction("tube", 0.017, COPPER_S_M, wall_m=2.5e-4, insulation_m=2.5e-3, insulation_eps_r=2.4),
        shielded=True,
    ),
    "power_bare_neutral": Preset(
        "Power cable with bare neutral",
        Construction("tube", 0.015, COPPER_S_M, wall_m=0.8e-3),
    ),
    "rodded_drain": Preset(
        "Drain with a metal rod in it",
        Construction("solid", 2.0e-3, STEEL_S_M, rel_permeability=50.0, insulation_m=2.5e-3, insulation_eps_r=3.0),
        hollow=True,
        rod=True,
    ),
}


STRUCTURES: dict[str, Preset] = {
    "steel_building": Preset(
        "Steel building",
        Construction("tube", 0.15, STEEL_S_M, rel_permeability=200.0, wall_m=8.0e-3),
    ),
    "sheet_pile": Preset(
        "Sheet pile wall",
        Construction("tube", 0.3, STEEL_S_M, rel_permeability=200.0, wall_m=1.0e-2),
    ),
    "steel_fence": Preset(
        "Steel fence",
        Construction(
            "tube", 0.03, STEEL_S_M, rel_permeability=200.0, wall_m=3.0e-3, insulation_m=1.0e-3, coating_s_m2=0.028
        ),
    ),
    "earth_grid": Preset(
        "Earth grid of a plant",
        Construction("solid", 5.5e-3, COPPER_S_M),
    ),
}
"""Structures that are no buried line but take signal."""


WITHOUT_METAL: dict[str, Preset] = {
    "no_metal": Preset(
        "No metal: plastic, clay or concrete",
        None,
        hollow=True,
    ),
}


def preset(name: str) -> Preset:
    """Return a preset of a line or a structure.

    Args:
        name: Its id.

    Returns:
        The preset.

    Raises:
        BadInput: If there is none of that name.
    """
    found = PRESETS.get(name) or STRUCTURES.get(name) or WITHOUT_METAL.get(name)
    if found is None:
        raise BadInput("no_such_preset", field="preset", name=name)
    return found


def metal(name: str, *, field: str = "preset") -> Construction:
    """Return the construction of a preset that has metal.

    Args:
        name: Its id.
        field: Name of the field a refusal is to name.

    Returns:
        The construction.

    Raises:
        BadInput: If there is no such preset, or it has no metal.
    """
    found = preset(name).construction
    if found is None:
        raise BadInput("preset_without_metal", field=field)
    return found
