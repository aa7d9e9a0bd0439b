"""Who may use Vessel over a network: one password of the crew, and the devices that signed in with it.

The password is kept as an argon2id hash (RFC 9106), a device's token as its SHA-256: neither can be read back.
"""

from __future__ import annotations

import secrets
from datetime import UTC, datetime, timedelta
from hashlib import sha256

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from sqlalchemy import Select, select
from sqlalchemy.orm import Session

from vessel.store.database import as_stored, now
from vessel.store.server_tables import CrewPasswordRow, DeviceRow
from vessel.store.unusable import StoreRefused

LEAST = 8
"""Characters of a password at least."""
KEPT = timedelta(days=30)
"""After that a device has to sign in anew."""
_hasher = PasswordHasher()


def set_password(db: Session, password: str) -> None:
    """Set the crew's password; every device has to sign in again."""
    if len(password) < LEAST:
        raise StoreRefused(
            f"A password of {len(password)} characters is soon guessed.", f"Use {LEAST} or more: three words will do."
        )
    for row in db.scalars(select(CrewPasswordRow)):
        db.delete(row)
    for device in db.scalars(select(DeviceRow).where(DeviceRow.ended_at.is_(None))):
        device.ended_at = now()
    db.add(CrewPasswordRow(hash=_hasher.hash(password), set_at=now()))


def has_password(db: Session) -> bool:
    """Return whether the crew has a password."""
    return db.scalar(select(CrewPasswordRow.id)) is not None


def password_is(db: Session, password: str) -> bool:
    """Return whether a password is the crew's."""
    kept = db.scalar(select(CrewPasswordRow.hash))
    try:
        return kept is not None and _hasher.verify(kept, password)
    except VerificationError:
        return False


def sign_in(db: Session, name: str) -> str:
    """Let a device in; return its token, which is kept nowhere else."""
    token = secrets.token_urlsafe(32)
    db.add(DeviceRow(token_hash=_hashed(token), name=name, signed_in_at=now(), ended_at=None))
    return token


def device_of(db: Session, token: str) -> DeviceRow | None:
    """Return the device with a token, None if it never signed in, was signed out or has to sign in anew."""
    return db.scalars(_signed_in().where(DeviceRow.token_hash == _hashed(token))).first()


def devices(db: Session) -> list[DeviceRow]:
    """Return the devices that are signed in, newest first."""
    return list(db.scalars(_signed_in().order_by(DeviceRow.id.desc())))


def _signed_in() -> Select[DeviceRow]:
    since = as_stored(datetime.now(UTC) - KEPT)
    return select(DeviceRow).where(DeviceRow.ended_at.is_(None), DeviceRow.signed_in_at >= since)


def _hashed(token: str) -> str:
    return sha256(token.encode()).hexdigest()
