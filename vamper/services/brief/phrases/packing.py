"""How the pieces are packed; the choices are the turns they may take."""

from vamper.core.sheet.pack.mode import MODES
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.values.item import Turn
from vamper.core.values.job import Job
from vamper.core.values.lengths import mm
from vamper.core.values.packing import TIDY
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind
from vamper.services.brief.words import TURN_PHRASES, TURN_REASONS, plural


def say(told: BriefFacts) -> tuple[str, str]:
    spec = told.document.packing
    mode = MODES[spec.mode if told.job.cutter.is_machine else TIDY]
    words = f"{mode.phrase}, " if mode.phrase else ""
    words += f"{TURN_PHRASES[spec.turn.within(_most(told.job))]}, {mm(spec.gap_mm)} apart"
    if spec.fill:
        words += ", the rest filled up"
    if spec.max_sheets:
        words += f", on {plural(spec.max_sheets, 'sheet')} at most"
    if told.document.copies > 1:
        words += f", {told.document.copies} times over"
    return ", packed ", words


def choices(asked: ChoiceContext) -> list[Choice]:
    found, most = list[Choice](), _most(asked.job)
    for turn in reversed(Turn):
        if turn is not turn.within(most):
            continue
        consequence = TURN_REASONS[turn]
        if asked.designed and turn is not Turn.ANY:
            problem = asked.designed.problem()
            rows = rows_of_boxes(problem.pieces, problem.live, problem.spec.gap_mm, turn, None)
            consequence += f"; plain rows take {plural(len(rows), 'sheet')}"
        chosen = turn is asked.document.packing.turn
        changes = {"packing.turn": turn.value}
        found.append(Choice(TURN_PHRASES[turn], consequence, changes, chosen, proposed=turn is Turn.ANY))
    return found


def _most(job: Job) -> Turn:
    """The most that pieces may be turned on this job's stock."""
    return job.stock.shrinking(job.shrink).turns


KIND = PhraseKind("packing", 5, say, choices)
