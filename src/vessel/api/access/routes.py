"""The devices that are signed in, and signing out."""

from __future__ import annotations

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from vessel.api.access.gate import COOKIE
from vessel.api.requests import REFUSALS, Db, Saving
from vessel.core.base.errors import NotFound
from vessel.store.access import device_of, devices
from vessel.store.database import now
from vessel.store.server_tables import DeviceRow

router = APIRouter(prefix="/api/devices", tags=["access"], responses=REFUSALS)


class DeviceView(BaseModel):
    """A device that is signed in; `here`: the one that asks."""

    id: int
    name: str
    signed_in_at: str
    here: bool


class DevicesView(BaseModel):
    """Whether a password is asked for at all, and who is signed in."""

    guarded: bool
    devices: list[DeviceView]


@router.get("")
def signed_in(request: Request, db: Db) -> DevicesView:
    """Return the devices that are signed in."""
    here = device_of(db, request.cookies.get(COOKIE, ""))
    return DevicesView(
        guarded=request.app.state.guarded,
        devices=[DeviceView(id=d.id, name=d.name, signed_in_at=d.signed_in_at, here=d is here) for d in devices(db)],
    )


@router.delete("/{device_id}", status_code=204)
def sign_out(device_id: int, request: Request, response: Response, db: Saving) -> None:
    """Sign a device out: at its next request it has to sign in again."""
    row = db.get(DeviceRow, device_id) if abs(device_id) < 2**53 else None
    if row is None or row.ended_at is not None:
        raise NotFound("There is no such device.", fix="Load the page again.")
    here = device_of(db, request.cookies.get(COOKIE, ""))
    row.ended_at = now()
    if row is here:
        response.delete_cookie(COOKIE, path="/")
