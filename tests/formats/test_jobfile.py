"""Job files: read strictly, written back the same, refused with the field's name."""

import copy
import json
from pathlib import Path
from typing import Any

import pytest

from vamper.core.findings import BadInput
from vamper.core.job import Cut, EdgeKind
from vamper.formats.jobfile import read_job, write_job
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
    assert job.items[0].edge.kind is EdgeKind.FOLLOW
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
        ("marks/count", 5, "must be 3 or 4"),
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


@pytest.mark.parametrize("name", ["job", "plan"])
def test_the_published_schemas_are_current(name: str) -> None:
    published = Path(__file__).parents[2] / "docs" / f"{name}.schema.json"
    assert published.read_text() == schema_text(name), "run `make schema`"
