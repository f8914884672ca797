"""Boxes, sizes and corners on the wire; lengths in mm, places in a picture as shares of it."""

from pydantic import BaseModel

from vamper.core.values.findings import BadInput

# Eight numbers: x and y of each corner of a sheet in a picture.
CORNERS = r"^[0-9.]+(,[0-9.]+){7}$"


def corners_of(corners: str | None) -> tuple[tuple[float, float], ...] | None:
    """The corners of a sheet in a picture, as shares of it, top left first, clockwise; None where nobody showed them.

    Raises
    ------
    BadInput
        If a coordinate is no number.
    """
    if corners is None:
        return None
    try:
        sides = [float(one) for one in corners.split(",")]
    except ValueError:
        raise BadInput("the corners are eight numbers; show them in the picture once more", "corners") from None
    return tuple(zip(sides[::2], sides[1::2], strict=True))


class SizeOut(BaseModel):
    width_mm: float
    height_mm: float


def size_out(sides: tuple[float, float]) -> SizeOut:
    return SizeOut(width_mm=sides[0], height_mm=sides[1])
