"""`vessel serve`: the application on loopback unless set otherwise."""

from __future__ import annotations

import argparse
import socket

import uvicorn

from vessel.api.app import application, open_store
from vessel.cli.holding import held
from vessel.core.base.parallel import close_workers, open_workers
from vessel.demo.seed import seed
from vessel.settings import Settings
from vessel.store.unusable import StoreRefused


def serve_command(args: argparse.Namespace) -> None:
    """Serve until stopped; flags go before the environment."""
    settings = Settings(**{k: v for k, v in vars(args).items() if k in Settings.model_fields and v is not None})
    _require_free(settings.host, settings.port)
    if settings.database.is_dir():
        open_store(settings.database)  # says what is wrong with it
    with held(settings.database):
        _serve(settings)


def _require_free(host: str, port: int) -> None:
    """Raise `StoreRefused` if something listens on the port, before any address is printed."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family, socket.SOCK_STREAM) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as e:
            raise StoreRefused(
                f"Vessel cannot listen on {host}, port {port}: {(e.strerror or str(e)).lower()}.",
                "Stop what uses it, or choose another with --port.",
            ) from e


def _serve(settings: Settings) -> None:
    if settings.demo:
        seed(settings.database)
    app = application(settings)
    open_workers(settings.cores)
    if app.state.guarded:
        print("Devices sign in with the crew's password. What they send can be read on the way: put TLS in front.")
    print(f"Vessel is at http://{settings.host}:{settings.port}{settings.root_path}/  (stop with Ctrl+C)", flush=True)
    try:
        uvicorn.run(
            app,
            host=settings.host,
            port=settings.port,
            root_path=settings.root_path.rstrip("/"),
            log_level="warning",
            access_log=False,
            timeout_graceful_shutdown=3,
        )
    finally:
        close_workers()
