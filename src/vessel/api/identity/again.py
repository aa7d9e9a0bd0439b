"""A line traced again on changed ground: what of the hookup before goes over to the new one."""

from __future__ import annotations

from typing import Any

from vessel.api.identity.answer_rows import answer_row
from vessel.api.identity.views import Changed
from vessel.core.hookup.transmitter_forecast import stake_across
from vessel.core.model.identity import EvidenceId, after_a_change
from vessel.formats.loaded_job import LoadedSetup
from vessel.store.tables import EvidenceRow
from vessel.words.bond_sentences import kept_open_note

_STAYS = ("hookup", "freq_hz", "output_a", "position_m", "stake_away_m", "stake_at", "apart_m", "clip_ohm")
_MEASURED_ANEW = ("rx_freq_hz", "stake_ohm")
_SAID = ("kind", "answer", "at_m", "own_a", "other_a", "depth_m", "note", "technician", "taken_at", "deleted_at")


def again_from(before: LoadedSetup, changed: Changed) -> dict[str, Any]:
    """Return the columns of a hookup like another one; receiver and stake are checked and measured anew.

    A stake that was moved is on the other side of the line now; if that is no place for it, where the forecast has it.
    """
    found = {name: getattr(before.row, name) for name in _STAYS} | dict.fromkeys(_MEASURED_ANEW)
    if changed != "stake":
        return found
    moved = stake_across(before.line.line, before.job.soil, before.setup)
    return {**found, "stake_at": None if moved is None else list(moved)}


def still_holding(before: LoadedSetup, changed: Changed) -> list[EvidenceRow]:
    """Return the answers that go over to the new hookup, with who gave them and when."""
    rows = {e.kind: e for e in before.live_evidence}
    return [
        EvidenceRow(**{name: getattr(rows[e.kind], name) for name in _SAID}, earlier=e.earlier)
        for e in after_a_change(before.evidence, stake=changed == "stake")
    ]


def kept_open(kind: EvidenceId, consent: str, technician: str) -> EvidenceRow:
    """Return the answer that what else is connected at an end is kept off, with who agreed to it."""
    return answer_row(kind, "for", technician, note=kept_open_note(consent))
