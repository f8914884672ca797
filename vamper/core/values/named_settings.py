"""A machine's named settings: the steps of its dial or menu in the maker's own words, from the gentlest to the hardest.

The list starts empty. What a step did on a stock is a reading of that step's force.
"""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Len

from vamper.core.values.blade import Blade, WornMetres
from vamper.core.values.cut import Cut
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Outcome, Passes

SettingName = Annotated[str, Len(1, 80), ONE_LINE]
MOST_STEPS = 40
MOST_SEEN = 200


@dataclass(frozen=True, slots=True)
class SettingSeen:
    """What a step did: on which stock, how that was cut, what it looked like, with which blade and how worn that was
    (metres times abrasion). What is told in order is kept in order.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: Stock
    cut: Cut
    outcome: Outcome
    passes: Passes = 1
    metres: WornMetres = 0.0
    blade: Blade = Blade.GENERAL


@dataclass(frozen=True, slots=True)
class NamedSetting:
    """One step. `notches` says that it can be set a notch less or more."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: SettingName
    notches: bool = False
    seen: Annotated[tuple[SettingSeen, ...], Len(0, MOST_SEEN)] = ()


NamedSettings = Annotated[tuple[NamedSetting, ...], Len(0, MOST_STEPS)]
