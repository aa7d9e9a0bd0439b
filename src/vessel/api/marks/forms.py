"""What the forms of a mark send."""

from __future__ import annotations

from vessel.api.form_reading import Form, LongText, NameText, Reader, Typed
from vessel.core.base.errors import BadInput
from vessel.core.model.station_place import MOST_OFFSET_M, Side
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units


class MarkForm(Form):
    """Mark a station; a reason is needed where the verdict does not allow a mark.

    `offset`, `side`: where the paint stands beside the line, looking along it from its near end; empty: over it.
    """

    reason: LongText = ""
    offset: Typed = ""
    side: Side = "left"
    technician: NameText = ""

    def painted_off_m(self, units: Units) -> float | None:
        """Return how far left of the line the paint stands [m], right below zero; None: over it."""
        off_m = Reader(self, units).read("offset", "distance")
        if not off_m:
            return None
        if off_m > MOST_OFFSET_M:
            raise BadInput(
                f"Paint {show_length(off_m, units)} beside the line.",
                field="offset",
                fix=f"That is too far to measure back. Stay within {show_length(MOST_OFFSET_M, units)}.",
            )
        return off_m if self.side == "left" else -off_m


class WithdrawForm(Form):
    """Withdraw a mark; it stays on record."""

    reason: LongText
    technician: NameText = ""
