"""Between the store and the open job file: the field names are the same, so nothing is re-listed here."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, cast

from sqlalchemy import select
from sqlalchemy.orm import Session, object_session

from vessel.api.history.present import name_of
from vessel.core.text.units import Units
from vessel.formats.background_doc import check_background
from vessel.formats.document import Doc
from vessel.formats.job_file import JobDoc, JobFile
from vessel.formats.kit_doc import KitDoc
from vessel.formats.loaded_job import checked
from vessel.formats.special_docs import FaultWalkDoc, SondeRunDoc
from vessel.store.database import now
from vessel.store.journal import imported_now, sign
from vessel.store.server_tables import JournalRow
from vessel.store.special_tables import FaultWalkRow, FrameReadingRow, SondeRunRow, StopRow
from vessel.store.tables import (
    BackgroundRow,
    CandidateRow,
    EvidenceRow,
    JobRow,
    KitRow,
    LineRow,
    MarkRow,
    ReadingRow,
    SetupRow,
    StationRow,
)


def export_job(job: JobRow) -> JobFile:
    """Return a stored job as a file, its kit included."""
    fields = {k: getattr(job, k) for k in JobDoc.model_fields if k not in ("kit", "journal")}
    kit = KitDoc.model_validate(job.kit.data)
    fields["backgrounds"] = [b for b in job.backgrounds if b.deleted_at is None]
    return JobFile(job=JobDoc.model_validate({**fields, "kit": kit, "journal": _journal(job)}))


def _journal(job: JobRow) -> list[dict[str, Any]]:
    """The journal of a job, each entry by name: where it goes it has no row to be looked up by."""
    db = object_session(job)
    if db is None:
        return []
    rows = db.scalars(select(JournalRow).where(JournalRow.job_id == job.id).order_by(JournalRow.id)).all()
    units = cast(Units, job.units)
    names = {of: name_of(db, of, units) for of in {(r.kind, r.entry_id) for r in rows if not r.what}}
    kept = ("at", "who", "device", "kind", "action", "changes", "why")
    return [{**{k: getattr(r, k) for k in kept}, "what": r.what or names[r.kind, r.entry_id]} for r in rows]


def import_job(db: Session, file: JobFile) -> JobRow:
    """Store a file as a new job; raises before anything is stored if a value is out of range."""
    checked(file.job)
    doc = file.job
    for background in doc.backgrounds:
        check_background(background)
    said = db.info.get("journal", {})
    sign(db, who=said.get("who", ""), device=said.get("device", ""), imported=True)
    row = JobRow(**_plain(doc, "kit", "lines", "backgrounds", "journal"), deleted_at=None, kit=_kit(db, doc.kit))
    row.backgrounds += [BackgroundRow(**_plain(b)) for b in doc.backgrounds]
    for line_doc in doc.lines:
        line = LineRow(**_plain(line_doc, "setups", "sonde_runs", "fault_walks"))
        row.lines.append(line)
        for setup_doc in line_doc.setups:
            setup = SetupRow(**_plain(setup_doc, "readings", "candidates", "evidence", "stations"))
            line.setups.append(setup)
            setup.readings += [ReadingRow(**_plain(r)) for r in setup_doc.readings]
            setup.candidates += [CandidateRow(**_plain(c)) for c in setup_doc.candidates]
            setup.evidence += [EvidenceRow(**_plain(e)) for e in setup_doc.evidence]
            for station_doc in setup_doc.stations:
                station = StationRow(**_plain(station_doc, "marks"))
                station.marks += [MarkRow(**_plain(m)) for m in station_doc.marks]
                setup.stations.append(station)
            _once(setup.stations)
        line.sonde_runs += [_run(doc) for doc in line_doc.sonde_runs]
        line.fault_walks += [_walk(doc) for doc in line_doc.fault_walks]
    db.add(row)
    db.flush()
    before = [JournalRow(**_plain(j), job_id=row.id, entry_id=None) for j in doc.journal]
    db.add_all(before)
    db.flush()
    imported_now(db, row)
    return row


def _run(doc: SondeRunDoc) -> SondeRunRow:
    run = SondeRunRow(**_plain(doc, "stops"))
    for stop_doc in doc.stops:
        stop = StopRow(**_plain(stop_doc, "marks"))
        stop.marks += [MarkRow(**_plain(m)) for m in stop_doc.marks]
        run.stops.append(stop)
    _once(run.stops)
    return run


def _walk(doc: FaultWalkDoc) -> FaultWalkRow:
    walk = FaultWalkRow(**_plain(doc, "readings", "marks"))
    walk.readings += [FrameReadingRow(**_plain(r)) for r in doc.readings]
    walk.marks += [MarkRow(**_plain(m)) for m in doc.marks]
    return walk


_TWICE = "Stored twice at the same moment."


def _once(stations: Sequence[Any]) -> None:
    """Strike out of stations or stops what an earlier Vessel stored twice at one moment; it stays in the file."""
    taken = set[float]()
    for station in sorted(stations, key=lambda s: not any(m.withdrawn_at is None for m in s.marks)):
        if station.deleted_at is None and station.distance_m in taken:
            station.deleted_at, station.note = now(), f"{station.note} {_TWICE}".strip()
        elif station.deleted_at is None:
            taken.add(station.distance_m)
        for mark in [m for m in station.marks if m.withdrawn_at is None][1:]:
            mark.withdrawn_at, mark.withdrawn_by, mark.withdrawn_reason = now(), mark.technician, _TWICE


def _plain(doc: Doc, *nested: str) -> dict[str, Any]:
    return doc.model_dump(exclude=set(nested))


def _kit(db: Session, doc: KitDoc) -> KitRow:
    """Return the stored kit with exactly this data, or store it beside the others."""
    data = doc.model_dump()
    for kit in db.scalars(select(KitRow).where(KitRow.deleted_at.is_(None))):
        if KitDoc.model_validate(kit.data).model_dump() == data:  # stored before a field came, it has it by default
            return kit
    kit = KitRow(name=doc.name, data=data, deleted_at=None)
    db.add(kit)
    return kit
