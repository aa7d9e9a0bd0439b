"""Stops what is computed for a client that has gone.

While a request is worked on, somebody listens whether its client is still there. Core looks in between its steps
(`core.base.wanted`). What has taken the write lock goes on: an entry that arrived is stored.
"""

from __future__ import annotations

import asyncio

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from vessel.core.base.wanted import wanted_while

KEY = "vessel.client"
CLIENT_GONE = 499
"""Status in the log of what was given up; no client sees it."""
_AHEAD = 4


class Client:
    """Whether the answer to a request is still wanted."""

    def __init__(self) -> None:
        self.gone = self.goes_on = False

    def waits(self) -> bool:
        """Return whether the client is there, or what it sent is to be stored anyway."""
        return self.goes_on or not self.gone


class Waiting:
    """Notice clients that go before they are answered."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, and listen."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        client = scope[KEY] = Client()
        heard: asyncio.Queue[Message] = asyncio.Queue(_AHEAD)

        async def listen() -> None:
            while not client.gone:
                message = await receive()
                client.gone = message["type"] == "http.disconnect"
                await heard.put(message)

        async def told() -> Message:
            return {"type": "http.disconnect"} if client.gone and heard.empty() else await heard.get()

        listening = asyncio.create_task(listen())
        try:
            with wanted_while(client.waits):
                await self.app(scope, told, send)
        finally:
            listening.cancel()
