"""Job files: read strictly, written back the same, refused with the field's name."""

import copy
import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Mat
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.formats.job_file import read_job, write_job
from vamper.formats.schema import schema_text

FULL: dict[str, Any] = {
    "format": "vamper-job",
    "version": 1,
    "title": "Hull stickers",
    "paper": {"width_mm": 215.9, "height_mm": 279.4},
    "printer": {"kind": "inkjet", "margins_mm": {"top": 3, "right": 3, "bottom": 5, "left": 3}},
    "cutter": {
        "feed": "mat",
        "reach_mm": {"width": 310, "height": 420},
        "force_gf": {"min": 20, "max": 380, "step": 4},
    },
    "marks": {"family": "corner", "count": 4, "size_mm": 10, "stroke_mm": 0.8, "inset_mm": 8, "clear_mm": 2},
    "stock": "satin-vinyl",
    "purpose": "vehicle",
    "packing": {"gap_mm": 2, "turn": "any", "mode": "mixed", "fill": False, "max_sheets": None},
    "items": [
        {
            "art": "tern.png",
            "width_mm": 60,
            "quantity": 4,
            "cut": "kiss",
            "edge": {
                "kind": "follow",
                "distance_mm": 3,
                "smooth_mm": 2,
                "fill_holes": True,
                "join": True,
                "corner_mm": 3,
                "colour": None,
            },
        }
    ],
}


def test_a_full_job_reads_and_writes_back_the_same() -> None:
    job = read_job(json.dumps(FULL))
    assert job.items[0].cut is Cut.KISS
    assert job.items[0].edge.kind == "follow"
    assert read_job(write_job(job)) == job


def test_what_may_be_left_out_has_the_documented_defaults() -> None:
    short = {"format": "vamper-job", "version": 1, "title": "Hull stickers", "paper": "letter", "stock": "satin-vinyl"}
    short["items"] = [{"art": "tern.png", "width_mm": 60, "quantity": 4}]  # type: ignore[assignment]
    assert read_job(json.dumps(short)) == read_job(json.dumps(FULL))


def changed(path: str, value: Any) -> str:
    job = copy.deepcopy(FULL)
    *parents, last = path.split("/")
    target: Any = job
    for name in parents:
        target = target[int(name) if name.isdigit() else name]
    target[last] = value
    return json.dumps(job)


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("colour", "red", r"^colour: this field is unknown"),
        ("items/0/edge/distanze_mm", 3, r"^items\.0\.edge\.distanze_mm: this field is unknown"),
        ("items/0/width_mm", -5, r"^items\.0\.width_mm: must be greater than 0"),
        ("items/0/height_mm", 5, "either width_mm or height_mm"),
        ("items/0/art", "../secret.png", "inside the job file's folder"),
        ("items/0/art", "/etc/passwd", "inside the job file's folder"),
        ("items/0/art", "a\\..\\..\\b.png", "inside the job file's folder"),
        ("items/0/quantity", 0, r"quantity: must be at least 1"),
        ("items", [], "at least one"),
        ("paper", "foolscap", "no paper is called"),
        ("stock", "velvet", "no stock is called"),
        ("marks/count", 5, "must be one of 3 or 4"),
        ("marks/family", "swirl", "must be one of|must be"),
        ("packing/gap_mm", float("nan"), "finite|must be"),
        ("cutter/force_gf/max", 10, "max must be greater than min"),
        ("version", 2, "must be 1"),
        ("items/0/edge/colour", "red", "#RRGGBB"),
    ],
)
def test_bad_fields_are_named(path: str, value: Any, words: str) -> None:
    with pytest.raises(BadInput, match=words):
        read_job(changed(path, value))


@pytest.mark.parametrize("text", ["", "{", "[]", "null", "[" * 100_000])
def test_what_is_no_job_is_refused(text: str) -> None:
    with pytest.raises(BadInput):
        read_job(text)


def test_more_pieces_than_a_job_holds_are_refused() -> None:
    items = [{"art": "a.png", "width_mm": 9, "quantity": 6000}] * 2
    with pytest.raises(BadInput, match="12000 pieces"):
        read_job(changed("items", items))


@pytest.mark.parametrize("name", ["job", "plan", "readings", "calibration", "ladder", "ladder-result", "dry-run"])
def test_the_published_schemas_are_current(name: str) -> None:
    published = Path(__file__).parents[2] / "docs" / f"{name}.schema.json"
    assert published.read_text() == schema_text(name), "run `make schema`"


def test_everything_about_sheets_is_read_and_written() -> None:
    raw = copy.deepcopy(FULL)
    raw["paper"] = {"width_mm": 200, "height_mm": 280, "spent": {"width_mm": 200, "height_mm": 90}}
    raw["cutter"] = {"feed": "roller", "head_mm": 10, "tail_mm": 25, "mat_mm": {"width": 300, "height": 300}}
    raw["marks"] = {"family": "ring", "size_mm": 8, "stroke_mm": 1}
    raw["packing"] = {"mode": "kits", "fill": True, "gap_mm": 2.5}
    raw["items"] = [
        {"art": "tern.png", "width_mm": 60, "quantity": 4, "turn": "quarter", "fill_priority": 2},
        {"art": "back.png", "width_mm": 60, "quantity": 4, "back_of": 0},
        {"art": "layer.svg", "width_mm": 30, "sheet_colour": "#aa0000"},
    ]
    raw["placed"] = [{"item": 0, "sheet": 2, "x_mm": 40, "y_mm": 50, "turn_deg": 15, "pin": "locked"}]
    job = read_job(json.dumps(raw))
    assert read_job(write_job(job)) == job
    assert job.paper.spent is not None
    assert [len(sheet) for sheet in job.held] == [0, 1]
    assert (job.cutter.head_mm, job.cutter.mat_mm) == (10, Mat(300, 300))
    assert (job.items[1].back_of, job.items[0].fill_priority, job.items[2].sheet_colour) == (1, 2, "#aa0000")


def test_a_filler_is_offered_in_a_range_of_sizes() -> None:
    raw = copy.deepcopy(FULL)
    raw["items"].append({"art": "tern.png", "width_mm": 60, "quantity": 0, "fill_priority": 1, "sizes_mm": [20, 30]})
    fillers = read_job(json.dumps(raw)).items[1:]
    assert [item.size.longest_mm for item in fillers] == [30.0, 26.7, 23.3, 20.0]
    assert {item.quantity for item in fillers} == {0}


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"placed": [{"item": 3, "x_mm": 1, "y_mm": 1}]}, "there is no item 3"),
        ({"placed": [{"item": 0, "x_mm": 1, "y_mm": 1}] * 9}, "9 pieces of item 0 lie on sheets"),
        ({"placed": [{"item": 0, "x_mm": 1, "y_mm": 1, "pin": "free"}]}, "placed.0.pin"),
        ({"packing": {"mode": "heaps"}}, "packing.mode: must be one of"),
        ({"cutter": {"feed": "lasers"}}, "cutter.feed"),
    ],
)
def test_what_is_wrong_about_sheets_is_named(change: dict[str, object], words: str) -> None:
    with pytest.raises(BadInput, match=words.replace(".", r"\.")):
        read_job(json.dumps({**copy.deepcopy(FULL), **change}))


def test_a_back_needs_a_front() -> None:
    raw = copy.deepcopy(FULL)
    raw["items"][0]["back_of"] = 0
    with pytest.raises(BadInput, match="names no other item"):
        read_job(json.dumps(raw))


def test_an_edge_left_out_is_the_stocks_usual_one() -> None:
    raw = copy.deepcopy(FULL)
    del raw["items"][0]["edge"]
    assert read_job(json.dumps(raw)).items[0].edge == EdgeSpec()
    cut_only = read_job(json.dumps({**raw, "stock": "plain-vinyl"})).items[0].edge
    assert cut_only == EdgeSpec("bare", 0.0, fill_holes=False, join=False)
    asked = {**raw, "stock": "plain-vinyl", "items": [{**raw["items"][0], "edge": {"colour": "#aa0000"}}]}
    assert read_job(json.dumps(asked)).items[0].edge.kind == "follow"


def test_a_stock_of_ones_own_is_in_the_file_and_reads_back_anywhere() -> None:
    job = read_job(json.dumps(FULL))
    own = replace(job, stock=replace(job.stock, key="harbour-vinyl", name="harbour vinyl", face_um=97.5))
    written = json.loads(write_job(own))
    assert written["stock"]["face_um"] == 97.5
    assert read_job(write_job(own)) == own
    assert json.loads(write_job(job))["stock"] == job.stock.key
    # One that has a starter's key but not its figures is another stock.
    changed = replace(job, stock=replace(job.stock, face_um=97.5))
    assert read_job(write_job(changed)) == changed


def test_a_new_field_has_one_place_and_files_without_it_are_read() -> None:
    """What a file does not say is the class's own default; nothing else knows any."""
    job = read_job(json.dumps(FULL))
    written = json.loads(write_job(job))
    for name in ("purpose", "marks", "packing", "printer", "cutter", "title"):
        del written[name]
    less = read_job(json.dumps(written))
    assert less == Job(paper=job.paper, stock=job.stock, items=job.items, held=job.held)
