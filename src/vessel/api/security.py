"""Guards of a local server: host-header check and same-origin protection for everything that changes data."""

from __future__ import annotations

import asyncio
from collections.abc import Iterable
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

LOOPBACK = ("127.0.0.1", "localhost", "::1")
_SAFE = {"GET", "HEAD", "OPTIONS"}
MOST_BYTES = 25_000_000
PATIENCE_S = 30.0
"""How long nothing of a body may come before the client is cut off [s]."""


def host_name(value: str) -> str:
    """Return the host of a `host[:port]` header without its port, lower case."""
    return (urlsplit(f"//{value}").hostname or "").lower()


_POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        "style-src 'self' 'unsafe-inline'",  # the dialogs set theirs while they are open
        "img-src 'self' data: blob:",
        "object-src 'none'",
        "base-uri 'self'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS = {
    "Content-Security-Policy": _POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "X-Frame-Options": "DENY",
}


class SafeHeaders:
    """Tell browsers to run no script but ours, to show pages in no frame and to tell no other site where they are."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, and put the headers on the answer."""

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(raw=message["headers"])
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
            await send(message)

        await self.app(scope, receive, with_headers if scope["type"] == "http" else send)


class BodyLimit:
    """Refuse bodies larger than any form or file of Vessel's, before they are in memory, and those that stall."""

    def __init__(self, app: ASGIApp, *, most: int = MOST_BYTES, patience_s: float = PATIENCE_S) -> None:
        self.app, self.most, self.patience_s = app, most, patience_s

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, or answer 413."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        said = Headers(scope=scope).get("content-length", "0")
        if not said.isdigit() or int(said) > self.most:
            await self._too_large(scope, receive, send)
            return
        taken, started, whole = 0, False, False

        async def counted() -> Message:
            nonlocal taken, whole
            # after the body what comes is only that the client goes
            try:
                message = await (receive() if whole else asyncio.wait_for(receive(), self.patience_s))
            except TimeoutError:
                raise _Stalled from None
            whole = not message.get("more_body", False)
            taken += len(message.get("body", b""))
            if taken > self.most:
                raise _TooLarge
            return message

        async def watched(message: Message) -> None:
            nonlocal started
            started = True
            await send(message)

        try:
            await self.app(scope, counted, watched)
        except _TooLarge:
            if not started:
                await self._too_large(scope, receive, send)
        except _Stalled:
            if not started:
                await JSONResponse(_STALLED, 408)(scope, receive, send)

    async def _too_large(self, scope: Scope, receive: Receive, send: Send) -> None:
        body = {
            "code": "too_large",
            "field": "",
            "message": f"This is more than {self.most // 1_000_000} MB.",
            "fix": "Send less at once; a job file of Vessel's is far smaller.",
        }
        await JSONResponse(body, 413)(scope, receive, send)


_STALLED = {
    "code": "stalled",
    "field": "",
    "message": "What was sent did not arrive whole: nothing came for a while.",
    "fix": "Send it again where the connection is better.",
}


class _TooLarge(Exception):
    pass


class _Stalled(Exception):
    pass


class LocalGuard:
    """Refuse foreign Host headers (DNS rebinding) and cross-origin changes (forged requests)."""

    def __init__(self, app: ASGIApp, *, hosts: Iterable[str] = LOOPBACK) -> None:
        self.app, self.hosts = app, {h.lower() for h in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, or answer 400 or 403."""
        if scope["type"] == "http":
            headers = Headers(scope=scope)
            why = self._refusal(scope["method"], headers)
            if why is not None:
                status, code, message, fix = why
                body = {"code": code, "field": "", "message": message, "fix": fix}
                await JSONResponse(body, status)(scope, receive, send)
                return
        await self.app(scope, receive, send)

    def _refusal(self, method: str, headers: Headers) -> tuple[int, str, str, str] | None:
        host = headers.get("host", "")
        if host_name(host) not in self.hosts:
            return 400, "bad_host", "This server does not answer to that host name.", "Use the address it printed."
        if method in _SAFE:
            return None
        origin, site = headers.get("origin"), headers.get("sec-fetch-site")
        foreign = origin is not None and urlsplit(origin).netloc.lower() != host.lower()
        if foreign or site in ("cross-site", "same-site"):
            return 403, "cross_origin", "The request came from another site.", "Open Vessel at its own address."
        return None
