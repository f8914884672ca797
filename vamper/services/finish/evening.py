"""The evening: the batches that share one person and the places of this workshop, as planned and as it really goes.

It is kept whole in the workshop's file: what is in it, and when each step was begun and ended. The plan is worked out
from that, again whenever something slips, so a restart loses nothing. What only rests begins by itself when the step
before it is done; what hands do, or begin, is begun by the one whose hands they are. What has happened is fact: it is
planned round and never refused, and an evening that no search can plan is shown one step after the other.
"""

import threading
from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import datetime, timedelta

from vamper.core.finishing.labels import check_figures
from vamper.core.finishing.timetable import Evening, Timetable, check, one_by_one
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.services.finish.clock import local, workshop_clock
from vamper.services.finish.evening_document import (
    DOCUMENT,
    AwayTime,
    EveningBatch,
    EveningDocument,
    EveningNow,
    Happened,
    with_offsets,
)
from vamper.services.finish.evening_plan import (
    begins_by_itself,
    has_slipped,
    rolled_on,
    to_plan,
    unread_labels,
    whole_minutes,
)
from vamper.services.finish.finishing import finishing_of
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import PreferenceRow

_KEY = "evening"
PLAN_SECONDS = 2.0
MOST_BATCHES = 20
# Times lie no farther from now than this.
_ABOUT_NOW = timedelta(days=31)


class Evenings:
    """The evening of one workshop. `clock` gives the time where the workshop is."""

    def __init__(
        self, sessions: Sessions, clock: Callable[[], datetime] | None = None, plan_seconds: float = PLAN_SECONDS
    ) -> None:
        self._sessions = sessions
        self._clock = clock or workshop_clock()
        self._plan_seconds = plan_seconds
        self._lock = threading.RLock()
        self._last: Timetable | None = None

    def now(self) -> datetime:
        """The minute that a plan is made for."""
        return local(self._clock()).replace(second=0, microsecond=0)

    def _moment(self) -> datetime:
        """When something happens."""
        return local(self._clock()).replace(microsecond=0)

    def document(self) -> EveningDocument:
        """The document of the evening; nothing is planned for it."""
        with self._lock:
            return self._read()

    def state(self) -> EveningNow:
        """The evening with its plan, made again where something slipped."""
        with self._lock:
            document = self._read()
            now = self.now()
            starts = document.begins if document.begins is not None else now
            evening = to_plan(document, starts, now)
            plan = self._planned(evening) if document.batches else None
            steps = tuple(batch.steps for batch in document.batches)
            return EveningNow(document, starts, now, local(self._clock()), steps, plan)

    def _planned(self, evening: Evening) -> Timetable:
        last = self._last
        same = last is not None and replace(last.evening, now=evening.now) == evening
        # What slipped is planned anew, once a minute.
        if last is not None and same and (last.evening.now == evening.now or not has_slipped(last, evening.now)):
            return last
        # Its solver is loaded with the first evening: most workshops plan none.
        from vamper.core.finishing.soonest import plan_evening

        try:
            self._last = plan_evening(evening, self._plan_seconds)
        except BadInput:
            self._last = one_by_one(evening)
        return self._last

    def add(self, job_id: int, plan: Plan) -> None:
        """Put a job's pieces into the evening; a job that is in it already is put in anew.

        Raises
        ------
        BadInput
            If nothing lies on its sheets, too much is in the evening, or a place it needs is not there.
        """
        found = finishing_of(plan)
        if found is None:
            raise BadInput("nothing lies on a sheet, so there is nothing to finish; add art first", "items")
        with self._lock:
            document = self._read()
            others = tuple(one for one in document.batches if one.job_id != job_id)
            if len(others) >= MOST_BATCHES:
                raise BadInput(f"an evening holds {MOST_BATCHES} batches; take one out first", "batches")
            number = 1 + max((one.number for one in document.batches), default=0)
            title = plan.job.title[:90] or "job"
            if title in {one.name for one in others}:
                title = f"{title} ({number})"
            batch = EveningBatch(number, job_id, plan.job.stock.key, title, found.chain.facts, found.work)
            opened = document.opened or self._moment()
            self._write(replace(document, batches=(*others, batch), opened=opened))

    def read_label(self, number: int, figures: Mapping[str, float]) -> None:
        """Go by what a product's label says, in a batch."""
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            check_figures(batch.facts.stock, figures)
            after = replace(batch, work=replace(batch.work, label={**batch.work.label, **figures}))
            if batch.happened and len(after.steps) != len(batch.steps):
                raise BadInput("the number of coats cannot change once a batch has begun", "coats")
            self._put(document, after)

    def remove(self, number: int) -> None:
        with self._lock:
            document = self._read()
            document.batch(number)
            self._write(replace(document, batches=tuple(one for one in document.batches if one.number != number)))

    def clear(self) -> None:
        """Begin a new evening: the places stay."""
        with self._lock:
            self._write(EveningDocument(places=self._read().places))

    def change(
        self,
        begins: datetime | None,
        done_by: datetime | None,
        places: dict[str, int] | None,
        away: tuple[AwayTime, ...] | None,
    ) -> None:
        """Set when it begins, the wish when it ends, what the places hold, and when nobody is there."""
        # Far from today there may be no offset to go by.
        today = self.now().replace(tzinfo=None)
        for time in (begins, done_by, *(side for one in away or () for side in (one.begins, one.ends))):
            if time is not None and abs(time.replace(tzinfo=None) - today) > _ABOUT_NOW:
                raise BadInput(f"{time:%Y-%m-%d} is not within a month of today; look at the year", "times")
        begins, done_by = (None if time is None else local(time) for time in (begins, done_by))
        if away is not None:
            away = tuple(AwayTime(local(one.begins), local(one.ends)) for one in away)
        with self._lock:
            document = self._read()
            first = document.first_began
            # What was begun before that stays where it was.
            if begins is not None and first is not None:
                begins = min(begins, first)
            data = replace(document, begins=begins, done_by=done_by)
            if places is not None:
                data = replace(data, places={**document.places, **places})
            if away is not None:
                data = replace(data, away=away)
            self._write(data)

    def begin(self, number: int, step: int) -> None:
        """Begin a step; a rest before it is over. A step that has begun already, on another screen, goes on."""
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            _known(batch, step)
            one = batch.at(step)
            if one.began is None:
                self._put(document, self._begun(batch, step))
            elif one.paused is not None:
                # The time that was worked on it counts, the pause does not.
                self._put(document, batch.with_step(Happened(step, self._moment() - (one.paused - one.began))))

    def pause(self, number: int, step: int) -> None:
        """Hands are off a step for a while; beginning it again goes on where it was left.

        Raises
        ------
        BadInput
            If it is not being worked on: what rests goes on resting.
        """
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            _known(batch, step)
            one, timed = batch.at(step), batch.steps[step].timed
            if not timed.hands_on:
                raise BadInput(
                    f"“{timed.name}” rests by itself and cannot be paused; end it when its check is right", "step"
                )
            if one.began is None or one.ended is not None:
                raise BadInput(f"“{timed.name}” is not being worked on, so there is nothing to pause", "step")
            if one.paused is None:
                self._put(document, batch.with_step(replace(one, paused=self._moment())))

    def end(self, number: int, step: int) -> None:
        """A step is done now; what rests after it begins by itself. A step that is done already stays so."""
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            _known(batch, step)
            if batch.at(step).ended is not None:
                return
            if batch.at(step).began is None:
                batch = self._begun(batch, step)
            batch = self._ended(batch, step)
            after = step + 1
            if after < len(batch.steps) and begins_by_itself(batch.steps[after]) and batch.at(after).began is None:
                batch = batch.with_step(Happened(after, self._moment()))
            self._put(document, batch)

    def _begun(self, batch: EveningBatch, step: int) -> EveningBatch:
        unread = unread_labels(batch.steps[step], batch)
        if unread:
            raise BadInput(
                f"read the product's label first: {', '.join(one.name for one in unread)}; heat is never set by a "
                "starter figure",
                "label",
            )
        for place in range(step):
            one = batch.at(place)
            if one.ended is None:
                if one.began is None or batch.steps[place].timed.hands_on:
                    raise BadInput(f"“{batch.steps[place].timed.name}” comes first; say when it is done", "step")
                batch = self._ended(batch, place)
        return batch.with_step(Happened(step, self._moment()))

    def _ended(self, batch: EveningBatch, step: int) -> EveningBatch:
        one, rest = batch.at(step), batch.steps[step]
        now = self._moment()
        if one.began is not None and now - one.began < timedelta(minutes=rest.least):
            raise BadInput(
                f"“{rest.timed.name}” needs {rest.least} min at least, and {whole_minutes(now - one.began)} are gone; "
                "a check that is right too soon does not count",
                "step",
            )
        return batch.with_step(replace(one, ended=now, paused=None))

    def undo(self, number: int, step: int) -> None:
        """A step has not begun, or is not done, after all; nor has what follows."""
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            _known(batch, step)
            one = batch.at(step)
            back = Happened(step, one.began) if one.ended is not None else Happened(step)
            for later in [other.step for other in batch.happened if other.step > step]:
                batch = batch.with_step(Happened(later))
            self._put(document, batch.with_step(back))

    def _put(self, document: EveningDocument, batch: EveningBatch) -> None:
        batches = tuple(batch if one.number == batch.number else one for one in document.batches)
        after = replace(document, batches=batches)
        first = after.first_began
        if first is not None and (after.begins is None or first < after.begins):
            after = replace(after, begins=first)
        self._write(after)

    def _read(self) -> EveningDocument:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
            kept = EveningDocument() if row is None else with_offsets(DOCUMENT.validate_python(row.value))
        now = self.now()
        return replace(kept, batches=tuple(rolled_on(batch, now) for batch in kept.batches))

    def _write(self, document: EveningDocument) -> None:
        """Keep an evening that can be planned.

        Raises
        ------
        BadInput
            If a place that is needed is not there, or hours end before they begin.
        """
        # A place that holds nothing any more is refused; what lies there already is fact.
        check(to_plan(document, document.begins or self.now(), self.now()))
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_KEY, value=DOCUMENT.dump_python(document, mode="json")))


def _known(batch: EveningBatch, step: int) -> None:
    if not 0 <= step < len(batch.steps):
        raise NotFound("this batch has no such step")
