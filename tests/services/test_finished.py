"""What is kept beside the jobs after the cut: finished pieces, widths by what is worn, coats side by side."""

import pytest
from fastapi.testclient import TestClient

from tests.core.test_ledger import run_with
from vamper.api.app import create_app
from vamper.core.finishing.labels import dial_words
from vamper.core.ledger.cover_records import cover_records
from vamper.core.ledger.run import LaterCheck, LaterKind
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import LabelFigure
from vamper.core.values.sheen import Sheen
from vamper.services.ledger.on_hand import FinishedMove
from vamper.services.shop.garments import STARTER_GARMENTS
from vamper.services.workshop import Workshop


def test_finished_pieces_are_counted_in_and_out(workshop: Workshop) -> None:
    on_hand = workshop.on_hand
    on_hand.count("pendant", FinishedMove.MADE, 6)
    on_hand.count("pendant", FinishedMove.SOLD, 2)
    (one,) = on_hand.count("pendant", FinishedMove.GIVEN, 1)
    assert (one.made, one.sold, one.given, one.left) == (6, 2, 1, 3)
    with pytest.raises(BadInput, match="only 3 of “pendant” are on hand"):
        on_hand.count("pendant", FinishedMove.SOLD, 4)
    with pytest.raises(BadInput, match="only 0 of “ghost”"):
        on_hand.count("ghost", FinishedMove.GIVEN, 1)
    with pytest.raises(BadInput, match="fewer than none"):
        on_hand.count("pendant", FinishedMove.SOLD, -3)
    assert on_hand.all() == (one,)
    # What was counted wrongly is taken back, and what is none any more is gone.
    on_hand.count("pendant", FinishedMove.SOLD, -2)
    on_hand.count("pendant", FinishedMove.GIVEN, -1)
    assert on_hand.count("pendant", FinishedMove.MADE, -6) == ()


def test_widths_by_what_is_worn_are_the_makers_own(workshop: Workshop) -> None:
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as client:
        starters = client.get("/api/garments").json()
        assert [one["name"] for one in starters] == [one.name for one in STARTER_GARMENTS]
        mine = [*starters[:1], {"name": "a scout shirt", "width_mm": 205}]
        assert client.put("/api/garments", json=mine).json()[1]["width_mm"] == 205
        twice = client.put("/api/garments", json=[*mine, {"name": "A scout shirt", "width_mm": 90}])
        assert "stands twice" in twice.json()["detail"]
        assert client.get("/api/garments").json() == [{**mine[0]}, {"name": "a scout shirt", "width_mm": 205}]
        assert client.put("/api/garments", json=[]).json() == starters
        assert client.post("/api/finished", json={"name": "tag", "move": "made", "count": 3}).json()[0]["left"] == 3
        assert client.get("/api/covers").json() == []


def test_coats_are_held_side_by_side_by_their_names() -> None:
    def waited(minutes: float) -> tuple[LabelFigure, ...]:
        return (LabelFigure("coat_minutes", minutes),)

    def held(*told: bool) -> tuple[LaterCheck, ...]:
        return tuple(LaterCheck(LaterKind.WASH, one) for one in told)

    gloss = {"process": "slide coat-after air", "cover": "gloss can", "look": Sheen.GLOSS}
    runs = [
        run_with(**gloss, coats=3, figures=waited(20), later=held(True, True)),
        run_with(**gloss, coats=4, figures=waited(40), later=held(False)),
        run_with(process="hand-out laminate", cover="clear film", look=Sheen.MATTE),
        run_with(process="hand-out"),
        run_with(**gloss, coats=9, simulated=True),
    ]
    first, second = cover_records(runs)
    assert (first.product, first.when, first.runs, first.coats, first.coat_minutes) == (
        "gloss can",
        "coat-after",
        2,
        3.5,
        30,
    )
    assert (first.look, second.look) == (Sheen.GLOSS, Sheen.MATTE)
    assert (first.held, first.failed) == (2, 1)
    assert (second.product, second.when, second.coats) == ("clear film", "laminate", None)


@pytest.mark.parametrize(
    ("celsius", "words"), [(110, "one dot"), (150, "two dots"), (190, "three dots"), (230, "more")]
)
def test_the_dial_of_an_iron_in_words(celsius: float, words: str) -> None:
    assert dial_words(celsius).startswith(words)
