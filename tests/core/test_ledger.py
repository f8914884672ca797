"""Runs, how sure they make one, and the files they go through."""

import csv
import io
from collections import Counter
from dataclasses import replace
from datetime import UTC, datetime

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.special import beta as beta_of

from tests.tried import tried
from vamper.core.ledger.cost import Rates
from vamper.core.ledger.recipe import RecipeKind, recipes_of, setting_words
from vamper.core.ledger.run import (
    CameOut,
    LaterCheck,
    LaterKind,
    Run,
    Spoilt,
    SpoiltPiece,
    Took,
    UsedSetting,
    check_run,
    outcome_of,
    symptoms_of,
)
from vamper.core.ledger.success import success_of
from vamper.core.ledger.supply import Bought, Offcut, Pack, Stored, Thing, taken_of
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import LabelFigure
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.paper import Paper
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.tried import Outcome, Pressure
from vamper.formats.ledger_file import Ledger, read_ledger_json, write_ledger_json
from vamper.formats.runs_file import read_runs_csv, write_runs_csv

AT = datetime(2026, 5, 2, 18, 0, tzinfo=UTC)
KISS = UsedSetting(Cut.KISS, 96.0, 1, 80.0, "45")


def run_with(*spoilt: SpoiltPiece, **fields: object) -> Run:
    base = {
        "title": "Regatta stickers",
        "sheet": 1,
        "pieces": 9,
        "came_out": CameOut.SPOILED if spoilt else CameOut.GOOD,
        "spoilt": spoilt,
        "stock": "satin-vinyl",
        "stock_name": "satin vinyl",
        "printer": "inkjet",
        "cutter": "mat cutter",
        "settings": (KISS,),
    }
    return Run(**(base | fields))  # type: ignore[arg-type]


@pytest.mark.parametrize(("held", "good"), [(None, 1), (True, 1), (False, 0)])
def test_what_was_looked_at_later_says_whether_the_finish_was_good(held: bool | None, good: int) -> None:
    run = run_with(
        process="hand-out coat-before", later=(LaterCheck(LaterKind.WASH, True), LaterCheck(LaterKind.MONTH, held))
    )
    (finish,) = (one for one in recipes_of([(1, run)]) if one.what.kind is RecipeKind.FINISH)
    assert finish.success.good == good


def torn(*places: int) -> tuple[SpoiltPiece, ...]:
    return tuple(SpoiltPiece(place, Spoilt.TORN) for place in places)


@given(st.integers(0, 60), st.integers(0, 60))
@tried(40)
def test_the_interval_holds_ninety_of_a_hundred_beliefs(good: int, bad: int) -> None:
    found = success_of(good, bad)
    assert found.share == pytest.approx((good + 1) / (good + bad + 2))
    assert 0 <= found.low < found.share < found.high <= 1

    def density(share: float) -> float:
        return float(share**good * (1 - share) ** bad / beta_of(good + 1, bad + 1))

    for low, high in ((0, found.low), (found.high, 1)):
        assert quad(density, low, high)[0] == pytest.approx(0.05, abs=1e-4)


def test_a_setting_is_judged_by_its_cut_alone() -> None:
    off = SpoiltPiece(2, Spoilt.OFF, LoggedMiss(0.4, 0.1))
    runs = [
        (1, run_with()),
        (2, run_with(*torn(0))),
        (3, run_with(off)),
        (4, run_with(came_out=CameOut.NOT_RUN)),
        (5, run_with(*torn(1), simulated=True)),
    ]
    real, simulated = sorted(recipes_of(runs), key=lambda one: one.what.simulated)
    assert (real.success.good, real.success.bad, real.runs) == (2, 1, (1, 2, 3))
    assert (simulated.success.good, simulated.success.bad) == (0, 1)
    assert real.pieces == 27


def test_what_went_well_and_does_not_any_more_has_drifted() -> None:
    good, bad = [(n, run_with()) for n in range(10)], [(n + 10, run_with(*torn(0))) for n in range(5)]
    assert recipes_of([*good, *bad])[0].drifted
    assert not recipes_of(good)[0].drifted
    assert not recipes_of(bad)[0].drifted


def test_a_success_rate_is_that_of_its_setting() -> None:
    other = UsedSetting(Cut.KISS, 120.0, 1, 80.0, "45")
    runs = [(n, run_with(*torn(0))) for n in range(6)] + [(6, run_with(settings=(other,)))]
    (found,) = recipes_of(runs)
    assert (found.way, found.success.good, found.success.bad, found.runs) == ("kiss 120 gf × 1", 1, 0, (6,))


def test_a_piece_with_two_faults_is_one_piece() -> None:
    run = run_with(SpoiltPiece(0, Spoilt.TORN), SpoiltPiece(0, Spoilt.OFF), pieces=1)
    assert run.good_pieces == 0
    assert success_of(run.good_pieces, run.made_pieces - run.good_pieces).share == pytest.approx(1 / 3)


@pytest.mark.parametrize(
    "wrong",
    [
        run_with(SpoiltPiece(9, Spoilt.TORN)),
        run_with(*torn(0), came_out=CameOut.GOOD),
        run_with(came_out=CameOut.SPOILED),
        run_with(cause="the moon"),
        run_with(later=(LaterCheck(LaterKind.WASH), LaterCheck(LaterKind.WASH, True))),
    ],
)
def test_a_run_that_nobody_could_have_logged_is_refused(wrong: Run) -> None:
    check_run(run_with())
    check_run(run_with(*torn(0), cause="something-else"))
    with pytest.raises(BadInput):
        check_run(wrong)


@given(st.lists(st.tuples(st.sampled_from(list(Spoilt)), st.integers(0, 8)), max_size=9))
def test_figures_equal_a_recount(pieces: list[tuple[Spoilt, int]]) -> None:
    spoilt = tuple(SpoiltPiece(place, what) for place, what in {place: what for what, place in pieces}.items())
    run = run_with(*spoilt, sheets=2)
    assert run.made_pieces == 18
    assert run.good_pieces == 18 - len(spoilt)
    counts = Counter(one.what for one in spoilt)
    cut = {
        outcome: counts[what]
        for what, outcome in (
            (Spoilt.NOT_THROUGH, Outcome.NOT_THROUGH),
            (Spoilt.BACKING_THROUGH, Outcome.BACKING_THROUGH),
            (Spoilt.TORN, Outcome.TORN),
        )
    }
    found = outcome_of(spoilt, 9)
    assert found is Outcome.CLEAN or (cut[found] == max(cut.values()) and cut[found] * 3 >= 9)
    assert (found is Outcome.CLEAN) == (max(cut.values()) * 3 < 9)
    assert len(symptoms_of(run)) == len(counts)


def test_all_of_a_sheet_is_another_symptom_than_some_of_it() -> None:
    some = run_with(SpoiltPiece(0, Spoilt.NOT_THROUGH))
    every = run_with(*(SpoiltPiece(place, Spoilt.NOT_THROUGH) for place in range(9)))
    assert symptoms_of(some) == ("not-through-places",)
    assert symptoms_of(every) == ("not-through",)
    with pytest.raises(ValueError, match="only a piece that is cut off its place"):
        SpoiltPiece(0, Spoilt.TORN, LoggedMiss(0.1, 0.1))


WORDS = st.text("abc 123;,\"'=+-@äß→%3B()", max_size=30).map(lambda text: " ".join(text.split()))
NOTES = st.text("ab ;,\"'=+-@%()\n\t", max_size=30)
SOME = st.builds(
    run_with,
    st.just(SpoiltPiece(3, Spoilt.OFF, LoggedMiss(0.25, -0.1))),
    st.just(SpoiltPiece(4, Spoilt.TORN)),
    title=WORDS,
    lot=WORDS,
    note=NOTES,
    light=WORDS,
    coats=st.none() | st.integers(0, 12),
    minutes=st.none() | st.floats(0, 900),
    blade_metres=st.floats(0, 1e5),
    simulated=st.booleans(),
    cause=st.none() | st.just("blunt-blade"),
    customer=WORDS,
    marks=st.sampled_from(["", "corner"]),
    cover=st.sampled_from(["", "gloss can"]),
    from_offcut=st.booleans(),
    figures=st.just((LabelFigure("press_c", 160.0), LabelFigure("press_s", 12.5))),
    took=st.builds(Took, ink_ml=st.floats(0, 9), blanks=st.just(3.0)),
    later=st.tuples(
        st.builds(LaterCheck, st.just(LaterKind.WASH), st.booleans(), NOTES),
        st.builds(LaterCheck, st.just(LaterKind.YEAR), st.none(), NOTES),
    ),
    settings=st.tuples(st.builds(replace, st.just(KISS), blade=WORDS)),
    remedies=st.lists(WORDS.filter(bool), max_size=2).map(tuple),
)


@given(st.lists(SOME, max_size=4))
@tried(40)
def test_a_ledger_comes_back_as_it_was_written(runs: list[Run]) -> None:
    dated = [(AT, run) for run in runs]
    whole = Ledger(
        tuple(dated),
        ((AT, Pack("card", 10, 2.5, "May")), (AT, Bought(Thing.INK, 60.0, 21.0))),
        ((AT, Offcut("card", Paper(100, 80, gone=((0.0, 0.0, 9.0, 0.0, 9.0, 9.0),)), "a corner")),),
        Rates("gannets", hour=12),
    )
    assert read_ledger_json(write_ledger_json(whole)) == whole
    assert read_runs_csv(write_runs_csv(dated)) == dated


def test_a_table_that_a_spreadsheet_saved_is_read() -> None:
    first = run_with(SpoiltPiece(3, Spoilt.OFF, LoggedMiss(0.25, -0.1)), minutes=12.5, note="=1+2; quite")
    rows = list(csv.reader(io.StringIO(write_runs_csv([(AT, first)]).decode())))
    out = io.StringIO()
    csv.writer(out, delimiter=";").writerows(
        [rows[0], [cell.replace("12.5", "12,5").replace("0.25", "0,25") for cell in rows[1]]]
    )
    assert read_runs_csv("\ufeff".encode() + out.getvalue().encode()) == [(AT, first)]
    assert read_runs_csv(out.getvalue().replace("quite", "grün").encode("cp1252"))[0][1].note == "=1+2; grün"


@given(SOME, st.sampled_from([",", ";", "\t"]))
@example(run_with(note=';"='), ";")
@tried(60)
def test_no_text_is_run_as_a_formula_by_whatever_a_spreadsheet_parts_cells(run: Run, separator: str) -> None:
    evil = replace(run, title=f'=HYPERLINK("x"){run.title}'[:200], lot="x;=1+1", light="; @x")
    text = write_runs_csv([(AT, evil)]).decode()
    for row in csv.reader(io.StringIO(text), delimiter=separator):
        assert not any(cell.lstrip().startswith(("=", "@", "+", "-")) for cell in row)
    assert read_runs_csv(text.encode())[0][1] == evil


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda text: text.replace("made_at,title", "made_at,name"), "no title"),
        (lambda text: text.replace("2026-05-02T18:00:00+00:00", "yesterday"), "line 2, made_at"),
        (lambda text: text.replace("good", "so so"), "line 2"),
        (lambda text: text.replace("kiss 96 gf", "kiss hard"), "line 2, settings"),
        (lambda text: text.replace(",1,1,9,", ",one,1,9,"), "line 2, sheet"),
        (lambda text: text.replace(",1,1,9,", ",1e999,1,9,"), "line 2, sheet"),
        (lambda text: text.replace(",1,1,9,", ",1.5,1,9,"), "line 2, sheet: 1.5 is no whole number"),
    ],
)
def test_what_is_wrong_in_a_table_is_named(change, says: str) -> None:  # type: ignore[no-untyped-def]
    text = write_runs_csv([(AT, run_with())]).decode()
    assert change(text) != text
    with pytest.raises(BadInput, match=says):
        read_runs_csv(change(text).encode())
    deep, long = b'{"a":' + b"[" * 100_000, b'{"a": ' + b"9" * 5000 + b"}"
    for data in (b"[]", b"{", deep, long, b'{"format": "vamper-ledger", "version": 1, "runs": [{}]}'):
        with pytest.raises(BadInput):
            read_ledger_json(data)


def test_what_is_down_to_a_fifth_is_low() -> None:
    assert Stored(Thing.INK, 50.0, 40.0, 0.1).is_low
    assert not Stored(Thing.INK, 50.0, 39.0, 0.1).is_low
    assert Stored(Thing.INK, 50.0, 60.0, 0.1).left == 0


def test_a_run_takes_new_sheets_unless_its_first_was_an_offcut() -> None:
    assert run_with(sheets=3).sheets_spent == 3
    assert run_with(sheets=3, from_offcut=True).sheets_spent == 2
    assert run_with(came_out=CameOut.NOT_RUN).sheets_spent == 0


def test_what_was_taken_is_what_real_runs_took() -> None:
    took = Took(ink_ml=1.5)
    runs = [
        run_with(took=took),
        run_with(took=took, simulated=True),
        run_with(took=took, came_out=CameOut.NOT_RUN),
        run_with(took=took, simulated=True, came_out=CameOut.NOT_RUN),
    ]
    assert taken_of(Thing.INK, runs) == 1.5


@pytest.mark.parametrize("pressure", [None, Pressure.LESS])
@pytest.mark.parametrize("step", ["", "foil", "=1+1", "thick; label x 3", "a (b)", "film pressed less"])
def test_a_cut_without_a_force_comes_back_out_of_a_table(step: str, pressure: Pressure | None) -> None:
    """Made with a setting of the machine's own, or with what nobody remembers."""
    pressed = pressure if step else None
    run = run_with(settings=(UsedSetting(Cut.KISS, None, 2, 80.0, "45", step, pressed),), read=MarksSeen(True, 2))
    assert [one.settings for _, one in read_runs_csv(write_runs_csv([(AT, run)]))] == [run.settings]
    with pytest.raises(ValueError, match="not with both"):
        UsedSetting(Cut.KISS, 96.0, 1, 80.0, "45", step or "foil")


@pytest.mark.parametrize(
    ("used", "words"),
    [
        (KISS, "kiss 96 gf × 1"),
        (UsedSetting(Cut.KISS, None, 2, 80.0, "45", "film", Pressure.LESS), "kiss “film”, less pressure, 2 passes"),
        (UsedSetting(Cut.KISS, None, 2, 80.0, "45"), "kiss as nobody remembers × 2"),
    ],
)
def test_what_was_set_is_said_whatever_is_known_of_it(used: UsedSetting, words: str) -> None:
    assert setting_words(used) == words
    assert list(recipes_of([(1, run_with(settings=(used,)))]))
