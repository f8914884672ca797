"""What keeps other sites and oversized uploads out.

The server listens on loopback only, but any page in the maker's browser could still try to reach it, under a name of
its own that points here. So it answers only to its own host names, and takes changes only from its own pages.
"""

from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from vamper.api.problems import problem
from vamper.formats.art_file import MOST_BYTES

OWN_HOSTS = ("127.0.0.1", "localhost", "[::1]", "::1")
_SAFE = ("GET", "HEAD", "OPTIONS")
# A multipart body carries a little more than the file in it.
MOST_BODY = MOST_BYTES + 64 * 1024
_HEADERS = {
    "content-security-policy": "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'",
    "x-content-type-options": "nosniff",
    "referrer-policy": "no-referrer",
}


def _host_of(value: str) -> str:
    try:
        return urlsplit(f"//{value}").hostname or ""
    except ValueError:
        return ""


class Guard:
    """ASGI middleware; also adds the headers that keep pages to themselves."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        if _host_of(headers.get("host", "")) not in OWN_HOSTS:
            refused = problem(421, "Refused", "Vamper answers only under its own address on this computer.")
            await refused(scope, receive, send)
            return
        origin = headers.get("origin")
        if scope["method"] not in _SAFE and origin is not None and urlsplit(origin).netloc != headers.get("host"):
            await problem(403, "Refused", "Changes are only taken from Vamper's own page.")(scope, receive, send)
            return
        declared = headers.get("content-length", "0")
        if declared.isdigit() and int(declared) > MOST_BODY:
            await self._too_large()(scope, receive, send)
            return
        await self._app(scope, self._counted(receive), self._with_headers(send))

    @staticmethod
    def _too_large() -> ASGIApp:
        return problem(
            413, "Too large", f"The file is larger than the {MOST_BYTES // 2**20} MB that fit; export it smaller."
        )

    @staticmethod
    def _counted(receive: Receive) -> Receive:
        """Ends a body that grows past the limit without having declared its length."""
        seen = 0

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            return {"type": "http.disconnect"} if seen > MOST_BODY else message

        return counted

    @staticmethod
    def _with_headers(send: Send) -> Send:
        async def sending(message: Message) -> None:
            if message["type"] == "http.response.start":
                extra = [(name.encode(), value.encode()) for name, value in _HEADERS.items()]
                message = {**message, "headers": [*message["headers"], *extra]}
            await send(message)

        return sending
