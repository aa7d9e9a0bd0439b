"""The application: routers, guards, error handling and the built interface."""

from __future__ import annotations

import asyncio
import logging
from collections.abc import AsyncIterator, Iterable, Sequence
from contextlib import asynccontextmanager
from dataclasses import asdict
from html import escape
from pathlib import Path
from threading import Event

from fastapi import APIRouter, FastAPI, Request
from fastapi.responses import HTMLResponse, JSONResponse, Response
from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker
from starlette.middleware.gzip import GZipMiddleware

from vessel import __version__
from vessel.api import refused
from vessel.api.access.gate import Gate
from vessel.api.access.routes import router as access_router
from vessel.api.answering import HashedFiles, RequestLog, Tagged
from vessel.api.background.routes import router as background_router
from vessel.api.backups.routes import router as backups_router
from vessel.api.catalogue.routes import router as catalogue_router
from vessel.api.fault.routes import router as fault_router
from vessel.api.history.routes import router as history_router
from vessel.api.history.stream import router as stream_router
from vessel.api.hookup.routes import router as hookup_router
from vessel.api.identity.routes import router as identity_router
from vessel.api.instruments.routes import router as instruments_router
from vessel.api.jobs.routes import router as jobs_router
from vessel.api.kits.routes import router as kits_router
from vessel.api.lines.routes import router as lines_router
from vessel.api.marking.routes import router as marking_router
from vessel.api.marks.routes import router as marks_router
from vessel.api.plan.routes import router as plan_router
from vessel.api.practice.crew_routes import router as crew_router
from vessel.api.practice.routes import router as practice_router
from vessel.api.prestart.routes import router as prestart_router
from vessel.api.record.routes import router as record_router
from vessel.api.rules.routes import router as rules_router
from vessel.api.security import LOOPBACK, BodyLimit, LocalGuard, SafeHeaders
from vessel.api.site.routes import router as site_router
from vessel.api.sonde.routes import router as sonde_router
from vessel.api.stations.pasted_columns import router as columns_router
from vessel.api.stations.places import router as places_router
from vessel.api.stations.routes import router as stations_router
from vessel.api.sweep.routes import router as sweep_router
from vessel.api.waiting import Waiting
from vessel.api.warming import warm
from vessel.api.what_if.routes import router as what_if_router
from vessel.api.work.routes import router as work_router
from vessel.core.base.parallel import one_thread_each
from vessel.core.model.kit import SAMPLE_KIT
from vessel.formats.kit_doc import KitDoc
from vessel.instruments.attached import Instruments
from vessel.settings import Settings
from vessel.store.access import has_password
from vessel.store.backup import every_day
from vessel.store.database import begin_writing, close, open_engine, sessions
from vessel.store.tables import KitRow
from vessel.store.unusable import StoreRefused

ROUTERS = (
    catalogue_router,
    jobs_router,
    prestart_router,
    marking_router,
    lines_router,
    plan_router,
    site_router,
    background_router,
    work_router,
    what_if_router,
    hookup_router,
    sweep_router,
    identity_router,
    stations_router,
    places_router,
    columns_router,
    sonde_router,
    fault_router,
    marks_router,
    record_router,
    crew_router,
    practice_router,
    instruments_router,
    kits_router,
    rules_router,
    backups_router,
    history_router,
    stream_router,
    access_router,
)
_API = APIRouter()
for _router in ROUTERS:
    _API.include_router(_router)
WEB = Path(__file__).parents[1] / "web"


def ship_sample_kit(db: Session) -> None:
    """Store the sample kit in a database that has no kit yet."""
    if db.scalars(select(KitRow)).first() is None:
        data = KitDoc.model_validate(asdict(SAMPLE_KIT)).model_dump()
        db.add(KitRow(name=SAMPLE_KIT.name, data=data))


def open_store(database: Path) -> sessionmaker[Session]:
    """Open and migrate the database; the sample kit is there afterwards."""
    make = sessions(open_engine(database))
    with make() as db:
        begin_writing(db)
        ship_sample_kit(db)
        db.commit()
    return make


def create_app(
    database: Path,
    *,
    hosts: Iterable[str] = LOOPBACK,
    web: Path = WEB,
    kept: bool = False,
    guarded: bool = False,
    instruments: Sequence[str] = (),
) -> FastAPI:
    """Return the application on the SQLite file `database`, answering to `hosts` only.

    `kept`: make a backup a day and work out the newest jobs after the start. `guarded`: answer only devices that
    signed in. `instruments`: addresses of the streams to attach.
    """
    attached = Instruments(instruments) if instruments else None
    store = open_store(database)

    @asynccontextmanager
    async def serving(_: FastAPI) -> AsyncIterator[None]:
        stop = every_day(database) if kept else None
        warming = warm(store, app.state.stopping) if kept else None
        if attached is not None:
            attached.start()
        yield
        app.state.stopping.set()
        if attached is not None:
            attached.stop()
        if stop is not None:
            stop.set()
        if warming is not None:
            warming.join(timeout=5)
        close(store.kw["bind"])

    app = FastAPI(title="Vessel", version=__version__, docs_url=None, redoc_url=None, lifespan=serving)
    app.state.sessions, app.state.database, app.state.turn = store, database, asyncio.Lock()
    app.state.stopping, app.state.guarded = Event(), guarded
    app.state.instruments = attached
    # the last one added is the outermost
    app.add_middleware(Tagged)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=6)
    if guarded:
        app.add_middleware(Gate, sessions=store)
    app.add_middleware(BodyLimit)
    app.add_middleware(LocalGuard, hosts=tuple(hosts))
    app.add_middleware(SafeHeaders)
    app.add_middleware(Waiting)
    app.add_middleware(RequestLog)
    refused.install(app)
    # not `include_router`: it would work every address out anew for each application of the process
    app.router.routes.extend(_API.routes)
    _serve_interface(app, web)
    return app


def served() -> FastAPI:
    """Return the application as the environment sets it up: `uvicorn --factory vessel.api.app:served --workers 2`."""
    return application(Settings())


def application(settings: Settings) -> FastAPI:
    """Return the application for these settings."""
    logging.basicConfig(format="%(asctime)s %(levelname)s %(name)s %(message)s")
    logging.getLogger("vessel").setLevel(settings.log_level.upper())
    one_thread_each()
    hosts = {*LOOPBACK, *settings.allow_host}
    if settings.host not in ("0.0.0.0", "::"):
        hosts.add(settings.host)
    return create_app(
        settings.database, hosts=hosts, kept=True, guarded=_guarded(settings), instruments=settings.instruments
    )


def _guarded(settings: Settings) -> bool:
    """Whether devices have to sign in; raise `StoreRefused` where they would and no password is set."""
    if settings.host in LOOPBACK and not settings.allow_host:
        return False
    with open_store(settings.database)() as db:
        if has_password(db):
            return True
    if settings.host in LOOPBACK:  # who answers behind a proxy may leave it to the proxy to ask who comes
        return False
    raise StoreRefused(
        f"Anybody who reaches {settings.host} could read and change every job, and no password is set.",
        "Set one with: vessel password. Or stay on 127.0.0.1.",
    )


def _serve_interface(app: FastAPI, web: Path) -> None:
    if (web / "assets").is_dir():
        app.mount("/assets", HashedFiles(directory=web / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str, request: Request) -> Response:
        """Serve the single page for every address that is not an API address."""
        if path.startswith("api/"):
            body = {"code": "not_found", "field": "", "message": "There is no such address.", "fix": ""}
            return JSONResponse(body, 404)
        index = web / "index.html"
        if not index.is_file():
            return Response("The interface is not built: run `make demo`.", 503, media_type="text/plain")
        # addresses in the page are relative to where the application is mounted
        base = f'<base href="{escape(request.scope.get("root_path", ""))}/" />'
        text = index.read_text(encoding="utf-8").replace("<head>", f"<head>\n    {base}", 1)
        return HTMLResponse(text, headers={"Cache-Control": "no-cache"})
