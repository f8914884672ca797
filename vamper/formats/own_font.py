"""A font file that a maker adds: TrueType or OpenType, read once so that it can be trusted to be one."""

import io

import uharfbuzz
from PIL import ImageFont

from vamper.core.values.findings import BadInput

MOST_BYTES = 20 * 2**20
LONGEST_FAMILY = 120
# What the two kinds begin with; collections and web fonts begin otherwise.
_BEGINS = (b"\x00\x01\x00\x00", b"true", b"OTTO")
_OTHERS = {b"ttcf": "a collection of several fonts", b"wOFF": "a web font (WOFF)", b"wOF2": "a web font (WOFF2)"}


def family_of(name: str, data: bytes) -> str:
    """The family of a font file.

    Raises
    ------
    BadInput
        If it is no font, or a font that cannot be used; `name` is what the file is called.
    """
    if len(data) > MOST_BYTES:
        raise BadInput(f"this font is larger than {MOST_BYTES // 2**20} MB; take a smaller one", name)
    begins = data[:4]
    if begins in _OTHERS:
        raise BadInput(f"this is {_OTHERS[begins]}; take the font as TTF or OTF", name)
    if begins not in _BEGINS:
        raise BadInput("this is not a font; fonts are files that end in .ttf or .otf", name)
    try:
        family, style = ImageFont.truetype(io.BytesIO(data), 20).getname()
        font = uharfbuzz.Font(uharfbuzz.Face(data))
        letters = sum(font.get_nominal_glyph(ord(letter)) is not None for letter in "AaBbEeNnOo019")
    except (OSError, ValueError, TypeError, uharfbuzz.HarfBuzzError):
        raise BadInput("this font is damaged; take it from where it came once more", name) from None
    if letters == 0:
        raise BadInput("this font has no letters and figures; take one that has", name)
    called = " ".join(part for part in (family, "" if style in (None, "Regular") else style) if part).strip()
    printable = "".join(letter for letter in called if letter.isprintable())[:LONGEST_FAMILY].strip()
    if not printable:
        raise BadInput("this font does not say what it is called; take another one", name)
    return printable
