"""The fonts that ship with Vamper, for text in drawings and on composed pieces. All under the SIL Open Font License."""

import hashlib
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Font:
    """A family, the words it goes by on screen (which name it as well), and its files."""

    family: str
    words: str
    files: tuple[str, ...]
    weight: int = 400


FONTS: tuple[Font, ...] = (
    Font("Atkinson Hyperlegible", "plain", ("AtkinsonHyperlegible-Regular.ttf", "AtkinsonHyperlegible-Bold.ttf")),
    Font("Bricolage Grotesque", "sturdy", ("BricolageGrotesque-Bold.ttf",), 700),
    Font("Caveat", "handwritten", ("Caveat-Regular.ttf",)),
)
DEFAULT_FAMILY = FONTS[0].family
FAMILIES = tuple(font.family for font in FONTS)
# Families that shipped once, by a digest of their names, and the kind of what stands in for them.
_FORMER = {"3435716ccca35bfa": "handwritten"}
_DIGEST = 16


def shipped_font(family: str) -> Font | None:
    """The font that ships under a family's name, its words, or the name of a font shipped before; None for others."""
    digest = hashlib.sha256(family.lower().encode()).hexdigest()[:_DIGEST]
    called = _FORMER.get(digest, family)
    return next((font for font in FONTS if called in (font.family, font.words)), None)
