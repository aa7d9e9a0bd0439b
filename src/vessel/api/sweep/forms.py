"""What the form of a centre line sends."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, TypeAlias

from vessel.api.entry_forms import EntryForm, entry_form
from vessel.core.model.entry_fields import CANDIDATE_FIELDS
from vessel.core.text.units import Units

if TYPE_CHECKING:
    _Candidate: TypeAlias = EntryForm
else:
    _Candidate = entry_form("_Candidate", CANDIDATE_FIELDS, "A centre line met on the first sweep.")


class CandidateForm(_Candidate):
    """A centre line met on the first sweep; `direction`: away from the hookup, towards it, or not read."""

    def values(self, units: Units) -> dict[str, Any]:
        """Return what is stored of the form; raises `BadInput`."""
        found = super().values(units)
        return {**found, "bearing_deg": found["bearing_deg"] % 360.0}
