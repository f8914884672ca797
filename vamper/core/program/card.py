"""What is done at the bench where the machine's own program prints and cuts: in its order, and in a maker's words.

Nothing stands here that this maker cannot do: no page to print, no cut file, no force in grams. Source:
craft/program.md, "The card".
"""

from collections.abc import Iterator

from vamper.core.bench_step import BenchStep
from vamper.core.finishing.on_the_card import before_the_cut
from vamper.core.marks.reading import REMEDIES
from vamper.core.plan import Plan
from vamper.core.printing.advice import advice_for, tray_words
from vamper.core.program.choices import cover_trim_mm, program_choices
from vamper.core.program.picture import picture_frame, riding_drop
from vamper.core.values.chances import good_in, in_100
from vamper.core.values.cut import Cut
from vamper.core.values.lengths import size_mm
from vamper.core.values.paper import named
from vamper.core.values.sides import sides_of
from vamper.core.values.tables import table

_TABLE = table(__package__, "card.toml")


def before_loading(plan: Plan) -> Iterator[BenchStep]:
    """From the stock to the sheet that is ready to be laid on the mat."""
    job = plan.job
    yield _said("stock", (job.stock.title, sides_of(job.stock).up.partition(":")[0]))
    yield _picture(plan)
    if job.stock.printable:
        advice = advice_for(job.stock, job.printer)
        yield _said("print", (advice.media, f"quality: {advice.quality}"), advice.side, tray_words(advice, job.printer))
    yield from before_the_cut(plan, _trim(plan))


def at_the_machine(plan: Plan) -> Iterator[BenchStep]:
    """From the setting to the look before the sheet is unloaded."""
    for cut in (Cut.KISS, Cut.THROUGH):
        if any(item.spec.cut is cut for item in plan.items):
            yield _setting(plan, cut)
    if plan.reading is not None:
        taken = tuple(REMEDIES[remedy].text for remedy in plan.job.marks.remedies)
        yield _said("reading", (f"read in {in_100(plan.reading.chance)} of 100 tries",), *taken)
        yield _said("frame")
    drops = any(riding_drop(plan, sheet) is not None for sheet in range(len(plan.sheets)))
    yield _said("look", (), _TABLE["look"]["drop" if drops else "no_drop"])
    yield _said("again")


def telling() -> BenchStep:
    """The last step of the card: tell how the sheet came out."""
    return _said("tell")


def _said(key: str, figures: tuple[str, ...] = (), *first: str) -> BenchStep:
    words = _TABLE[key]
    return BenchStep(key, words["do"], figures, (*(line for line in first if line), *words["lines"]))


def _picture(plan: Plan) -> BenchStep:
    job, choices = plan.job, program_choices(plan)
    sizes = [size_mm(*picture_frame(plan, sheet).size_mm, 2) for sheet in range(len(plan.sheets))]
    alike = len(set(sizes)) == 1
    each = sizes[:1] if alike else [f"sheet {number}: {size}" for number, size in enumerate(sizes, 1)]
    paper = named(job.paper)
    size = size_mm(job.paper.width_mm, job.paper.height_mm)
    on = f"paper: {f'{paper.words}, {size}' if paper else size}"
    copies = (f"{job.copies} copies of each",) if job.copies > 1 else ()
    return _said("picture", (*each, on, *copies), *choices.why)


def _trim(plan: Plan) -> str:
    """How large a laminate may be, so that it covers none of the program's marks."""
    trim = cover_trim_mm(plan)
    return f"no larger than {size_mm(*trim)}" if trim else "ends inside the program’s marks; measure them under Marks"


def _setting(plan: Plan, cut: Cut) -> BenchStep:
    setting = plan.settings[cut]
    choice = setting.spoken.choice
    words = _TABLE["setting"]
    what = words["kiss" if cut is Cut.KISS and len(setting.bands.outcomes) > 2 else "through"]
    if choice is None:
        return BenchStep("setting", words["do"], (f"{setting.blade}° blade",), (what, setting.spoken.look_for))
    passes = "one pass" if choice.passes == 1 else f"{choice.passes} passes"
    pressed = f"pressure: {choice.pressure}" if choice.pressure else ""
    figures = (f"“{choice.name}”", *((pressed,) if pressed else ()), passes, f"{setting.blade}° blade")
    return BenchStep("setting", words["do"], figures, (what, good_in(setting.usable), *words["lines"]))
