"""What sheets take of ink, told from their designs, against what their pages take."""

from collections import Counter
from dataclasses import replace

import pytest

from tests.scenes import DISC, Scene, bars, item, lying, scene
from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.marks import MarksSpec
from vamper.formats.out.page_png import page_ink
from vamper.services.handoff.files import sheet_file
from vamper.services.handoff.ink import Inks

PICTURES = {1: DISC, 2: bars((60, 150, 260, 230), (240, 60, 300, 330))}
ITEMS = item(1, quantity=2, edge=EdgeSpec(distance_mm=2.0, colour="#C03040")), item(2, bleed_mm=1.0)
HERE, THERE = lying((1, 30, 30), (1, 90, 30), (2, 30, 120)), lying((1, 40, 150), (1, 100, 150), (2, 60, 40))


class Shown:
    """The pictures of a scene, and how often each was asked for."""

    def __init__(self) -> None:
        self.asked = Counter[int]()

    def __call__(self, one: DesignedItem) -> Picture:
        self.asked[one.number] += 1
        return PICTURES[one.number]


def on_sheet(held: tuple, family: str = "none", stock: str = "satin-vinyl") -> Scene:
    return scene(*ITEMS, held=held, pictures=PICTURES, marks=MarksSpec(family=family), stock=stock)


@pytest.mark.parametrize("family", ["none", "frame"])
def test_a_sheet_takes_what_its_page_takes(family: str) -> None:
    plan, shown = on_sheet(HERE, family).plan(), Shown()
    told = Inks(shown).of(plan, 0)
    measured = page_ink(sheet_file(plan, 0, "print", shown), plan.job.printer.ml_per_cm2)
    for kind in ("cyan_cm2", "magenta_cm2", "yellow_cm2", "black_cm2", "ml"):
        assert getattr(told, kind) == pytest.approx(getattr(measured, kind), rel=0.02, abs=0.02)


def test_another_layout_has_no_design_measured_again() -> None:
    inks = Inks(shown := Shown())
    plan = on_sheet(HERE).plan()
    first = inks.of(plan, 0)
    moved = replace(plan, sheets=on_sheet(THERE).plan().sheets)
    assert inks.of(moved, 0) == first
    assert shown.asked == {1: 1, 2: 1}


def test_what_is_not_printed_takes_none() -> None:
    assert Inks(Shown()).of(on_sheet(HERE, stock="plain-vinyl").plan(), 0).ml == 0.0
