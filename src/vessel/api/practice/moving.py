"""Transmitter and stake set down somewhere else in the yard: the hookup that this makes."""

from __future__ import annotations

from typing import Any, Literal

from vessel.core.base.errors import BadInput, Conflict
from vessel.core.simulate.hookup_places import nearest_access
from vessel.formats.loaded_job import LoadedSetup

_AT_HAND_M = 3.0
"""How near to an access point the transmitter has to be set down for its leads to reach it [m]."""
_KEPT = ("hookup", "freq_hz", "output_a", "rx_freq_hz", "position_m", "stake_away_m", "stake_at", "apart_m", "clip_ohm")


def moved_to(setup: LoadedSetup, what: Literal["transmitter", "stake"], at: tuple[float, float]) -> dict[str, Any]:
    """Return the columns of a hookup with its transmitter or its stake somewhere else.

    Args:
        setup: The hookup as it is.
        what: What is moved.
        at: Where it is set down (east, north [m]).

    Returns:
        Columns of the new hookup; a measured stake is measured no more.

    Raises:
        BadInput: If no access point is at hand there.
        Conflict: If the hookup has no stake, or the line is not on the plan.
    """
    values = {name: getattr(setup.row, name) for name in _KEPT} | {"stake_ohm": None}
    if what == "stake":
        if not setup.setup.by.connects:
            raise Conflict("This hookup has no stake.", field="what", fix="Move the transmitter.")
        return values | {"stake_at": [*at]}
    drawn = setup.line.drawn_as
    if drawn is None:
        raise Conflict("The line is not on the plan.", field="what", fix="Choose the place on the Plan page.")
    along_m = drawn.nearest(at)[0]
    if setup.setup.by.through_air:
        return values | {"position_m": round(along_m, 2)}
    name, where_m, _ = nearest_access(setup.line.line, along_m)
    if abs(where_m - along_m) > _AT_HAND_M:
        raise BadInput("no_access_there", field="what", at_m=along_m, name=name, nearest_m=where_m)
    return values | {"position_m": where_m, "stake_at": None}
