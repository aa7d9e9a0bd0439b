"""What the form of a crew's own limits sends."""

from __future__ import annotations

from vessel.api.form_reading import Form, LongText, NameText, Typed
from vessel.core.text.units import Units


class BoundForm(Form):
    """A crew's own limits of one rule, and why; `units` say how a bare length is read."""

    care: Typed = ""
    hold: Typed = ""
    reason: LongText = ""
    technician: NameText = ""
    units: Units = "metric"
