"""What was done before anything was switched on, as a document: in the store and in the job file."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from vessel.core.model.pre_start import Ambient, Answer, Check, Hit, PassiveSweep, Source
from vessel.core.prestart.checks_and_noise import require_known
from vessel.formats.document import Doc, Name, Number, Text
from vessel.formats.plan_doc import Place


class CheckDoc(Doc):
    """The answer to one check of the sheet."""

    id: Name
    answer: Answer
    note: Text = ""
    technician: Text
    answered_at: Text


class AmbientDoc(Doc):
    """What the display showed with the transmitter off, here and in a quiet place at the same gain."""

    freq_hz: Number
    here: Number
    quiet: Number | None = None
    typed: dict[str, str] = Field(default_factory=dict)


class HitDoc(Doc):
    """A place where the passive sweep met something."""

    source: Source
    at: Place | None = None
    note: Text = ""


MOST_WALKED = 1000
"""Strips kept at most, those of earlier grids among them."""


class WalkedDoc(Doc):
    """One walk of the grid of the passive sweep, from and to, and who walked it."""

    start: Place
    end: Place
    technician: Text
    walked_at: Text


class PassiveDoc(Doc):
    """The passive sweep: the grid walked once, and again with the receiver turned; `walked` strip by strip."""

    first: bool = False
    second: bool = False
    spacing_m: Number | None = None
    hits: list[HitDoc] = Field(default_factory=list, max_length=200)
    walked: list[WalkedDoc] = Field(default_factory=list, max_length=MOST_WALKED)


class BeforeDoc(Doc):
    """Everything before: the sheet, the noise, the passive sweep."""

    checks: list[CheckDoc] = Field(default_factory=list, max_length=50)
    noise: list[AmbientDoc] = Field(default_factory=list, max_length=50)
    passive: PassiveDoc = PassiveDoc()


def before_doc(job: Any) -> BeforeDoc:
    """Return what was done before on a job (document or row)."""
    return job.before if isinstance(job.before, BeforeDoc) else BeforeDoc.model_validate(job.before)


def checks_of(doc: BeforeDoc) -> tuple[Check, ...]:
    """Return the answers as the core takes them; raise `BadInput` for one that is not on the sheet."""
    found = tuple(Check(c.id, c.answer, c.note) for c in doc.checks)
    for check in found:
        require_known(check)
    return found


def ambients_of(doc: BeforeDoc) -> tuple[Ambient, ...]:
    """Return the ambient levels read."""
    return tuple(Ambient(a.freq_hz, a.here, a.quiet) for a in doc.noise)


def passive_of(doc: BeforeDoc) -> PassiveSweep:
    """Return the passive sweep."""
    p = doc.passive
    hits = tuple(Hit(h.source, h.at, h.note) for h in p.hits)
    return PassiveSweep(p.first, p.second, p.spacing_m, hits, tuple((w.start, w.end) for w in p.walked))
