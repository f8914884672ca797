"""What sheets take of ink, told from their designs, against what their pages take."""

from collections import Counter

import pytest

from tests.scenes import DISC, Scene, bars, item, lying, scene
from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.plan import Plan
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
    first = inks.of(on_sheet(HERE).plan(), 0)
    assert inks.of(on_sheet(THERE).plan(), 0) == first
    assert shown.asked == {1: 1, 2: 1}


def test_a_back_takes_more_when_its_front_grows() -> None:
    def with_border(width: float) -> Plan:
        front = item(1, edge=EdgeSpec(distance_mm=width))
        back = item(2, edge=EdgeSpec(distance_mm=2.0, colour="#C03040"), back_of=1)
        return scene(front, back, pictures=PICTURES).plan()

    inks = Inks(Shown())
    narrow, wide = (inks.of(with_border(width), 0) for width in (2.0, 6.0))
    assert wide.magenta_cm2 > narrow.magenta_cm2 + 1


def test_what_is_not_printed_takes_none() -> None:
    assert Inks(Shown()).of(on_sheet(HERE, stock="plain-vinyl").plan(), 0).ml == 0.0
