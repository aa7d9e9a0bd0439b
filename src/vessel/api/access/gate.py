"""The gate: over a network nothing is answered to a device that has not signed in."""

from __future__ import annotations

import time
from collections import defaultdict, deque
from html import escape
from urllib.parse import parse_qs, quote, urlsplit

from fastapi.concurrency import run_in_threadpool
from sqlalchemy.orm import Session, sessionmaker
from starlette.datastructures import URL
from starlette.requests import Request
from starlette.responses import HTMLResponse, JSONResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from vessel.store.access import KEPT, device_of, password_is, sign_in
from vessel.store.database import begin_writing

COOKIE = "vessel_device"
_TRIES, _WITHIN_S = 5, 60.0


class Gate:
    """Let devices in that signed in; show the others the way to, and slow down who guesses."""

    def __init__(self, app: ASGIApp, *, sessions: sessionmaker[Session]) -> None:
        self.app, self.sessions = app, sessions
        self._tries: dict[str, deque[float]] = defaultdict(deque)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request of a device that signed in on; answer the others."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request = Request(scope, receive)
        # scripts and fonts are the same for everybody, and say nothing of any job
        public = _path(scope).startswith("/assets/")
        if public or await run_in_threadpool(self._known, request.cookies.get(COOKIE, "")):
            await self.app(scope, receive, send)
            return
        await (await self._answer(request))(scope, receive, send)

    def _known(self, token: str) -> bool:
        if not token:
            return False
        with self.sessions() as db:
            return device_of(db, token) is not None

    async def _answer(self, request: Request) -> Response:
        path = _path(request.scope)
        if path == "/sign-in":
            return await self._signing_in(request)
        if path.startswith("/api/"):
            body = {"code": "sign_in", "field": "", "message": "This device is not signed in.", "fix": "Sign in first."}
            return JSONResponse(body, 401)
        to = f"{request.scope.get('root_path', '')}/sign-in?to={quote(path)}"
        return RedirectResponse(to, 303)

    async def _signing_in(self, request: Request) -> Response:
        to = _inside(request.query_params.get("to", "/"))
        if request.method != "POST":
            return _page(to)
        who = request.client.host if request.client else ""
        tries, now = self._tries[who], time.monotonic()
        while tries and now - tries[0] > _WITHIN_S:
            tries.popleft()
        if len(tries) >= _TRIES:
            return _page(to, "Too many tries. Wait a minute.", status=429)
        tries.append(now)
        typed = parse_qs((await request.body()).decode("utf-8", "replace")).get("password", [""])[0]
        token = await run_in_threadpool(self._signed_in, typed, _kind(request))
        if token is None:
            return _page(to, "That is not the crew's password.", status=401)
        tries.clear()
        answer = RedirectResponse(f"{request.scope.get('root_path', '')}{to}", 303)
        safe = request.url.scheme == "https"
        answer.set_cookie(
            COOKIE, token, max_age=int(KEPT.total_seconds()), httponly=True, samesite="strict", secure=safe, path="/"
        )
        return answer

    def _signed_in(self, password: str, name: str) -> str | None:
        with self.sessions() as db:
            if not password_is(db, password):
                return None
            db.rollback()
            begin_writing(db)
            token = sign_in(db, name)
            db.commit()
        return token


def _path(scope: Scope) -> str:
    return str(scope["path"]).removeprefix(scope.get("root_path", ""))


def _inside(to: str) -> str:
    """Where to go after signing in: a page of ours, whatever the address asks for."""
    path = urlsplit(to).path
    return path if path.startswith("/") and not path.startswith("//") else "/"


def _kind(request: Request) -> str:
    agent = request.headers.get("user-agent", "")
    kind = "Phone" if any(word in agent for word in ("Mobi", "Android", "iPhone")) else "Desk"
    return f"{kind}, {request.client.host if request.client else 'unknown address'}"


def _page(to: str, wrong: str = "", *, status: int = 200) -> HTMLResponse:
    said = f'<p role="alert" class="wrong">{escape(wrong)}</p>' if wrong else ""
    action = URL("sign-in").include_query_params(to=to)
    return HTMLResponse(_HTML.format(said=said, action=escape(str(action))), status, {"Cache-Control": "no-store"})


_HTML = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8" />
<meta name="viewport" content="width=device-width, initial-scale=1" />
<title>Vessel: sign in</title>
<style>
body {{ margin: 0; font: 18px/1.5 system-ui, sans-serif; background: #f6f3ec; color: #14202a; }}
header {{ background: #123a49; color: #fff; border-bottom: 4px solid #f5c542; padding: 14px 20px; font-weight: 700; }}
main {{ max-width: 26rem; margin: 12vh auto 0; padding: 0 20px; }}
label {{ display: block; font-weight: 600; margin-top: 1rem; }}
input, button {{ font: inherit; min-height: 48px; border-radius: 8px; box-sizing: border-box; width: 100%; }}
input {{ border: 1px solid #14202a; padding: 0 12px; background: #fffefa; }}
button {{ border: 0; background: #123a49; color: #fff; font-weight: 700; margin-top: 1rem; }}
.wrong {{ border: 2px solid #8f1420; color: #8f1420; background: #fbe3e5; padding: 10px 12px; border-radius: 8px; }}
</style>
</head>
<body>
<header>Vessel</header>
<main>
<h1>Sign in</h1>
<p>This Vessel can be reached over the network. Enter the crew's password.</p>
{said}
<form method="post" action="{action}">
<label for="password">Password</label>
<input id="password" name="password" type="password" autocomplete="current-password" required autofocus />
<button type="submit">Sign in</button>
</form>
</main>
</body>
</html>
"""
