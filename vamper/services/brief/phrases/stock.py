"""The stock: grouped by what is made of it, each with what it is for and what it would change for this job."""

from collections.abc import Iterable
from dataclasses import replace

from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.setting import CutSetting, propose
from vamper.core.effective_job import effective_cut, initial_edge
from vamper.core.plan import detail_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import AFTER, GROUP_OF, GROUPS, Stock, StockClass
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseAnswer, PhraseKind, PhraseQuestion
from vamper.services.brief.words import plural

# Stocks that were used last stand before all others, so many of them.
_USED_LAST, _MOST_LAST = "Used last", 3
_EDGE_FIELDS = ("kind", "distance_mm", "fill_holes", "join", "rings", "colour")


def say(told: BriefFacts) -> tuple[str, str]:
    plain = ", cut plain" if told.job.plain and told.job.stock.stock_class is StockClass.CARD else ""
    if told.sheets_left is None:
        return " out of ", f"{told.job.stock.name}{plain}"
    short = f", {told.sheets_needed} needed" if told.sheets_needed > told.sheets_left else ""
    return " out of ", f"{told.job.stock.name} ({plural(told.sheets_left, 'sheet')} left{short}){plain}"


def choices(asked: ChoiceContext) -> list[Choice]:
    """Those used last first, the others in groups by what is made, in the order of the shelf within each."""
    shelf, now = asked.shop.stocks.all(), asked.document.stock
    keys = [key for key, kept in shelf.items() if not kept.hidden or key == now]
    prices = asked.prices()
    found = {key: _choice(asked, key, shelf[key].name, shelf[key].value, prices.get(key, "")) for key in keys}
    last = [replace(found.pop(key), group=_USED_LAST) for key in asked.recent[:_MOST_LAST] if key in found]
    return [*last, *sorted(found.values(), key=lambda choice: GROUPS.index(choice.group))]


def _choice(asked: ChoiceContext, key: str, name: str, stock: Stock, price: str) -> Choice:
    wanted = {item.cut for item in asked.document.items} or {Cut.KISS}
    cut = effective_cut(stock, Cut.KISS if Cut.KISS in wanted else Cut.THROUGH)
    tried = asked.shop.tried.of(asked.document.cutter_id, key)
    known = CutHistory(tried.tries, tried.runs, asked.job.blade, asked.job.passes)
    detail = detail_of(asked.design.items if asked.design else ())
    setting = propose(stock, cut, asked.job.cutter, detail, known)
    printed = "not printed" if not stock.printable else "printed mirrored" if stock.mirrored else "printed"
    how = (_cut_words(setting, asked.job.cutter), printed, f"then {AFTER[stock.stock_class]}")
    return Choice(
        name,
        "; ".join(filter(None, (*how, price))),
        {"stock": key, "plain": False},
        key == asked.document.stock,
        group=GROUP_OF[stock.stock_class],
        use=stock.use,
        each=_usual_cut(asked.job.stock, stock, asked.document.items),
        question=_question(asked.job.stock, stock, asked.document.items),
    )


def _usual_cut(before: Stock, after: Stock, items: Iterable[ItemSpec]) -> dict[str, object]:
    """Designs that are all cut as the one stock usually is are cut as the other one usually is."""
    usual = before.starts is not after.starts and all(item.cut is before.starts for item in items)
    return {"cut": after.starts} if usual else {}


def _question(before: Stock, after: Stock, items: Iterable[ItemSpec]) -> PhraseQuestion | None:
    """Whether card is printed or cut plain; of all else what becomes of the edges where printing comes or goes. Nothing
    to ask where they suit already.
    """
    if after.asks_if_plain:
        return _plain_or_printed(after, items)
    if before.printable == after.printable:
        return None
    start = initial_edge(after)
    others = [item for item in items if item.edge.has_border is not start.has_border]
    if not others:
        return None
    each, count = _fields(start), plural(len(others), "design")
    if after.printable:
        return PhraseQuestion(
            f"{after.title} is printed, and {count} would be cut on the drawing itself, without a border.",
            (
                PhraseAnswer("Give them a border", "the usual one, holes filled, parts joined", each),
                PhraseAnswer("Keep them without one", "the blade runs along the print", {}),
            ),
        )
    return PhraseQuestion(
        f"{after.title} is cut only. With their borders, {count} would come out as plain shapes: nothing is printed.",
        (
            PhraseAnswer("Cut the drawings themselves", "no border, holes stay open, parts stay apart", each),
            PhraseAnswer("Keep the borders", "only their outer shapes are cut", {}),
        ),
    )


def _plain_or_printed(card: Stock, items: Iterable[ItemSpec]) -> PhraseQuestion:
    bordered, bare = initial_edge(card), initial_edge(card.plainly(True))
    several = list(items)

    def each(edge: EdgeSpec) -> dict[str, object]:
        return _fields(edge) if any(item.edge.has_border is not edge.has_border for item in several) else {}

    return PhraseQuestion(
        f"{card.title} is printed, or cut as it is.",
        (
            PhraseAnswer("Print it", "a border round the drawing, holes filled", each(bordered), {"plain": False}),
            PhraseAnswer(
                "Cut it plain",
                "the drawing itself: no border, no marks, holes stay open, one colour a sheet",
                each(bare),
                {"plain": True},
            ),
        ),
    )


def _fields(edge: EdgeSpec) -> dict[str, object]:
    """The fields of a design that make an edge bare or bordered; smoothing and corners stay."""
    return {f"edge.{field}": getattr(edge, field) for field in _EDGE_FIELDS}


def _cut_words(setting: CutSetting, cutter: Cutter) -> str:
    """How a stock would be cut: by a force, or by what this machine's own list has for it."""
    if not cutter.has_own_program:
        return f"{setting.cut} cut, {setting.force_gf:g} gf × {setting.passes}"
    how = "cut through" if setting.cut is Cut.THROUGH else "cut through the face only"
    return f"{how}, {'no setting typed' if setting.spoken.choice is None else setting.spoken.choice.words}"


KIND = PhraseKind("stock", 2, say, choices)
