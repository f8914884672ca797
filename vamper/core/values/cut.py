"""How deep the blade goes."""

from enum import StrEnum


class Cut(StrEnum):
    """Through the face only, or through face and backing."""

    KISS = "kiss"
    THROUGH = "through"
