"""The fonts that ship with Vamper, for text in drawings and on composed pieces. All under the SIL Open Font License."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Font:
    """A family, the words it goes by on screen, and its files."""

    family: str
    words: str
    files: tuple[str, ...]
    weight: int = 400


FONTS: tuple[Font, ...] = (
    Font("Atkinson Hyperlegible", "plain", ("AtkinsonHyperlegible-Regular.ttf", "AtkinsonHyperlegible-Bold.ttf")),
    Font("Bricolage Grotesque", "sturdy", ("BricolageGrotesque-Bold.ttf",), 700),
    Font("Pacifico", "handwritten", ("Pacifico-Regular.ttf",)),
)
DEFAULT_FAMILY = FONTS[0].family
FAMILIES = tuple(font.family for font in FONTS)


def check_family(family: str) -> None:
    """Raise `ValueError` for a family that does not ship."""
    if family not in FAMILIES:
        raise ValueError(f"no font is called “{family[:40]}”; known are {', '.join(FAMILIES)}")
