"""Art is read where it can do no harm: what hostile files do ends with a child, and what is legitimate still works."""

import threading
import time
from collections.abc import Callable
from importlib.util import find_spec
from typing import Any, TypeVar

import numpy as np
import pytest

from tests import hostile
from tests.conftest import disc_png
from tests.services import reading_tasks as tasks
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.work import children
from vamper.services.work.reading_room import BROKE_DOWN, TOO_MUCH, TOO_SLOW, ReadingRoom
from vamper.services.work.turns import Turns

T = TypeVar("T")
SIZE = SizeSpec(longest_mm=30)


def first_look(name: str, data: bytes, room: ReadingRoom | None = None) -> int:
    return len(Designer(room).first_look(ArtFile.of(name, data), SIZE).tracing.polygons)


@pytest.mark.parametrize("name", hostile.REFUSED)
def test_hostile_art_is_refused_with_a_sentence(name: str) -> None:
    drawn, word = hostile.REFUSED[name]
    data = drawn()
    with pytest.raises(BadInput, match=word) as refused:
        first_look(name, data)
    assert refused.value.where == name


class Counted(ReadingRoom):
    """A room that counts what it is asked."""

    asked = 0

    def run(self, task: Callable[..., T], *arguments: Any) -> T:
        self.asked += 1
        return super().run(task, *arguments)


def test_a_file_that_comes_in_again_is_not_read_again() -> None:
    room = Counted()
    designer, data = Designer(room), disc_png()
    once = designer.first_look(ArtFile.of("disc.png", data), SIZE)
    again = designer.first_look(ArtFile.of("another name.png", data), SIZE)
    assert (again, room.asked) == (once, 1)
    designer.first_look(ArtFile.of("other.png", disc_png(200)), SIZE)
    assert room.asked == 2


def test_a_page_that_draws_for_ever_is_given_up_and_stands_in_nobodys_way() -> None:
    room = ReadingRoom(most_seconds=3)
    seen: list[str] = []

    def read_endless() -> None:
        with pytest.raises(BadInput, match="reading it takes"):
            first_look("endless.pdf", hostile.endless_pdf(), room)
        seen.append("endless")

    waiting = threading.Thread(target=read_endless)
    waiting.start()
    time.sleep(0.1)
    assert first_look("two.pdf", hostile.endless_pdf(1), room) == 1
    seen.append("other")
    waiting.join()
    assert seen == ["other", "endless"]


@pytest.mark.parametrize(
    ("task", "sentence"),
    [
        (tasks.ends_badly, TOO_MUCH),
        (tasks.is_killed, BROKE_DOWN),
        (tasks.refuses, "not to be had"),
        (tasks.sleeps, TOO_SLOW),
        (tasks.works_on, TOO_SLOW),
    ],
)
def test_every_way_a_reader_can_fail_is_one_sentence(task: Callable[[], None], sentence: str) -> None:
    with pytest.raises(BadInput) as failed:
        ReadingRoom(most_seconds=1).run(task)
    assert sentence in failed.value.sentence


def test_a_busy_machine_makes_no_file_too_slow() -> None:
    assert ReadingRoom(most_seconds=1).run(tasks.rests, 1.5) == "rested"


def test_a_task_has_so_much_memory_and_no_more() -> None:
    room = ReadingRoom(most_bytes=200 * 2**20)
    assert room.run(tasks.takes, 100) == 100 * 2**17
    with pytest.raises(BadInput) as refused:
        room.run(tasks.takes, 300)
    assert refused.value.sentence == TOO_MUCH


def test_large_arrays_travel_whole_both_ways() -> None:
    array = np.random.default_rng(3).integers(0, 100, (700, 501, 4), dtype=np.uint8)
    answer = ReadingRoom().run(tasks.twice, array)
    np.testing.assert_array_equal(answer["first"], array)
    np.testing.assert_array_equal(answer["second"], array * 2)


def test_seats_are_taken_in_the_order_of_asking_and_never_more_than_there_are() -> None:
    turns, seats, visitors = Turns(2), 2, 7
    asked, seated, leave = ([threading.Event() for _ in range(visitors)] for _ in range(3))

    def visit(number: int) -> None:
        with turns.seat(waits=asked[number].set):
            seated[number].set()
            assert leave[number].wait(60)

    threads = [threading.Thread(target=visit, args=(number,)) for number in range(visitors)]
    for number, thread in enumerate(threads):
        thread.start()
        # One after the other, however busy the machine is.
        assert (seated if number < seats else asked)[number].wait(60)
    for number in range(visitors):
        assert [one.is_set() for one in seated] == [other < number + seats for other in range(visitors)]
        leave[number].set()
        if number + seats < visitors:
            assert seated[number + seats].wait(60)
    for thread in threads:
        thread.join()


LEGITIMATE: dict[str, Callable[[], bytes]] = {
    "photo.jpg": lambda: hostile.photo(10),
    "large.png": lambda: hostile.plain_png(60),
    "segments.svg": lambda: hostile.many_segments(100_000),
    "pages.pdf": lambda: hostile.pages_pdf(60),
    "shadow.svg": lambda: hostile.filtered('<feDropShadow dx="2" dy="2" stdDeviation="3"/>'),
    "layers.svg": lambda: hostile.svg('<g opacity="0.99">' * 12 + hostile.CIRCLE + "</g>" * 12),
    "embedded.svg": lambda: hostile.embedding(hostile.plain_png(4)),
    "copies.svg": lambda: hostile.copies_of_copies(3),
}


@pytest.mark.parametrize("name", LEGITIMATE)
def test_what_is_legitimate_still_works(name: str) -> None:
    assert first_look(name, LEGITIMATE[name](), ReadingRoom()) >= 1


def test_what_children_read_ahead_is_there() -> None:
    # A name that leads nowhere is passed over in silence, and every child reads the dear modules for itself.
    assert all(find_spec(name) for name in children.READ_AHEAD)
