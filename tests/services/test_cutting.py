"""What a workshop learns of cutting: ladders judged drop by drop, runs, blades and mats, stocks of its own."""

from dataclasses import replace

import pytest

from tests.conftest import disc_png
from vamper.core.cutting.depth import bands_of, depth_um
from vamper.core.cutting.ladder import ladder_advice
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.mat import MatIn
from vamper.core.values.named_settings import MOST_SETTINGS, NamedSetting
from vamper.core.values.stock import STOCK_BY_KEY, StockClass, Tack
from vamper.core.values.tried import Outcome, Pressure
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.shop.own_stocks import NewStock
from vamper.services.shop.tried import CutRecord, JudgedDrop, RecordKind
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop

MAT_CUTTER = 1


@pytest.fixture
def job(workshop: Workshop) -> int:
    number = workshop.jobs.create("Film")
    art = workshop.arts.take_in("disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "disc", 40, {})
    workshop.repacking.begin(workshop.jobs.get(number))
    workshop.packing.stop(number)
    return number


def kiss(workshop: Workshop, job: int):  # type: ignore[no-untyped-def]
    return workshop.plans.of(workshop.jobs.get(job)).plan.settings[Cut.KISS]


def test_an_unknown_film_finds_its_force_in_twelve_drops(workshop: Workshop, job: int) -> None:
    """A film that is a quarter harder than the starter says, judged by the depth model."""
    stock, cutter = STOCK_BY_KEY["satin-vinyl"], workshop.shop.cutters.get(MAT_CUTTER).value
    bands = bands_of(stock, Cut.KISS)
    before = kiss(workshop, job)
    chances = [before.chance]
    for _ in range(2):
        setting = kiss(workshop, job)
        tried = workshop.shop.tried.of(MAT_CUTTER, stock.key)
        rungs = ladder_advice(setting.belief, cutter.force_gf, tried.tries).next_gf
        drops = tuple(JudgedDrop(gf, 1) for gf in rungs)
        record = CutRecord(RecordKind.LADDER, Cut.KISS, drops)
        number = workshop.shop.tried.keep(MAT_CUTTER, stock, cutter.force_gf, record)
        assert workshop.shop.tried.of(MAT_CUTTER, stock.key).open_ladder is not None
        # A ladder that waits says nothing yet.
        assert kiss(workshop, job).force_gf == setting.force_gf
        for place, gf in enumerate(rungs):
            depth = depth_um(gf, 1, stock, Blade.GENERAL) / 1.25
            outcome = next(one for one, low, high in bands.outcomes if low <= depth < high)
            workshop.shop.tried.judge(number, stock, place, outcome)
        chances.append(kiss(workshop, job).chance)
    assert chances[0] < chances[1] < chances[2]
    assert chances[2] > 0.9
    after = kiss(workshop, job)
    reached = depth_um(after.force_gf, 1, stock, Blade.GENERAL) / 1.25
    assert bands.least_um < reached < bands.most_um
    assert "cut.unsure" not in {one.code for one in workshop.plans.of(workshop.jobs.get(job)).findings}
    # The ladder is kept with the workshop, not with the job's history; taken away, all is as before.
    for kept in workshop.shop.tried.of(MAT_CUTTER, stock.key).records:
        workshop.shop.tried.forget(kept.id)
    assert kiss(workshop, job).force_gf == before.force_gf


def test_what_cannot_be_is_refused_with_a_sentence(workshop: Workshop) -> None:
    vinyl, card = STOCK_BY_KEY["satin-vinyl"], STOCK_BY_KEY["card"]
    force = workshop.shop.cutters.get(MAT_CUTTER).value.force_gf

    def keep(stock, cut: Cut, gf: float, outcome: Outcome) -> int:  # type: ignore[no-untyped-def]
        record = CutRecord(RecordKind.READING, cut, (JudgedDrop(gf, 1, outcome),))
        return workshop.shop.tried.keep(MAT_CUTTER, stock, force, record)

    with pytest.raises(BadInput, match="2000 gf is outside this machine's range, 20 to 380 gf"):
        keep(vinyl, Cut.KISS, 2000, Outcome.CLEAN)
    with pytest.raises(BadInput, match="no backing to mark"):
        keep(card, Cut.THROUGH, 200, Outcome.BACKING_MARKED)
    number = keep(vinyl, Cut.KISS, 100, Outcome.CLEAN)
    with pytest.raises(NotFound, match="no such drop"):
        workshop.shop.tried.judge(number, vinyl, 7, Outcome.CLEAN)
    with pytest.raises(NotFound, match="no such record"):
        workshop.shop.tried.forget(99)
    assert len(workshop.shop.tried.of(MAT_CUTTER, vinyl.key).records) == 1


def test_a_run_teaches_wears_and_loads(workshop: Workshop, job: int) -> None:
    care = workshop.shop.care
    blade = care.blades.keep("first", BladeIn())
    mat = care.mats.keep("blue", MatIn(loads=3))
    care.blades.put_in(blade, MAT_CUTTER)
    care.mats.put_in(mat, MAT_CUTTER)
    state = workshop.jobs.get(job)
    before = kiss(workshop, job)
    workshop.making.log_run(state, 5, {Cut.KISS: Outcome.CLEAN})
    after = kiss(workshop, job)
    assert after.chance > before.chance
    plan = workshop.plans.of(state).plan
    length = plan.items[0].edge.length_mm / 1000
    assert care.blades.get(blade).value.metres == pytest.approx(5 * length * plan.job.stock.abrasion, rel=1e-3)
    assert care.mats.get(mat).value.loads == 8
    (kept,) = workshop.shop.tried.of(MAT_CUTTER, "satin-vinyl").records
    assert (kept.record.kind, kept.record.metres) == (RecordKind.RUN, 0.0)


def test_a_run_that_cannot_be_keeps_nothing(workshop: Workshop, job: int) -> None:
    mixed = {Cut.KISS: Outcome.CLEAN, Cut.THROUGH: Outcome.BACKING_MARKED}
    with pytest.raises(BadInput, match="no backing to mark"):
        workshop.making.log_run(workshop.jobs.get(job), 1, mixed)
    assert not workshop.shop.tried.of(MAT_CUTTER, "satin-vinyl").records
    workshop.jobs.change(job, "stock", {"stock": "card"})
    with pytest.raises(BadInput, match="has no backing to kiss"):
        workshop.making.log_run(workshop.jobs.get(job), 1, {Cut.KISS: Outcome.CLEAN})


def test_a_run_teaches_only_what_was_cut_and_set(workshop: Workshop, job: int) -> None:
    """A kiss cut tells nothing of a cut through, and a setting that nobody remembers nothing of force."""
    state = workshop.jobs.get(job)
    for other in ({Cut.THROUGH: Outcome.CLEAN}, {Cut.KISS: Outcome.CLEAN, Cut.THROUGH: Outcome.CLEAN}):
        with pytest.raises(BadInput, match="no piece of this job is cut as “through”"):
            workshop.making.log_run(state, 1, other)
    assert not workshop.shop.tried.of(MAT_CUTTER, "satin-vinyl").records
    mat = workshop.shop.care.mats.keep("blue", MatIn(loads=3))
    workshop.shop.care.mats.put_in(mat, MAT_CUTTER)
    workshop.making.log_run(workshop.jobs.get(job), 2, {Cut.KISS: Outcome.CLEAN}, None)
    assert not workshop.shop.tried.of(MAT_CUTTER, "satin-vinyl").records
    assert workshop.shop.care.mats.get(mat).value.loads == 5


def test_one_blade_is_in_a_machine_and_lies_nowhere_else(workshop: Workshop) -> None:
    blades = workshop.shop.care.blades
    first, second = blades.keep("first", BladeIn()), blades.keep("second", BladeIn(Blade.STEEP))
    blades.put_in(first, 1)
    blades.put_in(second, 1)
    assert [one.cutter_id for one in blades.all()] == [None, 1]
    blades.put_in(second, 2)
    assert blades.in_machine(1) is None
    assert blades.in_machine(2) is not None
    with pytest.raises(BadInput, match="of that name already"):
        blades.keep("first", BladeIn())
    with pytest.raises(NotFound):
        blades.put_in(first, 99)
    blades.remove(first)
    with pytest.raises(NotFound):
        blades.get(first)


def test_a_washed_mat_begins_anew(workshop: Workshop) -> None:
    care = workshop.shop.care
    number = care.mats.keep("blue", MatIn(Tack.HIGH, 22, 1, lint=True, taped=True))
    care.washed(number)
    assert care.mats.get(number).value == MatIn(Tack.HIGH, 0, 2)


def test_a_blade_in_the_machine_changes_every_job_on_it(workshop: Workshop, job: int) -> None:
    before = kiss(workshop, job).force_gf
    number = workshop.shop.care.blades.keep("old", BladeIn(metres=420))
    workshop.shop.care.blades.put_in(number, MAT_CUTTER)
    planned = workshop.plans.of(workshop.jobs.get(job))
    assert planned.plan.settings[Cut.KISS].force_gf > 1.8 * before
    assert "cut.blade-worn" in {one.code for one in planned.findings}


def test_stocks_of_ones_own(workshop: Workshop, job: int) -> None:
    own = workshop.shop.own_stocks
    new = own.proposed(NewStock("Deck card", StockClass.CARD, pounds=80, basis="cover"))
    assert new.face_um == pytest.approx(270, abs=1)
    assert new.grams_m2 == pytest.approx(216.3, abs=0.1)
    key = own.add(new)
    assert key == "deck-card"
    assert own.add(new) == "deck-card-2"
    workshop.jobs.change(job, "stock", {"stock": key})
    own.change(key, replace(new, hardness_gf_per_um=1.4))
    setting = workshop.plans.of(workshop.jobs.get(job)).plan.settings[Cut.THROUGH]
    assert setting.belief.stock.hardness_gf_per_um == 1.4
    with pytest.raises(BadInput, match="is planned on this stock"):
        own.remove(key)
    own.remove("deck-card-2")
    with pytest.raises(BadInput, match="a starter stays as it is; copy it"):
        own.change("card", new)
    with pytest.raises(BadInput, match="put it aside"):
        own.remove("card")
    for bad, sentence in (
        (NewStock("x", StockClass.CARD), "one of them"),
        (NewStock("x", StockClass.CARD, face_um=200, grams_m2=160), "one of them"),
        (NewStock("x", StockClass.CARD, pounds=80), "which paper the pounds are of"),
        (NewStock("x", StockClass.CARD, face_um=0), "needs a face"),
    ):
        with pytest.raises(BadInput, match=sentence):
            own.proposed(bad)


def test_what_is_put_aside_is_not_offered_but_stays_where_it_is_used(workshop: Workshop, job: int) -> None:
    def offered() -> set[str]:
        return {str(one.changes["stock"]) for one in workshop.briefing.choices(workshop.jobs.get(job), "stock")}

    workshop.shop.stocks.hide("magnet", True)
    workshop.shop.stocks.hide("satin-vinyl", True)
    assert "magnet" not in offered()
    assert "satin-vinyl" in offered()
    workshop.shop.stocks.hide("magnet", False)
    assert "magnet" in offered()


def test_new_designs_are_cut_as_their_stock_usually_is(workshop: Workshop) -> None:
    number = workshop.jobs.create("Card")
    workshop.jobs.change(number, "stock", {"stock": "card"})
    art = workshop.arts.take_in("disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "disc", 40, {})
    state = workshop.jobs.get(number)
    assert state.document.items[0].cut is Cut.THROUGH
    assert "cut.no-backing" not in {one.code for one in workshop.plans.of(state).findings}
    # Changing the stock takes the usual cut along, where nobody chose another one.
    (vinyl,) = (one for one in workshop.briefing.choices(state, "stock") if one.changes["stock"] == "satin-vinyl")
    assert vinyl.each == {"cut": Cut.KISS}
    workshop.jobs.change(number, "vinyl", vinyl.changes, vinyl.each)
    (clear,) = (
        one
        for one in workshop.briefing.choices(workshop.jobs.get(number), "stock")
        if one.changes["stock"] == "clear-vinyl"
    )
    assert clear.each == {}


def test_settings_are_typed_changed_and_taken_away(workshop: Workshop) -> None:
    shop = workshop.shop
    shop.add_settings(MAT_CUTTER, (NamedSetting("foil"), NamedSetting("card")))
    # One that is there already is left as it is.
    shop.add_settings(MAT_CUTTER, (NamedSetting("Foil"), NamedSetting("felt", gentler_than=("card",))))
    assert [one.name for one in shop.cutters.get(MAT_CUTTER).value.settings] == ["foil", "card", "felt"]
    with pytest.raises(BadInput, match="stands twice"):
        shop.add_settings(MAT_CUTTER, (NamedSetting("new"), NamedSetting("New")))
    shop.change_setting(MAT_CUTTER, "card", NamedSetting("thick card", tuple(Pressure)))
    # Who was gentler than it still is, by its new name.
    assert shop.cutters.get(MAT_CUTTER).value.settings[2].gentler_than == ("thick card",)
    with pytest.raises(BadInput, match="both gentler and harder"):
        shop.change_setting(MAT_CUTTER, "thick card", NamedSetting("thick card", gentler_than=("felt",)))
    shop.change_setting(MAT_CUTTER, "thick card", None)
    assert shop.cutters.get(MAT_CUTTER).value.settings[1].gentler_than == ()
    with pytest.raises(NotFound, match="no such setting"):
        shop.change_setting(MAT_CUTTER, "leather", None)
    with pytest.raises(BadInput, match="has room for"):
        shop.add_settings(MAT_CUTTER, tuple(NamedSetting(f"line {n}") for n in range(MOST_SETTINGS)))


def test_everything_is_still_there_after_a_restart(workshop: Workshop, nester: ProcessNester, job: int) -> None:
    workshop.making.log_run(workshop.jobs.get(job), 1, {Cut.KISS: Outcome.BACKING_MARKED})
    number = workshop.shop.care.blades.keep("first", BladeIn(metres=12))
    workshop.shop.care.blades.put_in(number, MAT_CUTTER)
    workshop.shop.stocks.hide("magnet", True)
    before = kiss(workshop, job).force_gf
    again = Workshop(workshop.path, nester, 1)
    try:
        assert kiss(again, job).force_gf == before
        assert again.shop.stocks.get("magnet").hidden
        confirmed = again.shop.care.blades.get(number).confirmed_at
        assert confirmed is not None
        assert confirmed.tzinfo is not None
    finally:
        again.close()
