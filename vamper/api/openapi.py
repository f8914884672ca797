"""Writes what the interface offers, for the front end's client: `python -m vamper.api.openapi > ui/openapi.json`."""

import json
import sys

from fastapi import FastAPI

from vamper.api.routers import ROUTERS


def description() -> dict[str, object]:
    """The OpenAPI document of all routes."""
    app = FastAPI(title="Vamper")
    for router in ROUTERS:
        app.include_router(router)
    return app.openapi()


if __name__ == "__main__":
    json.dump(description(), sys.stdout, indent=1, sort_keys=True)
    sys.stdout.write("\n")
