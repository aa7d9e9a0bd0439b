"""The one place that turns errors into HTTP: a stable code, the field, a sentence and the fix."""

from __future__ import annotations

import re

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ValidationError

from vessel.core.base.errors import Conflict, NotFound, VesselError

_AS_THEY_ARE = (
    *("construction.", "file", "frequencies.", "outputs_a", "receiver.", "clamp.", "coil.", "neighbours"),
    *("routes", "access.", "structures.", "hard.", "bonds.", "rows.", "hits.", "looks."),
)


class ErrorBody(BaseModel):
    """What every refused request returns."""

    code: str
    field: str
    message: str
    fix: str


def form_field(field: str) -> str:
    """Return the form's name for a core field: `depth_min_m` is `depth_min`, `near.earth_ohm` is `near_earth`."""
    if field.startswith(_AS_THEY_ARE):
        return field
    joined = re.sub(r"\.\d+$", "", field).replace(".", "_")
    return re.sub(r"_(ohm_m|ohm|hz|ma|a|m)$", "", joined)


def _status(e: VesselError) -> int:
    return 404 if isinstance(e, NotFound) else 409 if isinstance(e, Conflict) else 422


def install(app: FastAPI) -> None:
    """Register the handlers on `app`."""

    @app.exception_handler(VesselError)
    async def refused(_: Request, e: VesselError) -> JSONResponse:
        body = ErrorBody(code=e.code, field=form_field(e.field), message=e.message, fix=e.fix)
        return JSONResponse(body.model_dump(), _status(e))

    async def invalid(_: Request, e: RequestValidationError | ValidationError) -> JSONResponse:
        first = e.errors()[0]
        path = ".".join(str(p) for p in first["loc"] if p not in ("body", "query", "path", "kit"))
        body = ErrorBody(
            code="bad_input", field=path, message=f"{path or 'Request'}: {first['msg']}.", fix="Correct this field."
        )
        return JSONResponse(body.model_dump(), 422)

    app.add_exception_handler(RequestValidationError, invalid)  # type: ignore[arg-type]
    app.add_exception_handler(ValidationError, invalid)  # type: ignore[arg-type]
