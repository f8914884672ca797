"""Sheet materials. The starters are Vamper's own set, in `stocks.toml`; a product's own label comes before it.

Thicknesses are µm, hardness is gf/µm for a sharp 45° blade, the least neck is the narrowest strip (mm) that survives
weeding, `speed_mm_s` the speed a blade keeps clean in it. `mirrored` follows from the process: what goes on face down.
`starts` is how it is usually cut, which new designs take; `soft_backing` says that a steep blade goes through its
backing whatever the force; `tuft` how much fibre or adhesive it leaves on the tip.
"""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.cut import Cut
from vamper.core.values.finish import PressFilm
from vamper.core.values.item import Turn
from vamper.core.values.limits import ONE_LINE, STRICT, Colour, Share
from vamper.core.values.printer import Ink, PrinterKind
from vamper.core.values.reading import reflectance_of
from vamper.core.values.sheen import Sheen
from vamper.core.values.shrink import ShrinkSpec
from vamper.core.values.tables import row, table


class StockClass(StrEnum):
    """The class of a material, for the mat it needs and how it is cut."""

    LABEL = "label"
    VINYL = "vinyl"
    WATER_SLIDE = "water-slide"
    TRANSFER = "transfer"
    FLEX = "flex"
    SHRINK = "shrink-film"
    DYE = "dye-paper"
    CARD = "card"
    MAGNET = "magnet"
    LAMINATE = "laminate"


class Tack(StrEnum):
    """How strongly the carrier mat holds."""

    LOW = "low"
    MEDIUM = "medium"
    HIGH = "high"


class Ground(StrEnum):
    """The ground that shows where nothing is printed. Of two, the sheet that is bought decides."""

    WHITE = "white"
    CLEAR = "clear"
    TRANSLUCENT = "translucent"
    COLOUR = "colour"
    DARK = "dark"
    METALLIC = "metallic"
    CLEAR_OR_WHITE = "clear-or-white"
    WHITE_OR_DARK = "white-or-dark"


# From which shine on (matte 0, glass 1) a face is called so.
_SHEENS = ((Sheen.GLOSS, 0.6), (Sheen.SATIN, 0.25), (Sheen.MATTE, 0.0))

StockKey = Annotated[str, Len(1, 100), ONE_LINE]
Micrometres = Annotated[float, Ge(0), Le(5000)]


@dataclass(frozen=True, slots=True)
class Stock:
    """One sheet material.

    Parameters
    ----------
    key, name, stock_class : str, str, StockClass
        What it is called in files and on screen, and what kind of material it is.
    face_um, backing_um : float
        Thickness of the face and of the backing paper, µm; a backing of 0 for a stock that has none.
    hardness_gf_per_um : float
        The force that brings a sharp 45° blade one µm deeper.
    least_neck_mm : float
        The thinnest neck that survives cutting and weeding.
    abrasion : float
        How fast it wears a blade: a metre of it counts as so many.
    ground : Ground
        What shows where nothing is printed; `colour` is its colour, `gloss` its shine (matte 0, glass 1), `reflectance`
        the share of light that it throws back where that was measured.
    speed_mm_s : float
        The fastest cut that is clean.
    tack : Tack
        The mat that suits it.
    soft_or_fibrous, soft_backing : bool
        Whether two gentle passes suit it better than a hard one where detail is small; whether a steep blade goes
        through its backing whatever the force.
    mirrored, printable : bool
        Whether its files are mirrored, and whether it is printed at all.
    takes, inks : tuple of PrinterKind, tuple of Ink
        The printers and inks that it is made for.
    starts : Cut
        How it is usually cut, and so each new design on it.
    tuft : float
        How much of it is left on the blade's tip, 0 to 1.
    use : str
        What it is for, in a sentence.
    grams_m2 : float or None
        Its weight, where it is sold by weight.
    like : str
        The stocks after which the setting of a maker's own stock was guessed.
    shrink, press : ShrinkSpec, PressFilm or None
        How it shrinks in the oven; what it holds on where it is pressed on cloth.
    package_setting : str
        The setting of a machine's list that its package names.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    key: StockKey
    name: Annotated[str, Len(1, 100), ONE_LINE]
    stock_class: StockClass
    face_um: Annotated[float, Gt(0), Le(5000)]
    backing_um: Micrometres
    hardness_gf_per_um: Annotated[float, Gt(0), Le(100)]
    least_neck_mm: Annotated[float, Gt(0), Le(50)]
    abrasion: Annotated[float, Gt(0), Le(100)]
    ground: Ground
    speed_mm_s: Annotated[float, Gt(0), Le(2000)]
    tack: Tack
    soft_or_fibrous: bool = False
    mirrored: bool = False
    printable: bool = True
    colour: Colour = "#FFFFFF"
    gloss: Share = 0.1
    reflectance: Share | None = None
    takes: Annotated[tuple[PrinterKind, ...], Len(1, 2)] = tuple(PrinterKind)
    inks: Annotated[tuple[Ink, ...], Len(1, 2)] = (Ink.ORDINARY,)
    starts: Cut = Cut.KISS
    soft_backing: bool = False
    tuft: Share = 0.0
    use: Annotated[str, Len(0, 200), ONE_LINE] = ""
    grams_m2: Annotated[float, Gt(0), Le(2000)] | None = None
    like: Annotated[str, Len(0, 200), ONE_LINE] = ""
    shrink: ShrinkSpec | None = None
    press: PressFilm | None = None
    package_setting: Annotated[str, Len(0, 80), ONE_LINE] = ""

    def __post_init__(self) -> None:
        if self.starts is Cut.KISS and not self.backing_um:
            object.__setattr__(self, "starts", Cut.THROUGH)

    def plainly(self, plain: bool) -> "Stock":
        """The same cut plain: of card, which is printed or cut only, the maker says which."""
        return replace(self, printable=False) if plain and self.asks_if_plain else self

    @property
    def asks_if_plain(self) -> bool:
        """Whether it is as usual to cut it plain as to print it."""
        return self.stock_class is StockClass.CARD and self.printable

    def under(self, laminate_um: float) -> "Stock":
        """The same with a film over its face."""
        return self if not laminate_um else replace(self, face_um=self.face_um + laminate_um)

    def shrinking(self, shrink: ShrinkSpec | None) -> "Stock":
        """The same where a test bar shrank so: what is narrow in the end is checked where it is still wide."""
        if shrink is None or self.stock_class is not StockClass.SHRINK:
            return self
        return replace(self, shrink=shrink, least_neck_mm=self.least_neck_mm / shrink.mean)

    @property
    def turns(self) -> Turn:
        """The greatest freedom to turn pieces on it: a film shrinks along the sheet's axes, so a piece that lies askew
        on one that shrinks unevenly, or of which no bar was measured, comes out sheared.
        """
        if self.stock_class is not StockClass.SHRINK or (self.shrink is not None and self.shrink.is_even):
            return Turn.ANY
        return Turn.HALF

    @property
    def face_reflectance(self) -> float:
        """The reflectance of its face: as measured, or by its colour."""
        return reflectance_of(self.colour) if self.reflectance is None else self.reflectance

    @property
    def thickness_um(self) -> float:
        """Face and backing together."""
        return self.face_um + self.backing_um

    @property
    def has_backing(self) -> bool:
        return self.backing_um > 0

    @property
    def is_clear(self) -> bool:
        return self.ground is Ground.CLEAR

    @property
    def shows_white(self) -> bool:
        """Whether what is white in a drawing shows white on it: inks are clear, and let the stock through."""
        return self.ground is Ground.WHITE

    @property
    def sheen(self) -> Sheen:
        """How its face shines, in a word."""
        return next(word for word, least in _SHEENS if self.gloss >= least)

    @property
    def title(self) -> str:
        """Its name at the beginning of a sentence."""
        return self.name[0].upper() + self.name[1:]


# What a clear film comes off from: until then its backing lies under it, and it looks white.
_CLEAR_ONCE = {
    StockClass.VINYL: "peeled",
    StockClass.WATER_SLIDE: "slid off its backing",
    StockClass.TRANSFER: "pressed",
}


def clear_once(stock: Stock) -> str:
    """The step after which a film that looks white on its backing is clear; empty for all other stocks."""
    clear = stock.ground in (Ground.CLEAR, Ground.TRANSLUCENT) and stock.printable
    return _CLEAR_ONCE.get(stock.stock_class, "") if clear else ""


_TABLE = table(__package__, "stocks.toml")
STARTER_STOCKS: tuple[Stock, ...] = tuple(
    row(Stock, dict(zip(_TABLE["columns"], figures, strict=True)) | _TABLE["about"][figures[0]])
    for figures in _TABLE["figures"]
)
STOCK_BY_KEY = {stock.key: stock for stock in STARTER_STOCKS}
WHITE_FACED: dict[str, str] = _TABLE["white_faced"]
"""The white-faced stock that does the same work as one that lets white vanish."""
PRINTED: dict[str, str] = _TABLE["printed"]
"""The printed stock that does the same work as one that is cut in its own colour."""
USUAL_STOCK = STOCK_BY_KEY["satin-vinyl"]

_GROUPS = table(__package__, "stock_groups.toml")["groups"]
GROUPS: tuple[str, ...] = tuple(group["name"] for group in _GROUPS)
GROUP_OF = {StockClass(kind): group["name"] for group in _GROUPS for kind in group["classes"]}
"""What is made of a class of stock."""
AFTER = {StockClass(kind): after for group in _GROUPS for kind, after in group["classes"].items()}
"""What follows after the cut."""
