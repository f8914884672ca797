"""Runs, recipes and causes, as the screen shows them."""

from datetime import datetime, timedelta

from vamper.api.ledger.schemas import (
    CameOutQuestion,
    CheckOut,
    DiagnosisOut,
    LaidPieceOut,
    LaidSheetOut,
    LaterOut,
    LedgerOut,
    MachineMissesOut,
    RecipeOut,
    RunOut,
    SentenceOut,
    SpoiltWordOut,
    SuspectOut,
)
from vamper.core.cutting.setting import Known, settings_for
from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, CHECKS, Check, Diagnosis
from vamper.core.ledger.recipe import Recipe
from vamper.core.ledger.run import DAYS_LATER, SPOILT_WORDS, CameOut, Run, Spoilt, UsedSetting
from vamper.core.plan import Plan
from vamper.core.values.cut import Cut
from vamper.formats.svg_path import DECIMALS, shape_path
from vamper.services.brief.words import plural
from vamper.services.ledger.runs import KeptRun
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop

MOST_SHOWN, MOST_SUSPECTS, MOST_MISSES = 200, 6, 200


def question_out(plan: Plan, handed: tuple[int, datetime] | None, logged: tuple[KeptRun, ...]) -> CameOutQuestion:
    runs = {one.run.sheet: one.id for one in logged if handed is not None and one.hand_off_id == handed[0]}
    names = {item.number: item.as_asked.name for item in plan.items}
    open_sheets = [sheet.number + 1 for sheet in plan.sheets if sheet.number + 1 not in runs]
    return CameOutQuestion(
        handed_off_at=None if handed is None else handed[1],
        words=f"How did sheet {open_sheets[0]} come out?" if open_sheets and handed is not None else "",
        width_mm=plan.job.paper.width_mm,
        height_mm=plan.job.paper.height_mm,
        sheets=[
            LaidSheetOut(
                number=sheet.number + 1,
                pieces=[
                    LaidPieceOut(
                        placement=place,
                        name=names[one.item],
                        path=shape_path(edge, DECIMALS),
                        drawing=shape_path(one.of(plan.item(one.item).outline.shape), DECIMALS),
                    )
                    for place, (one, edge) in enumerate(zip(sheet.placements, sheet.edges, strict=True))
                ],
                logged=runs.get(sheet.number + 1),
            )
            for sheet in plan.sheets
        ],
        copies=plan.asked.copies,
        spoilt=[
            SpoiltWordOut(key=key, words=words)
            for key, words in SPOILT_WORDS.items()
            if key is not Spoilt.BACKING_THROUGH or plan.job.stock.has_backing
        ],
    )


def ledger_out(workshop: Workshop, at: datetime) -> LedgerOut:
    runs = workshop.runs.all()
    due = workshop.runs.due(at)
    return LedgerOut(
        runs=[run_out(one, at) for one in reversed(runs[-MOST_SHOWN:])],
        total=len(runs),
        recipes=[_recipe_out(workshop, one) for one in workshop.runs.recipes()],
        due=[one.id for one, _ in due],
        machines=_machines(runs),
    )


def _machines(runs: tuple[KeptRun, ...]) -> list[MachineMissesOut]:
    """Where each machine cut, the machine that was used last first."""
    found: dict[tuple[str, bool], list[list[float]]] = {}
    for run in (kept.run for kept in reversed(runs)):
        off = [[one.off.dx_mm, one.off.dy_mm] for one in run.spoilt if one.off is not None]
        if off:
            found.setdefault((run.cutter, run.simulated), [])[:0] = off
    return [
        MachineMissesOut(cutter=cutter, simulated=simulated, misses=misses[-MOST_MISSES:])
        for (cutter, simulated), misses in found.items()
    ]


def run_out(kept: KeptRun, at: datetime) -> RunOut:
    run = kept.run
    return RunOut(
        id=kept.id,
        job_id=kept.job_id,
        made_at=kept.made_at,
        title=run.title,
        sheet=run.sheet,
        sheets=run.sheets,
        pieces=run.made_pieces,
        good=run.good_pieces,
        came_out=run.came_out,
        stock=run.stock_name,
        cutter=run.cutter,
        settings="; ".join(_setting_words(one) for one in run.settings),
        spoilt=_spoilt_words(run),
        cause=None if run.cause is None else CAUSE_BY_KEY[run.cause].text,
        simulated=run.simulated,
        later=[
            LaterOut(
                kind=one.kind,
                due=(due := kept.made_at + timedelta(days=DAYS_LATER[one.kind])),
                is_due=one.held is None and due <= at,
                held=one.held,
            )
            for one in run.later
        ],
        note=run.note,
    )


def _spoilt_words(run: Run) -> str:
    if run.came_out is CameOut.NOT_RUN:
        return "not run"
    counts = {what: sum(one.what is what for one in run.spoilt) for what in SPOILT_WORDS}
    return ", ".join(f"{many} {SPOILT_WORDS[what]}" for what, many in counts.items() if many)


def _setting_words(one: UsedSetting) -> str:
    return f"{one.cut.value} {one.force_gf:g} gf × {one.passes}"


def _recipe_out(workshop: Workshop, one: Recipe) -> RecipeOut:
    what, success = one.what, one.success
    following, why = _next(workshop, one)
    return RecipeOut(
        stock=what.stock_name,
        cutter=what.cutter,
        cut=what.cut,
        blade=what.blade,
        setting=_setting_words(one.setting),
        simulated=what.simulated,
        runs=len(one.runs),
        share=success.share,
        low=success.low,
        high=success.high,
        lately=one.lately.share,
        drifted=one.drifted,
        words=f"{success.good} of {plural(success.good + success.bad, 'run')} cut as they should",
        next_setting=following,
        why=why,
    )


def _next(workshop: Workshop, one: Recipe) -> tuple[str | None, str]:
    """What Cut proposes now, and why that is another setting than the one that was used last."""
    cutters = {kept.name: (key, kept.value) for key, kept in workshop.shop.cutters.all().items()}
    found = cutters.get(one.what.cutter)
    try:
        stock = workshop.stock(one.what.stock)
    except NotFound:
        return None, "this stock is not in the workshop any more"
    if found is None:
        return None, "this machine is not in the workshop any more"
    key, cutter = found
    tried, blade = workshop.shop.tried.of(key, one.what.stock), workshop.shop.care.blades.in_machine(key)
    known = Known(tried.tries, tried.runs, None if blade is None else blade.value)
    settings = settings_for(stock, cutter, known=known)
    proposed = settings.get(one.what.cut) or settings[Cut.THROUGH]
    words = f"{proposed.cut.value} {proposed.force_gf:g} gf × {proposed.passes}"
    if (proposed.force_gf, proposed.passes) == (one.setting.force_gf, one.setting.passes):
        if one.drifted:
            return None, "stands as it is, though it went worse lately: change the blade, or run a ladder"
        return None, "stands as it is"
    return words, "; ".join(proposed.why[:2])


def diagnosis_out(found: Diagnosis, checked: dict[str, bool]) -> DiagnosisOut:
    return DiagnosisOut(
        suspects=[
            SuspectOut(
                key=one.cause.key,
                text=one.cause.text,
                chance=one.chance,
                why=list(one.why),
                remedy=one.cause.remedy,
                keep=one.cause.keep,
                check=_check_out(one.next_check),
            )
            for one in found.suspects[:MOST_SUSPECTS]
        ],
        next_check=_check_out(found.next_check),
        asked=[SentenceOut(key=key, words=CHECKS[key].ask) for key in checked],
    )


def _check_out(check: Check | None) -> CheckOut | None:
    return None if check is None else CheckOut(key=check.key, ask=check.ask, minutes=check.minutes)
