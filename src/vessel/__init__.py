"""Vessel: plan, prove, trace and record the locating of buried lines.

The library's names (docs/python.md) are loaded when they are first used.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

from vessel.core.base import errors as _errors

if TYPE_CHECKING:
    from vessel.core.base.errors import BadInput, OutOfRange, VesselError
    from vessel.core.model.construction import PRESETS
    from vessel.core.model.kit import SAMPLE_KIT, Kit
    from vessel.core.model.line import AccessPoint, Line
    from vessel.core.model.network import Hookup, Site
    from vessel.core.model.readings import StationReading, TransmitterReading
    from vessel.core.model.setup import Setup, Stake
    from vessel.core.model.soil import Soil
    from vessel.public import buried, diagnose, judge, plan, solve

__version__ = "0.2.0"

__all__ = [
    "PRESETS",
    "SAMPLE_KIT",
    "AccessPoint",
    "BadInput",
    "Hookup",
    "Kit",
    "Line",
    "OutOfRange",
    "Setup",
    "Site",
    "Soil",
    "Stake",
    "StationReading",
    "TransmitterReading",
    "VesselError",
    "buried",
    "diagnose",
    "judge",
    "plan",
    "solve",
]

_HOMES = {
    "vessel.core.base.errors": ("BadInput", "OutOfRange", "VesselError"),
    "vessel.core.model.construction": ("PRESETS",),
    "vessel.core.model.kit": ("Kit", "SAMPLE_KIT"),
    "vessel.core.model.line": ("AccessPoint", "Line"),
    "vessel.core.model.network": ("Hookup", "Site"),
    "vessel.core.model.readings": ("StationReading", "TransmitterReading"),
    "vessel.core.model.setup": ("Setup", "Stake"),
    "vessel.core.model.soil": ("Soil",),
    "vessel.public": ("buried", "diagnose", "judge", "plan", "solve"),
}


def __getattr__(name: str) -> Any:
    """Load a public name when it is first asked for."""
    for home, names in _HOMES.items():
        if name in names:
            return getattr(import_module(home), name)
    raise AttributeError(f"module 'vessel' has no attribute '{name}'")


def _in_words(e: _errors.VesselError) -> str:
    return str(import_module("vessel.words.refusals").sentence(e))


_errors.spoken_by(_in_words)
