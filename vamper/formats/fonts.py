"""The files of the fonts that ship with Vamper."""

from pathlib import Path

from vamper.core.values.fonts import FONTS

FOLDER = Path(__file__).parent / "fonts"


def font_files() -> list[str]:
    """The files of all fonts."""
    return [str(FOLDER / name) for font in FONTS for name in font.files]
