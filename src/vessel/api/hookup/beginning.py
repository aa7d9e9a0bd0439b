"""A hookup begun: its place, stake and lead checked against the line, the site plan and the kit."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session

from vessel.core.base.errors import Conflict
from vessel.core.hookup.transmitter_forecast import require_clear_stake, require_place, stake_away_m
from vessel.core.simulate.hookup_places import access_at, nearest_access, require_pair, safety_rejection
from vessel.formats.adapters import setup_of
from vessel.formats.loaded_job import LoadedLine
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import SetupRow
from vessel.words.option_sentences import REJECTED


def begin_setup(db: Session, line: LoadedLine, values: dict[str, Any], technician: str) -> SetupRow:
    """Store a hookup of a line; raises before anything is stored where it cannot or must not be made.

    Args:
        db: The session, with the write lock.
        line: The line.
        values: Columns of the hookup, SI.
        technician: Who makes it; empty: who works on the device.

    Returns:
        The row.
    """
    job, kit = line.job, line.job.kit
    row = SetupRow(
        **values,
        line_id=line.row.id,
        steps_done=[],
        technician=entered_by(db, technician, job.row),
        created_at=now(),
    )
    setup_of(row).require_on(line.row.length_m)
    if row.stake_at is not None:
        row.stake_away_m = stake_away_m(line.line, setup_of(row))
        require_place(line.line, setup_of(row))
    require_clear_stake(line.line, job.soil, setup_of(row))
    row.freq_hz = kit.frequency(row.freq_hz).freq_hz
    kit.require_lead(row.stake_away_m)
    if row.rx_freq_hz is not None:
        row.rx_freq_hz = kit.frequency(row.rx_freq_hz, at="rx_freq").freq_hz
    setup = setup_of(row)
    at = setup.position_m
    point = access_at(line.line, at) if setup.by.touches else nearest_access(line.line, at)[2]
    require_pair(line.line, setup.method)
    why = safety_rejection(setup.method, point, kit)
    if why is not None:
        raise Conflict(REJECTED[why], field="hookup", fix="Choose another hookup.")
    db.add(row)
    db.flush()
    return row
