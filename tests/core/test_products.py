"""Products: counted once, priced once, of two prints with one blank, pressed a side at a time."""

import json

import pytest

from tests.scenes import item, scene
from vamper.core.ledger.cost import CostPart, MadeCounts, Rates, WorkTimes, costs_of
from vamper.core.ledger.product_cost import product_costs
from vamper.core.ledger.run import Took
from vamper.core.values.findings import BadInput
from vamper.core.values.product import ProductPart, ProductSpec, products_of
from vamper.formats.chain_file import steps_document
from vamper.formats.job_file import job_document, read_job
from vamper.services.finish.finishing import finishing_of
from vamper.services.jobs.document import JobDocument

PENDANT = ProductSpec("pendant", (1, 2), 6, "disc", 0.8, (ProductPart("cord", 0.3, 2), ProductPart("ring", 0.1)))


def test_a_product_costs_its_prints_one_blank_and_its_parts() -> None:
    rates = Rates(hour=12.0, ink_ml=0.5, blank=5.0, margin=0.4)
    work = WorkTimes((MadeCounts(1, 6, 900.0), MadeCounts(2, 6, 900.0)), 1, 2.4, Took(ink_ml=2.4, blanks=6), 60.0, 0.8)
    found = costs_of(work, rates)
    (cost,) = product_costs((PENDANT,), found, rates, work.good)
    # Stock and ink of two prints by hand: 2.4 + 1.2 over twelve prints, two of them, of which 8 in 10 come out well.
    assert cost.material == pytest.approx(3.6 / 12 * 2 / 0.8 + 0.8 + 0.7)
    assert cost.total == pytest.approx(cost.material + 12.0 / 12 * 2 / 0.8)
    assert cost.by_margin == pytest.approx(cost.total / 0.6)
    # The workshop's usual blank is not paid for beside the product's own.
    assert any(part is CostPart.BLANK for part, _ in found.pieces[0].parts)
    assert product_costs((ProductSpec("gone", (9,)),), found, rates, 1.0) == ()


def test_products_are_counted_once_and_single_pieces_as_they_are() -> None:
    assert products_of((PENDANT,), {1: 6, 2: 6, 3: 4}) == 10
    assert products_of((), {1: 6, 2: 6}) == 12


def test_each_print_of_a_blank_is_pressed_by_itself() -> None:
    def presses(*products: ProductSpec) -> int:
        made = scene(item(1, quantity=6), item(2, quantity=6), stock="dye-paper", products=products).plan()
        found = finishing_of(made)
        assert found is not None
        return sum(one.step.key == "press" for one in found.steps)

    assert presses() == 2
    assert presses(ProductSpec("coaster", (1, 2), 6)) == 2
    odd = scene(item(1, quantity=9), item(2, quantity=3), stock="dye-paper").plan()
    assert finishing_of(odd) is not None


def test_a_print_is_made_as_often_as_its_product() -> None:
    document = JobDocument(printer_id=1, cutter_id=1, items=(item(1, quantity=2), item(2, quantity=5)))
    made = document.changed({"products": [{"name": "pendant", "items": [1, 2], "quantity": 4}]}).consistent()
    assert [one.quantity for one in made.items] == [4, 4]
    more = made.items_changed((2,), {"quantity": 7}).consistent()
    assert ([one.quantity for one in more.items], more.products[0].quantity) == ([7, 7], 7)
    left = more.with_items(more.items[:1]).consistent()
    assert left.products[0].items == (1,)
    assert left.with_items(()).consistent().products == ()


BASE = {
    "format": "vamper-job",
    "version": 1,
    "paper": "letter",
    "stock": "dye-paper",
    "items": [{"art": "a.png", "width_mm": 30}, {"art": "b.png", "width_mm": 30}, {"art": "c.png", "width_mm": 20}],
}


def test_a_job_file_names_its_products_by_the_places_of_their_items() -> None:
    text = json.dumps({**BASE, "products": [{"name": "pendant", "items": [0, 1], "quantity": 3}]})
    job = read_job(text)
    assert [one.quantity for one in job.items] == [3, 3, 1]
    assert steps_document(job)["products"] == 4
    again = job_document(job)
    assert again["products"][0]["items"] == [0, 1]
    assert read_job(json.dumps(again)) == job


@pytest.mark.parametrize(
    ("products", "words"),
    [
        ([{"name": "a", "items": [7]}], "names no other item"),
        ([{"name": "a", "items": [0, 0]}], "belongs to one product, and once"),
        ([{"name": "a", "items": [0]}, {"name": "b", "items": [0]}], "belongs to one product"),
        ([{"name": "a", "items": [0]}, {"name": "a", "items": [1]}], "two products are called"),
        ([{"name": "a", "items": []}], "items"),
    ],
)
def test_products_that_contradict_each_other_are_refused(products: list[object], words: str) -> None:
    with pytest.raises(BadInput) as refused:
        read_job(json.dumps({**BASE, "products": products}))
    assert words in str(refused.value)
