"""The fonts that a drawing's text asks for, and the shipped ones that stand in for them.

The renderer knows the fonts that it is given, by their names alone: families that mean any font of a kind are named,
words and former names are brought up to date, and behind whatever is asked for stands the usual font.
"""

import re
from copy import deepcopy
from xml.etree.ElementTree import Element, tostring

from vamper.core.values.fonts import DEFAULT_FAMILY, FAMILIES, shipped_font
from vamper.formats.art_in.svg_check import kind_of

# In styles: `font-family`, or `font` with sizes and weights before the families.
_IN_STYLE = re.compile(r"(?P<name>\bfont(?:-family)?\s*:\s*)(?P<value>[^;}]+)", re.IGNORECASE)
_SIZE_IN_SHORTHAND = re.compile(r"^.*?\d[\w.%]*(?:/[\w.%]+)?\s+")
_ANY_OF_A_KIND = {
    "serif": DEFAULT_FAMILY,
    "sans-serif": DEFAULT_FAMILY,
    "monospace": DEFAULT_FAMILY,
    "system-ui": DEFAULT_FAMILY,
    "cursive": "Caveat",
    "fantasy": "Bricolage Grotesque",
}
_SAME_AS_ROUND_IT = ("inherit", "initial", "unset")


def has_text(root: Element) -> bool:
    return any(kind_of(element) in ("text", "tspan") for element in root.iter())


def other_fonts(root: Element) -> tuple[str, ...]:
    """Fonts that the drawing's text asks for first and that are not shipped."""
    if not has_text(root):
        return ()
    known = {*_ANY_OF_A_KIND, *_SAME_AS_ROUND_IT, *(family.lower() for family in FAMILIES)}
    asked = {next(iter(_families(value)), "") for value in _asked_for(root)}
    return tuple(
        family for family in sorted(asked - {""}) if family.lower() not in known and shipped_font(family) is None
    )


def with_shipped_fonts(root: Element) -> str:
    """The drawing with shipped fonts wherever others are asked for."""
    root = deepcopy(root)
    for element in root.iter():
        if (value := element.get("font-family")) is not None:
            element.set("font-family", _shipped(value))
        if (style := element.get("style")) is not None:
            element.set("style", _IN_STYLE.sub(_restyled, style))
        if kind_of(element) == "style" and element.text:
            element.text = _IN_STYLE.sub(_restyled, element.text)
    return tostring(root, encoding="unicode")


def _asked_for(root: Element) -> list[str]:
    """Lists of families, as they are asked for."""
    asked = []
    for element in root.iter():
        asked.append(element.get("font-family") or "")
        styles = [element.get("style") or "", (element.text or "") if kind_of(element) == "style" else ""]
        asked += [_SIZE_IN_SHORTHAND.sub("", found["value"]) for style in styles for found in _IN_STYLE.finditer(style)]
    return asked


def _families(value: str) -> list[str]:
    named = [one.strip(" \t\n\r'\"") for one in value.split(",")]
    return [one for one in named if one]


def _restyled(found: re.Match[str]) -> str:
    size = _SIZE_IN_SHORTHAND.match(found["value"]) if "family" not in found["name"].lower() else None
    before = size[0] if size else ""
    families, important, _ = found["value"][len(before) :].partition("!important")
    return f"{found['name']}{before}{_shipped(families)}{' ' + important if important else ''}"


def _shipped(value: str) -> str:
    """A list of families with the names of shipped fonts where there are any, and the usual font behind them."""
    families = _families(value)
    if not families or families[0].lower() in _SAME_AS_ROUND_IT:
        return value
    named = [_ANY_OF_A_KIND.get(one.lower()) or getattr(shipped_font(one), "family", one) for one in families]
    return ", ".join(f"'{one}'" for one in dict.fromkeys([*named, DEFAULT_FAMILY]))
