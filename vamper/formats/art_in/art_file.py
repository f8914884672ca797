"""Any art file: what it is by its content, held against what its name says, and read by the module for it."""

from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.kind import KINDS, ArtKind

MOST_BYTES = 64 * 1024 * 1024
# Letters whose own name begins with a vowel, among those that names of kinds begin with.
_AN = {"A": "an", "H": "an", "S": "an"}


def endings() -> tuple[str, ...]:
    """The endings of names of art files."""
    return tuple(ending for kind in KINDS for ending in kind.endings)


def kind_of(data: bytes, name: str) -> ArtKind:
    """The kind of an art file.

    Raises
    ------
    BadInput
        If it is empty, too large, of a kind not read here, or not what its name says.
    """
    if not data:
        raise BadInput("the file is empty; copy or export it again", name)
    if len(data) > MOST_BYTES:
        raise BadInput(
            f"the file is {len(data) / 2**20:.0f} MB, more than the {MOST_BYTES // 2**20} that fit; export it smaller",
            name,
        )
    found = next((kind for kind in KINDS if kind.is_it(data)), None)
    ending = f".{name.rpartition('.')[2].lower()}" if "." in name else ""
    named = next((kind for kind in KINDS if ending in kind.endings), None)
    if found is None:
        if named is None:
            *some, last = (kind.name for kind in KINDS)
            raise BadInput(f"this is not a picture Vamper can read; bring a {', '.join(some)} or {last}", name)
        raise BadInput(f"the file is named {ending} but its content is not; export it again", name)
    if named is not found:
        article = _AN.get(found.name[0], "a")
        raise BadInput(
            f"the file is named “{ending[:10] or 'without ending'}” but is {article} {found.name} inside; rename it to "
            f"{found.endings[0]} or export it again",
            name,
        )
    return found


def read_art(data: bytes, name: str, size: SizeSpec, page: int = 1) -> Picture:
    """The picture in an art file; `size` matters for drawings, which are rendered for it, `page` for a PDF."""
    kind = kind_of(data, name)
    try:
        return kind.read(data, size, page)
    except BadInput as bad:
        raise BadInput(bad.sentence, name) from None


def read_sketch(data: bytes, name: str, longest_px: int, page: int = 1) -> Picture | None:
    """A drawing at about `longest_px`, quickly; None for pictures made of pixels, which are read whole anyway."""
    kind = kind_of(data, name)
    return kind.sketch(data, longest_px, page) if kind.sketch is not None else None


def page_count(data: bytes, name: str) -> int:
    """How many pages an art file has."""
    return kind_of(data, name).pages(data)
