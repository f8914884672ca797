"""Words for what a job may say; the same in the brief, the catalog and everywhere else."""

from vamper.core.ledger.cost import SharedBy
from vamper.core.ledger.run import CameOut, LaterKind
from vamper.core.marks.vernier import NarrowSide
from vamper.core.sheet.layout import THROUGH_GAP_MM
from vamper.core.values.art import Purpose
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Feed
from vamper.core.values.item import Turn
from vamper.core.values.lengths import mm
from vamper.core.values.printer import PageBox, TrayFace
from vamper.core.values.stock import Ground, Stock, StockClass
from vamper.core.values.tables import table
from vamper.core.values.tried import Outcome
from vamper.services.shop.measured import CalibrationSchool

_TABLE = table(__package__, "words.toml")
PURPOSE_PHRASES = {purpose: _TABLE["purposes"][purpose] for purpose in Purpose}
TURN_PHRASES = {turn: _TABLE["turns"][turn]["phrase"] for turn in Turn}
TURN_REASONS = {turn: _TABLE["turns"][turn]["reason"] for turn in Turn}
CUT_HINTS = {cut: _TABLE["cuts"][cut].format(gap=mm(THROUGH_GAP_MM)) for cut in Cut}
FEED_WORDS = {feed: (_TABLE["feeds"][feed]["name"], _TABLE["feeds"][feed]["hint"]) for feed in Feed}

OUTCOME_WORDS = {one: (_TABLE["outcomes"][one]["name"], _TABLE["outcomes"][one]["hint"]) for one in Outcome}
PAGE_BOX_WORDS = {box: _TABLE["page_boxes"][box] for box in PageBox}
TRAY_FACE_WORDS = {face: _TABLE["tray_faces"][face] for face in TrayFace}
CALIBRATION_SCHOOL_WORDS = {school: _TABLE["calibration_schools"][school] for school in CalibrationSchool}

CAME_OUT_WORDS: dict[CameOut, str] = {one: _TABLE["came_out"][one] for one in CameOut}
SHARED_BY_WORDS: dict[SharedBy, str] = {one: _TABLE["shared_by"][one] for one in SharedBy}
LATER_WORDS: dict[LaterKind, str] = {one: _TABLE["later"][one] for one in LaterKind}
NARROW_SIDE_WORDS = {one: _TABLE["narrow_sides"][one] for one in NarrowSide}
STOCK_CLASS_WORDS = {one: _TABLE["stock_classes"][one] for one in StockClass}
GROUND_WORDS = {one: _TABLE["grounds"][one] for one in Ground}


def face_words(stock: Stock) -> str:
    """The words for the face of a stock: its ground, and how it shines."""
    return f"{GROUND_WORDS[stock.ground]}, {stock.sheen}"


def plural(count: int, one: str, many: str | None = None) -> str:
    return f"{count} {one if count == 1 else many or one + 's'}"


_COUNTS = ("no", "one", "two", "three", "four", "five", "six")


def counted(count: int, one: str) -> str:
    """A small number in letters: three coats."""
    return f"{_COUNTS[count] if count < len(_COUNTS) else count} {one if count == 1 else one + 's'}"


def span(minutes: int) -> str:
    """A span of time as it is said: 35 min, 2 h, 2 h 40."""
    hours, rest = divmod(minutes, 60)
    if not hours:
        return f"{rest} min"
    return f"{hours} h {rest:02d}" if rest else f"{hours} h"
