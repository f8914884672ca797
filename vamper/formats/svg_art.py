"""SVG drawings as art: checked, then rendered by resvg at the size they are wanted in.

An SVG is text that may name other files and sites. Before it is rendered it is parsed without resolving anything, and
refused if it refers outside itself. It is then rendered twice: small, to find how much of the drawing is inked, and
at `PPI` of the inked area's wanted size.
"""

import base64
import io
import re
from urllib.parse import unquote_to_bytes
from xml.etree.ElementTree import Element, ParseError

import numpy as np
import resvg_py
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from PIL import Image

from vamper.core.art.picture import Picture
from vamper.core.findings import BadInput
from vamper.core.job import SizeSpec
from vamper.core.units import pixels_at
from vamper.formats.fonts import DEFAULT_FAMILY, FAMILIES, font_files
from vamper.formats.raster import MOST_DRAWN_PX

PPI = 600.0
_SCOUT_PX = 700
_HREFS = ("href", "{http://www.w3.org/1999/xlink}href")
_STYLE_URL = re.compile(r"""url\(\s*['"]?\s*(?!['"]?\s*(?:#|data:))""", re.IGNORECASE)
_IMPORT = re.compile(r"@import", re.IGNORECASE)
_NESTED_DEEPEST = 3
_FONT_FAMILY = re.compile(r"""font(?:-family)?\s*:\s*([^;}]+)""", re.IGNORECASE)
_SIZE_IN_SHORTHAND = re.compile(r"""^.*?\d[\w.%]*(?:/[\w.%]+)?\s+""")
_GENERIC = ("serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "inherit", "initial", "unset")


def check_svg(data: bytes, _depth: int = 0) -> Element:
    """The root of an SVG that refers to nothing outside itself; `BadInput` for anything else."""
    try:
        root = fromstring(data, forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException:
        raise BadInput(
            "the SVG declares entities, which could pull in other files; save it again as plain SVG"
        ) from None
    except (ParseError, ValueError, LookupError, UnicodeError):
        raise BadInput("the SVG is damaged or not an SVG at all; save it again as plain SVG") from None
    if root.tag.rpartition("}")[2] != "svg":
        raise BadInput("this XML file is not an SVG drawing")
    if b"<?xml-stylesheet" in data:
        raise BadInput("the SVG uses a style sheet outside itself; save it again with its styles inside")
    for element in root.iter():
        _check_element(element, _depth)
    return root


def _other_fonts(root: Element) -> tuple[str, ...]:
    """Fonts that the drawing's text asks for first and that are not shipped."""
    if not any(str(element.tag).rpartition("}")[2] in ("text", "tspan") for element in root.iter()):
        return ()
    asked: set[str] = set()
    for element in root.iter():
        asked.update([element.get("font-family") or ""])
        styles = [element.get("style") or ""]
        if str(element.tag).rpartition("}")[2] == "style":
            styles.append(element.text or "")
        for style in styles:
            asked.update(_SIZE_IN_SHORTHAND.sub("", found) for found in _FONT_FAMILY.findall(style))
    firsts = {family.partition(",")[0].strip(" \t\n'\"") for family in asked}
    known = {family.lower() for family in FAMILIES} | set(_GENERIC) | {""}
    return tuple(sorted(family for family in firsts if family.lower() not in known))


def _check_element(element: Element, depth: int) -> None:
    kind = str(element.tag).rpartition("}")[2]
    for name in _HREFS:
        target = (element.get(name) or "").strip()
        if not target or target.startswith("#") or kind == "a":
            continue
        if not target.lower().startswith("data:"):
            raise BadInput(f"the SVG refers to “{target[:60]}”, which is outside it; embed the picture in the drawing")
        _check_nested(target, depth)
    texts = [value for key, value in element.attrib.items() if not key.endswith("href")]
    if kind == "style":
        texts.append(element.text or "")
    for text in texts:
        if _STYLE_URL.search(text) or _IMPORT.search(text):
            raise BadInput("the SVG's styles refer outside it; save it again with everything inside")


def _check_nested(target: str, depth: int) -> None:
    """An SVG embedded in an SVG must keep to itself too."""
    head, _, body = target.partition(",")
    if "svg" not in head.lower():
        return
    if depth >= _NESTED_DEEPEST:
        raise BadInput("the SVG holds drawings within drawings within drawings; flatten it and save again")
    try:
        inner = base64.b64decode(body) if ";base64" in head.lower() else unquote_to_bytes(body)
    except ValueError:
        raise BadInput("a picture embedded in the SVG is damaged; embed it again") from None
    check_svg(inner, depth + 1)


def read_svg(data: bytes, size: SizeSpec) -> Picture:
    """Render a drawing so that its inked area has `PPI` pixels an inch at the wanted size.

    Raises
    ------
    BadInput
        If it is not an SVG, refers outside itself, has no size, or draws nothing.
    """
    root = check_svg(data)
    scout = _render(data, _SCOUT_PX)
    inked = scout[:, :, 3] >= 128
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    if not rows.size:
        raise BadInput("the SVG draws nothing that would be printed")
    inked_width, inked_height = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
    width_mm = size.of(float(inked_width), float(inked_height)) * inked_width
    width_px = pixels_at(width_mm * scout.shape[1] / inked_width, PPI)
    most = int((MOST_DRAWN_PX * scout.shape[1] / scout.shape[0]) ** 0.5)
    return Picture(_render(data, min(width_px, most)), is_vector=True, other_fonts=_other_fonts(root))


def sketch_svg(data: bytes, longest_px: int) -> Picture:
    """The whole drawing, its longer side about `longest_px`; rendered straight at that size, which is quick."""
    check_svg(data)
    scout = _render(data, 64)
    height, width = scout.shape[:2]
    return Picture(_render(data, max(1, round(longest_px * min(1.0, width / height)))), is_vector=True)


def _render(data: bytes, width_px: int) -> np.ndarray[tuple[int, int, int], np.dtype[np.uint8]]:
    try:
        # Without a resolution, drawings sized in mm are refused by the renderer.
        png = resvg_py.svg_to_bytes(
            svg_string=data.decode("utf-8-sig"),
            width=width_px,
            dpi=96.0,
            skip_system_fonts=True,
            font_files=font_files(),
            font_family=DEFAULT_FAMILY,
            sans_serif_family=DEFAULT_FAMILY,
            serif_family=DEFAULT_FAMILY,
            monospace_family=DEFAULT_FAMILY,
            cursive_family="Pacifico",
            fantasy_family="Bricolage Grotesque",
        )
    except UnicodeDecodeError:
        raise BadInput("the SVG is not written in UTF-8; save it again as plain SVG") from None
    except ValueError:
        raise BadInput("the SVG cannot be drawn: it has no size or is damaged; save it again as plain SVG") from None
    with Image.open(io.BytesIO(bytes(png))) as image:
        return np.asarray(image.convert("RGBA"))
