"""A stock of one's own that nobody has cut yet: its setting from the nearest starters, and said so.

Nearest are stocks of its class whose faces are as thick, by the ratio of their thicknesses; each counts by how near it
is. Thickness comes from a caliper, or from the weight: paper is about 1.25 µm thick for every g/m².
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from vamper.core.values.findings import BadInput
from vamper.core.values.stock import STARTER_STOCKS, Stock, StockClass
from vamper.core.values.tables import table

UM_PER_GRAM = 1.25
_NEIGHBOURS = 2
# ln ratios of thickness that count as hardly apart.
_NEAR = 0.05
_TABLE = table(__package__, "paper_bases.toml")


@dataclass(frozen=True, slots=True)
class Basis:
    """A basis by which paper is sold in pounds: g/m² for each pound of it."""

    key: str
    name: str
    grams_per_lb: float


BASES = {one["key"]: Basis(one["key"], one["name"], one["grams_per_lb"]) for one in _TABLE["bases"]}


def grams_of(pounds: float, basis: str) -> float:
    """The weight in g/m² of paper that is sold by pounds of a basis.

    Raises
    ------
    BadInput
        For a basis that is unknown.
    """
    if basis not in BASES:
        raise BadInput(f"there is no such basis; known are {', '.join(BASES)}", "basis")
    return pounds * BASES[basis].grams_per_lb


def micrometres_of(grams_m2: float) -> float:
    """About how thick paper of a weight is."""
    return UM_PER_GRAM * grams_m2


def from_neighbours(
    key: str,
    name: str,
    stock_class: StockClass,
    face_um: float,
    backing_um: float | None = None,
    stocks: Sequence[Stock] = STARTER_STOCKS,
) -> Stock:
    """A new stock with everything else from its nearest neighbours; `like` says which.

    Raises
    ------
    BadInput
        If it has no face.
    """
    if face_um <= 0:
        raise BadInput("a stock needs a face: type how thick it is, without its backing", "face_um")
    alike = [one for one in stocks if one.stock_class is stock_class]
    near = sorted(alike, key=lambda one: _apart(one, face_um))[:_NEIGHBOURS]
    weights = [1 / (_NEAR + _apart(one, face_um)) for one in near]
    total = sum(weights)

    def mean(field: Callable[[Stock], float]) -> float:
        return round(sum(field(one) * weight for one, weight in zip(near, weights, strict=True)) / total, 3)

    # Machines are set in steps of five.
    speed = 5.0 * round(mean(lambda one: one.speed_mm_s) / 5)
    backing = near[0].backing_um if backing_um is None else backing_um
    return replace(
        near[0],
        key=key,
        name=name,
        face_um=face_um,
        backing_um=backing,
        use="",
        grams_m2=None,
        like=" and ".join(one.name for one in near),
        speed_mm_s=speed,
        hardness_gf_per_um=mean(lambda one: one.hardness_gf_per_um),
        least_neck_mm=mean(lambda one: one.least_neck_mm),
        abrasion=mean(lambda one: one.abrasion),
        tuft=mean(lambda one: one.tuft),
    )


def _apart(stock: Stock, face_um: float) -> float:
    return abs(math.log(stock.face_um / face_um))
