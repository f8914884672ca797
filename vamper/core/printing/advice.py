"""What to choose in a printer's own dialog for a stock.

The starters are in `advice.toml`, by the class of stock. What a package's label names for this make of printer comes
before them, and so does the school that a maker found better on a swatch strip.
"""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Len

from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.printer import Ink, Printer, PrinterKind, TrayFace
from vamper.core.values.sides import sides_of
from vamper.core.values.stock import Stock
from vamper.core.values.tables import table

_TABLE = table(__package__, "advice.toml")
# Toner is dry when it comes out.
_LASER_DRY_MINUTES = 0
Preset = Annotated[str, Len(0, 120), ONE_LINE]


@dataclass(frozen=True, slots=True)
class PrintSchool:
    """One way to print on a kind of stock, and what speaks for it."""

    key: str
    name: str
    why: str


@dataclass(frozen=True, slots=True)
class PrintChoice:
    """The print choices remembered for one printer and stock: the `label`'s own preset, the maker's own preset, and the
    `school` that won on a swatch strip; empty where nobody said.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    label: Preset = ""
    own: Preset = ""
    school: Preset = ""


@dataclass(frozen=True, slots=True)
class LearntPrinting:
    """Settings that went better in this workshop's own runs, and how that is known."""

    media: str
    quality: str
    source: str


class HeadTravel(StrEnum):
    """In which directions an inkjet's head prints: one way is finer on stock that dries slowly."""

    BOTH_WAYS = "both-ways"
    ONE_WAY = "one-way"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class PrintAdvice:
    """The choices in the printer's dialog, and what to expect.

    Parameters
    ----------
    media, quality, side, feed : str
        The kind of paper, the quality, the side and the tray, in words.
    head : HeadTravel
        How the head is to travel.
    dry_minutes : int
        How long the print dries at least.
    ink, look : str
        Which ink, and how the print will look.
    schools : tuple of PrintSchool
        What makers do differently.
    companion : str
        What lies in the same package and must not be printed, where something does.
    not_mirrored : str
        Why it is not mirrored, where a mirrored print is expected.
    source : str
        Whose word the kind of paper is.
    """

    media: str
    quality: str
    side: str
    feed: str
    head: HeadTravel
    dry_minutes: int
    ink: str
    look: str
    schools: tuple[PrintSchool, ...]
    companion: str = ""
    not_mirrored: str = ""
    source: str = "a starter figure for this kind of stock"


SCHOOLS = {key: PrintSchool(key, **data) for key, data in _TABLE["schools"].items()}
_TRAY_WORDS = {
    TrayFace.UP: "this side up in the tray: your printer prints the side that you see",
    TrayFace.DOWN: "this side down in the tray: your printer prints the side that you do not see",
}
_MEDIA_OF = {"plain": "plain paper", "photo": ""}


def advice_for(
    stock: Stock, printer: Printer, choice: PrintChoice | None = None, learnt: LearntPrinting | None = None
) -> PrintAdvice:
    """The settings to choose for a stock on a printer. What was learnt comes before what a label says, and only a
    maker's own word before that.
    """
    data = {**_TABLE["classes"][stock.stock_class.value], **_TABLE["stocks"].get(stock.key, {})}
    schools = tuple(SCHOOLS[key] for key in data.pop("schools"))
    head = HeadTravel(data.pop("head"))
    advice = PrintAdvice(schools=schools, side=sides_of(stock).printed, head=head, **data)
    if printer.kind is PrinterKind.LASER:
        media = "heavy paper or labels" if stock.thickness_um > 150 else "plain paper"
        advice = replace(
            advice,
            media=media,
            head=HeadTravel.NONE,
            dry_minutes=_LASER_DRY_MINUTES,
            ink="toner: nothing to dry; let the sheet cool",
            schools=(),
        )
    elif printer.ink is Ink.DYE and Ink.DYE in stock.inks:
        advice = replace(advice, ink="dye ink, as the paper wants")
    return _outranked(advice, choice or PrintChoice(), learnt)


def tray_words(advice: PrintAdvice, printer: Printer) -> str:
    """How the side that is printed lies in the tray, as far as that was found out for the printer; "" where nothing is
    printed.
    """
    if not advice.side:
        return ""
    return _TRAY_WORDS[printer.tray] if printer.tray else "find your printer’s side once with a pencil mark"


def _outranked(advice: PrintAdvice, choice: PrintChoice, learnt: LearntPrinting | None) -> PrintAdvice:
    if choice.own:
        return replace(advice, media=choice.own, source="your own choice for this printer and stock")
    if learnt is not None:
        return replace(advice, media=learnt.media, quality=learnt.quality or advice.quality, source=learnt.source)
    if choice.label:
        return replace(advice, media=choice.label, source="the package's own label")
    if choice.school in SCHOOLS:
        school = SCHOOLS[choice.school]
        first = (school, *(one for one in advice.schools if one != school))
        media = _MEDIA_OF.get(choice.school) or (advice.media if advice.media != "plain paper" else "matte photo paper")
        return replace(advice, media=media, schools=first, source="what won on your swatch strip")
    return advice
