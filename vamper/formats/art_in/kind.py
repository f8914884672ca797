"""A kind of art file: how it is known, and how it is read.

Each kind is a module in `kinds`; adding one touches nothing else. What reads it runs in a child, with limits.
"""

from collections.abc import Callable
from dataclasses import dataclass

from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.registry import Registry


def one_page(_data: bytes) -> int:
    return 1


@dataclass(frozen=True, slots=True)
class ArtKind:
    """One kind of art file.

    Parameters
    ----------
    key, place : str, int
        Its code, and where it stands in a list of all kinds.
    name, media_type : str
        What people call it, and its media type on the wire.
    endings : tuple of str
        What names of such files end in, the usual one first.
    is_it : callable
        Whether a file's content is of this kind.
    read : callable
        The picture; the size matters for drawings, which are rendered for it, the page where there are several.
    sketch : callable, optional
        A drawing at about so many pixels, quickly. Only drawings have this: pictures made of pixels are read whole.
    pages : callable
        How many pages a file has.
    """

    key: str
    place: int
    name: str
    media_type: str
    endings: tuple[str, ...]
    is_it: Callable[[bytes], bool]
    read: Callable[[bytes, SizeSpec, int], Picture]
    sketch: Callable[[bytes, int, int], Picture] | None = None
    pages: Callable[[bytes], int] = one_page

    @property
    def is_drawn(self) -> bool:
        """Whether it is rendered for the size it is wanted in, rather than made of pixels."""
        return self.sketch is not None

    @property
    def has_pages(self) -> bool:
        return self.pages is not one_page


KINDS: Registry[ArtKind] = Registry("vamper.formats.art_in.kinds")
