"""Lessons on the twin: each can be solved and is not solved by doing nothing; and lessons as a workshop plays them."""

from dataclasses import replace

import pytest
from fastapi.testclient import TestClient

from tests.conftest import disc_png
from vamper.api.app import create_app
from vamper.core.ledger.run import CameOut, Spoilt, SpoiltPiece
from vamper.core.trainer.coach import Coach
from vamper.core.trainer.lesson import LESSONS, LookPicture, MoveKind
from vamper.core.trainer.play import LessonPlay, PlayEnd, after_move
from vamper.core.trainer.puzzles import PuzzleLevel, puzzle_of
from vamper.core.values.findings import BadInput
from vamper.services.design.designer import Designer
from vamper.services.ledger.logging import Said
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.trainer.bench import TwinBench
from vamper.services.trainer.plays import fields_minutes
from vamper.services.workshop import Workshop

SEEDS = range(200)
# One of each sort: the plan, the marks, the cutter by files, the machine's own program, the work after the cut.
PLAYED = ("letters", "small-print", "flying-pieces", "bleed", "cold-water")


@pytest.mark.parametrize("key", PLAYED)
def test_the_best_way_fills_the_order_and_doing_nothing_does_not(
    key: str, designer: Designer, nester: ProcessNester
) -> None:
    lesson = LESSONS[key]
    bench = TwinBench(lesson, designer, nester)
    coach = Coach(lesson, bench)
    plans = [coach.plan(seed) for seed in SEEDS]
    assert sum(one.passed for one in plans) >= 0.95 * len(SEEDS)
    nothing = 0
    for seed in SEEDS:
        play = LessonPlay(lesson, seed)
        while play.end is None:
            play = after_move(play, "make", bench)
        nothing += play.passed
    assert nothing <= 0.05 * len(SEEDS)
    first = plans[0]
    again = LessonPlay(lesson, 0)
    for step in first.steps:
        again = after_move(again, step.code, bench)
    assert again.steps == first.steps
    assert again.passed == first.passed


def test_a_lesson_is_played_in_the_workshop_and_leaves_nothing_there(workshop: Workshop) -> None:
    before = [one.id for one in workshop.jobs.all()]
    play_id = workshop.plays.begin("letters", "Ada")
    live = workshop.plays.get(play_id)
    assert live.first.good == 0
    assert [(one.code, one.pieces) for one in live.first.spoiled] == [("letters-loose", live.first.pieces)]
    assert workshop.jobs.get(live.job_id).play == play_id
    # It is in no list, and nothing is handed over or logged of it.
    assert [one.id for one in workshop.jobs.all()] == before
    state = workshop.jobs.get(live.job_id)
    with pytest.raises(BadInput, match="belongs to a lesson"):
        workshop.handing_over.record(state)
    with pytest.raises(BadInput, match="belongs to a lesson"):
        workshop.making.log_run(state, 1, {})
    # A move changes the job as the learner would.
    live = workshop.plays.move(play_id, "join")
    assert workshop.jobs.get(live.job_id).document.items[0].edge.join
    live = workshop.plays.move(play_id, "make")
    assert live.play.passed
    assert live.play.minutes_used == 15
    assert not workshop.runs.all()
    progress = {one.lesson: one for one in workshop.plays.progress("Ada")}
    assert progress["letters"].passed == 1
    assert progress["letters"].due_at is None
    assert workshop.plays.progress("Bo")[0].played == 0


def test_what_the_learner_changes_in_the_job_itself_counts(workshop: Workshop) -> None:
    play_id = workshop.plays.begin("letters", "")
    live = workshop.plays.get(play_id)
    workshop.jobs.change_items(live.job_id, "wider", (1,), {"edge.distance_mm": 3.0})
    live = workshop.plays.move(play_id, "make")
    assert [one.code for one in live.play.steps] == ["changed", "make"]
    assert live.play.passed
    assert live.play.steps[0].minutes == 1
    # Worked out again from what is kept, as after a new start.
    again = workshop.plays._worked_out(play_id)
    assert again.play.steps == live.play.steps
    assert again.play.end is PlayEnd.PASSED
    assert workshop.plays.picture(play_id, 0, LookPicture.SHEET) != workshop.plays.picture(
        play_id, 2, LookPicture.SHEET
    )


def test_a_lesson_that_is_given_up_is_lost_and_comes_back_tomorrow(workshop: Workshop) -> None:
    play_id = workshop.plays.begin("lamp", "Ada")
    with pytest.raises(BadInput, match="finish the lesson first"):
        workshop.plays.best(play_id)
    live = workshop.plays.give_up(play_id)
    assert live.play.end is PlayEnd.GIVEN_UP
    found = next(one for one in workshop.plays.progress("Ada") if one.lesson == "lamp")
    assert found.last_passed is False
    assert found.due_at is not None
    assert found.open_play is None


def test_practice_over_the_wire(workshop: Workshop) -> None:
    with TestClient(create_app(workshop), base_url="http://localhost") as client:
        all_of_it = client.get("/api/practise").json()
        assert [one["key"] for one in all_of_it["lessons"]] == list(LESSONS)
        play = client.post("/api/practise/plays", json={"lesson": "torn-points", "learner": "Ada"}).json()["id"]
        seen = client.get(f"/api/practise/plays/{play}").json()
        assert seen["afterwards"] is None
        assert "Fibre or glue" not in str(seen)
        picture = client.get(f"/api/practise/plays/{play}/steps/0/sheet.jpg")
        assert picture.status_code == 200
        assert picture.content[:2] == b"\xff\xd8"
        after = client.post(f"/api/practise/plays/{play}/moves", json={"code": "clean-tip"}).json()
        assert after["minutes_left"] == seen["minutes_left"] - 2
        assert client.post(f"/api/practise/plays/{play}/moves", json={"code": "clean-tip"}).status_code == 422
        after = client.post(f"/api/practise/plays/{play}/end").json()
        assert after["afterwards"]["hidden"] == "Fibre or glue is stuck to the blade’s tip."
        assert client.get("/api/practise/plays/999").status_code == 404


def test_free_play_over_the_wire(workshop: Workshop) -> None:
    with TestClient(create_app(workshop), base_url="http://localhost") as client:
        asked = {"level": "middle", "seed": 3}
        seen = client.post("/api/practise/puzzles/look", json=asked).json()
        truth = puzzle_of(PuzzleLevel.MIDDLE, 3).cause
        assert truth in {one["key"] for one in seen["causes"]}
        check = seen["checks"][0]["key"]
        after = client.post("/api/practise/puzzles/look", json={**asked, "checked": [check]}).json()
        assert [one["key"] for one in after["asked"]] == [check]
        assert client.get("/api/practise/puzzles/middle/3/sheet.jpg").content[:2] == b"\xff\xd8"
        answer = client.post("/api/practise/puzzles/answer", json={**asked, "checked": [check], "cause": truth}).json()
        assert answer["right"]
        assert answer["best"]
        wrong = client.post("/api/practise/puzzles/answer", json={**asked, "cause": "too-fast"}).json()
        assert not wrong["right"]
        assert wrong["cause"] == truth
        scores = {one["level"]: one for one in client.get("/api/practise").json()["scores"]}
        assert (scores["middle"]["done"], scores["middle"]["right"], scores["middle"]["checks"]) == (2, 1, 1)


def test_a_lesson_shorter_of_time_ends(workshop: Workshop) -> None:
    live = workshop.plays.get(workshop.plays.begin("wet-coat", ""))
    short = replace(live.play, lesson=replace(live.play.lesson, minutes=5))
    assert after_move(short, "wait-10", live.bench).end is PlayEnd.NO_TIME


def test_a_spoilt_run_of_ones_own_can_be_practised(workshop: Workshop) -> None:
    art = workshop.arts.take_in("disc.png", disc_png())
    job = workshop.jobs.create("Buoys")
    workshop.jobs.add_item(job, art.digest, art.name, 40.0, art.start_edge)
    workshop.jobs.change_items(job, "more", (1,), {"quantity": 4})
    workshop.handing_over.record(workshop.jobs.get(job))
    spoilt = (SpoiltPiece(0, Spoilt.TORN),)
    run = workshop.made.log_outcome(job, Said(1, 1, CameOut.SPOILED, spoilt))
    assert workshop.lessons.of_runs() == []
    workshop.runs.found(run, "tuft-on-tip")
    (mine,) = workshop.lessons.of_runs()
    assert mine.key == f"run-{run}"
    live = workshop.plays.get(workshop.plays.begin(mine.key, "Ada"))
    assert live.play.lesson.pieces == live.first.pieces == 4
    assert any(one.kind is MoveKind.LOOK and one.is_yes("tuft-on-tip") for one in live.play.lesson.moves)
    live = workshop.plays.move(live.id, "clean-tip")
    live = workshop.plays.move(live.id, "make-and-look")
    assert live.play.good >= live.first.good
    # A run whose cause the twin cannot show is no lesson.
    workshop.runs.found(run, "too-hot")
    assert workshop.lessons.of_runs() == []
    with pytest.raises(BadInput, match="no lesson can be made"):
        workshop.lessons.open(mine.key)


def test_every_field_that_a_learner_changes_takes_its_time() -> None:
    one = fields_minutes(["gap"])
    assert one > 0
    assert fields_minutes(["gap", "stock", "paper"]) == 3 * one
    # A change of designs names no field, and takes time all the same.
    assert fields_minutes([]) == one


@pytest.mark.parametrize("what", LookPicture)
def test_whatever_is_looked_at_is_a_picture_in_colours(
    what: LookPicture, designer: Designer, nester: ProcessNester
) -> None:
    bench = TwinBench(LESSONS["letters"], designer, nester)
    picture = bench.picture(LessonPlay(LESSONS["letters"], 3).world, True, 5, what)
    assert picture.ndim == 3
    assert picture.shape[2] == 3
    assert picture.std() > 1
