"""Every error as `application/problem+json`, with a sentence that a person can act on."""

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from starlette.exceptions import HTTPException

from vamper.core.findings import BadInput
from vamper.services.jobs import NotFound


def problem(status: int, title: str, detail: str, where: str = "") -> Response:
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail, "where": where}
    return JSONResponse(body, status, media_type="application/problem+json")


def add_problems(app: FastAPI) -> None:
    """Install the handlers on an application."""

    @app.exception_handler(BadInput)
    def bad_input(_request: Request, bad: BadInput) -> Response:
        return problem(422, "This cannot be used", bad.sentence, bad.where)

    @app.exception_handler(NotFound)
    def not_found(_request: Request, missing: NotFound) -> Response:
        return problem(404, "Not there", str(missing))

    @app.exception_handler(RequestValidationError)
    def invalid(_request: Request, error: RequestValidationError) -> Response:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"][1:])
        return problem(422, "This cannot be used", f"{where or 'the request'}: {first['msg'].lower()}", where)

    @app.exception_handler(HTTPException)
    def http(_request: Request, error: HTTPException) -> Response:
        return problem(error.status_code, "Not there" if error.status_code == 404 else "Refused", str(error.detail))

    @app.exception_handler(Exception)
    def bug(_request: Request, _error: Exception) -> Response:
        return problem(
            500, "Something broke", "Vamper made a mistake; nothing was lost, what you did before is saved. Try again."
        )
