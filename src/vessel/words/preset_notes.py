"""What each construction preset stands for, in words."""

from __future__ import annotations

PRESET_NOTE: dict[str, str] = {
    "tracer_wire": (
        "Insulated copper wire laid with a plastic pipe. With the far end open, current returns only through "
        "its capacitance to soil."
    ),
    "tracer_wire_clad": "Copper skin over a steel core, insulated.",
    "coated_steel_pipe": "Welded steel under a coating. It leaks a little everywhere, more where the coating is old.",
    "bare_steel_service": "Steel in bare contact with the soil. It loses current along its whole length.",
    "bare_copper_service": "Copper tube in bare contact with the soil.",
    "jointed_iron_main": (
        "Cast or ductile iron in 6 m lengths with lead or strapped joints. For rubber gaskets enter about 10 "
        "kohm and 2 nF a joint: low frequency then stops at the first one."
    ),
    "armoured_cable": "Signal goes on the armour or sheath, under an outer jacket.",
    "pair_cable": "One conductor of an unshielded cable, far end as found.",
    "valve_wire": (
        "Insulated wires from the controller to the valves. Tied together at the controller they are one conductor to "
        "the last valve. One wire alone ends at its valve: high frequency stops at the solenoid, low frequency goes on "
        "through it."
    ),
    "collector_cable": (
        "Cable from turbine to turbine or along a solar field. Signal goes on its screen, which is bonded to the earth "
        "grid at both ends: enter a few ohms there, and draw the grid as a structure. Never connect to a live line."
    ),
    "power_bare_neutral": "Bare concentric neutral wires in the soil carry the signal. Never connect to a live line.",
    "rodded_drain": "An insulated push-rod in a non-metallic drain, energised as a line.",
    "steel_building": "Footing steel in the soil along a wall. It takes signal from any line or stake nearby.",
    "earth_grid": (
        "Bare copper in the soil round turbines, substations and pumping plant. A lead on anything bonded to it lights "
        "up the whole grid: clamp the cable beyond its bond, or carry a coil along."
    ),
    "sheet_pile": "Steel wall in the soil, computed as a conductor at its middle depth.",
    "steel_fence": "Rails joined by posts in the ground. The earths of the posts are spread along it.",
    "no_metal": (
        "Carries no signal. Locate it with a rod or a sonde inside it, through its owner, or by digging by hand."
    ),
}
