"""What can hurt someone after the print, as `dangers.toml` tells it: one table, whatever process a step stands in.

A danger hangs on what is done, on what it is done, and to what; a step only says what it does. So the way a job is
finished can change, and whoever sprays is still told to mind the fumes, and whoever sticks something on a bottle to
keep it away from the rim.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, ClassVar

from vamper.core.finishing.targets import TARGETS
from vamper.core.values.art import Purpose
from vamper.core.values.finish import Target
from vamper.core.values.lengths import mm
from vamper.core.values.limits import STRICT
from vamper.core.values.stock import StockClass
from vamper.core.values.tables import table

_TABLE = table(__package__, "dangers.toml")
MOST_CAUTIONS = 3
# What stays free below a rim that people drink from.
RIM_MM: float = _TABLE["limits"]["rim_mm"]


class Act(StrEnum):
    """An act in a step that can hurt: `hot` handles what was heated, `snip` cuts apart by hand what a machine has cut,
    `place` brings a piece to where it stays,
    `hand-out` is the last thing done, whatever it is.
    """

    CUT = "cut"
    SNIP = "snip"
    WEED = "weed"
    SPRAY = "spray"
    SAND = "sand"
    CLEAN = "clean"
    OVEN = "oven"
    PRESS = "press"
    HOT = "hot"
    PLACE = "place"
    HAND_OUT = "hand-out"


# While these go on somebody is there.
HEATS = frozenset({Act.OVEN, Act.PRESS})


class Trait(StrEnum):
    """A trait that matters of the thing that pieces go on."""

    DRUNK_FROM = "drunk-from"
    DRIVEN = "driven"
    LOOSE = "loose"
    """Pieces that people are handed, and children find."""
    BURNS = "burns"
    WORN = "worn"
    """What keeps a head whole."""
    FOOD = "food"


@dataclass(frozen=True, slots=True)
class Danger:
    """One danger, and where it arises; None where a condition does not matter.

    Parameters
    ----------
    key, caution : str
        Its code, and the sentence that is shown.
    does : frozenset of Act
        The acts that bring it on.
    on : Trait or None
        What the act is done to.
    of : frozenset of StockClass or None
        The kinds of stock that it concerns.
    by_hand : bool or None
        Whether the job is cut by hand, with scissors or a knife.
    """

    key: str
    caution: str
    does: frozenset[Act]
    on: Trait | None
    of: frozenset[StockClass] | None
    by_hand: bool | None


@dataclass(frozen=True, slots=True)
class Circumstances:
    """The material and target of a job, and its tools: scissors or a knife in place of a machine, if `by_hand`."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock_class: StockClass | None = None
    purpose: Purpose | None = None
    target: Target | None = None
    by_hand: bool = False

    def have(self, trait: Trait) -> bool:
        """Whether what pieces go on has a trait; its purpose tells where no target is named."""
        if self.target is not None:
            return trait.value in TARGETS[self.target].traits
        return self.purpose is not None and self.purpose.value in _TABLE["traits"][trait.value]


def _danger(key: str, data: dict[str, Any]) -> Danger:
    return Danger(
        key=key,
        caution=data["caution"].format(**{name: mm(limit) for name, limit in _TABLE["limits"].items()}),
        does=frozenset(Act(one) for one in data["does"]),
        on=Trait(data["on"][0]) if "on" in data else None,
        of=frozenset(StockClass(one) for one in data["of"]) if "of" in data else None,
        by_hand=data["by"] == "hand" if "by" in data else None,
    )


DANGERS: tuple[Danger, ...] = tuple(_danger(key, data) for key, data in _TABLE["dangers"].items())


def dangers_of(acts: Iterable[Act], where: Circumstances) -> tuple[Danger, ...]:
    """The dangers of what is done, the worst first."""
    done = frozenset(acts)
    return tuple(
        one
        for one in DANGERS
        if one.does & done
        and (one.on is None or where.have(one.on))
        and (one.of is None or where.stock_class in one.of)
        and (one.by_hand is None or one.by_hand is where.by_hand)
    )


def range_of(figure: str, stock: StockClass | None) -> tuple[float, float]:
    """Between which values a label can say a figure, for a class of stock; None is any."""
    ranges = _TABLE["ranges"][figure]
    least, most = ranges.get("" if stock is None else stock.value, ranges[""])
    return float(least), float(most)
