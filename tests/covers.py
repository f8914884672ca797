"""Covers and usual chains as tests name them."""

from dataclasses import replace
from itertools import product

from vamper.core.finishing.chain import USUAL_CHAINS, Chain, chain_of
from vamper.core.finishing.targets import TARGETS
from vamper.core.values.art import Purpose
from vamper.core.values.cutter import Feed
from vamper.core.values.finish import CoverKind, CoverSpec, CoverWhen, FinishSpec, Target

COATED = FinishSpec(cover=CoverSpec(CoverKind.COAT))
COATED_AFTER = FinishSpec(cover=CoverSpec(CoverKind.COAT, CoverWhen.AFTER_CUT))
BARE = FinishSpec(cover=CoverSpec())


def laminated(um: float = 60.0) -> FinishSpec:
    return FinishSpec(cover=CoverSpec(CoverKind.LAMINATE, um=um))


def coats(number: int, when: CoverWhen = CoverWhen.BEFORE_CUT) -> FinishSpec:
    return FinishSpec(cover=CoverSpec(CoverKind.COAT, when, coats=number))


def on(name: str, target: Target | None, by_hand: bool = False) -> Chain:
    """A usual chain on another target, cut by a machine or by hand."""
    purpose = Purpose.PLANNER if target is None else TARGETS[target].purpose
    feed = Feed.HAND if by_hand else Feed.MAT
    marks = "none" if by_hand else "own"
    return chain_of(replace(USUAL_CHAINS[name], target=target, purpose=purpose, feed=feed, marks=marks))


USUAL = {name: chain_of(facts) for name, facts in USUAL_CHAINS.items()}
# The same, coats laid after the cut as well.
USUAL_BOTH_WAYS = {
    f"{name}{' after' if after else ''}": chain_of(replace(facts, after_cut=after))
    for (name, facts), after in product(USUAL_CHAINS.items(), (False, True))
    if not after or facts.cover is CoverKind.COAT
}
