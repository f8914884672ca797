"""Composed pieces as a job file and the interface write them."""

from typing import Annotated

from pydantic import Field, field_validator

from vamper.core.composition import (
    Base,
    BaseShape,
    Centring,
    Composition,
    FreeBox,
    PlacedArt,
    TextLine,
)
from vamper.core.job import MOST_PIECES, ComposedSpec, Cut
from vamper.formats.fields import (
    Colour,
    CropBox,
    Distance,
    Length,
    LiftTolerance,
    PageNumber,
    Strict,
    inside_folder,
)
from vamper.formats.fonts import DEFAULT_FAMILY, FAMILIES
from vamper.formats.names_list import LONGEST_NAME, MOST_NAMES
from vamper.formats.safe_text import ONE_LINE

Place = Annotated[float, Field(ge=-1000, le=1000, allow_inf_nan=False)]


class BaseShapeModel(Strict):
    shape: BaseShape
    width_mm: Length
    height_mm: Length | None = None
    colour: Colour = "#FFFFFF"
    corner_mm: Distance = 3.0

    def to_core(self) -> Base:
        return Base(self.shape, self.width_mm, self.height_mm or self.width_mm, self.colour, self.corner_mm)


class PlacedArtModel(Strict):
    """An art on a base, its middle at a place."""

    art: Annotated[str, Field(min_length=1, max_length=500)]
    width_mm: Length
    x_mm: Place
    y_mm: Place
    centring: Centring = Centring.BOX
    page: PageNumber = 1
    lift_de: LiftTolerance | None = None
    crop: CropBox | None = None

    @field_validator("art")
    @classmethod
    def _stays_inside(cls, value: str) -> str:
        return inside_folder(value)


class TextLineModel(Strict):
    """One line of text on a base; `{name}` stands for the piece's name."""

    text: Annotated[str, Field(max_length=200), ONE_LINE]
    size_mm: Annotated[float, Field(gt=0, le=300, allow_inf_nan=False)]
    x_mm: Place
    y_mm: Place
    family: str = DEFAULT_FAMILY
    colour: Colour = "#22303A"
    bold: bool = False

    @field_validator("family")
    @classmethod
    def _shipped(cls, value: str) -> str:
        if value not in FAMILIES:
            raise ValueError(f"no font is called “{value[:40]}”; known are {', '.join(FAMILIES)}")
        return value


class FreeBoxModel(Strict):
    """A box kept free for handwriting."""

    x_mm: Place
    y_mm: Place
    width_mm: Length
    height_mm: Length
    colour: Colour = "#FFFFFF"


class CompositionModel(Strict):
    """A base shape with arts, text and free boxes on it."""

    base: BaseShapeModel
    arts: Annotated[tuple[PlacedArtModel, ...], Field(max_length=20)] = ()
    lines: Annotated[tuple[TextLineModel, ...], Field(max_length=20)] = ()
    free: Annotated[tuple[FreeBoxModel, ...], Field(max_length=20)] = ()

    def to_core(self) -> Composition:
        return Composition(
            self.base.to_core(),
            tuple(PlacedArt(**art.model_dump()) for art in self.arts),
            tuple(TextLine(**line.model_dump()) for line in self.lines),
            tuple(FreeBox(**box.model_dump()) for box in self.free),
        )


class ComposedModel(Strict):
    """Composed pieces, one design for each name (or a single one where no line takes a name)."""

    composition: CompositionModel
    names: Annotated[
        tuple[Annotated[str, Field(max_length=LONGEST_NAME), ONE_LINE], ...], Field(max_length=MOST_NAMES)
    ] = ()
    quantity: Annotated[int, Field(ge=1, le=MOST_PIECES)] = 1
    cut: Cut = Cut.KISS

    def to_core(self) -> ComposedSpec:
        return ComposedSpec(self.composition.to_core(), self.names, self.quantity, self.cut)
