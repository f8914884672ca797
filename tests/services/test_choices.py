"""Every choice of a phrase, held against the job: what is taken is what is chosen then, and nothing else is."""

from collections.abc import Iterator
from dataclasses import replace

import pytest

from tests.conftest import disc_png
from vamper.core.ledger.supply import Offcut
from vamper.core.values.finish import CoverKind, Target
from vamper.core.values.paper import PAPER_BY_KEY, Paper
from vamper.services.brief.brief import brief
from vamper.services.brief.phrase import PHRASES, Choice
from vamper.services.workshop import Workshop

WITH_CHOICES = ("cover", "cutter", "packing", "paper", "printer", "purpose", "stock")
# The list of stocks is long and worked out from all of them; some stand for all.
SOME = {"stock": ("matte-label", "clear-vinyl", "water-slide-clear", "card")}


@pytest.fixture
def job(workshop: Workshop) -> int:
    number = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "disc", 40, {"fill_holes": True})
    printer, cutter = workshop.shop.printers.get(1).value, workshop.shop.cutters.get(1).value
    workshop.shop.printers.keep("another printer", printer)
    workshop.shop.cutters.keep("another cutter", cutter)
    stock = workshop.jobs.get(number).document.stock
    for name, height in (("half of a sheet", 148.0), ("a strip", 90.0)):
        workshop.supplies.keep_offcut(Offcut(stock, Paper(210.0, height), name))
    return number


def choices(workshop: Workshop, job: int, key: str) -> list[Choice]:
    return workshop.briefing.choices(workshop.jobs.get(job), key)


def taken(workshop: Workshop, job: int, key: str) -> Iterator[str]:
    """Takes each choice of a phrase in turn; the label of each."""
    for choice in choices(workshop, job, key):
        if key not in SOME or choice.changes["stock"] in SOME[key]:
            workshop.jobs.change(job, "as asked", dict(choice.changes))
            yield choice.label


@pytest.mark.parametrize("key", WITH_CHOICES)
def test_what_is_taken_is_chosen_and_nothing_else(workshop: Workshop, job: int, key: str) -> None:
    for label in taken(workshop, job, key):
        assert [one.label for one in choices(workshop, job, key) if one.chosen] == [label]


def test_most_phrases_have_choices(workshop: Workshop, job: int) -> None:
    listed = {kind.key for kind in PHRASES if choices(workshop, job, kind.key)}
    assert listed == set(WITH_CHOICES)


def test_what_is_taken_is_what_the_brief_says(workshop: Workshop, job: int) -> None:
    for key in ("printer", "cutter", "stock"):
        for label in taken(workshop, job, key):
            said = "".join(one.text for one in brief(workshop.briefing.facts(workshop.jobs.get(job))))
            assert key == "printer" or label in said


def test_offcuts_come_first_under_a_heading_of_their_own(workshop: Workshop, job: int) -> None:
    papers = choices(workshop, job, "paper")
    headings = [one.group for one in papers]
    assert headings[:2] == ["Offcuts of this stock"] * 2
    assert set(headings[2:]) == {"Whole sheets"}
    workshop.jobs.change(job, "stock", {"stock": "card"})
    assert {one.group for one in choices(workshop, job, "paper")} == {""}


def test_a_used_sheet_is_chosen_as_the_offcut_and_not_as_the_size_it_was(workshop: Workshop, job: int) -> None:
    stock = workshop.jobs.get(job).document.stock
    a4 = PAPER_BY_KEY["a4"]
    workshop.supplies.keep_offcut(Offcut(stock, replace(a4, gone=((0, 0, 100, 0, 100, 80, 0, 80),)), "begun"))
    begun = next(one for one in choices(workshop, job, "paper") if one.label == "begun")
    workshop.jobs.change(job, "paper", dict(begun.changes))
    assert [one.label for one in choices(workshop, job, "paper") if one.chosen] == ["begun"]


@pytest.mark.parametrize(
    ("stock", "target", "proposed"),
    [
        ("satin-vinyl", Target.HAND_OUT, []),
        ("satin-vinyl", Target.BOAT, [CoverKind.LAMINATE]),
        ("water-slide-clear", Target.CERAMIC, [CoverKind.COAT]),
        ("plain-vinyl", Target.BOAT, []),
    ],
)
def test_a_cover_is_proposed_where_one_is_needed(
    workshop: Workshop, job: int, stock: str, target: Target, proposed: list[CoverKind]
) -> None:
    workshop.jobs.change(job, "stock", {"stock": stock, "target": target.value})
    found = [one for one in choices(workshop, job, "cover") if one.proposed]
    assert [CoverKind(one.changes["finish.cover"]["kind"]) for one in found] == proposed
    assert all(one.changes["finish.cover"]["when"] == "before-cut" for one in found)


@pytest.mark.parametrize(
    ("before", "after", "bare", "asks"),
    [
        # Printed to printed, and cut only to cut only: nothing changes.
        ("satin-vinyl", "matte-label", False, 0),
        ("satin-vinyl", "plain-vinyl", False, 1),
        # They have no border already.
        ("satin-vinyl", "plain-vinyl", True, 0),
        ("plain-vinyl", "satin-vinyl", True, 1),
        ("plain-vinyl", "satin-vinyl", False, 0),
        ("satin-vinyl", "card", False, 1),
    ],
)
def test_a_stock_asks_of_the_edges_where_printing_comes_or_goes(
    workshop: Workshop, job: int, before: str, after: str, bare: bool, asks: int
) -> None:
    edge = {"edge.kind": "bare", "edge.distance_mm": 0.0} if bare else {"edge.kind": "follow", "edge.distance_mm": 3.0}
    workshop.jobs.change(job, "stock", {"stock": before})
    workshop.jobs.change_items(job, "edge", (1,), edge)
    choice = next(one for one in choices(workshop, job, "stock") if one.changes["stock"] == after)
    assert (choice.question is not None) == bool(asks)
    if choice.question is not None:
        # What stays as it is sets no field, and what is proposed does, but for card, whose answers say what it is for.
        proposed, other = choice.question.answers
        assert bool(proposed.each) is (after != "card")
        assert bool(other.each) is (after == "card")
