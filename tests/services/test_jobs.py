"""Jobs: every change is one step, undo and redo move along them, nothing out of range is stored."""

import sqlite3
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path

import pytest

from tests.conftest import disc_png
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop


def job_with_disc(workshop: Workshop) -> int:
    number = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("a_disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, art.name, 40, {})
    return number


def test_art_becomes_a_design_with_a_readable_name(workshop: Workshop) -> None:
    state = workshop.jobs.get(job_with_disc(workshop))
    (item,) = state.document.items
    assert (item.name, item.longest_mm, item.quantity) == ("a disc", 40, 1)
    assert state.undo == "add a disc"


def test_the_same_file_twice_is_kept_once(workshop: Workshop) -> None:
    assert workshop.arts.take_in("a.png", disc_png()).digest == workshop.arts.take_in("b.png", disc_png()).digest


def test_many_additions_at_once_all_arrive(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    art = workshop.jobs.get(number).document.items[0].art
    with ThreadPoolExecutor(8) as pool:
        list(pool.map(lambda n: workshop.jobs.add_item(number, art, f"disc {n}", 40, {}), range(16)))
    items = workshop.jobs.get(number).document.items
    assert [item.number for item in items] == list(range(1, 18))
    assert len({item.name for item in items}) == 17


def test_undo_and_redo_go_all_the_way(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    workshop.jobs.change_items(number, "number", (1,), {"quantity": 5})
    workshop.jobs.change(number, "stock", {"stock": "gloss-vinyl"})
    workshop.jobs.remove_items(number, (1,))
    states = [workshop.jobs.get(number).document]
    while workshop.jobs.get(number).undo:
        states.append(workshop.jobs.undo(number).document)
    assert len(states) == 5
    assert states[-1].items == ()
    for expected in reversed(states[:-1]):
        assert workshop.jobs.redo(number).document == expected
    assert workshop.jobs.get(number).redo is None


def test_a_new_change_after_undo_drops_what_was_undone(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    workshop.jobs.change(number, "a", {"stock": "gloss-vinyl"})
    workshop.jobs.undo(number)
    workshop.jobs.change(number, "b", {"packing.gap_mm": 4})
    assert workshop.jobs.get(number).redo is None
    assert workshop.jobs.undo(number).document.stock == "satin-vinyl"


def test_a_slider_is_one_step(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    for distance in (2.9, 2.5, 2.0):
        workshop.jobs.change_items(number, "border", (1,), {"edge.distance_mm": distance})
    assert workshop.jobs.undo(number).document.items[0].edge.distance_mm == 3


def test_a_change_that_changes_nothing_is_no_step(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    assert workshop.jobs.change(number, "same", {"stock": "satin-vinyl"}).undo == "add a disc"


def test_naming_one_side_lets_go_of_the_other(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    item = workshop.jobs.change_items(number, "height", (1,), {"height_mm": 30}).document.items[0]
    assert (item.width_mm, item.height_mm) == (None, 30)


@pytest.mark.parametrize(
    "changes",
    [{"packing.gap_mm": -1}, {"nonsense": 1}, {"a.b": 1}, {"stock": "velvet"}, {"printer_id": 99}, {"items": []}],
)
def test_what_cannot_be_is_refused_and_nothing_is_lost(workshop: Workshop, changes: dict[str, object]) -> None:
    number = job_with_disc(workshop)
    before = workshop.jobs.get(number)
    with pytest.raises(BadInput):
        workshop.jobs.change(number, "bad", changes)
    assert workshop.jobs.get(number) == before


def test_a_removed_job_can_be_put_back(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    workshop.jobs.remove(number)
    with pytest.raises(NotFound):
        workshop.jobs.get(number)
    workshop.jobs.put_back(number)
    assert len(workshop.jobs.get(number).document.items) == 1


def test_a_copy_is_a_job_of_its_own(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    copy = workshop.jobs.copy(number)
    workshop.jobs.remove_items(copy, (1,))
    assert len(workshop.jobs.get(number).document.items) == 1
    assert workshop.jobs.get(copy).document.title == "Discs, again"


def test_starter_stocks_that_came_later_reach_a_workshop_that_exists(tmp_path: Path, nester: ProcessNester) -> None:
    """A file from before a stock was known: it is offered behind the others, and everything else stays as it was."""
    first = Workshop(tmp_path / "w.db", nester, 1)
    before = list(first.shop.stocks.all())
    first.close()
    with closing(sqlite3.connect(tmp_path / "w.db")) as file, file:
        file.execute("DELETE FROM stock WHERE key = 'kraft-card'")
    again = Workshop(tmp_path / "w.db", nester, 1)
    assert list(again.shop.stocks.all()) == [*(key for key in before if key != "kraft-card"), "kraft-card"]
    assert len(again.shop.printers.all()) == 2
    again.close()


def test_a_style_has_a_name_of_its_own_that_can_be_read(workshop: Workshop) -> None:
    edge = EdgeSpec(keep_holes=((0.5, 0.5),))
    workshop.styles.save("  white,   wide ", edge)
    workshop.styles.save("x" * 60, edge)
    assert [style.name for style in workshop.styles.all()] == ["white, wide", "x" * 60]
    assert workshop.styles.all()[0].edge.keep_holes == ()
    for name in ("", "   ", "x" * 61):
        with pytest.raises(BadInput, match="at most 60 letters"):
            workshop.styles.save(name, edge)
