"""Runs, recipes and causes, as the screen shows them."""

from datetime import datetime

from vamper.api.art.views import picture_address
from vamper.api.ledger.schemas import (
    CameOutQuestion,
    DiagnosisOut,
    LaidDesignOut,
    LaidPieceOut,
    LaidSheetOut,
    LaterOut,
    LedgerOut,
    MachineMissesOut,
    OverTimeOut,
    RecipeOut,
    RunOut,
    SentenceOut,
    SharePoint,
    SpoiltWordOut,
    SuspectOut,
)
from vamper.api.was_set import proposed_out
from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.setting import settings_for
from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, CHECKS, OTHER, Diagnosis
from vamper.core.ledger.recipe import Recipe, RecipeKind, setting_words
from vamper.core.ledger.run import SPOILT_WORDS, CameOut, Run, Spoilt
from vamper.core.values.chances import good_in
from vamper.core.values.cut import Cut
from vamper.core.values.findings import Place
from vamper.formats.svg_path import DECIMALS, shape_path
from vamper.services.brief.words import CAME_OUT_WORDS, LATER_WORDS, plural
from vamper.services.ledger.handed import HandedOff
from vamper.services.ledger.logging import is_simulated
from vamper.services.ledger.runs import KeptRun, Runs, due_at
from vamper.services.shop.shop import Shop
from vamper.services.work.not_found import NotFound

MOST_SHOWN, MOST_SUSPECTS, MOST_MISSES = 200, 6, 200
MOST_POINTS, MOST_PLOTS = 60, 12


def question_out(handed: HandedOff, logged: tuple[KeptRun, ...], lots: tuple[str, ...]) -> CameOutQuestion:
    """The question on a hand-off, on the sheets as they were handed off."""
    plan, number = handed.plan, handed.number
    runs = {one.run.sheet: one.id for one in logged if number is not None and one.hand_off_id == number}
    names = {item.number: item.as_asked.name for item in plan.items}
    open_sheets = [sheet.number + 1 for sheet in plan.sheets if sheet.number + 1 not in runs]
    return CameOutQuestion(
        handed_off_at=handed.made_at,
        words=f"How did sheet {open_sheets[0]} come out?" if open_sheets and number is not None else "",
        width_mm=plan.job.paper.width_mm,
        height_mm=plan.job.paper.height_mm,
        sheets=[
            LaidSheetOut(
                number=sheet.number + 1,
                pieces=[
                    LaidPieceOut(
                        placement=place,
                        design=one.item,
                        name=names[one.item],
                        path=shape_path(edge, DECIMALS),
                        x_mm=one.x_mm,
                        y_mm=one.y_mm,
                        turn_deg=one.turn_deg,
                    )
                    for place, (one, edge) in enumerate(zip(sheet.placements, sheet.edges, strict=True))
                ],
                logged=runs.get(sheet.number + 1),
            )
            for sheet in plan.sheets
        ],
        copies=plan.asked.copies,
        lots=list(lots),
        simulated=is_simulated(plan.asked),
        asks_read=plan.reading is not None,
        proposed=[
            proposed_out(plan, cut)
            for cut in plan.settings
            if plan.job.cutter.is_machine and any(item.spec.cut is cut for item in plan.items)
        ],
        designs={
            item.number: LaidDesignOut(
                picture=picture_address(item.spec.art, item.spec.prepare),
                box=Place(*item.outline.picture_box_mm),
            )
            for item in plan.items
        },
        spoilt=[
            SpoiltWordOut(key=key, words=words)
            for key, words in SPOILT_WORDS.items()
            if key is not Spoilt.BACKING_THROUGH or plan.job.stock.has_backing
        ],
    )


def ledger_out(shop: Shop, kept_runs: Runs, at: datetime) -> LedgerOut:
    runs = kept_runs.all()
    due = kept_runs.due(at)
    return LedgerOut(
        runs=[run_out(one, at) for one in reversed(runs[-MOST_SHOWN:])],
        total=len(runs),
        recipes=[_recipe_out(shop, one) for one in kept_runs.recipes()],
        due=[one.id for one, _ in due],
        machines=_machines(runs),
        over_time=_over_time(runs),
    )


def _over_time(runs: tuple[KeptRun, ...]) -> list[OverTimeOut]:
    """How runs came out on each stock and machine, the pair with the newest run first."""
    found: dict[tuple[str, str, bool], list[SharePoint]] = {}
    for kept in reversed(runs):
        run = kept.run
        points = found.setdefault((run.stock_name, run.cutter, run.simulated), [])
        if run.made_pieces and len(points) < MOST_POINTS:
            points.append(SharePoint(at=kept.made_at, share=run.good_pieces / run.made_pieces))
    return [
        OverTimeOut(stock=stock, cutter=cutter, simulated=simulated, runs=points[::-1])
        for (stock, cutter, simulated), points in list(found.items())[:MOST_PLOTS]
        if len(points) > 1
    ]


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
        again=kept.hand_off_id is not None,
        settings_held=run.cut_is_good,
        made_at=kept.made_at,
        title=run.title,
        customer=run.customer,
        lot=run.lot,
        sheet=run.sheet,
        sheets=run.sheets,
        pieces=run.made_pieces,
        good=run.good_pieces,
        came_out=run.came_out,
        came_out_words=CAME_OUT_WORDS[run.came_out],
        stock=run.stock_name,
        cutter=run.cutter,
        settings="; ".join(setting_words(one) for one in run.settings),
        spoilt=_spoilt_words(run),
        cause=cause_words(run),
        simulated=run.simulated,
        later=[
            LaterOut(
                kind=one.kind,
                words=LATER_WORDS[one.kind],
                due=(due := due_at(kept.made_at, one.kind)),
                is_due=one.held is None and due <= at,
                held=one.held,
            )
            for one in run.later
        ],
        note=run.note,
    )


def cause_words(run: Run) -> str | None:
    """The words for a cause; a cause that this Vamper does not know goes by its own name."""
    if run.cause is None:
        return None
    return CAUSE_BY_KEY[run.cause].text if run.cause in CAUSE_BY_KEY else run.cause


def _spoilt_words(run: Run) -> str:
    if run.came_out is CameOut.NOT_RUN:
        return CAME_OUT_WORDS[run.came_out]
    counts = {what: sum(one.what is what for one in run.spoilt) for what in SPOILT_WORDS}
    return ", ".join(f"{many} {SPOILT_WORDS[what]}" for what, many in counts.items() if many)


def _recipe_out(shop: Shop, one: Recipe) -> RecipeOut:
    what, success = one.what, one.success
    following, why, source = _next_cut(shop, one) if what.kind is RecipeKind.CUT else _next_way(one)
    went = plural(success.good + success.bad, "run")
    return RecipeOut(
        kind=what.kind,
        stock=what.stock_name,
        machine=what.machine,
        what=f"{what.blade}° blade" if what.blade else "",
        setting=one.way,
        simulated=what.simulated,
        runs=len(one.runs),
        share=success.share,
        low=success.low,
        high=success.high,
        lately=one.lately.share,
        drifted=one.drifted,
        words=f"{success.good} of {went} {_WENT[what.kind]}",
        source=source,
        next_setting=following,
        why=why,
    )


_WENT = {
    RecipeKind.CUT: "cut well",
    RecipeKind.PRINT: "printed well",
    RecipeKind.MARKS: "with every piece in its place",
    RecipeKind.FINISH: "came out well and held",
}


def _next_way(one: Recipe) -> tuple[str | None, str, str]:
    """Another way that went better, or that this one stands; and where that is known from."""
    source = f"from {plural(len(one.runs), 'run')}"
    if one.better is None:
        return None, "no change; new jobs on this stock start with it", source
    better = one.better.success
    return one.better.words, f"it went well in {better.good} of {plural(better.good + better.bad, 'run')}", source


def _next_cut(shop: Shop, one: Recipe) -> tuple[str | None, str, str]:
    """The setting that Cut proposes now, why it differs from the setting used last, and what it is known from."""
    cutters = {kept.name: (key, kept.value) for key, kept in shop.cutters.all().items()}
    found, setting, cut = cutters.get(one.what.machine), one.setting, one.what.cut
    counted = f"from {plural(len(one.runs), 'run')}"
    try:
        stock = shop.stock(one.what.stock)
    except NotFound:
        return None, "this stock is no longer in the workshop", counted
    if found is None or setting is None or cut is None:
        return None, "this machine is no longer in the workshop", counted
    key, _ = found
    cutter = shop.cutter_with_seen(key)
    tried, blade = shop.tried.of(key, one.what.stock), shop.care.blades.in_machine(key)
    known = CutHistory(tried.tries, tried.runs, None if blade is None else blade.value)
    seen_in = [plural(len(tried.ladders), "ladder")] if tried.ladders else []
    seen_in += [plural(len(tried.runs), "run")] if tried.runs else []
    source = f"from {' and '.join(seen_in)}" if seen_in else "from a starter figure"
    settings = settings_for(stock, cutter, known=known)
    proposed = settings.get(cut) or settings[Cut.THROUGH]
    choice = proposed.spoken.choice
    if choice is None and cutter.has_own_program:
        return None, "no setting chosen for this stock yet", source
    words = f"{proposed.cut.value} {choice.words if choice else f'{proposed.force_gf:g} gf × {proposed.passes}'}"
    now = (
        (None, choice.name, choice.pressure, choice.passes)
        if choice
        else (proposed.force_gf, "", None, proposed.passes)
    )
    if now == (setting.force_gf, setting.setting, setting.pressure, setting.passes):
        if one.drifted:
            return (
                None,
                "goes well less often now: change the blade, or cut a new ladder",
                source,
            )
        return None, "no change", source
    belief = proposed.belief
    harder = float(belief.quantile(0.5)) / belief.stock.hardness_gf_per_um - 1
    taken = f"{abs(harder) * 100:.0f} % {'harder' if harder > 0 else 'softer'} than its starter figure"
    seen = f"from what you saw, the stock is {taken}; " if known.has_seen else ""
    return words, f"{seen}{good_in(proposed.usable)}", source


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
                check=one.next_check,
            )
            for place, one in enumerate(found.suspects)
            if place < MOST_SUSPECTS or one.cause is OTHER
        ],
        next_check=found.next_check,
        asked=[SentenceOut(key=key, words=CHECKS[key].ask) for key in checked],
    )
