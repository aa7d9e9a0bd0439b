"""Fixed lists: presets, soils; and how a typed text is understood."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter

from vessel.api.catalogue.views import Catalogue, Understanding
from vessel.api.requests import REFUSALS
from vessel.core.base.errors import VesselError
from vessel.core.model.construction import PRESETS, STRUCTURES, WITHOUT_METAL
from vessel.core.model.kit import SAMPLE_KITS
from vessel.core.model.soil import SOIL_KINDS
from vessel.core.text.entry import Quantity, understand
from vessel.core.text.units import Units
from vessel.formats.plan_doc import BURIED
from vessel.words.labels import POINT_LABEL
from vessel.words.preset_notes import PRESET_NOTE
from vessel.words.refusals import refusal

router = APIRouter(prefix="/api", tags=["catalogue"], responses=REFUSALS)


@router.get("/catalogue")
def catalogue() -> Catalogue:
    """Return what forms choose from."""
    return Catalogue.model_validate(
        {
            **{
                name: [
                    {
                        "id": k,
                        "label": p.label,
                        "note": PRESET_NOTE[k],
                        "shielded": p.shielded,
                        "construction": p.construction and p.construction.__dict__,
                    }
                    for k, p in table.items()
                ]
                for name, table in (("presets", {**PRESETS, **WITHOUT_METAL}), ("structures", STRUCTURES))
            },
            "points": [{"id": k, "label": label, "buried": k in BURIED} for k, label in POINT_LABEL.items()],
            "kits": [asdict(kit) for kit in SAMPLE_KITS],
            "soils": [{"id": k, "label": label, "resistivity_ohm_m": rho} for k, (label, rho, _) in SOIL_KINDS.items()],
        }
    )


@router.get("/understand")
def understanding(text: str, quantity: Quantity, units: Units = "metric") -> Understanding:
    """Return how a typed text would be understood; never an error, so that it can follow typing."""
    try:
        found = understand(text, quantity=quantity, units=units)
    except VesselError as e:
        message, fix = refusal(e, units)
        return Understanding(ok=False, shown=message, fix=fix)
    return Understanding(ok=True, shown=found.shown, fix="")
