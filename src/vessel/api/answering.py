"""How answers travel: compressed, with an ETag, logged by one line each; assets that never change are kept for good."""

from __future__ import annotations

import gzip
import logging
import os
import time
from functools import lru_cache
from hashlib import blake2b
from pathlib import Path
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import ASGIApp, Message, Receive, Scope, Send

log = logging.getLogger("vessel.requests")
_TEXT = (".js", ".css", ".svg", ".json")


class RequestLog:
    """Log one line a request: method, path, status, milliseconds. No query, no body, no names."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on and log how it ended."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        began, status = time.perf_counter(), 500

        async def watched(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
            await send(message)

        try:
            await self.app(scope, receive, watched)
        finally:
            spent_ms = 1e3 * (time.perf_counter() - began)
            level = logging.WARNING if status >= 500 else logging.INFO
            log.log(level, "%s %s %d %.0f ms", scope["method"], scope["path"], status, spent_ms)


class Tagged:
    """Give answers of the API an ETag; answer 304 where the client has the same already."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on; hold back the answer to a GET until its tag is known."""
        if scope["type"] != "http" or scope["method"] != "GET" or "/api/" not in scope["path"]:
            await self.app(scope, receive, send)
            return
        start: dict[str, Any] = {}
        body = bytearray()

        async def held(message: Message) -> None:
            if message["type"] == "http.response.start":
                start.update(message)
            if _streams(start):  # what comes bit by bit is passed on as it comes
                await send(message)
                return
            if message["type"] == "http.response.start":
                return
            body.extend(message.get("body", b""))
            if not message.get("more_body", False):
                await self._answer(scope, receive, send, start, bytes(body))

        await self.app(scope, receive, held)

    async def _answer(self, scope: Scope, receive: Receive, send: Send, start: dict[str, Any], body: bytes) -> None:
        if start["status"] == 200:
            tag = f'W/"{blake2b(body, digest_size=12).hexdigest()}"'
            headers = MutableHeaders(raw=start["headers"])
            headers["ETag"] = tag
            headers.setdefault("Cache-Control", "no-cache")
            known = Headers(scope=scope).get("if-none-match", "")
            if tag in (t.strip() for t in known.split(",")):
                await Response(status_code=304, headers={"ETag": tag, "Cache-Control": "no-cache"})(
                    scope, receive, send
                )
                return
        await send(start)
        await send({"type": "http.response.body", "body": body})


def _streams(start: dict[str, Any]) -> bool:
    return Headers(raw=start["headers"]).get("content-type", "").startswith("text/event-stream")


class HashedFiles(StaticFiles):
    """Files whose names change with their content: compressed once; a browser never has to ask for them again."""

    def file_response(
        self, full_path: str | os.PathLike[str], stat_result: os.stat_result, scope: Scope, status_code: int = 200
    ) -> Response:
        """Return the file, to be kept for a year."""
        response = super().file_response(full_path, stat_result, scope, status_code)
        packs = Path(full_path).suffix in _TEXT and "gzip" in Headers(scope=scope).get("accept-encoding", "")
        if packs and response.status_code == 200:  # what the browser has already goes without a body
            headers = {"Content-Encoding": "gzip", "Vary": "Accept-Encoding"}
            response = Response(_packed(str(full_path)), headers=headers, media_type=response.media_type)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


@lru_cache(maxsize=256)
def _packed(path: str) -> bytes:
    return gzip.compress(Path(path).read_bytes(), 9)
