"""A dry run as the screen shows it."""

from vamper.api.twin.schemas import (
    DryRunIn,
    DryRunOut,
    TwinCauseOut,
    TwinOutcomeOut,
    TwinPieceOut,
    TwinRemedyOut,
    TwinSheetOut,
)
from vamper.core.finishing.dangers import MOST_CAUTIONS
from vamper.core.plan import Plan
from vamper.core.twin.cut_out import spoiling_of, typical_run
from vamper.core.twin.dry_run import PieceOutcome
from vamper.core.twin.remedies import CAUSE_NAMES, CAUSE_WORDS, TwinRemedy
from vamper.core.values.chances import in_100, in_100_short
from vamper.core.values.findings import Place
from vamper.core.values.lengths import mm
from vamper.formats.svg_path import shape_path
from vamper.services.finish.finishing import finishing_of
from vamper.services.twin.dry_run_service import DryRunRequest, DryRunStatus
from vamper.services.twin.dry_runs import DryRunFiles
from vamper.services.twin.helps import Chances

# A hundredth of a millimetre is finer than a screen shows.
_PATH_DECIMALS = 2
NOT_ASKED = DryRunRequest(DryRunIn().runs)


def dry_run_out(told: DryRunStatus | None, plan: Plan) -> DryRunOut:
    asked = told.asked if told is not None else NOT_ASKED
    practice = plan.job.cutter.practice is not None or plan.job.printer.practice is not None
    return DryRunOut(
        running=told is not None and told.running,
        share=told.share if told is not None else 0.0,
        doing=told.doing if told is not None else "",
        problem=told.problem if told is not None else "",
        practice=practice,
        asked=DryRunIn(runs=asked.runs, unsure=asked.unsure, faults=list(asked.faults), seed=asked.seed),
        outcome=None if told is None or told.found is None else _outcome(told, told.found, plan),
        cautions=_cautions(plan),
    )


def _cautions(plan: Plan) -> list[str]:
    """Cautions for a job that is made for real, in the order of its steps; only the first few, as more are not read."""
    found = finishing_of(plan)
    steps = () if found is None else found.steps
    return list(dict.fromkeys(caution for one in steps for caution in one.cautions))[:MOST_CAUTIONS]


def _outcome(told: DryRunStatus, found: DryRunFiles, plan: Plan) -> TwinOutcomeOut:
    outcome = found.outcome
    return TwinOutcomeOut(
        fresh=told.is_of(plan),
        number=found.number,
        runs=outcome.runs,
        unsure=told.found_asked.unsure,
        faults=list(told.found_asked.faults),
        marks_read=in_100_short(outcome.marks_read),
        sheet_good=in_100_short(outcome.sheet_good),
        pieces_good=in_100_short(outcome.pieces_good_mean),
        miss_p50_mm=outcome.miss_p50_mm,
        miss_p95_mm=outcome.miss_p95_mm,
        verdict=verdict(found),
        causes=[
            TwinCauseOut(
                cause=one.cause,
                name=CAUSE_NAMES[one.cause],
                words=CAUSE_WORDS[one.cause],
                share=one.share,
                said=in_100_short(one.share),
                pieces=one.pieces,
            )
            for one in outcome.causes
        ],
        remedies=[_remedy(*one) for one in told.helps.each],
        then=[_remedy(*one) for one in told.helps.then],
        sheets=[_sheet(found, number) for number in range(len(found.sheets))],
    )


def _remedy(remedy: TwinRemedy, one: Chances) -> TwinRemedyOut:
    return TwinRemedyOut(
        key=remedy.key,
        causes=list(remedy.causes),
        text=remedy.text,
        at=remedy.at,
        sheet_good=in_100_short(one.sheet_good),
        pieces_good=in_100_short(one.pieces_good),
        steps=list(remedy.steps),
    )


def _sheet(found: DryRunFiles, number: int) -> TwinSheetOut:
    sheet = found.sheets[number]
    run = typical_run(sheet)
    pieces = [
        TwinPieceOut(
            placement=piece.placement,
            item_number=piece.item,
            box=Place.of_bounds(sheet.facts.edges[piece.placement].bounds),
            good=piece.good,
            bitten=piece.bitten,
            cut_clean=piece.cut_clean,
            miss_p95_mm=piece.miss_p95_mm,
            spoiled=(spoiled := spoiling_of(sheet, run, piece.placement)),
            path="" if spoiled is None else shape_path(sheet.facts.edges[piece.placement], _PATH_DECIMALS),
            words=_piece_words(piece),
        )
        for piece in found.outcome.of_sheet(number)
    ]
    return TwinSheetOut(
        number=number + 1,
        run=run,
        read=bool(sheet.read[run]),
        good=in_100_short(float(sheet.sheet_good.mean())),
        pieces=pieces,
    )


def _piece_words(piece: PieceOutcome) -> str:
    """The result of one piece, in a sentence."""
    words = f"good in {in_100(piece.good)} of 100 runs"
    if piece.causes and piece.good < 1:
        cause, share = piece.causes[0]
        words += f"; {CAUSE_NAMES[cause].lower()} in {in_100(share)}"
    if piece.miss_p95_mm is not None:
        words += f"; the cut lies within {mm(piece.miss_p95_mm, 2)} of its place in 95"
    return words


def verdict(found: DryRunFiles) -> str:
    """The result of a dry run, in a sentence."""
    outcome = found.outcome
    many = len(found.sheets) > 1
    sheet = "a sheet" if many else "the sheet"
    if outcome.runs == 1:
        spoiled = sum(1 for one in found.outcome.pieces if one.good < 1)
        if not outcome.marks_read:
            return "The marks were not read, so nothing was cut; nothing is spoiled but the time."
        if not spoiled:
            return "This time every piece came out good."
        return f"This time {spoiled} of {len(outcome.pieces)} pieces were spoiled."
    good, pieces = in_100(outcome.sheet_good), in_100(outcome.pieces_good_mean)
    return f"All pieces of {sheet} came out good in {good} of 100 runs, a single piece in {pieces}."
