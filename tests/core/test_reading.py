"""Whether marks are read: the model by hand, the orders that must hold, and remedies as they are taken."""

import math
from dataclasses import replace
from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.effective_job import effective_job
from vamper.core.marks.reading import REMEDIES, ReadingCause, Scene, reading_of
from vamper.core.values.cutter import Cutter
from vamper.core.values.job import Job
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.paper import USUAL_PAPER
from vamper.core.values.printer import Printer
from vamper.core.values.reading import Black, Light, Remedy, RoomLight, Sensor, SensorWord, reflectance_of
from vamper.core.values.stock import STOCK_BY_KEY

SENSOR = Sensor(lamp=0.7, n0=0.05, k=0.2, t=5)


def job(stock: str = "matte-label", **fields: object) -> Job:
    return Job(paper=USUAL_PAPER, stock=STOCK_BY_KEY[stock], **fields)  # type: ignore[arg-type]


def reading(stock: str = "matte-label", **fields: object):  # type: ignore[no-untyped-def]
    found = reading_of(effective_job(job(stock, **fields)))
    assert found is not None
    return found


def test_marks_of_strokes_are_read_by_their_strokes_and_others_are_not() -> None:
    def chance(family: str, stroke: float) -> float:
        return reading("shimmer-vinyl", marks=MarksSpec(family, stroke_mm=stroke)).chance  # type: ignore[arg-type]

    assert chance("corner", 0.3) < chance("corner", 1.0)
    assert chance("dot", 0.3) == chance("dot", 1.0)


def test_one_mark_by_hand() -> None:
    scene = Scene(SENSOR, room=0.5, face=0.8, ink=0.1, gloss=0.6)
    signal, noise = 1.2 * 0.7, math.hypot(0.05, 0.2 * 0.6 * 0.5)
    assert scene.signal == pytest.approx(signal)
    assert scene.noise == pytest.approx(noise)
    assert scene.chance == pytest.approx(1 / (1 + math.exp(-(signal / noise - 5))))


def test_a_sheet_is_read_where_all_its_marks_are() -> None:
    four, three = reading("kraft-card"), reading("kraft-card", marks=MarksSpec(count=3))
    assert len(four.marks) == 4
    assert four.chance == pytest.approx(four.marks[0] ** 4, abs=1e-3)
    assert three.chance == pytest.approx(three.marks[0] ** 3, abs=1e-3)
    assert three.chance > four.chance


def test_white_and_dull_is_read_and_dark_card_on_a_weak_sensor_is_not() -> None:
    assert reading().chance > 0.99
    dark = {"stock_colour": "#202020"}
    assert reading("card", cutter=Cutter(sensor=SensorWord.WEAK), **dark).chance < 0.1
    assert reading("card", cutter=Cutter(sensor=SensorWord.STRONG), **dark).chance > 0.9


def test_faces_reflect_as_much_as_paper_kraft_and_dark_card_do() -> None:
    found = [reflectance_of("#FFFFFF"), STOCK_BY_KEY["kraft-card"].face_reflectance, reflectance_of("#000000")]
    assert found == pytest.approx([0.85, 0.35, 0.08], abs=0.01)


@pytest.mark.parametrize(
    ("stock", "fields", "cause"),
    [
        ("shimmer-vinyl", {"room_light": RoomLight.BRIGHT}, ReadingCause.GLOSS),
        ("card", {"stock_colour": "#1A1A1A"}, ReadingCause.DARK_STOCK),
        ("kraft-card", {"printer": Printer(black=Black.LOW)}, ReadingCause.DARK_STOCK),
        (
            "matte-label",
            {"printer": Printer(black=Black.LOW), "cutter": Cutter(sensor=SensorWord.WEAK)},
            ReadingCause.PALE_MARKS,
        ),
        (
            "matte-label",
            {"room_light": RoomLight.DIM, "cutter": Cutter(sensor=SensorWord.WEAK)},
            ReadingCause.LITTLE_LIGHT,
        ),
        ("matte-label", {"marks": MarksSpec(inset_mm=1.0)}, ReadingCause.EDGE),
        ("matte-label", {}, ReadingCause.NONE),
    ],
)
def test_what_takes_most_away_is_named(stock: str, fields: dict[str, object], cause: ReadingCause) -> None:
    assert reading(stock, **fields).cause is cause


def in_100_number(chance: float) -> float:
    """A chance as the screen tells it: more than 99 is all one."""
    return 100 if chance > 0.99 else round(chance * 100)


@pytest.mark.parametrize(
    ("stock", "least", "most"),
    [
        ("matte-label", 0.98, 1.0),
        ("satin-vinyl", 0.98, 1.0),
        ("gloss-label", 0.82, 0.88),
        ("gloss-vinyl", 0.82, 0.88),
        ("clear-vinyl", 0.82, 0.88),
        ("shimmer-vinyl", 0.72, 0.78),
        ("shimmer-card", 0.72, 0.78),
    ],
)
def test_gloss_is_the_makers_chief_trouble_in_a_usual_room(stock: str, least: float, most: float) -> None:
    found = reading_of(effective_job(job(stock)))
    assert found is not None
    assert least <= found.chance <= most


def test_marks_that_nobody_reads_have_a_cause() -> None:
    for stock, light, sensor in product(STOCK_BY_KEY, RoomLight, SensorWord):
        if not STOCK_BY_KEY[stock].printable:
            continue
        found = reading_of(effective_job(job(stock, room_light=light, cutter=Cutter(sensor=sensor))))
        assert found is not None
        assert found.chance > 0.9 or found.cause is not ReadingCause.NONE


@given(
    stock=st.sampled_from(["matte-label", "gloss-vinyl", "shimmer-vinyl", "kraft-card", "card"]),
    colour=st.sampled_from([None, "#303030", "#C04040"]),
    light=st.one_of(st.sampled_from(list(RoomLight)), st.floats(0, 3)),
    sensor=st.sampled_from(list(SensorWord)),
    black=st.sampled_from(list(Black)),
    inset=st.floats(0, 12),
)
def test_a_remedy_does_what_it_says_and_the_best_comes_first(
    stock: str, colour: str | None, light: Light, sensor: SensorWord, black: Black, inset: float
) -> None:
    asked = job(
        stock,
        stock_colour=colour,
        room_light=light,
        cutter=Cutter(sensor=sensor),
        printer=Printer(black=black),
        marks=MarksSpec(inset_mm=inset),
    )
    found = reading_of(effective_job(asked))
    assert found is not None
    # By the figure that is told, then by cost: nobody peels labels for the fourth digit.
    order = [(-float(in_100_number(one.chance)), REMEDIES[one.remedy].cost) for one in found.remedies]
    assert order == sorted(order)
    for one in found.remedies:
        taken = replace(asked, marks=replace(asked.marks, remedies=(one.remedy,)))
        after = reading_of(effective_job(taken))
        assert after is not None
        assert after.chance == one.chance > found.chance
        assert one.remedy not in {left.remedy for left in after.remedies}


def test_drawn_remedies_change_the_marks() -> None:
    made = effective_job(job(marks=MarksSpec(inset_mm=3, remedies=(Remedy.THICKER_STROKE, Remedy.MORE_INSET))))
    assert (made.marks.stroke_mm, made.marks.inset_mm) == (1.2, 8.0)
    assert effective_job(made) == made


def test_nothing_is_read_where_nothing_looks() -> None:
    assert reading_of(effective_job(job(marks=MarksSpec(NO_MARKS)))) is None
    assert reading_of(effective_job(job("plain-vinyl"))) is None


def test_the_chance_is_that_of_the_model_drawn_by_lot() -> None:
    """A try succeeds where the signal, in noises, beats the threshold by a logistic error; all marks must."""
    found = reading("gloss-vinyl")
    drawn = np.random.default_rng(4).logistic(size=(200_000, 4))
    read = found.scene.signal / found.scene.noise - found.scene.sensor.t > drawn
    assert read.all(axis=1).mean() == pytest.approx(found.chance, abs=0.01)
