"""What an SVG must keep to before anything draws it: it refers to nothing outside itself, and drawing it is bounded.

A drawing is text that may name other files, nest without end, claim pictures of any size, or ask for filters that take
hours. All of that is seen in the text: it is parsed without resolving anything, counted, and refused with a sentence
that names what is too much. `CheckedSvg` tells what drawing it will take.
"""

import base64
import io
import re
import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from urllib.parse import unquote_to_bytes
from xml.etree.ElementTree import Element, ParseError, TreeBuilder

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import DefusedXMLParser
from PIL import Image

from vamper.core.values.findings import BadInput

DEEPEST = 100
MOST_ELEMENTS = 400_000
MOST_EMBEDDED_PX = 50_000_000
# Longer side by shorter side; a strip of 600 × 10 mm is still one.
MOST_ASPECT = 60.0
MOST_FILTERS = 60
_NESTED_DEEPEST = 3
HREFS = ("href", "{http://www.w3.org/1999/xlink}href")
_STYLE_URL = re.compile(r"""url\(\s*['"]?\s*(?!['"]?\s*(?:#|data:))""", re.IGNORECASE)
_IMPORT = re.compile(r"@import", re.IGNORECASE)
NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
# What is drawn on a ground of its own first, and so takes the memory of one.
_LAYERS = re.compile(r"(?:^|[;\s])(?:opacity|mask|filter|clip-path|mix-blend-mode|isolation)\s*:")
_LAYER_ATTRIBUTES = ("opacity", "mask", "filter", "clip-path", "mix-blend-mode")
_UNITS_PX = {"": 1.0, "px": 1.0, "pt": 4 / 3, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0, "q": 24 / 25.4}
# The most that a filter's figure may be: lengths as shares of the drawing's longer side, the others as they stand.
_FILTER_LENGTHS = {"stdDeviation": 0.25, "radius": 0.03}
_FILTER_COUNTS = {"order": 9.0, "numOctaves": 8.0}
_FILTER_REGION = ("x", "y", "width", "height")
_MOST_REGION = 5.0


@dataclass(frozen=True, slots=True)
class CheckedSvg:
    """A drawing that may be drawn. `width` and `height` are its own (px), `layers` is how many grounds lie on each
    other at most, `is_filtered` whether it has filters.
    """

    root: Element
    width: float
    height: float
    layers: int
    is_filtered: bool


class _Bounded(TreeBuilder):
    """Builds the tree as far as it is neither too deep nor too large."""

    def __init__(self) -> None:
        super().__init__()
        self._depth = 0
        self._count = 0

    def start(self, tag: str, attrs: dict[str, str], /) -> Element:
        self._depth += 1
        self._count += 1
        if self._depth > DEEPEST:
            raise BadInput(f"the SVG nests more than {DEEPEST} groups in each other; ungroup it and save again")
        if self._count > MOST_ELEMENTS:
            raise _too_many()
        return super().start(tag, attrs)

    def end(self, tag: str, /) -> Element:
        self._depth -= 1
        return super().end(tag)


def _too_many() -> BadInput:
    return BadInput(f"the SVG draws more than {MOST_ELEMENTS:,} things; make it simpler, or export it as a PNG")


def check_svg(data: bytes, _depth: int = 0) -> CheckedSvg:
    """The drawing, if it keeps to itself and to the limits.

    Raises
    ------
    BadInput
        With what is too much, or what it refers to.
    """
    root = _parsed(data)
    if root.tag.rpartition("}")[2] != "svg":
        raise BadInput("this XML file is not an SVG drawing")
    if b"<?xml-stylesheet" in data:
        raise BadInput("the SVG uses a style sheet outside itself; save it again with its styles inside")
    embedded_px = 0
    for element in root.iter():
        _check_styles(element)
        for target in _targets(element):
            embedded_px += _check_target(target, _depth)
            if embedded_px > MOST_EMBEDDED_PX:
                raise BadInput(
                    f"the pictures embedded in the SVG have more than {MOST_EMBEDDED_PX // 1_000_000} megapixels "
                    "together; embed them smaller"
                )
    _check_copies(root)
    width, height = _size_of(root)
    if max(width, height) > MOST_ASPECT * min(width, height):
        raise BadInput(
            f"the SVG is more than {MOST_ASPECT:g} times as long as it is wide ({width:.4g} × {height:.4g}); "
            "set its page to the drawing"
        )
    return CheckedSvg(root, width, height, _layers(root), _check_filters(root, max(width, height)))


def kind_of(element: Element) -> str:
    """An element's name without its namespace; "" for comments and instructions."""
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""


def _parsed(data: bytes) -> Element:
    parser = DefusedXMLParser(target=_Bounded(), forbid_dtd=False, forbid_entities=True, forbid_external=True)
    try:
        parser.feed(data)
        root: Element = parser.close()
    except DefusedXmlException:
        raise BadInput(
            "the SVG declares entities, which could pull in other files; save it again as plain SVG"
        ) from None
    except BadInput:
        raise
    except (ParseError, ValueError, LookupError, UnicodeError):
        raise BadInput("the SVG is damaged or not an SVG at all; save it again as plain SVG") from None
    return root


# What it refers to


def _check_styles(element: Element) -> None:
    texts = [value for key, value in element.attrib.items() if not key.endswith("href")]
    if kind_of(element) == "style":
        texts.append(element.text or "")
    for text in texts:
        # Most attributes are figures, and a drawing may have very many of them.
        if ("(" in text or "@" in text) and _refers_out(text):
            raise BadInput("the SVG's styles refer outside it; save it again with everything inside")


def _refers_out(text: str) -> bool:
    return bool(_STYLE_URL.search(text) or _IMPORT.search(text))


def _targets(element: Element) -> Iterator[str]:
    """The addresses that the element refers to, other than parts of the drawing itself."""
    for name in HREFS:
        target = (element.get(name) or "").strip()
        if target and not target.startswith("#") and kind_of(element) != "a":
            yield target


def _check_target(target: str, depth: int) -> int:
    """The pixels of an embedded picture."""
    if not target.lower().startswith("data:"):
        raise BadInput(f"the SVG refers to “{target[:60]}”, which is outside it; embed the picture in the drawing")
    try:
        data = embedded_data(target)
    except ValueError:
        raise BadInput("a picture embedded in the SVG is damaged; embed it again") from None
    if data[:2] == b"\x1f\x8b":
        raise BadInput("a picture embedded in the SVG is compressed; embed it as a PNG")
    # The renderer goes by content, whatever the address says it is.
    if data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"<"):
        if depth >= _NESTED_DEEPEST:
            raise BadInput("the SVG holds drawings within drawings within drawings; merge them and save again")
        inner = check_svg(data, depth + 1)
        return int(min(inner.width * inner.height, 1.0))
    width, height = size_claimed(data)
    return width * height


def embedded_data(target: str) -> bytes:
    """The data that an address holds; `ValueError` where it is damaged."""
    head, _, body = target.strip().partition(",")
    return base64.b64decode(body) if ";base64" in head.lower() else unquote_to_bytes(body)


def size_claimed(data: bytes) -> tuple[int, int]:
    """Width and height that a picture's header says; nothing that is not a picture is drawn."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=("PNG", "JPEG", "GIF", "WEBP")) as image:
                return image.width, image.height
    except Image.DecompressionBombError:
        return MOST_EMBEDDED_PX + 1, 1
    except (OSError, SyntaxError, ValueError):
        return 0, 0


# How much drawing it takes


def _check_copies(root: Element) -> None:
    """Refuse a drawing whose copies of copies add up to more elements than may be drawn, or go in a circle."""
    if not any(_copied_names(element) for element in root.iter()):
        return
    by_name = {name: element for element in root.iter() if (name := element.get("id"))}
    costs: dict[int, int] = {}
    open_now: set[int] = set()
    work: list[tuple[Element, bool]] = [(root, False)]
    while work:
        element, children_done = work.pop()
        key = id(element)
        parts = [*element, *_copied(element, by_name)]
        if children_done:
            open_now.discard(key)
            costs[key] = 1 + sum(costs.get(id(part), 0) for part in parts)
            if costs[key] > MOST_ELEMENTS:
                raise _too_many()
            continue
        if key in costs:
            continue
        open_now.add(key)
        work.append((element, True))
        for part in parts:
            if id(part) in open_now:
                raise BadInput("the SVG copies a part into itself; draw it without that")
            if id(part) not in costs:
                work.append((part, False))


def _copied(element: Element, by_name: dict[str, Element]) -> list[Element]:
    return [by_name[name] for name in _copied_names(element) if name in by_name]


def _copied_names(element: Element) -> list[str]:
    if kind_of(element) != "use":
        return []
    targets = ((element.get(name) or "").strip() for name in HREFS)
    return [target[1:] for target in targets if target[:1] == "#"]


def _size_of(root: Element) -> tuple[float, float]:
    """The drawing's own size as the renderer sees it: its width and height, else the size of its view box."""
    box = [float(figure) for figure in NUMBER.findall(root.get("viewBox") or "")]
    boxed = (box[2], box[3]) if len(box) == 4 and box[2] > 0 and box[3] > 0 else None
    width, height = length_px(root.get("width")), length_px(root.get("height"))
    if boxed is not None:
        if width is None and height is None:
            return boxed
        if width is None:
            width = (height or 0.0) * boxed[0] / boxed[1]
        elif height is None:
            height = width * boxed[1] / boxed[0]
    if not width or not height or not (width < float("inf") and height < float("inf")):
        # The renderer has a size of its own for these, or refuses them.
        return 100.0, 100.0
    return width, height


def length_px(text: str | None) -> float | None:
    """Pixels of a length, None for percentages and what is no length."""
    found = NUMBER.match((text or "").strip())
    if found is None:
        return None
    unit = (text or "").strip()[found.end() :].strip().lower()
    return float(found.group()) * _UNITS_PX[unit] if unit in _UNITS_PX else None


def _layers(root: Element) -> int:
    """How many elements with a ground of their own lie in each other at most."""
    most = 0
    work = [(root, 0)]
    while work:
        element, above = work.pop()
        own = any(name in element.attrib for name in _LAYER_ATTRIBUTES) or _LAYERS.search(element.get("style") or "")
        here = above + bool(own)
        most = max(most, here)
        work += [(child, here) for child in element]
    return most


def _check_filters(root: Element, longest: float) -> bool:
    filters = [element for element in root.iter() if kind_of(element) == "filter"]
    steps = [step for one in filters for step in one]
    if len(steps) > MOST_FILTERS:
        raise BadInput(f"the SVG has more than {MOST_FILTERS} filter effects; export it as a PNG")
    for one in filters:
        for name in _FILTER_REGION:
            if _share(one.get(name), longest) > _MOST_REGION:
                raise BadInput("a filter of the SVG reaches far beyond the drawing; export it as a PNG")
    for step in steps:
        for name, most in _FILTER_LENGTHS.items():
            if any(figure > most * longest for figure in _figures(step.get(name))):
                raise BadInput(
                    f"a filter of the SVG spreads over more than {most * 100:g} % of the drawing; export it as a PNG"
                )
        for name, most in _FILTER_COUNTS.items():
            if any(figure > most for figure in _figures(step.get(name))):
                raise BadInput("a filter of the SVG takes too long to draw; export it as a PNG")
    return bool(steps)


def _figures(text: str | None) -> list[float]:
    return [float(figure) for figure in NUMBER.findall(text or "")]


def _share(text: str | None, longest: float) -> float:
    """A filter's side as a share of the drawing: percentages, or plain figures, which may be either of the two."""
    figures = _figures(text)
    if not figures:
        return 0.0
    return abs(figures[0]) / 100 if "%" in (text or "") else abs(figures[0]) / max(longest, 1.0)
