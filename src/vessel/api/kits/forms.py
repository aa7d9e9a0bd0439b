"""What the form of a kit sends."""

from __future__ import annotations

from vessel.api.form_reading import Form
from vessel.formats.kit_doc import KitDoc


class KitForm(Form):
    """A kit as the user entered it."""

    kit: KitDoc
