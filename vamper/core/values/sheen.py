"""How a face shines, of a stock as of what lies over its print."""

from enum import StrEnum


class Sheen(StrEnum):
    """A shine in a word."""

    GLOSS = "gloss"
    SATIN = "satin"
    MATTE = "matte"
