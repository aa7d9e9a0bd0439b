"""Soil by measured resistivity or by kind."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vessel.core.base.errors import BadInput, require_range

SOIL_KINDS: dict[str, tuple[str, float, float]] = {
    # kind: label, resistivity [ohm m], relative permittivity [-]; typical values, editable on the job
    "wet_clay": ("Wet clay", 20.0, 20.0),
    "loam": ("Loam", 60.0, 15.0),
    "moist_sand": ("Moist sand", 200.0, 12.0),
    "dry_sand": ("Dry sand or gravel", 800.0, 10.0),
    "rock": ("Rock", 2000.0, 10.0),
}

RESISTIVITY_OHM_M = (0.5, 1e5)
"""What a soil's resistivity may be [ohm m]."""


@dataclass(frozen=True)
class Soil:
    """Homogeneous soil: resistivity [ohm m], 0.5 to 100 000; relative permittivity [-], 1 to 81."""

    resistivity_ohm_m: float
    rel_permittivity: float = 15.0

    def __post_init__(self) -> None:
        require_range(
            self.resistivity_ohm_m,
            low=RESISTIVITY_OHM_M[0],
            high=RESISTIVITY_OHM_M[1],
            field="soil_resistivity_ohm_m",
            name="Soil resistivity",
            unit="ohm m",
        )
        require_range(
            self.rel_permittivity, low=1.0, high=81.0, field="soil_permittivity", name="Soil permittivity", unit=""
        )

    def times(self, factor: float) -> Soil:
        """Return soil of another resistivity.

        Args:
            factor: Factor on the resistivity; the result stays within what soil can have.

        Returns:
            The soil.
        """
        low, high = RESISTIVITY_OHM_M
        return replace(self, resistivity_ohm_m=min(max(self.resistivity_ohm_m * factor, low), high))

    @classmethod
    def of_kind(cls, kind: str, resistivity_ohm_m: float | None = None) -> Soil:
        """Return the typical soil of a kind.

        Args:
            kind: Id of the kind.
            resistivity_ohm_m: Measured resistivity [ohm m]; None: the typical one.

        Returns:
            The soil.

        Raises:
            BadInput: If there is no such kind.
        """
        if kind not in SOIL_KINDS:
            raise BadInput("no_such_soil", field="soil_kind", name=kind)
        _, rho, eps = SOIL_KINDS[kind]
        return cls(rho if resistivity_ohm_m is None else resistivity_ohm_m, eps)
