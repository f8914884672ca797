"""The workshop that a request is about."""

from typing import Annotated

from fastapi import Depends, Request

from vamper.services.workshop import Workshop


def workshop_of(request: Request) -> Workshop:
    workshop: Workshop = request.app.state.workshop
    return workshop


Here = Annotated[Workshop, Depends(workshop_of)]
