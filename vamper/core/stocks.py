"""Sheet materials. The table is Vamper's own set of starters; a product's own label comes before it.

Thicknesses are µm, hardness is gf/µm for a sharp 45° blade, the least neck is the narrowest strip (mm) that survives
weeding, `speed_mm_s` the speed a blade keeps clean in it. `process` decides whether the print is mirrored.
"""

from dataclasses import dataclass
from enum import StrEnum


class StockClass(StrEnum):
    """What kind of material it is, for the mat it needs and how it is cut."""

    LABEL = "label"
    VINYL = "vinyl"
    WATER_SLIDE = "water-slide"
    TRANSFER = "transfer"
    FLEX = "flex"
    SHRINK = "shrink film"
    DYE = "dye paper"
    CARD = "card"
    MAGNET = "magnet"
    LAMINATE = "laminate"


class Tack(StrEnum):
    """How strongly the carrier mat holds."""

    LOW = "low"
    MEDIUM = "medium"
    HIGH = "high"


@dataclass(frozen=True, slots=True)
class Stock:
    """One sheet material."""

    key: str
    name: str
    stock_class: StockClass
    face_um: float
    backing_um: float
    hardness_gf_per_um: float
    least_neck_mm: float
    abrasion: float
    faces: str
    speed_mm_s: float
    tack: Tack
    soft_or_fibrous: bool = False
    mirrored: bool = False
    printable: bool = True
    colour: str = "#FFFFFF"

    @property
    def thickness_um(self) -> float:
        """Face and backing together."""
        return self.face_um + self.backing_um

    @property
    def has_backing(self) -> bool:
        return self.backing_um > 0

    @property
    def ground(self) -> str:
        """What shows where nothing is printed: white, clear, dark …, in the word of `faces`."""
        return self.faces.partition(",")[0]


_C = StockClass
_T = Tack

STARTER_STOCKS: tuple[Stock, ...] = (
    Stock("matte-label", "matte label paper", _C.LABEL, 95, 65, 0.95, 1.5, 1.0, "white, matte", 80, _T.LOW),
    Stock("gloss-label", "gloss label paper", _C.LABEL, 100, 65, 1.05, 1.5, 1.0, "white, gloss", 80, _T.LOW),
    Stock("satin-vinyl", "satin vinyl", _C.VINYL, 110, 120, 0.85, 1.0, 0.8, "white, satin", 100, _T.MEDIUM),
    Stock("gloss-vinyl", "gloss vinyl", _C.VINYL, 115, 120, 0.90, 1.0, 0.8, "white, gloss", 100, _T.MEDIUM),
    Stock(
        "shimmer-vinyl",
        "shimmer vinyl",
        _C.VINYL,
        140,
        125,
        1.05,
        1.2,
        1.6,
        "metallic, gloss",
        80,
        _T.MEDIUM,
        colour="#DAD9D4",
    ),
    Stock(
        "clear-vinyl",
        "clear vinyl",
        _C.VINYL,
        90,
        125,
        0.95,
        1.0,
        0.8,
        "clear, gloss",
        100,
        _T.MEDIUM,
        colour="#F1F6F6",
    ),
    Stock(
        "plain-vinyl",
        "plain coloured vinyl",
        _C.VINYL,
        75,
        140,
        0.80,
        0.8,
        0.7,
        "colour",
        120,
        _T.MEDIUM,
        printable=False,
        colour="#C9D8DC",
    ),
    Stock(
        "water-slide-clear",
        "clear water-slide film",
        _C.WATER_SLIDE,
        35,
        190,
        1.10,
        1.5,
        0.7,
        "clear, gloss",
        60,
        _T.LOW,
        soft_or_fibrous=True,
        colour="#F3F6F2",
    ),
    Stock(
        "water-slide-white",
        "white water-slide film",
        _C.WATER_SLIDE,
        35,
        190,
        1.10,
        1.5,
        0.7,
        "white, gloss",
        60,
        _T.LOW,
        soft_or_fibrous=True,
    ),
    Stock(
        "light-transfer",
        "transfer for light cloth",
        _C.TRANSFER,
        60,
        130,
        1.10,
        2.0,
        0.8,
        "translucent",
        50,
        _T.LOW,
        soft_or_fibrous=True,
        mirrored=True,
        colour="#F5F3EE",
    ),
    Stock(
        "dark-transfer",
        "transfer for dark cloth",
        _C.TRANSFER,
        150,
        120,
        0.90,
        2.0,
        0.8,
        "white",
        50,
        _T.LOW,
        soft_or_fibrous=True,
    ),
    Stock("print-flex", "printable heat film", _C.FLEX, 120, 110, 0.90, 1.5, 0.9, "white", 80, _T.MEDIUM),
    Stock(
        "colour-flex",
        "coloured heat film",
        _C.FLEX,
        90,
        75,
        0.90,
        1.0,
        0.9,
        "colour",
        80,
        _T.MEDIUM,
        mirrored=True,
        printable=False,
        colour="#D8CBD2",
    ),
    Stock("shrink-film", "shrink film", _C.SHRINK, 260, 0, 2.60, 3.0, 2.2, "clear or white", 30, _T.HIGH),
    Stock("dye-paper", "dye transfer paper", _C.DYE, 130, 0, 0.90, 2.0, 0.9, "white", 80, _T.LOW, mirrored=True),
    Stock(
        "light-card",
        "light card, 160 g/m²",
        _C.CARD,
        200,
        0,
        0.80,
        2.0,
        1.1,
        "white or dark",
        60,
        _T.MEDIUM,
        soft_or_fibrous=True,
    ),
    Stock(
        "card",
        "card, 200 g/m²",
        _C.CARD,
        250,
        0,
        0.85,
        2.0,
        1.1,
        "white or dark",
        60,
        _T.MEDIUM,
        soft_or_fibrous=True,
    ),
    Stock(
        "heavy-card",
        "heavy card, 250 g/m²",
        _C.CARD,
        310,
        0,
        0.95,
        2.0,
        1.1,
        "white or dark",
        50,
        _T.MEDIUM,
        soft_or_fibrous=True,
    ),
    Stock(
        "kraft-card",
        "kraft card",
        _C.CARD,
        250,
        0,
        0.95,
        2.5,
        1.4,
        "dark, matte",
        40,
        _T.HIGH,
        soft_or_fibrous=True,
        colour="#B99A6B",
    ),
    Stock("magnet", "printable magnet", _C.MAGNET, 320, 0, 1.20, 3.0, 1.8, "white", 30, _T.HIGH),
    Stock(
        "laminate",
        "clear laminate",
        _C.LAMINATE,
        60,
        70,
        0.95,
        1.0,
        0.8,
        "clear, gloss",
        100,
        _T.MEDIUM,
        printable=False,
        colour="#F1F6F6",
    ),
)

# The white-faced stock that does the same work as one that lets white vanish.
WHITE_FACED = {
    "clear-vinyl": "gloss-vinyl",
    "shimmer-vinyl": "gloss-vinyl",
    "water-slide-clear": "water-slide-white",
    "light-transfer": "dark-transfer",
    "kraft-card": "card",
}

STOCK_BY_KEY = {stock.key: stock for stock in STARTER_STOCKS}
