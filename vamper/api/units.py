"""Sentences leave in the workshop's unit: figures in JSON answers are written out where they go over the wire."""

from collections.abc import Callable

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from vamper.core.values.lengths import Unit, in_unit

_JSON = ("application/json", "application/problem+json")


class Units:
    """Holds an answer in JSON until it is whole, and writes its figures out."""

    def __init__(self, app: ASGIApp, unit: Callable[[], Unit]) -> None:
        self._app = app
        self._unit = unit

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        start: Message | None = None
        whole = bytearray()

        async def sending(message: Message) -> None:
            nonlocal start
            if message["type"] == "http.response.start":
                kind = Headers(raw=message["headers"]).get("content-type", "").partition(";")[0]
                if kind in _JSON:
                    start = message
                    return
            elif start is not None and message["type"] == "http.response.body":
                whole.extend(message.get("body", b""))
                if message.get("more_body"):
                    return
                body = in_unit(whole.decode("utf-8"), self._unit()).encode("utf-8")
                MutableHeaders(raw=start["headers"])["content-length"] = str(len(body))
                await send(start)
                await send({"type": "http.response.body", "body": body})
                return
            await send(message)

        await self._app(scope, receive, sending)
