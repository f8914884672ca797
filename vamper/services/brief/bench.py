"""The job at the bench: what to do, step by step, as it is read from a phone with one hand free."""

from dataclasses import dataclass

from vamper.core.plan import Plan
from vamper.core.values.cutter import Feed
from vamper.core.values.item import Cut
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.paper import named
from vamper.core.values.tables import table
from vamper.services.brief.words import CUT_HINTS, plural

_TABLE = table(__package__, "bench.toml")
_STOCKS = table(__package__, "stock_words.toml")
_AFTER = {kind: after for group in _STOCKS["groups"] for kind, after in group["classes"].items()}


@dataclass(frozen=True, slots=True)
class BenchStep:
    """One thing to do: `do` in a few words, `figures` large, `lines` below them."""

    do: str
    figures: tuple[str, ...]
    lines: tuple[str, ...]


def bench_steps(plan: Plan) -> list[BenchStep]:
    """Everything from the printer to the last cut; empty while nothing is laid on a sheet."""
    if not plan.sheets:
        return []
    return [*_printing(plan), _loading(plan), *_cutting(plan), _after(plan)]


def _printing(plan: Plan) -> list[BenchStep]:
    job = plan.job
    if not job.stock.printable:
        return []
    paper = named(job.paper)
    size = size_mm(job.paper.width_mm, job.paper.height_mm)
    own = ("mirror_done",) if plan.mirror else ()
    lines = [_TABLE["print"][key] for key in ("scale", "rims", *own, "dry")]
    pages = plural(len(plan.sheets), "page")
    copies = (f"{job.copies} copies of each",) if job.copies > 1 else ()
    return [BenchStep(f"Print {pages}", (f"{paper.words}, {size}" if paper else size, *copies), tuple(lines))]


def _loading(plan: Plan) -> BenchStep:
    words = _TABLE["load"][plan.job.cutter.feed]
    lines = list(words["lines"])
    if plan.job.cutter.feed is Feed.MAT:
        tack = next(iter(plan.settings.values())).mat
        return BenchStep(words["do"], (f"{tack} tack",), tuple(lines))
    return BenchStep(words["do"], (), tuple(lines))


def _cutting(plan: Plan) -> list[BenchStep]:
    if not plan.job.cutter.is_machine:
        return []
    wanted = {item.spec.cut for item in plan.items}
    # What lies loose is cut last, so that the sheet holds still for everything else.
    cuts = [cut for cut in (Cut.KISS, Cut.THROUGH) if cut in wanted]
    found = []
    for cut in cuts:
        setting = plan.settings[cut]
        figures = (
            f"{setting.force_gf:g} gf × {setting.passes}",
            f"{setting.blade}° blade, {mm(setting.exposure_mm)} out",
        )
        lines = (CUT_HINTS[cut], _TABLE["cut"]["try"], _TABLE["cut"]["care"])
        found.append(BenchStep(f"{cut.capitalize()} cut", figures, lines))
    return found


def _after(plan: Plan) -> BenchStep:
    return BenchStep("Afterwards", (), (_AFTER[plan.job.stock.stock_class], _TABLE["after"]["label"]))
