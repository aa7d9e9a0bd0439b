"""The one place that turns errors into HTTP: a stable code, the field, a sentence and the fix."""

from __future__ import annotations

import logging

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import DBAPIError, IntegrityError
from starlette.exceptions import HTTPException as StarletteHTTPException

from vessel.api.form_reading import sent_as
from vessel.api.waiting import CLIENT_GONE
from vessel.core.base.errors import Conflict, NotFound, VesselError
from vessel.core.base.wanted import GivenUp
from vessel.store.unusable import StoreRefused, busy
from vessel.words.refusals import refusal


class ErrorBody(BaseModel):
    """What every refused request returns."""

    code: str
    field: str
    message: str
    fix: str


def _named_by_page(request: Request, field: str) -> str:
    """Return a refused field by the name that the form of this request sends it by."""
    body = getattr(request.scope.get("route"), "body_field", None)
    form = None if body is None else body.field_info.annotation
    return sent_as(form, field) if isinstance(form, type) and issubclass(form, BaseModel) else field


def _status(e: VesselError) -> int:
    return 404 if isinstance(e, NotFound) else 409 if isinstance(e, Conflict) else 422


_PLAIN = {
    400: ("bad_body", "What was sent cannot be read: it is no JSON, or nested too deep.", "Load the page again."),
    404: ("not_found", "There is no such address.", ""),
    405: ("no_such_method", "This address does not take that.", "Load the page again."),
}


def install(app: FastAPI) -> None:
    """Register the handlers on `app`."""

    @app.exception_handler(VesselError)
    async def refused(request: Request, e: VesselError) -> JSONResponse:
        message, fix = refusal(e)
        body = ErrorBody(code=e.code, field=_named_by_page(request, e.field), message=message, fix=fix)
        return JSONResponse(body.model_dump(), _status(e))

    @app.exception_handler(StarletteHTTPException)
    async def plain(_: Request, e: StarletteHTTPException) -> JSONResponse:
        code, message, fix = _PLAIN.get(e.status_code, ("refused", f"{e.detail}.", "Load the page again."))
        body = ErrorBody(code=code, field="", message=message, fix=fix)
        return JSONResponse(body.model_dump(), e.status_code, headers=e.headers)

    @app.exception_handler(IntegrityError)
    async def twice(_: Request, e: IntegrityError) -> JSONResponse:
        logging.getLogger("vessel").warning("refused by the database: %s", e.orig)
        body = ErrorBody(
            code="conflict",
            field="",
            message="Two entries are for one place, or belong to something that is not there.",
            fix="Load the page again and look at what is there; in a file, remove one of the two.",
        )
        return JSONResponse(body.model_dump(), 409)

    @app.exception_handler(DBAPIError)
    async def not_stored(_: Request, e: DBAPIError) -> JSONResponse:
        why = StoreRefused.of(e)
        code = "busy" if busy(e) else "not_stored"
        return JSONResponse(ErrorBody(code=code, field="", message=why.what, fix=why.fix).model_dump(), 503)

    @app.exception_handler(GivenUp)
    async def given_up(_: Request, __: GivenUp) -> Response:
        return Response(status_code=CLIENT_GONE)

    async def invalid(_: Request, e: RequestValidationError | ValidationError) -> JSONResponse:
        first = e.errors()[0]
        path = ".".join(str(p) for p in first["loc"] if p not in ("body", "query", "path", "kit"))
        body = ErrorBody(
            code="bad_input", field=path, message=f"{path or 'Request'}: {first['msg']}.", fix="Correct this field."
        )
        return JSONResponse(body.model_dump(), 422)

    app.add_exception_handler(RequestValidationError, invalid)  # type: ignore[arg-type]
    app.add_exception_handler(ValidationError, invalid)  # type: ignore[arg-type]
