"""Guards of a local server: host-header check and same-origin protection for everything that changes data."""

from __future__ import annotations

from collections.abc import Iterable
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

LOOPBACK = ("127.0.0.1", "localhost", "::1")
_SAFE = {"GET", "HEAD", "OPTIONS"}


def host_name(value: str) -> str:
    """Return the host of a `host[:port]` header without its port, lower case."""
    return (urlsplit(f"//{value}").hostname or "").lower()


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
