"""`vessel serve`: the application on loopback unless set otherwise."""

from __future__ import annotations

import argparse

import uvicorn

from vessel.api.app import application
from vessel.core.base.parallel import close_workers, open_workers
from vessel.demo.seed import seed
from vessel.settings import Settings


def serve_command(args: argparse.Namespace) -> None:
    """Serve until stopped; flags go before the environment."""
    settings = Settings(**{k: v for k, v in vars(args).items() if k in Settings.model_fields and v is not None})
    if settings.demo:
        seed(settings.database)
    app = application(settings)
    open_workers(settings.cores)
    print(f"Vessel is at http://{settings.host}:{settings.port}{settings.root_path}/  (stop with Ctrl+C)", flush=True)
    try:
        uvicorn.run(
            app,
            host=settings.host,
            port=settings.port,
            root_path=settings.root_path.rstrip("/"),
            log_level="warning",
            access_log=False,
        )
    finally:
        close_workers()
