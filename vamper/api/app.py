"""The application: routes under /api, the built front end under everything else."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.responses import FileResponse, HTMLResponse, Response
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.body_limit import RequestBodyLimitMiddleware

from vamper.api.guard import Guard
from vamper.api.jobs.views import Views
from vamper.api.lan.address import Lan
from vamper.api.lan.auth import LanAuth
from vamper.api.problems import add_problems
from vamper.api.request_checks import MOST_BODY
from vamper.api.routers import ROUTERS
from vamper.api.units import Units
from vamper.services.workshop import Workshop

# In a wheel the built front end lies inside the package.
_IN_WHEEL = Path(__file__).parents[1] / "web"
FRONT_END = _IN_WHEEL if _IN_WHEEL.exists() else Path(__file__).parents[2] / "ui" / "dist"


def create_app(workshop: Workshop, front_end: Path = FRONT_END, lan: Lan | None = None) -> FastAPI:
    """The application over one workshop; it closes the workshop when it ends. With `lan`, other devices may come in."""

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        yield
        workshop.close()

    app = FastAPI(title="Vamper", lifespan=lifespan, docs_url=None, redoc_url=None, openapi_url="/api/openapi.json")
    app.state.workshop = workshop
    app.state.views = Views(workshop)
    app.add_middleware(RequestBodyLimitMiddleware, max_body_size=MOST_BODY)
    app.add_middleware(Units, unit=workshop.usual.unit)
    app.state.lan = lan
    if lan is not None:
        app.add_middleware(LanAuth, lan=lan)
    # The outermost: whatever is answered carries its headers.
    app.add_middleware(Guard, lan=lan is not None)
    add_problems(app)
    for router in ROUTERS:
        app.include_router(router)
    _serve_front_end(app, front_end)
    return app


def _serve_front_end(app: FastAPI, front_end: Path) -> None:
    index = front_end / "index.html"
    if not index.exists():

        @app.get("/", include_in_schema=False)
        def not_built() -> Response:
            return HTMLResponse("<p>The front end is not built yet: run <code>make demo</code>.</p>", 503)

        return
    app.mount("/assets", _Assets(directory=front_end / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            raise HTTPException(404)
        return FileResponse(index, headers={"cache-control": "no-cache"})


class _Assets(StaticFiles):
    """Files that are named by what they hold: a browser that has one need not ask for it again."""

    def file_response(self, *args: Any, **more: Any) -> Response:
        response = super().file_response(*args, **more)
        response.headers["cache-control"] = "public, max-age=31536000, immutable"
        return response
