"""The facts that the chain after the print is composed from.

A job says what it is made of and for; what it leaves open follows here: the coat that a film needs of itself, the mask
for what must keep its places, how a decal is set on what it goes on. Each fact is one code of a name, and the rows of
the stages say by these codes when they are done. Source: craft/finish.md, "One chain, composed from what the job is".
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, ClassVar

from vamper.core.effective_job import effective_cut
from vamper.core.finishing.cloth_fit import film_of
from vamper.core.finishing.dangers import Circumstances, Trait
from vamper.core.finishing.goes_on import ApplyWay, way_of
from vamper.core.finishing.targets import KIND_OF_PURPOSE, TARGETS, TargetKind
from vamper.core.values.art import Purpose
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Feed
from vamper.core.values.finish import CoverKind, CoverSpec, CoverWhen, SetWay, Target, TransferMask
from vamper.core.values.job import Job
from vamper.core.values.limits import STRICT
from vamper.core.values.marks import NO_MARKS
from vamper.core.values.printer import PrinterKind
from vamper.core.values.stock import Stock, StockClass

# A printed decal larger than a hand travels under a mask.
HAND_MM = 180.0
# Peeled later than this it is not hot any more: a wait of its own.
_HOT_S = 15.0
_COAT, _BARE = CoverSpec(CoverKind.COAT), CoverSpec()
_MASKED = {ApplyWay.STICK, ApplyWay.HINGE, ApplyWay.HAND_OUT, ApplyWay.PRESS}


@dataclass(frozen=True, slots=True)
class ChainFacts:
    """What decides the chain of steps after the print.

    Parameters
    ----------
    stock, printed, toner, mirrored, backing : StockClass, bool, bool, bool, bool
        The material, whether it is printed at all, by a laser, in mirror image, and whether it has a backing.
    cover, after_cut : CoverKind, bool
        What lies over the print, and whether it is laid after the cut.
    cuts, feed, marks : tuple of Cut, Feed, str
        How it is cut, by what, and by whose marks: the job's own, the program's, or none.
    mask, purpose, target, way : TransferMask, Purpose, Target or None, ApplyWay
        What carries the pieces, what they must stand, what they go on, and how they get there.
    set : SetWay or None
        How a water-slide decal is set.
    layered, keyed, pairs : bool
        Colours that lie on each other, those that keys bring into register, and fronts with backs.
    iron, cold, twice : bool
        Pressed with an iron, peeled cold, pressed twice.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: StockClass
    printed: bool = True
    toner: bool = False
    mirrored: bool = False
    backing: bool = True
    cover: CoverKind = CoverKind.NONE
    after_cut: bool = False
    cuts: tuple[Cut, ...] = (Cut.KISS,)
    feed: Feed = Feed.MAT
    marks: str = "own"
    mask: TransferMask = TransferMask.NONE
    purpose: Purpose = Purpose.PLANNER
    target: Target | None = None
    way: ApplyWay = ApplyWay.HAND_OUT
    set: SetWay | None = None
    layered: bool = False
    keyed: bool = False
    pairs: bool = False
    iron: bool = False
    cold: bool = False
    twice: bool = False

    @property
    def by_hand(self) -> bool:
        return self.feed is Feed.HAND

    @property
    def where(self) -> Circumstances:
        """The traits of the target that matter where something can hurt."""
        return Circumstances(self.stock, self.purpose, self.target, self.by_hand)

    @property
    def coated(self) -> bool:
        return self.cover is CoverKind.COAT

    @property
    def key(self) -> str:
        """A short name of the way it is finished, the same for all that is finished so."""
        cover = _cover(self)
        parts = (self.way.value, "" if cover == "none" else cover, "" if self.set is None else self.set.value)
        return " ".join(part for part in parts if part)

    def codes(self) -> dict[str, frozenset[str]]:
        """The codes of every fact, by its name in the tables of the stages."""
        return {name: frozenset(_listed(say(self))) for name, say in _CODES.items()}


def _listed(said: str | tuple[str, ...]) -> tuple[str, ...]:
    return (said,) if isinstance(said, str) else said


def _yes(told: bool) -> str:
    return "yes" if told else "no"


def _cover(facts: ChainFacts) -> str:
    if facts.cover is CoverKind.COAT:
        return "coat-after" if facts.after_cut else "coat-before"
    return facts.cover.value


def _ink(facts: ChainFacts) -> str:
    if not facts.printed:
        return "none"
    return "toner" if facts.toner else "wet"


def _of_target(facts: ChainFacts, what: str) -> bool:
    return facts.target is not None and bool(getattr(TARGETS[facts.target], what))


def _outdoors(facts: ChainFacts) -> bool:
    if facts.target is not None:
        return TARGETS[facts.target].outdoors
    return KIND_OF_PURPOSE[facts.purpose] is TargetKind.PLACE and facts.way is ApplyWay.HINGE


_CODES: Mapping[str, Callable[[ChainFacts], str | tuple[str, ...]]] = {
    "stock": lambda facts: facts.stock.value,
    "ink": _ink,
    "printed": lambda facts: _yes(facts.printed),
    "mirrored": lambda facts: _yes(facts.mirrored),
    "backing": lambda facts: _yes(facts.backing),
    "cover": _cover,
    "cut": lambda facts: tuple(cut.value for cut in facts.cuts),
    "cut-too": lambda facts: tuple(cut.value for cut in facts.cuts[1:]),
    "by": lambda facts: "hand" if facts.by_hand else "machine",
    "feed": lambda facts: facts.feed.value,
    "marks": lambda facts: facts.marks,
    "mask": lambda facts: facts.mask.value,
    "way": lambda facts: facts.way.value,
    "set": lambda facts: "none" if facts.set is None else facts.set.value,
    "target": lambda facts: "none" if facts.target is None else facts.target.value,
    "curved": lambda facts: _yes(_of_target(facts, "curved")),
    "clean": lambda facts: _yes(facts.target is None or _of_target(facts, "clean")),
    "outdoors": lambda facts: _yes(_outdoors(facts)),
    "rim": lambda facts: _yes(facts.where.have(Trait.DRUNK_FROM)),
    "layers": lambda facts: "several" if facts.layered else "one",
    "keys": lambda facts: _yes(facts.layered and facts.keyed),
    "sides": lambda facts: "two" if facts.pairs else "one",
    "heat": lambda facts: "iron" if facts.iron else "press",
    "peel": lambda facts: "cold" if facts.cold else "hot",
    "presses": lambda facts: "two" if facts.twice else "one",
}
FACT_NAMES = frozenset(_CODES)


def facts_of(job: Job) -> ChainFacts:
    """The facts that decide the chain of a job, as it was asked for."""
    stock, finish = job.stock, job.finish
    way = way_of(stock.stock_class, job.purpose, job.target)
    cover = cover_of(job)
    found = {effective_cut(stock, item.cut) for item in job.items} or {effective_cut(stock, stock.starts)}
    layered = len({item.sheet_colour for item in job.items}) > 1
    label = {one.key: one.value for one in finish.label}
    film = film_of(stock)
    peel_s = finish.press.peel_after_s if finish.press.peel_after_s is not None else label.get("peel")
    return ChainFacts(
        stock=stock.stock_class,
        printed=stock.printable,
        toner=job.printer.kind is PrinterKind.LASER,
        mirrored=stock.mirrored,
        backing=stock.has_backing,
        cover=cover.kind,
        # What shrinks is coated when it is small; what lies loose is coated by itself.
        after_cut=cover.kind is CoverKind.COAT and (cover.when is CoverWhen.AFTER_CUT or way is ApplyWay.BAKE),
        cuts=tuple(cut for cut in Cut if cut in found),
        feed=job.cutter.feed if job.cutter.is_machine else Feed.HAND,
        marks=_marks(job),
        mask=_mask(job, way, layered),
        purpose=job.purpose,
        target=job.target,
        way=way,
        set=set_of(job, way),
        layered=layered and stock.stock_class in (StockClass.VINYL, StockClass.FLEX),
        keyed=any(item.keyed for item in job.items),
        pairs=any(item.back_of is not None for item in job.items) or any(len(one.items) > 1 for one in job.products),
        iron=way is ApplyWay.PRESS and finish.heat.iron,
        cold=_is_cold(finish.press.cold, peel_s, film.cold_peel),
        twice=film.presses > 1 or finish.press.twice or finish.press.second_s is not None,
    )


def _is_cold(said: bool | None, peel_s: float | None, usual: bool) -> bool:
    """Whether the carrier is peeled cold: as was said, else by its label's time, else as this film usually is."""
    if said is not None:
        return said
    return usual if peel_s is None else peel_s > _HOT_S


def carries(kind: StockClass, way: ApplyWay) -> bool:
    """Whether a mask can carry pieces of a class of stock that come onto something this way."""
    return way in _MASKED and not (way is ApplyWay.PRESS and kind is StockClass.TRANSFER)


def is_coverable(kind: StockClass) -> bool:
    """Whether anything can lie over its print: what is pressed with heat goes on bare."""
    return kind not in (StockClass.TRANSFER, StockClass.FLEX, StockClass.DYE)


def usual_cover(stock: Stock) -> CoverSpec:
    """The cover of a print where nothing was decided: the coat that a film over water needs, else none."""
    return _COAT if stock.stock_class is StockClass.WATER_SLIDE and stock.printable else _BARE


def cover_of(job: Job) -> CoverSpec:
    """The cover of the print of a job."""
    cover = job.finish.cover or usual_cover(job.stock)
    return _BARE if cover.kind is CoverKind.COAT and cover.coats == 0 else cover


def set_of(job: Job, way: ApplyWay) -> SetWay | None:
    """How a water-slide decal is set: as was decided, else as is usual for what it goes on; None for all else."""
    if way is not ApplyWay.SLIDE:
        return None
    if job.finish.set is not None:
        return job.finish.set
    if job.target is not None:
        return TARGETS[job.target].set[0]
    # Of its purpose alone nobody knows whether it stands an oven.
    return SetWay.AIR


def _marks(job: Job) -> str:
    if not (job.cutter.is_machine and job.stock.printable):
        return "none"
    if job.cutter.has_own_program:
        return "program"
    return "none" if job.marks.family == NO_MARKS else "own"


def _mask(job: Job, way: ApplyWay, layered: bool) -> TransferMask:
    """The mask that carries the pieces: for coloured vinyl and layers; for a print only where it is larger than a hand,
    or where heat film is kissed.
    """
    if not carries(job.stock.stock_class, way):
        return TransferMask.NONE
    if job.finish.mask is not None:
        return job.finish.mask
    stock = job.stock
    if stock.stock_class is StockClass.VINYL and (not stock.printable or layered):
        return TransferMask.PAPER
    if stock.stock_class is StockClass.FLEX and stock.printable:
        return TransferMask.CLEAR
    large = any(item.size.wanted_mm >= HAND_MM for item in job.items)
    return TransferMask.CLEAR if way is ApplyWay.HINGE and large and stock.printable else TransferMask.NONE
