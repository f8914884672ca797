"""What is done with art files in the reading room: functions that a child process can be sent to.

Each takes what a file holds and gives back what the planner needs of it, so that nothing that came from outside is
ever decoded, drawn or traced anywhere else.
"""

from dataclasses import dataclass

from vamper.core.art.inspect import ArtFacts, look_over
from vamper.core.art.outline import Outline, Tracing, outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.art.prepare import prepared
from vamper.core.values.art import Preparation, SizeSpec
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import page_count, read_art, read_sketch
from vamper.formats.art_in.raster import png_bytes

# The longer sides that pictures are shown at in lists and on sheets; larger ones are made when they are asked for.
PREVIEW_PX = (160, 800)


@dataclass(frozen=True, slots=True)
class FirstLook:
    """An art file as it is first seen.

    Parameters
    ----------
    picture, tracing, outline : Picture, Tracing, Outline
        Its pixels, what is inked of them, and that at the size at which it is looked at.
    facts : ArtFacts
        What is seen on it at that size.
    pages : int
        How many pages the file has.
    previews : dict of int to bytes
        PNGs to show of it, by their longer side, px.
    """

    picture: Picture
    tracing: Tracing
    outline: Outline
    facts: ArtFacts
    pages: int
    previews: dict[int, bytes]


def first_look(data: bytes, name: str, size: SizeSpec) -> FirstLook:
    """Read a file that has just come in.

    Raises
    ------
    BadInput
        If it cannot be read, or holds nothing that could be cut out at that size.
    """
    picture = read_art(data, name, size)
    try:
        tracing = trace(picture)
        outline = outline_at(tracing, size)
    except BadInput as bad:
        raise BadInput(bad.sentence, name) from None
    return FirstLook(
        picture,
        tracing,
        outline,
        look_over(picture, outline, Preparation().threshold),
        page_count(data, name),
        {px: shown(picture, px) for px in PREVIEW_PX},
    )


@dataclass(frozen=True, slots=True)
class Studied:
    """All that planning needs of a file at one size: its pixels as they are prepared, and what is seen on them."""

    picture: Picture
    tracing: Tracing
    outline: Outline
    facts: ArtFacts


def studied(data: bytes, name: str, size: SizeSpec, preparation: Preparation) -> Studied:
    """Read a file from its bytes to the facts at once, which is quicker than in steps.

    Raises
    ------
    BadInput
        If it cannot be read, holds nothing inked, or vanishes at that size.
    """
    picture = prepared(read_art(data, name, size, preparation.page), preparation)
    tracing = trace(picture, preparation.threshold)
    outline = outline_at(tracing, size)
    return Studied(picture, tracing, outline, look_over(picture, outline, preparation.threshold))


def shown(picture: Picture, longest_px: int) -> bytes:
    """A picture as PNG, at most so many pixels at its longer side."""
    # Twice as fine as it will be shown is as good as all pixels, and quicker.
    return png_bytes(picture.thinned(2 * longest_px)[0], longest_px)


def preview(data: bytes, name: str, longest_px: int, preparation: Preparation) -> bytes:
    """A file's picture as it is prepared, as PNG, without reading more of it than it takes."""
    # A cropped drawing is sketched larger, so that what is left of it is as sharp.
    crop = preparation.crop or (0.0, 0.0, 1.0, 1.0)
    whole_px = min(4000, round(longest_px / max(crop[2] - crop[0], crop[3] - crop[1], 0.05)))
    sketch = read_sketch(data, name, whole_px, preparation.page)
    if sketch is None:
        sketch, _ = read_art(data, name, SizeSpec(longest_mm=1.0)).thinned(2 * whole_px)
    return png_bytes(prepared(sketch, preparation), longest_px)


def prepared_tracing(picture: Picture, preparation: Preparation) -> Tracing:
    """The tracing of a picture once it is prepared."""
    return trace(prepared(picture, preparation), preparation.threshold)
