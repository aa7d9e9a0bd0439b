"""How far the soil may be from what was assumed."""

from __future__ import annotations

from vessel.core.model.soil import Soil

SOIL_SPREAD = {"typical": 2.5, "measured": 1.25}
"""By what factor the soil may be wetter or drier than assumed: typical values spread wide, measured ones little."""


def soils_expected(soil: Soil, *, measured: bool) -> tuple[Soil, ...]:
    """Return the range of soils to expect.

    Args:
        soil: Soil of the site.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.

    Returns:
        The soil as wet as it may be, as assumed, and as dry as it may be.
    """
    factor = SOIL_SPREAD["measured" if measured else "typical"]
    return tuple(soil.times(f) for f in (1 / factor, 1.0, factor))
