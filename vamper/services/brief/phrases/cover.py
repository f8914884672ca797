"""What lies over the print: one decision, from which force, trim, marks, order and minutes follow together."""

from vamper.core.finishing.chain_facts import cover_of, is_coverable, usual_cover
from vamper.core.finishing.targets import TARGETS
from vamper.core.values.finish import CoverKind, CoverSpec, CoverWhen
from vamper.core.values.job import Job
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind
from vamper.services.brief.words import counted

_WHEN = {CoverWhen.BEFORE_CUT: "before the cut", CoverWhen.AFTER_CUT: "after the cut"}
_CHOICES = (
    (CoverSpec(), "no cover", "the print as it dries: for a short use, indoors, and stock that stands water"),
    (
        CoverSpec(CoverKind.LAMINATE),
        "a laminate",
        "laid before the cut and cut with it: more force, and it ends inside the marks",
    ),
    (
        CoverSpec(CoverKind.COAT),
        "a coat before the cut",
        "the whole sheet at once, a guard over marks that are read; rims stay bare",
    ),
    (
        CoverSpec(CoverKind.COAT, CoverWhen.AFTER_CUT),
        "a coat after the cut",
        "reaches over the rims; nothing lies over the marks when they are read",
    ),
)


def say(told: BriefFacts) -> tuple[str, str]:
    stock = told.job.stock
    if told.job.finish.cover is None and not (stock.printable and is_coverable(stock.stock_class)):
        return "", ""
    return ", ", cover_words(told.job)


def cover_words(job: Job) -> str:
    """The cover of a job's print, as a part of its brief."""
    cover = cover_of(job)
    if cover.kind is CoverKind.NONE:
        return "left uncovered"
    if cover.kind is CoverKind.LAMINATE:
        return f"under a laminate of {cover.um:g} µm"
    how = "sealed" if cover.coats is None else f"sealed with {counted(cover.coats, 'coat')}"
    return f"{how} {_WHEN[cover.when]}"


def choices(asked: ChoiceContext) -> list[Choice]:
    """No cover, a laminate, or a coat; what hangs outdoors is proposed a laminate, a film over water its coat."""
    job = asked.job
    now = cover_of(job)
    outdoors = job.target is not None and TARGETS[job.target].outdoors and job.stock.printable
    wanted = CoverKind.LAMINATE if outdoors else cover_of_stock(job)
    return [
        Choice(
            label,
            means,
            {"finish.cover": {"kind": spec.kind.value, "when": spec.when.value}},
            (spec.kind, spec.when) == (now.kind, now.when),
            proposed=spec.kind is wanted and spec.kind is not CoverKind.NONE and spec.when is CoverWhen.BEFORE_CUT,
        )
        for spec, label, means in _CHOICES
    ]


def cover_of_stock(job: Job) -> CoverKind:
    """The cover that a stock needs of itself."""
    return usual_cover(job.stock).kind


KIND = PhraseKind("cover", 7, say, choices)
