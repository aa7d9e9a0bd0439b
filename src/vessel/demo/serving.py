"""A server on a free loopback port in a thread of its own, for pictures and tests."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path

import uvicorn

from vessel.api.app import create_app
from vessel.core.base.parallel import one_thread_each


def free_port() -> int:
    """Return a loopback port that nothing listens on now."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


@contextmanager
def serving(database: Path, port: int | None = None, instruments: Sequence[str] = ()) -> Iterator[str]:
    """Serve `database` while the block runs, with `instruments` attached, on `port` or a free one; yield its URL."""
    one_thread_each()
    port = port or free_port()
    app = create_app(database, instruments=instruments)
    server = uvicorn.Server(uvicorn.Config(app, port=port, log_level="warning", timeout_graceful_shutdown=2))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started and thread.is_alive():
        time.sleep(0.02)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        app.state.stopping.set()
        server.should_exit = True
        thread.join(timeout=3)  # what still works then ends by itself
