"""The shelf and what a job costs, as the screen shows them."""

from collections.abc import Iterator

from vamper.api.ledger.cost_schemas import CostOut, CostPartOut, PieceCostOut, ProductCostOut
from vamper.api.ledger.schemas import (
    InMachineOut,
    PriceOut,
    SentenceOut,
    ShelfOut,
    StoredOut,
    SuppliesOut,
    ThingOut,
)
from vamper.core.ledger.cost import RATE_WORDS, Costing, PieceCost, Rates, WorkTimes, break_even, costs_of
from vamper.core.ledger.money import money
from vamper.core.ledger.product_cost import ProductCost, product_costs
from vamper.core.ledger.supply import LOW_SHARE, THINGS, OnShelf, Stored
from vamper.core.plan import Plan
from vamper.core.values.blade import BLADE_METRES
from vamper.core.values.lengths import figure
from vamper.services.brief.words import SHARED_BY_WORDS, plural
from vamper.services.handoff.ink import Inks
from vamper.services.ledger.costing import work_of
from vamper.services.ledger.logging import is_simulated
from vamper.services.ledger.runs import Runs
from vamper.services.ledger.supplies import Supplies
from vamper.services.shop.shop import Shop
from vamper.services.work.not_found import NotFound

# So few sheets are few, however many were bought.
_FEW = 2
# Less than this is nothing when it is written down.
_SEEN = 0.005


def supplies_out(shop: Shop, supplies: Supplies) -> SuppliesOut:
    typed, used = supplies.rates(), supplies.prices()
    kept = shop.stocks.all()
    return SuppliesOut(
        stocks=[
            ShelfOut(
                stock=one.stock,
                name=kept[one.stock].name if one.stock in kept else one.stock,
                bought=one.bought,
                spent=one.spent,
                left=one.left,
                low=one.left <= max(_FEW, LOW_SHARE * one.bought),
                sheet_price=money(one.sheet_price, used.currency),
                newest_pack=one.newest_pack,
            )
            for one in supplies.stocks()
        ],
        things=[_stored_out(one, used) for one in supplies.stored()],
        in_machines=list(_in_machines(shop)),
        can_buy=[SentenceOut(key=key, words=one.name) for key, one in kept.items()],
        can_buy_things=[
            ThingOut(key=key, name=one.name, bought_by=one.bought_by, unit=one.unit) for key, one in THINGS.items()
        ],
        rates=typed,
        prices=[
            PriceOut(key=key, words=words, typed=getattr(typed, key), used=round(getattr(used, key), 4))
            for key, words in RATE_WORDS.items()
        ],
        shares=[SentenceOut(key=one, words=words) for one, words in SHARED_BY_WORDS.items()],
    )


def _stored_out(one: Stored, rates: Rates) -> StoredOut:
    words = THINGS[one.thing]
    return StoredOut(
        thing=one.thing,
        name=one.name or words.name,
        words=f"{one.left:.3g} of {one.bought:.4g} {words.unit} left",
        share_left=one.left / one.bought,
        low=one.is_low,
        price=f"{money(one.price, rates.currency)} {words.each}",
        newest=one.newest,
    )


def _in_machines(shop: Shop) -> Iterator[InMachineOut]:
    """Blades and mats that are in use, and what they went through."""
    cutters, care = shop.cutters.all(), shop.care
    for blade in care.blades.all():
        if blade.cutter_id in cutters:
            left = max(0.0, 1 - blade.value.metres / BLADE_METRES)
            cut_so_far, lasts = (figure(metres, "m", 0) for metres in (blade.value.metres, BLADE_METRES))
            words = f"{cut_so_far} of about {lasts} cut"
            yield InMachineOut(
                what="blade",
                name=blade.name,
                machine=cutters[blade.cutter_id].name,
                words=words,
                share_left=left,
                low=left <= LOW_SHARE,
            )
    for mat in care.mats.all():
        if mat.cutter_id in cutters:
            words = f"{plural(mat.value.loads, 'load')} since it was washed, {plural(mat.value.washings, 'washing')}"
            yield InMachineOut(
                what="mat",
                name=mat.name,
                machine=cutters[mat.cutter_id].name,
                words=words,
                share_left=None,
                low=False,
            )


def cost_out(runs: Runs, inks: Inks, supplies: Supplies, plan: Plan) -> CostOut:
    rates, found, work, shelf = _costed(runs, supplies, plan, _ink_ml(inks, supplies, plan))
    names = {item.number: item.as_asked.name for item in plan.items}
    counts = {one.number: one.count for one in work.designs}
    return CostOut(
        known=found.total > 0,
        pieces=[_piece_out(one, names[one.number], counts[one.number], rates) for one in found.pieces],
        products=[_product_out(one, rates) for one in product_costs(plan.asked.products, found, rates, work.good)],
        total=money(found.total, rates.currency),
        a_piece=_a_piece(found, work, rates),
        lines=list(_lines(found, work, shelf, rates)),
        tax_line=rates.tax_line,
    )


def cost_a_piece(runs: Runs, inks: Inks, supplies: Supplies, plan: Plan, laid: Plan) -> str:
    """The mean cost of a piece in another layout of a plan; "" while no price is known. Its ink is taken from the
    plan, by the number of pieces.
    """
    share = laid.layout.pieces / plan.layout.pieces if plan.layout.pieces else 0.0
    rates, found, work, _ = _costed(runs, supplies, laid, _ink_ml(inks, supplies, plan) * share)
    return _a_piece(found, work, rates)


def _a_piece(found: Costing, work: WorkTimes, rates: Rates) -> str:
    count = sum(one.count for one in work.designs)
    return money(found.total / count, rates.currency) if found.total and count else ""


def _ink_ml(inks: Inks, supplies: Supplies, plan: Plan) -> float:
    """Measured only where ink has a price."""
    return inks.ml(plan, range(len(plan.sheets))) if supplies.prices().ink_ml else 0.0


def _costed(
    runs: Runs, supplies: Supplies, plan: Plan, ink_ml: float
) -> tuple[Rates, Costing, WorkTimes, OnShelf | None]:
    """The cost of a planned job, with the figures that it was reckoned from."""
    rates, shelf = supplies.prices(), supplies.of(plan.asked.stock.key)
    work = work_of(plan, shelf, runs, ink_ml, is_simulated(plan.asked))
    return rates, costs_of(work, rates), work, shelf


def _piece_out(one: PieceCost, name: str, count: int, rates: Rates) -> PieceCostOut:
    return PieceCostOut(
        number=one.number,
        name=name,
        count=count,
        cost=money(one.total, rates.currency),
        by_margin=money(one.by_margin, rates.currency),
        by_hour=money(one.by_hour, rates.currency),
        parts=[
            CostPartOut(part=part, cost=money(cost, rates.currency), share=cost / one.total if one.total else 0.0)
            for part, cost in one.parts
            if cost >= _SEEN
        ],
    )


def _product_out(one: ProductCost, rates: Rates) -> ProductCostOut:
    return ProductCostOut(
        name=one.name,
        quantity=one.quantity,
        material=money(one.material, rates.currency),
        cost=money(one.total, rates.currency),
        by_margin=money(one.by_margin, rates.currency),
    )


def _lines(found: Costing, work: WorkTimes, shelf: OnShelf | None, rates: Rates) -> Iterator[str]:
    if not found.pieces:
        return
    if found.one_more_saves >= _SEEN:
        yield f"One more on each sheet saves {money(found.one_more_saves, rates.currency)} a piece."
    if work.good < 1:
        yield f"{(1 - work.good) * 100:.0f} % are reckoned to be spoilt, by the runs on this stock."
    if shelf is None:
        yield "Vamper does not know what this stock costs; add a pack in the ledger, under “Shelf and prices”."
        return
    first = found.pieces[0]
    stock = sum(cost for part, cost in first.parts if part == "stock")
    pays = break_even(shelf.pack_price, first.by_margin, first.total - stock)
    if shelf.pack_price and pays is not None:
        yield f"A pack for {money(shelf.pack_price, rates.currency)} is paid for by {plural(pays, 'piece')} sold."
    if shelf.left < work.sheets:
        yield f"Only {plural(shelf.left, 'sheet')} of it are left, and this takes {work.sheets}."


def check_stock(shop: Shop, key: str) -> None:
    """Refuse a stock that the workshop does not have."""
    if key not in shop.stocks.all():
        raise NotFound("there is no such stock in the workshop")
