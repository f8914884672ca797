"""The gate for other devices: whoever does not sit at this computer gives the passphrase first.

The program's own page is answered with a small page that asks for it, everything else with a refusal. Who sits at this
computer, seen by the connection itself, is never asked.
"""

import ipaddress
from http.cookies import CookieError, SimpleCookie
from importlib.resources import files
from string import Template
from urllib.parse import parse_qs

from anyio import to_thread
from starlette.datastructures import Headers
from starlette.requests import Request
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from vamper.api.lan.address import Lan
from vamper.api.problems import problem
from vamper.services.lan.passphrase import MOST_LETTERS
from vamper.services.lan.visitors import SESSION_S, Wait, Wrong

_COOKIE = "vamper-session"
_ENTER = "/enter"
# A form with a passphrase in it, every letter written out.
_MOST_FORM = 64 + 12 * MOST_LETTERS
_PAGE = Template(files(__package__).joinpath("enter.html").read_text("utf-8"))
CAUTION = (
    "This connection is not encrypted: whoever is in the same network could read along. Use it at home only, "
    "with a passphrase that you use nowhere else."
)


class LanAuth:
    """ASGI middleware, inside the guard."""

    def __init__(self, app: ASGIApp, lan: Lan) -> None:
        self._app = app
        self._lan = lan

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or _sits_here(scope) or self._lan.visitors.is_in(_token(scope)):
            await self._app(scope, receive, send)
            return
        answer = await self._answer(Request(scope, receive))
        await answer(scope, receive, send)

    async def _answer(self, request: Request) -> Response:
        path = request.url.path
        if path == _ENTER and request.method == "POST":
            return await self._enter(request)
        if path.startswith("/api/"):
            return problem(401, "Passphrase needed", "Give the passphrase first: open Vamper's address again.")
        if request.method != "GET":
            return problem(405, "Refused", "This address does not take such a request.")
        return self._page("", 200 if path == _ENTER else 401)

    async def _enter(self, request: Request) -> Response:
        body = b""
        async for part in request.stream():
            body += part
            if len(body) > _MOST_FORM:
                return self._page("That is longer than a passphrase can be.", 413)
        words = parse_qs(body.decode("utf-8", "replace")).get("passphrase", [""])[0]
        device = request.client.host if request.client else "?"
        try:
            token = await to_thread.run_sync(self._lan.visitors.enter, device, words)
        except Wrong:
            return self._page("That is not the passphrase. Look whether capitals are on, and try again.", 401)
        except Wait as wait:
            seconds = max(1, round(wait.seconds))
            after = f"{seconds} seconds" if seconds < 120 else f"{round(seconds / 60)} minutes"
            return self._page(f"Too many wrong passphrases. Wait {after}, then try again.", 429, seconds)
        answer = RedirectResponse("/phone", 303)
        answer.set_cookie(
            _COOKIE, token, max_age=int(SESSION_S), httponly=True, samesite="strict", secure=self._lan.encrypted
        )
        return answer

    def _page(self, sentence: str, status: int, retry_s: int | None = None) -> Response:
        caution = "" if self._lan.encrypted else CAUTION
        headers = {"cache-control": "no-store"}
        if retry_s is not None:
            headers["retry-after"] = str(retry_s)
        return HTMLResponse(_PAGE.substitute(sentence=sentence, caution=caution), status, headers)


def _sits_here(scope: Scope) -> bool:
    client = scope.get("client")
    try:
        return client is not None and ipaddress.ip_address(client[0]).is_loopback
    except ValueError:
        return False


def _token(scope: Scope) -> str:
    try:
        cookies = SimpleCookie(Headers(scope=scope).get("cookie", ""))
    except CookieError:
        return ""
    return cookies[_COOKIE].value if _COOKIE in cookies else ""
