"""Lessons that are played: each on a practice job of its own, kept move by move, with what a good hand would have done.

A play is kept as its moves. What became of them is worked out again when a server has been started anew: the same moves
have the same results. A change that the learner makes in the job itself becomes a move when the next one is made, with
a minute for each field.
"""

import logging
import secrets
import threading
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import select

from vamper.core.sheet.pack.nesting import Nester
from vamper.core.trainer.coach import Coach, CoachPlan
from vamper.core.trainer.lesson import LESSONS, LookPicture
from vamper.core.trainer.made_sheet import MadeSheet
from vamper.core.trainer.play import LessonPlay, after_move, first_sheet, made_otherwise, run_of
from vamper.core.trainer.spacing import days_until
from vamper.core.trainer.world import LessonWorld
from vamper.core.values.findings import BadInput
from vamper.formats.out.picture_files import write_jpeg
from vamper.services.design.designer import Designer
from vamper.services.jobs.document import JobDocument, document_json, read_document
from vamper.services.jobs.history import aware
from vamper.services.jobs.jobs import Jobs
from vamper.services.trainer.bench import TwinBench, changed_document
from vamper.services.trainer.lessons import Lessons, OpenLesson
from vamper.services.twin.dry_runs import Stopped
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.differences import difference
from vamper.store.tables import PlayRow, now

_LOG = logging.getLogger(__name__)
_SEEDS = 2**20
# Plays that are at hand; one that is older is worked out again.
_KEPT = 8
_SHEET_PPI = 110
_CHANGED = "changed"
_MINUTES_A_FIELD = 1.0
# Nothing is made otherwise by these.
_BESIDE = {"last_number", "title", "customer", "meant", "meant_by_new"}
_FIELD_WORDS = {"items": "designs", "packing": "gaps and packing", "finish": "what comes after the cut"}


@dataclass(frozen=True, slots=True)
class Standing:
    """How things stood when a move was made: what its pictures are drawn from."""

    world: LessonWorld
    looks: bool
    run: int


@dataclass
class LivePlay:
    """A play at hand.

    Parameters
    ----------
    id, job_id : int
        The play's number, and that of its job.
    opened, bench, play : OpenLesson, TwinBench, LessonPlay
        The lesson, the twin it is played on, and the play so far.
    first : MadeSheet
        The spoilt sheet that it began with.
    stood : list of Standing
        How things stood at each step.
    lock : RLock
        Held by whoever moves.
    best, problem, sheets_tried, coaching : CoachPlan or None, str, int, Thread or None
        The coach's plan, why there is none, how many sheets it has tried, and its thread.
    """

    id: int
    job_id: int
    opened: OpenLesson
    bench: TwinBench
    play: LessonPlay
    first: MadeSheet
    stood: list[Standing]
    lock: threading.RLock = field(default_factory=threading.RLock)
    best: CoachPlan | None = None
    problem: str = ""
    sheets_tried: int = 0
    coaching: threading.Thread | None = None


@dataclass(frozen=True, slots=True)
class LessonProgress:
    """How a learner stands with a lesson.

    Parameters
    ----------
    lesson : str
        Its key.
    played, passed, last_passed : int, int, bool or None
        How often it was played and passed, and whether it was the last time.
    due_at : datetime or None
        When it comes back.
    open_play : int or None
        The play that was begun and not ended.
    """

    lesson: str
    played: int
    passed: int
    last_passed: bool | None
    due_at: datetime | None
    open_play: int | None


class Plays:
    """All plays of one workshop."""

    def __init__(self, sessions: Sessions, jobs: Jobs, lessons: Lessons, designer: Designer, nester: Nester) -> None:
        self._sessions = sessions
        self._jobs = jobs
        self._lessons = lessons
        self._designer = designer
        self._nester = nester
        self._live: Cache[LivePlay] = Cache(_KEPT)
        self._closed = threading.Event()

    def begin(self, key: str, learner: str) -> int:
        """Begin a lesson on a new practice job; the number of the play."""
        opened = self._lessons.open(key)
        with self._sessions.together():
            job_id = self._jobs.add(opened.document)
            with self._sessions.begin() as session:
                row = PlayRow(lesson=key, learner=learner, seed=secrets.randbelow(_SEEDS), job_id=job_id, moves=[])
                session.add(row)
                session.flush()
                return row.id

    def get(self, play_id: int) -> LivePlay:
        """A play as it stands."""
        return self._live.get(play_id, lambda: self._worked_out(play_id))

    def move(self, play_id: int, code: str) -> LivePlay:
        """Make a move; a change of the learner's own in the job comes before it.

        Raises
        ------
        BadInput
            If the lesson has ended, or there is no such move now.
        """
        live = self.get(play_id)
        with live.lock:
            entries = list[dict[str, Any]]()
            document = self._jobs.get(live.job_id).document
            fields = _changed_fields(live.play.document, document)
            play = live.play
            if fields and play.end is None:
                play = replace(play, document=document)
                play = made_otherwise(play, _said(fields), fields_minutes(fields))
                entries.append({"code": _CHANGED, "document": document_json(document), "fields": fields})
            stood = [*live.stood]
            while len(stood) < len(play.steps):
                stood.append(Standing(play.world, False, run_of(play.seed, play.count)))
            play = self._moved(live, play, code, stood)
            if play.document != document:
                changed = play.document
                assert isinstance(changed, JobDocument)
                self._jobs.edit(live.job_id, play.steps[-1].text, lambda _: changed)
            entries.append({"code": code})
            self._keep(play_id, play, entries)
            live.play, live.stood = play, stood
        return live

    def _moved(self, live: LivePlay, play: LessonPlay, code: str, stood: list[Standing]) -> LessonPlay:
        move = next((one for one in play.offered() if one.code == code), None)
        if move is not None and move.job:
            assert isinstance(play.document, JobDocument)
            play = replace(play, document=changed_document(play.document, move.job))
        after = after_move(play, code, live.bench)
        looks = move.looks if move is not None else False
        stood.append(Standing(after.world, looks, run_of(after.seed, after.count)))
        return after

    def _keep(self, play_id: int, play: LessonPlay, entries: list[dict[str, Any]]) -> None:
        with self._sessions.begin() as session:
            row = session.get(PlayRow, play_id)
            if row is None:
                raise NotFound("this play is no longer there; begin the lesson again")
            row.moves = [*row.moves, *entries]
            row.sheets_used, row.seconds_used = play.sheets_used, round(play.minutes_used * 60)
            if play.end is not None:
                row.passed, row.ended_at = play.passed, now()

    def _worked_out(self, play_id: int) -> LivePlay:
        with self._sessions() as session:
            row = session.get(PlayRow, play_id)
            if row is None:
                raise NotFound("there is no such play; begin a lesson")
            key, seed, job_id, moves = row.lesson, row.seed, row.job_id, list(row.moves)
        opened = self._lessons.open(key)
        bench = TwinBench(opened.lesson, self._designer, self._nester, lambda world: self._lessons.job(opened, world))
        play = LessonPlay(opened.lesson, seed, document=opened.document)
        live = LivePlay(play_id, job_id, opened, bench, play, first_sheet(play, bench), [])
        for entry in moves:
            if entry["code"] == _CHANGED:
                play = replace(play, document=read_document(entry["document"]))
                play = made_otherwise(play, _said(entry["fields"]), fields_minutes(entry["fields"]))
                live.stood.append(Standing(play.world, False, run_of(seed, play.count)))
            else:
                play = self._moved(live, play, entry["code"], live.stood)
        live.play = play
        return live

    def picture(self, play_id: int, step: int, what: LookPicture) -> bytes:
        """The picture that a step (from 1) showed, JPEG; 0 is the spoilt sheet that the lesson began with.

        Raises
        ------
        NotFound
            If there is no such step, or it showed nothing of the kind.
        """
        live = self.get(play_id)
        if step == 0:
            world = LessonWorld(quantities=dict(live.play.lesson.start), document=live.opened.document)
            stood = Standing(world, False, live.first.run)
        elif 0 < step <= len(live.stood):
            stood = live.stood[step - 1]
        else:
            raise NotFound("there is no such step in this play")
        return write_jpeg(live.bench.picture(stood.world, stood.looks, stood.run, what), _SHEET_PPI)

    def best(self, play_id: int) -> LivePlay:
        """A play with what a good hand would have done, which is worked out in the background when it is first asked
        for.

        Raises
        ------
        BadInput
            If the lesson goes on: it would give the way out away.
        """
        live = self.get(play_id)
        with live.lock:
            if live.play.end is None:
                raise BadInput("finish the lesson first; then both ways are shown", "play")
            if live.coaching is None:
                live.coaching = threading.Thread(
                    target=_coach, args=(live, self._closed), daemon=True, name=f"coach-{play_id}"
                )
                live.coaching.start()
        return live

    def give_up(self, play_id: int) -> LivePlay:
        """End a play that is not to be gone on with: it counts as lost."""
        live = self.get(play_id)
        with live.lock:
            if live.play.end is None:
                live.play = replace(live.play, given_up=True)
                self._keep(play_id, live.play, [])
        return live

    def progress(self, learner: str) -> list[LessonProgress]:
        """How a learner stands with each lesson, in the order of the work."""
        with self._sessions() as session:
            rows = session.scalars(select(PlayRow).where(PlayRow.learner == learner).order_by(PlayRow.id)).all()
            of: Mapping[str, list[PlayRow]] = {key: [] for key in LESSONS}
            for row in rows:
                if row.lesson in of:
                    of[row.lesson].append(row)
            return [_progress(key, mine) for key, mine in of.items()]

    def learners(self) -> list[str]:
        """Who has practised here."""
        with self._sessions() as session:
            return sorted(set(session.scalars(select(PlayRow.learner).distinct())))

    def close(self) -> None:
        self._closed.set()


def _progress(key: str, rows: list[PlayRow]) -> LessonProgress:
    ended = [row for row in rows if row.passed is not None]
    days = days_until(bool(row.passed) for row in ended)
    last = ended[-1].ended_at if ended else None
    due = aware(last) + timedelta(days=days) if last is not None and days is not None else None
    goes_on = next((row.id for row in reversed(rows) if row.passed is None), None)
    return LessonProgress(
        key, len(ended), sum(bool(row.passed) for row in ended), bool(ended[-1].passed) if ended else None, due, goes_on
    )


def _coach(live: LivePlay, closed: threading.Event) -> None:
    def tried() -> None:
        if closed.is_set():
            raise Stopped
        live.sheets_tried += 1

    try:
        live.best = Coach(live.play.lesson, live.bench, tried).plan(live.play.seed)
    except Stopped:
        pass
    except BadInput as bad:
        live.problem = bad.sentence
    except Exception:
        _LOG.exception("the best plan of play %s broke down", live.id)
        live.problem = "the best plan could not be worked out"


def _changed_fields(before: object, after: JobDocument) -> list[str]:
    if not isinstance(before, JobDocument) or before == after:
        return []
    was, now_is = document_json(before), document_json(after)
    return sorted(
        name for name in now_is if name not in _BESIDE and difference(was.get(name), now_is[name]) is not None
    )


def fields_minutes(fields: list[str]) -> float:
    """The minutes that a change of so many fields takes."""
    return _MINUTES_A_FIELD * max(1, len(fields))


def _said(fields: list[str]) -> str:
    return f"You changed the job: {', '.join(_FIELD_WORDS.get(one, one.replace('_', ' ')) for one in fields)}"
