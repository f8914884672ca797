"""Every error as `application/problem+json`, with a sentence that a person can act on.

Nothing that was sent is repeated at length, and nothing that cannot be written as text is repeated at all.
"""

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from starlette.exceptions import HTTPException

from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import MOST_BYTES
from vamper.formats.sentences import failure_sentence
from vamper.services.work.not_found import NotFound
from vamper.store.trouble import StoreTrouble

_LONGEST_WHERE = 100
_SENTENCES = {
    400: "Vamper does not understand what was sent; reload the page and try again.",
    404: "There is nothing at this address.",
    405: "This address does not take such a request.",
    413: f"What was sent is too large; a file may have {MOST_BYTES // 2**20} MB, export it smaller.",
    415: "Vamper does not understand what was sent; send it as JSON.",
}
_TITLES = {404: "Not there", 413: "Too large"}


def problem(status: int, title: str, detail: str, where: str = "") -> Response:
    body = {
        "type": "about:blank",
        "title": title,
        "status": status,
        "detail": _writable(detail),
        "where": _writable(where[:_LONGEST_WHERE]),
    }
    return JSONResponse(body, status, media_type="application/problem+json")


def _writable(text: str) -> str:
    return text.encode("utf-8", "replace").decode("utf-8")


def broke() -> Response:
    """The answer to a bug of ours."""
    return problem(
        500, "Something broke", "Vamper made a mistake; nothing was lost, what you did before is saved. Try again."
    )


def for_status(status: int) -> Response:
    """The answer that goes with a status alone."""
    sentence = _SENTENCES.get(status, "Vamper does not take this request.")
    return problem(status, _TITLES.get(status, "Refused"), sentence)


class Refused(HTTPException):
    """Refused with a sentence of its own, from where the framework lets no other exception pass."""

    def __init__(self, sentence: str) -> None:
        super().__init__(422, sentence)


def add_problems(app: FastAPI) -> None:
    """Install the handlers on an application."""

    @app.exception_handler(BadInput)
    def bad_input(_request: Request, bad: BadInput) -> Response:
        return problem(422, "This cannot be used", bad.sentence, bad.where)

    @app.exception_handler(NotFound)
    def not_found(_request: Request, missing: NotFound) -> Response:
        return problem(404, "Not there", str(missing))

    @app.exception_handler(StoreTrouble)
    def not_saved(_request: Request, trouble: StoreTrouble) -> Response:
        return problem(507, "Not saved", str(trouble))

    @app.exception_handler(RequestValidationError)
    def invalid(_request: Request, error: RequestValidationError) -> Response:
        first = error.errors()[0]
        where = "" if first["type"] == "json_invalid" else ".".join(str(part) for part in first["loc"][1:])
        sentence = failure_sentence(first)
        return problem(422, "This cannot be used", f"{where[:_LONGEST_WHERE] or 'the request'}: {sentence}", where)

    @app.exception_handler(HTTPException)
    def http(_request: Request, error: HTTPException) -> Response:
        if isinstance(error, Refused):
            return problem(422, "This cannot be used", error.detail)
        return for_status(error.status_code)
