"""Boxes and sizes on the wire, mm."""

from pydantic import BaseModel

from vamper.core.values.findings import Place


class PlaceOut(BaseModel):
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class SizeOut(BaseModel):
    width_mm: float
    height_mm: float


def place_out(place: Place) -> PlaceOut:
    return PlaceOut(x_mm=place.x_mm, y_mm=place.y_mm, width_mm=place.width_mm, height_mm=place.height_mm)


def box_out(bounds: tuple[float, float, float, float]) -> PlaceOut:
    left, top, right, bottom = bounds
    return PlaceOut(x_mm=left, y_mm=top, width_mm=right - left, height_mm=bottom - top)


def size_out(sides: tuple[float, float]) -> SizeOut:
    return SizeOut(width_mm=sides[0], height_mm=sides[1])
