"""Composed pieces: a base shape of fixed outer size that carries arts and lines of text, one piece for each name.

Everything is in the base's frame: mm, origin at its top left, y down. A place is where the middle of an art or of a
line comes. `{name}` in a line stands for the piece's name. Free boxes are kept empty for handwriting.
"""

import math
from dataclasses import dataclass, replace
from enum import StrEnum

NAME = "{name}"
# Text keeps this far from the base's rim.
TEXT_RIM_MM = 2.0


class BaseShape(StrEnum):
    CIRCLE = "circle"
    ELLIPSE = "ellipse"
    RECTANGLE = "rectangle"
    ROUNDED = "rounded"


class Centring(StrEnum):
    """What of an art comes to its place: the middle of its box, or its inked area's centroid (the optical centre)."""

    BOX = "box"
    EYE = "eye"


@dataclass(frozen=True, slots=True)
class Base:
    """`height_mm` does not count for a circle, `corner_mm` only for rounded."""

    shape: BaseShape
    width_mm: float
    height_mm: float
    colour: str = "#FFFFFF"
    corner_mm: float = 3.0

    @property
    def size_mm(self) -> tuple[float, float]:
        return self.width_mm, self.width_mm if self.shape is BaseShape.CIRCLE else self.height_mm

    def room_at(self, y_mm: float, height_mm: float) -> float:
        """How wide a line of that height may be when its middle is at `y_mm`."""
        width, height = self.size_mm
        if self.shape in (BaseShape.CIRCLE, BaseShape.ELLIPSE):
            away = max(abs(y_mm - height / 2 - height_mm / 2), abs(y_mm - height / 2 + height_mm / 2))
            share = min(1.0, away / (height / 2))
            width *= math.sqrt(1 - share**2)
        return max(0.0, width - 2 * TEXT_RIM_MM)


@dataclass(frozen=True, slots=True)
class PlacedArt:
    """An art by its name or digest, so wide, its middle at a place; prepared as the art of a design is."""

    art: str
    width_mm: float
    x_mm: float
    y_mm: float
    centring: Centring = Centring.BOX
    page: int = 1
    lift_de: float | None = None
    crop: tuple[float, float, float, float] | None = None


@dataclass(frozen=True, slots=True)
class TextLine:
    """One line of text, its middle at a place; it is set smaller where it would not fit the base."""

    text: str
    size_mm: float
    x_mm: float
    y_mm: float
    family: str
    colour: str = "#22303A"
    bold: bool = False


@dataclass(frozen=True, slots=True)
class FreeBox:
    """A light box kept free for handwriting."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    colour: str = "#FFFFFF"


@dataclass(frozen=True, slots=True)
class Composition:
    base: Base
    arts: tuple[PlacedArt, ...] = ()
    lines: tuple[TextLine, ...] = ()
    free: tuple[FreeBox, ...] = ()

    def named(self, name: str) -> "Composition":
        """The composition for one name."""
        return replace(self, lines=tuple(replace(line, text=line.text.replace(NAME, name)) for line in self.lines))

    @property
    def takes_names(self) -> bool:
        return any(NAME in line.text for line in self.lines)
