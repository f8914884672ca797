"""The chain after the print: a matrix of all stocks, routes, cuts, covers and targets, held against craft/finish.md.

What is expected is read off the words of the steps and off the job, not off the facts that the tables are asked by.
"""

import re
from collections.abc import Iterator
from dataclasses import replace
from itertools import product

import pytest

from tests.covers import BARE, COATED, COATED_AFTER, USUAL, laminated
from vamper.core.finishing.chain import Chain, ChainStage, chain_of_job
from vamper.core.finishing.chain_facts import facts_of
from vamper.core.finishing.goes_on import ApplyWay, goes_on
from vamper.core.finishing.targets import TARGETS, TargetKind
from vamper.core.finishing.work import WorkStep, dry_minutes, steps_of, work_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, Route
from vamper.core.values.finish import (
    AddedStep,
    CoverKind,
    FinishSpec,
    HeatSpec,
    LabelFigure,
    PressFilm,
    PressSpec,
    SetWay,
    Target,
    TimeFor,
)
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.core.values.lengths import in_unit
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.paper import USUAL_PAPER
from vamper.core.values.printer import Printer, PrinterKind
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY, StockClass

CUTTERS = {
    "files on a mat": Cutter(),
    "files at rollers": Cutter(feed=Feed.ROLLER),
    "program": Cutter(route=Route.PROGRAM),
    "hand": Cutter(route=Route.HAND),
}
COVERS = {"as it comes": FinishSpec(), "bare": BARE, "coat": COATED, "after": COATED_AFTER, "laminate": laminated()}
ORDER = [ChainStage.DRY, ChainStage.CUT, ChainStage.PART, ChainStage.CARRY, ChainStage.APPLY, ChainStage.SET]
NEVER_HOT = {
    Target.CANDLE, Target.WOOD, Target.HELMET, Target.BOTTLE, Target.LAPTOP, Target.JAR, Target.PARCEL,
    Target.NOTEBOOK, Target.PLANNER, Target.VEHICLE, Target.BOAT, Target.WINDOW, Target.OUTDOORS,
}  # fmt: skip


def item(number: int, cut: Cut, width: float = 40.0) -> ItemSpec:
    return ItemSpec(number=number, art="a.png", width_mm=width, cut=cut)


def jobs(stock_key: str) -> Iterator[Job]:
    """All jobs of one stock: routes, cuts, covers and targets."""
    stock = STOCK_BY_KEY[stock_key]
    cuts = ((Cut.KISS,), (Cut.THROUGH,), (Cut.KISS, Cut.THROUGH))
    for cutter, cut, cover, target in product(CUTTERS.values(), cuts, COVERS.values(), (None, *Target)):
        yield Job(
            paper=USUAL_PAPER,
            stock=stock,
            cutter=cutter,
            finish=cover,
            target=target,
            **({} if target is None else {"purpose": TARGETS[target].purpose}),
            items=tuple(item(number, one) for number, one in enumerate(cut, 1)),
        )


def words_of(chain: Chain, steps: tuple[WorkStep, ...]) -> str:
    said = [(one.step.do, one.step.check, *one.cautions) for one in steps]
    said += [(one.do, one.check) for one in chain.later]
    return in_unit(" ".join(" ".join(one) for one in said)).lower()


def place(chain: Chain, *stages: ChainStage) -> list[int]:
    return [number for number, step in enumerate(chain.every) if step.stage in stages]


def check_order(job: Job, chain: Chain) -> None:
    stages = [step.stage for step in chain.every if step.stage in ORDER]
    assert stages == sorted(stages, key=ORDER.index)
    (cut,) = place(chain, ChainStage.CUT)
    covers = place(chain, ChainStage.COVER)
    facts = chain.facts
    assert bool(covers) == (facts.cover is not CoverKind.NONE)
    if facts.cover is CoverKind.LAMINATE or (facts.coated and not facts.after_cut):
        assert max(covers) < cut
    elif facts.coated:
        assert min(covers) > max([cut, *place(chain, ChainStage.PART)] if facts.way is not ApplyWay.BAKE else [cut])
    if chain.later:
        assert place(chain, ChainStage.LATER) == list(range(len(chain.steps), len(chain.every)))
    if job.stock.printable and job.printer.kind is PrinterKind.INKJET:
        assert chain.every[0].stage is ChainStage.DRY


def check_words(job: Job, chain: Chain, said: str) -> None:
    """No word about what is not there."""
    by_hand = not job.cutter.is_machine
    kissed = not by_hand and Cut.KISS in chain.facts.cuts
    assert bool(re.search(r"\bweed", said)) == kissed, said
    if not job.stock.has_backing:
        assert "backing" not in said
    if by_hand or not job.stock.printable:
        assert not re.search(r"\bmarks?\b", said), said
    assert ("carriage" in said) == (not by_hand)
    if by_hand or job.cutter.feed is not Feed.MAT:
        assert not re.search(r"\bmat\b", said), said
    if chain.facts.mask.value == "none":
        assert "mask" not in said
    if chain.facts.set is not SetWay.OVEN and chain.facts.way is not ApplyWay.BAKE:
        assert not any("oven" in step.places for step in chain.steps)


def check_end(job: Job, chain: Chain) -> None:
    """It ends where it is meant to be, or at the cut pieces where the stock does not go there."""
    way, applied = chain.facts.way, place(chain, ChainStage.APPLY)
    if job.target is not None:
        found = goes_on(job.stock.stock_class, job.target)
        assert way is found.way
        assert (way is ApplyWay.NONE) == (not found.fits)
        assert found.fits or found.limit
    assert bool(applied) == (way not in (ApplyWay.HAND_OUT, ApplyWay.NONE))
    if job.target in NEVER_HOT:
        assert not any("oven" in step.places for step in chain.steps)
    if job.target is not None and TARGETS[job.target].kind is TargetKind.CLOTH and way is not ApplyWay.NONE:
        assert any("press" in step.places for step in chain.steps)
    assert chain.later


@pytest.mark.parametrize("stock", [stock.key for stock in STARTER_STOCKS])
def test_every_chain_is_possible_and_says_only_what_is_there(stock: str) -> None:
    seen = set[object]()
    for job in jobs(stock):
        chain = chain_of_job(job)
        if chain.facts in seen:
            continue
        seen.add(chain.facts)
        steps = steps_of(chain, work_of(job, pieces=2))
        assert all(one.step.check.strip() and one.step.do.strip() for one in steps)
        keys = [step.key for step in chain.every]
        assert len(keys) == len(set(keys))
        check_order(job, chain)
        check_words(job, chain, words_of(chain, steps))
        check_end(job, chain)
    assert len(seen) > 20


def test_the_guard_lies_over_marks_that_are_read_and_over_none_else() -> None:
    for job in jobs("satin-vinyl"):
        keys = {step.key for step in chain_of_job(job).every}
        sprayed_first = job.finish == COATED
        assert ("guard" in keys) == ("unguard" in keys) == (sprayed_first and job.cutter.is_machine)
    unmarked = Job(paper=USUAL_PAPER, stock=STOCK_BY_KEY["satin-vinyl"], finish=COATED, marks=MarksSpec(NO_MARKS))
    assert "guard" not in {step.key for step in chain_of_job(unmarked).every}


def job_of(stock: str, target: Target | None = None, **fields: object) -> Job:
    purpose = {} if target is None else {"purpose": TARGETS[target].purpose}
    return Job(paper=USUAL_PAPER, stock=STOCK_BY_KEY[stock], target=target, **purpose, **fields)  # type: ignore[arg-type]


def keys_of(job: Job) -> list[str]:
    return [step.key for step in chain_of_job(job).every]


def test_makers_evenings_line_by_line() -> None:
    """The faults that were found in makers' own evenings."""
    cut_out = (item(1, Cut.THROUGH),)
    die_cut = chain_of_job(job_of("matte-label", Target.HAND_OUT, items=cut_out))
    assert [step.do for step in die_cut.steps][-1].startswith("Bend the mat away, lift the loose pieces off")
    boat = keys_of(job_of("satin-vinyl", Target.BOAT, finish=COATED_AFTER))
    assert boat.index("cut") < boat.index("coat") < boat.index("hinge")
    candle = job_of("water-slide-white", Target.CANDLE)
    assert facts_of(candle).set is SetWay.AIR
    assert "set" not in keys_of(candle)
    assert "pat it down" in " ".join(step.do for step in chain_of_job(candle).steps)
    by_hand = job_of("matte-label", Target.HAND_OUT, cutter=CUTTERS["hand"], finish=laminated())
    assert keys_of(by_hand) == ["dry", "laminate", "cut", "week"]


def test_a_label_gives_its_time_for_a_spot_or_for_the_whole() -> None:
    def minutes(time_for: TimeFor | None, patches: int) -> int:
        press = PressSpec(time_for=time_for, seconds=180.0)
        job = job_of("light-transfer", Target.SHIRT, finish=FinishSpec(press=press))
        steps = steps_of(chain_of_job(job), work_of(job, patches=patches))
        return next(one.timed.minutes for one in steps if one.step.key == "press")

    assert minutes(TimeFor.WHOLE, 1) == minutes(TimeFor.WHOLE, 5) == minutes(None, 5) == 3
    assert minutes(TimeFor.SPOT, 5) == 15


def test_cold_peel_is_a_wait_with_hands_free_and_hot_comes_at_once() -> None:
    def steps(**press: float) -> dict[str, WorkStep]:
        job = job_of("print-flex", Target.SHIRT, finish=FinishSpec(press=PressSpec(**press)))  # type: ignore[arg-type]
        return {one.step.key: one for one in steps_of(chain_of_job(job), work_of(job))}

    cold = steps(peel_after_s=240.0)
    assert (cold["cold"].timed.minutes, cold["cold"].timed.hands_on) == (4, False)
    assert not cold["cold"].timed.needs_somebody
    # What is said of cold goes before any figure, and writes none of its own.
    said = steps(cold=True)
    assert said["cold"].timed.minutes == 2
    assert "cold" not in steps(cold=False, peel_after_s=180.0)
    # A label that says half a minute is no "within 15 seconds".
    assert steps(peel_after_s=30.0)["cold"].timed.minutes == 1
    hot = steps(peel_after_s=15.0)
    assert "cold" not in hot
    assert hot["peel"].timed.wait_most == 0
    film = job_of("print-flex", Target.SHIRT)
    own = replace(film.stock, key="own", press=PressFilm(cold_peel=True, presses=2))
    keys = [step.key for step in chain_of_job(job_of("print-flex", Target.SHIRT)).every]
    assert "second" not in keys
    assert {"cold", "second"} <= set(
        keys_of(Job(paper=USUAL_PAPER, stock=own, target=Target.SHIRT, purpose=TARGETS[Target.SHIRT].purpose))
    )


def test_an_iron_is_heated_empty_first_and_a_press_is_not() -> None:
    for iron in (True, False):
        heat = HeatSpec(iron=iron, width_mm=120, height_mm=200)
        job = job_of("light-transfer", Target.SHIRT, finish=FinishSpec(heat=heat))
        keys = keys_of(job)
        assert ("heat-up" in keys) == iron
        if iron:
            assert keys.index("heat-up") < keys.index("warm")


def test_how_long_it_dries_is_one_figure_the_labels_first() -> None:
    vinyl = job_of("satin-vinyl")
    assert dry_minutes(chain_of_job(vinyl), work_of(vinyl)) == 15
    for said, kept, wanted in ((40.0, 0.0, 40), (40.0, 90.0, 90), (0.0, 0.0, 0)):
        figures = (LabelFigure("dry_minutes", said),)
        record = (LabelFigure("dry_minutes", kept),) if kept else ()
        job = job_of("satin-vinyl", finish=FinishSpec(label=figures, record=record))
        chain, work = chain_of_job(job), work_of(job)
        assert dry_minutes(chain, work) == wanted
        assert any(one.step.key == "dry" for one in steps_of(chain, work)) == (wanted > 0)
    for quick in (
        job_of("plain-vinyl"),
        job_of("colour-flex"),
        job_of("matte-label", printer=Printer(PrinterKind.LASER)),
    ):
        assert dry_minutes(chain_of_job(quick), work_of(quick)) == 0


def test_the_base_coat_is_read_before_it_is_laid() -> None:
    chain = USUAL["water-slide-sealed"]
    keys = [step.key for step in chain.steps]
    base = chain.steps[keys.index("base")]
    assert base.label == ("base_minutes",)
    assert keys.index("base") < keys.index("base-cure") < keys.index("sand") < keys.index("place") < keys.index("top")


def test_a_decal_rests_three_hours_at_least_and_is_soaked_body_warm() -> None:
    for target in (Target.MUG, Target.CANDLE, Target.BOTTLE, Target.WOOD):
        job = job_of("water-slide-clear", target)
        steps = {one.step.key: one for one in steps_of(chain_of_job(job), work_of(job))}
        assert steps["rest"].least >= 180
        assert "35 °C to 40 °C" in in_unit(steps["soak"].step.check)
        assert "sticky is not wet" in steps["rest"].step.check


def test_steps_of_ones_own_stand_anywhere() -> None:
    added = (AddedStep("ink the rims", 5), AddedStep("white pen", 4, "cut"), AddedStep("pack it", 3, "nowhere"))
    job = job_of("matte-label", Target.HAND_OUT, finish=FinishSpec(added=added))
    done = [one.step.do for one in steps_of(chain_of_job(job), work_of(job))]
    assert done[0] == "ink the rims"
    assert done[-1] == "pack it"
    assert done.index("white pen") == done.index("Cut the face") + 1


def test_a_stock_that_a_target_is_made_for_is_never_limited_and_nothing_burns() -> None:
    for kind, target in product(StockClass, Target):
        found = goes_on(kind, target)
        assert found.fits or found.limit
    assert not goes_on(StockClass.LABEL, Target.CANDLE).fits
    assert not goes_on(StockClass.VINYL, Target.CANDLE).fits
    assert goes_on(StockClass.WATER_SLIDE, Target.MUG).usual
    assert goes_on(StockClass.VINYL, Target.MUG).limit
