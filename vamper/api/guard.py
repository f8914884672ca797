"""What keeps other sites out, and lets every answer carry the headers that keep pages to themselves.

The server listens on loopback only, unless it was told to let the home's devices in. But any page in a browser here
could still try to reach it, under a name of its own that points here. So it answers only to its own host names and
addresses, and only to its own pages.
"""

import logging
import re

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from vamper.api.problems import broke, for_status, problem

_LOG = logging.getLogger(__name__)
_USUAL_PORTS = {"http": 80, "https": 443}
_OWN_HOST = re.compile(r"(?:127\.0\.0\.1|localhost|\[::1\])(?::[0-9]{1,5})?")
# How a browser says where a request comes from: the page itself, or the maker's own hand.
_OWN_SITES = ("same-origin", "none")
_HEADERS = {
    "content-security-policy": "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'",
    "cross-origin-resource-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
}


class Guard:
    """The outermost ASGI middleware; what breaks inside is answered here, so that it carries the headers too."""

    def __init__(self, app: ASGIApp, lan: bool = False) -> None:
        self._app = app
        self._lan = lan

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        started = too_large = False

        async def sending(message: Message) -> None:
            nonlocal started, too_large
            if too_large:
                return
            if message["type"] == "http.response.start":
                # The limit of bodies has a word of its own for those that nobody reads.
                if message["status"] == 413 and _is_plain(message):
                    await for_status(413)(scope, receive, sending)
                    too_large = True
                    return
                started = True
                extra = [(name.encode(), value.encode()) for name, value in _HEADERS.items()]
                message = {**message, "headers": [*message["headers"], *extra]}
            await send(message)

        refused = self._refusal(scope)
        try:
            await (refused or self._app)(scope, receive, sending)
        except Exception:
            _LOG.exception("%s %s broke down", scope["method"], scope["path"])
            if started:
                raise
            await broke()(scope, receive, sending)

    def _refusal(self, scope: Scope) -> ASGIApp | None:
        """The answer to a visitor that is not the page itself; None where the visitor may come in."""
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if _OWN_HOST.fullmatch(host) is None and not (self._lan and _is_address(host, scope)):
            return problem(421, "Refused", "Vamper answers only under its own address on this computer.")
        origin, site = headers.get("origin"), headers.get("sec-fetch-site")
        own = f"{scope['scheme']}://{host}"
        if (origin is not None and origin != own) or (site is not None and site not in _OWN_SITES):
            return problem(
                403, "Refused", "Vamper answers only its own page; type its address into the browser yourself."
            )
        return None


def _is_plain(message: Message) -> bool:
    return Headers(raw=message["headers"]).get("content-type", "").startswith("text/plain")


def _is_address(host: str, scope: Scope) -> bool:
    """Whether a host is the very address that the connection came to, and no name that only points there."""
    server = scope.get("server")
    if server is None:
        return False
    address, port = server
    # Browsers leave out the port that a scheme has of itself, and write an address of version 6 in brackets.
    name = f"[{address}]" if ":" in address else address
    return host == f"{name}:{port}" or (host == name and port == _USUAL_PORTS.get(scope["scheme"]))
