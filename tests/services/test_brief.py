"""The sentence that says a job, what each of its phrases can be changed to, and how its stations stand."""

from dataclasses import replace

import pytest

from tests.conftest import disc_png
from vamper.core.finishing.goes_on import SET_WORDS
from vamper.core.finishing.targets import TARGETS
from vamper.core.ledger.supply import Offcut
from vamper.core.printing.advice import PrintAdvice
from vamper.core.values.findings import Finding, Severity, Station
from vamper.core.values.finish import Target
from vamper.core.values.lengths import in_unit
from vamper.core.values.paper import Paper
from vamper.core.values.printer import PrinterKind
from vamper.services.brief.brief import brief
from vamper.services.brief.phrase import Choice
from vamper.services.brief.printing import dialog_lines
from vamper.services.brief.rail import StationState, stations
from vamper.services.brief.stock_words import is_found
from vamper.services.brief.words import span
from vamper.services.workshop import Workshop


@pytest.fixture
def job(workshop: Workshop) -> int:
    """Two discs of 40 mm with the usual border."""
    number = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png())
    for name in ("one", "other"):
        workshop.jobs.add_item(number, art.digest, name, 40, {"fill_holes": True})
    return number


def said(workshop: Workshop, job: int, key: str) -> str:
    """The words of one phrase."""
    phrases = brief(workshop.briefing.facts(workshop.jobs.get(job)))
    return "".join(phrase.text for phrase in phrases if phrase.key == key)


def chosen(workshop: Workshop, job: int, key: str) -> list[Choice]:
    return workshop.briefing.choices(workshop.jobs.get(job), key)


@pytest.mark.parametrize(
    ("cover", "words"),
    [
        ({"kind": "none"}, "left uncovered"),
        ({"kind": "laminate", "um": 80}, "under a laminate of 80 µm"),
        ({"kind": "coat"}, "sealed before the cut"),
        ({"kind": "coat", "when": "after-cut", "coats": 2}, "sealed with two coats after the cut"),
    ],
)
def test_a_cover_is_said(workshop: Workshop, job: int, cover: dict[str, object], words: str) -> None:
    workshop.jobs.change(job, "cover", {"finish.cover": cover})
    assert said(workshop, job, "cover") == words


@pytest.mark.parametrize(
    ("edges", "words"),
    [
        (({"distance_mm": 3}, {"distance_mm": 3}), "a 3 mm plain border"),
        (({"distance_mm": 2}, {"distance_mm": 4}), "borders of 2 to 4 mm"),
        (({"distance_mm": 3}, {"distance_mm": 3, "kind": "circle"}), "3 mm borders of 2 kinds"),
        (({"kind": "bare", "distance_mm": 0}, {"kind": "bare", "distance_mm": 0}), "no border, cut on its outline"),
    ],
)
def test_the_edges_are_said_together(workshop: Workshop, job: int, edges: tuple[dict, dict], words: str) -> None:  # type: ignore[type-arg]
    for number, edge in enumerate(edges, 1):
        fields = {f"edge.{name}": value for name, value in {"kind": "follow", "rings": [], **edge}.items()}
        workshop.jobs.change_items(job, "edge", (number,), fields)
    assert in_unit(said(workshop, job, "edge")) == words


def test_a_printer_is_named_only_where_something_is_printed(workshop: Workshop, job: int) -> None:
    (name, *_) = [kept.name for kept in workshop.shop.printers.all().values()]
    assert said(workshop, job, "printer").startswith(name)
    workshop.jobs.change(job, "stock", {"stock": "plain-vinyl"})
    phrases = brief(workshop.briefing.facts(workshop.jobs.get(job)))
    assert ", not printed" in "".join(phrase.text for phrase in phrases)
    assert said(workshop, job, "printer") == ""


def test_a_cutter_says_how_it_is_told(workshop: Workshop, job: int) -> None:
    says = {one.label: one.consequence for one in chosen(workshop, job, "cutter")}
    for kept in workshop.shop.cutters.all().values():
        if not kept.value.is_machine:
            assert says[kept.name].startswith("no machine: guide lines and straight rows, ")
        elif kept.value.has_own_program:
            assert says[kept.name].startswith("by its own program")
        else:
            assert says[kept.name].startswith(f"{kept.value.force_gf.min:g} to {kept.value.force_gf.max:g} gf, ")


def test_turns_say_the_sheets_of_plain_rows_where_there_are_some(workshop: Workshop, job: int) -> None:
    with_rows = {one.changes["packing.turn"]: "plain rows take 1 sheet" in one.consequence
                 for one in chosen(workshop, job, "packing")}  # fmt: skip
    assert with_rows == {"any": False, "square": True, "half": True, "none": True} or not with_rows.pop("any")
    empty = workshop.jobs.create("Empty")
    assert all("plain rows" not in one.consequence for one in chosen(workshop, empty, "packing"))


def test_an_offcut_says_how_many_go_on_it(workshop: Workshop, job: int) -> None:
    stock = workshop.jobs.get(job).document.stock
    workshop.supplies.keep_offcut(Offcut(stock, Paper(150, 200), "half of a sheet"))
    first = chosen(workshop, job, "paper")[0]
    assert first.label == "half of a sheet"
    assert "at most" in first.consequence
    empty = workshop.jobs.create("Empty")
    workshop.jobs.change(empty, "stock", {"stock": stock})
    assert "at most" not in chosen(workshop, empty, "paper")[0].consequence


def test_a_target_says_its_own_setting_only_where_pieces_slide(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "stock", {"stock": "water-slide-clear"})
    says = {one.changes["target"]: one.consequence for one in chosen(workshop, job, "purpose")}
    assert f", {SET_WORDS[TARGETS[Target.CERAMIC].set[0]]}; seen from" in says[Target.CERAMIC.value]
    workshop.jobs.change(job, "stock", {"stock": "satin-vinyl"})
    says = {one.changes["target"]: one.consequence for one in chosen(workshop, job, "purpose")}
    assert not any(f", {words}; seen from" in said for words in SET_WORDS.values() for said in says.values())


def test_the_question_of_card_names_fields_only_where_a_design_differs(workshop: Workshop, job: int) -> None:
    def answers() -> list[bool]:
        card = next(one for one in chosen(workshop, job, "stock") if one.changes["stock"] == "card")
        assert card.question is not None
        return [bool(answer.each) for answer in card.question.answers]

    assert answers() == [False, True]
    workshop.jobs.change_items(job, "edge", (1,), {"edge.kind": "bare", "edge.distance_mm": 0})
    assert answers() == [True, True]


def test_the_rail_shows_the_gravest_finding_whatever_its_place(workshop: Workshop, job: int) -> None:
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    found = [
        Finding(f"art.{severity.value}", severity, Station.ART, "something is wrong")
        for severity in (Severity.NOTE, Severity.STOP, Severity.LOOK)
    ]
    for order in (found, found[::-1]):
        assert stations(plan, order)[0].state is StationState.STOP
    meant = [replace(one, meant=True) for one in found]
    assert stations(plan, meant)[0].state is StationState.SETTLED


@pytest.mark.parametrize("kind", PrinterKind)
def test_only_an_inkjet_has_a_travelling_head(workshop: Workshop, job: int, kind: PrinterKind) -> None:
    state = workshop.jobs.get(job)
    plan = workshop.plans.of(state).plan
    printing = replace(plan, job=replace(plan.job, printer=replace(plan.job.printer, kind=kind)))
    advice: PrintAdvice = workshop.made.print_advice(state.document, plan.job)
    names = [line.name for line in dialog_lines(printing, advice)]
    assert ("Head travel" in names) is (kind is PrinterKind.INKJET)


@pytest.mark.parametrize(
    ("typed", "found"),
    [("", True), ("  ", True), ("sat", True), ("satin vin", True), ("vinyl gloss", False), ("gloss", False)],
)
def test_a_stock_is_found_by_the_beginnings_of_its_words(typed: str, found: bool) -> None:
    assert is_found(("satin", "vinyl", "satin vinyl"), typed) is found


@pytest.mark.parametrize(
    ("minutes", "words"), [(0, "0 min"), (35, "35 min"), (60, "1 h"), (160, "2 h 40"), (125, "2 h 05")]
)
def test_a_span_of_time_is_said(minutes: int, words: str) -> None:
    assert span(minutes) == words
