"""The fonts that ship with Vamper, for text in drawings and on composed pieces. All under the SIL Open Font License."""

from dataclasses import dataclass
from pathlib import Path

FOLDER = Path(__file__).parent / "fonts"


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


def font_files() -> list[str]:
    """The files of all fonts."""
    return [str(FOLDER / name) for font in FONTS for name in font.files]
