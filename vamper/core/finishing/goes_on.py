"""What a stock goes on, and how it comes onto it, as `goes_on.toml` tells it.

A target that a stock is made for comes first, what works though it is unusual has its limit in a sentence, and nothing
is ever proposed that its target cannot stand.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from vamper.core.finishing.targets import KIND_OF_PURPOSE, TARGETS, TargetKind
from vamper.core.values.art import Purpose
from vamper.core.values.finish import SetWay, Target
from vamper.core.values.stock import StockClass
from vamper.core.values.tables import table

_TABLE = table(__package__, "goes_on.toml")


class ApplyWay(StrEnum):
    """How pieces come onto what they go on; `none` where they cannot."""

    HAND_OUT = "hand-out"
    STICK = "stick"
    HINGE = "hinge"
    SLIDE = "slide"
    PRESS = "press"
    TAPE = "tape"
    BAKE = "bake"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class GoesOn:
    """Whether a stock goes on a target: its way, and the limit of it in a sentence, or why it must not."""

    way: ApplyWay
    limit: str = ""

    @property
    def fits(self) -> bool:
        return self.way is not ApplyWay.NONE

    @property
    def usual(self) -> bool:
        """Whether the stock is made for it."""
        return self.fits and not self.limit


@dataclass(frozen=True, slots=True)
class _Ways:
    alone: ApplyWay
    ways: Mapping[TargetKind, ApplyWay]
    also: Mapping[Target, ApplyWay] = field(default_factory=dict)
    limits: Mapping[Target, str] = field(default_factory=dict)
    never: Mapping[Target, str] = field(default_factory=dict)


_WAYS = {
    StockClass(kind): _Ways(
        ApplyWay(data["alone"]),
        {TargetKind(one): ApplyWay(way) for one, way in data["ways"].items()},
        {Target(one): ApplyWay(way) for one, way in data.get("also", {}).items()},
        {Target(one): words for one, words in data.get("limits", {}).items()},
        {Target(one): words for one, words in data.get("never", {}).items()},
    )
    for kind, data in _TABLE["stocks"].items()
}


SET_WORDS: dict[SetWay, str] = {way: _TABLE["set_words"][way] for way in SetWay}


def goes_on(kind: StockClass, target: Target) -> GoesOn:
    """How a class of stock comes onto a target, or why it does not."""
    ways = _WAYS[kind]
    if target in ways.never:
        return GoesOn(ApplyWay.NONE, ways.never[target])
    way = ways.also.get(target) or ways.ways.get(TARGETS[target].kind)
    if target is Target.ANYTHING:
        way = ways.alone
    if way is None:
        return GoesOn(ApplyWay.NONE, f"This is not made for {TARGETS[target].words}.")
    return GoesOn(way, ways.limits.get(target, ""))


def way_of(kind: StockClass, purpose: Purpose, target: Target | None) -> ApplyWay:
    """How pieces come onto what they go on; where only a purpose is known, as is usual for that."""
    if target is not None:
        return goes_on(kind, target).way
    ways = _WAYS[kind]
    return ways.ways.get(KIND_OF_PURPOSE[purpose], ways.alone)


def way_words(way: ApplyWay, set_by: SetWay | None = None) -> str:
    """The way to bring pieces to their place, in a few words."""
    said: str = _TABLE["words"][way]
    return said if set_by is None else f"{said}, {SET_WORDS[set_by]}"


def name_of(kind: StockClass, way: ApplyWay) -> str:
    """The name of the work at the head of its chain."""
    names: dict[str, str] = _TABLE["names"][way]
    return names.get(kind.value, names.get("", "Cut pieces"))
