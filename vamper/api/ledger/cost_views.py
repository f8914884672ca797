"""The shelf and what a job costs, as the screen shows them."""

from collections.abc import Iterator

from vamper.api.ledger.schemas import CostOut, CostPartOut, PieceCostOut, SentenceOut, ShelfOut, SuppliesOut
from vamper.core.ledger.cost import Costing, PieceCost, Rates, Work, break_even, costs_of
from vamper.core.ledger.supply import OnShelf
from vamper.core.plan import Plan
from vamper.services.brief.words import plural
from vamper.services.ledger.costing import work_of
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop

# Fewer sheets than this share of what was bought are few.
_LOW, _FEW = 0.2, 2
# Less than this is nothing when it is written down.
_SEEN = 0.005


def money(value: float, rates: Rates) -> str:
    return f"{value:.2f} {rates.currency}".strip()


def supplies_out(workshop: Workshop) -> SuppliesOut:
    rates = workshop.supplies.rates()
    kept = workshop.shop.stocks.all()
    return SuppliesOut(
        stocks=[
            ShelfOut(
                stock=one.stock,
                name=kept[one.stock].name if one.stock in kept else one.stock,
                bought=one.bought,
                spent=one.spent,
                left=one.left,
                low=one.left <= max(_FEW, _LOW * one.bought),
                sheet_price=money(one.sheet_price, rates),
                newest_pack=one.newest_pack,
            )
            for one in workshop.supplies.stocks()
        ],
        can_buy=[SentenceOut(key=key, words=one.name) for key, one in kept.items()],
        rates=rates,
    )


def cost_out(workshop: Workshop, plan: Plan, ink_ml: float) -> CostOut:
    rates, shelf = workshop.supplies.rates(), workshop.supplies.of(plan.asked.stock.key)
    simulated = plan.job.cutter.practice is not None
    work = work_of(plan, shelf, workshop.runs, ink_ml, simulated)
    found = costs_of(work, rates)
    names = {item.number: item.as_asked.name for item in plan.items}
    counts = {one.number: one.count for one in work.designs}
    return CostOut(
        known=found.total > 0,
        pieces=[_piece_out(one, names[one.number], counts[one.number], rates) for one in found.pieces],
        total=money(found.total, rates),
        lines=list(_lines(found, work, shelf, rates)),
        tax_line=rates.tax_line,
    )


def _piece_out(one: PieceCost, name: str, count: int, rates: Rates) -> PieceCostOut:
    return PieceCostOut(
        number=one.number,
        name=name,
        count=count,
        cost=money(one.total, rates),
        by_margin=money(one.by_margin, rates),
        by_hour=money(one.by_hour, rates),
        parts=[
            CostPartOut(part=part, cost=money(cost, rates), share=cost / one.total if one.total else 0.0)
            for part, cost in one.parts
            if cost >= _SEEN
        ],
    )


def _lines(found: Costing, work: Work, shelf: OnShelf | None, rates: Rates) -> Iterator[str]:
    if not found.pieces:
        return
    if found.one_more_saves >= _SEEN:
        yield f"One more on each sheet saves {money(found.one_more_saves, rates)} a piece."
    if work.good < 1:
        yield f"{(1 - work.good) * 100:.0f} % are reckoned to be spoilt, by the runs on this stock."
    if shelf is None:
        yield "What this stock costs is not known; put a pack on the shelf, in the ledger."
        return
    first = found.pieces[0]
    stock = sum(cost for part, cost in first.parts if part == "stock")
    pays = break_even(shelf.pack_price, first.by_margin, first.total - stock)
    if shelf.pack_price and pays is not None:
        yield f"A pack for {money(shelf.pack_price, rates)} is paid for by {plural(pays, 'piece')} sold."
    if shelf.left < work.sheets:
        yield f"Only {plural(shelf.left, 'sheet')} of it are left, and this takes {work.sheets}."


def check_stock(workshop: Workshop, key: str) -> None:
    """Refuse a stock that the workshop does not have."""
    if key not in workshop.shop.stocks.all():
        raise NotFound("there is no such stock in the workshop")
