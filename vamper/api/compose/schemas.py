"""Composed pieces on the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from vamper.core.values.composition import Composition
from vamper.core.values.cut import Cut
from vamper.core.values.findings import Place
from vamper.core.values.limits import ONE_LINE


class Composing(BaseModel):
    """A composition with the names as they were typed or read from a CSV file."""

    composition: Composition
    names: Annotated[str, Field(max_length=100_000)] = ""
    title: Annotated[str, Field(min_length=1, max_length=80), ONE_LINE] = "label"
    quantity: Annotated[int, Field(ge=1, le=1000)] = 1
    cut: Cut = Cut.KISS
    curved_apart: bool = False


class OneComposed(BaseModel):
    """A composition for one name."""

    composition: Composition
    name: Annotated[str, Field(max_length=80), ONE_LINE] = ""


class PlacesOut(BaseModel):
    """Where everything lies on a composed piece, in the base's frame."""

    frame: Place
    arts: list[Place]
    lines: list[Place]
    free: list[Place]


class FontOut(BaseModel):
    """A font for text; `own` is a font that the maker added."""

    family: str
    words: str
    own: bool


class FontFamily(BaseModel):
    family: Annotated[str, Field(min_length=1, max_length=120), ONE_LINE]
