"""The workshop that a request is about."""

from typing import Annotated

from fastapi import Depends, Request

from vamper.api.jobs.views import Views
from vamper.services.workshop import Workshop


def workshop_of(request: Request) -> Workshop:
    workshop: Workshop = request.app.state.workshop
    return workshop


Here = Annotated[Workshop, Depends(workshop_of)]


def views_of(request: Request) -> Views:
    views: Views = request.app.state.views
    return views


Shown = Annotated[Views, Depends(views_of)]
