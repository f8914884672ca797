"""The command line, run as a person runs it."""

import contextlib
import json
import os
import subprocess
import sys
import urllib.request
from pathlib import Path
from xml.etree import ElementTree

import icalendar
import pytest
import shapely
from PIL import Image
from typer.testing import CliRunner

from tests.conftest import disc_png
from vamper.cli import app
from vamper.core.values.geometry import placed
from vamper.demo.season import shipped_season
from vamper.formats.runs_file import read_runs_csv
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop

JOB = {
    "format": "vamper-job",
    "version": 1,
    "title": "Discs",
    "paper": "letter",
    "stock": "satin-vinyl",
    "items": [
        {"art": "disc.png", "width_mm": 40, "quantity": 5},
        {"art": "disc.png", "height_mm": 20, "quantity": 3, "cut": "through"},
    ],
}


# A search that would go on to its clock.
BRIEFLY = ("--seconds", 1)


def vamper(*words: object, folder: Path) -> subprocess.CompletedProcess[str]:
    """A command in this process, run in `folder`: what it prints and how it ends, without starting Python anew."""
    with contextlib.chdir(folder):
        done = CliRunner().invoke(app, [str(word) for word in words])
    if done.exception is not None and not isinstance(done.exception, SystemExit):
        raise done.exception
    return subprocess.CompletedProcess(words, done.exit_code, done.stdout, done.stderr)


def vamper_itself(*words: object, folder: Path, hash_seed: str) -> subprocess.CompletedProcess[str]:
    """The program as a person starts it."""
    command = [sys.executable, "-m", "vamper", *map(str, words)]
    environment = {**os.environ, "PYTHONPATH": str(Path(__file__).parents[1]), "PYTHONHASHSEED": hash_seed}
    return subprocess.run(
        command, capture_output=True, text=True, timeout=600, cwd=folder, env=environment, check=False
    )


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "disc.png").write_bytes(disc_png())
    return tmp_path


def write(folder: Path, **changes: object) -> Path:
    path = folder / "job.json"
    path.write_text(json.dumps({**JOB, **changes}))
    return path


def test_plan_writes_everything_and_the_same_every_time(folder: Path) -> None:
    for out, hash_seed in (("out", "4"), ("again", "5")):
        done = vamper_itself("plan", write(folder), "--out", folder / out, folder=folder, hash_seed=hash_seed)
        assert (done.returncode, done.stderr) == (0, "")
    for path in sorted((folder / "out").iterdir()):
        assert path.read_bytes() == (folder / "again" / path.name).read_bytes()
    plan = json.loads((folder / "out" / "plan.json").read_text())
    assert plan["time_limited"] is False
    (sheet,) = plan["sheets"]
    for name in sheet["files"].values():
        assert (folder / "out" / name).stat().st_size > 500
    assert len(sheet["placements"]) == 8
    assert plan["items"][0]["size_mm"][0] == pytest.approx(40, abs=0.02)
    assert set(plan["settings"]) == {"kiss", "through"}
    live = shapely.Polygon(plan["live_area_mm"])
    edges = [shapely.Polygon(item["edge"][0]["shell"]) for item in plan["items"]]
    shapes = [placed(edges[p["item"]], p["x_mm"], p["y_mm"], p["turn_deg"]) for p in sheet["placements"]]
    assert all(live.buffer(1e-3).covers(shape) for shape in shapes)
    assert sheet["used"] == pytest.approx(sum(s.area for s in shapes) / live.area, abs=1e-3)


def test_a_stop_ends_with_three_and_still_writes(folder: Path) -> None:
    done = vamper(
        "plan", write(folder, items=[{"art": "disc.png", "width_mm": 500}]), "--out", folder / "o", folder=folder
    )
    assert done.returncode == 3
    plan = json.loads((folder / "o" / "plan.json").read_text())
    assert plan["unplaced"] == [{"item": 0, "quantity": 1, "reason": "too big"}]
    assert plan["findings"][0]["code"] == "art.too-big"


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"items": [{"art": "none.png", "width_mm": 9}]}, "none.png"),
        ({"items": [{"art": "../disc.png", "width_mm": 9}]}, "items.0.art"),
        ({"items": [{"art": "disc.png", "width_mm": -9}]}, "items.0.width_mm"),
        ({"paper": {"width_mm": 20, "height_mm": 300}}, "smaller than its marks"),
        ({"marks": {"inset_mm": 60, "clear_mm": 50}}, "nothing is left"),
        ({"speed": 3}, "speed"),
        ({"items": [{"art": "disc.png", "width_mm": 9, "quantity": 10_001}]}, "10000"),
    ],
)
def test_bad_input_is_one_line_and_writes_nothing(folder: Path, changes: dict[str, object], words: str) -> None:
    done = vamper("plan", write(folder, **changes), "--out", folder / "o", folder=folder)
    assert done.returncode == 2
    assert words in done.stderr
    assert done.stderr.count("\n") == 1
    assert not (folder / "o").exists()


def test_a_link_out_of_the_folder_is_not_followed(folder: Path) -> None:
    inner = folder / "inner"
    inner.mkdir()
    (inner / "disc.png").symlink_to(folder / "disc.png")
    done = vamper("plan", write(inner), "--out", folder / "o", folder=folder)
    assert done.returncode == 2
    assert "inside the job file's folder" in done.stderr


def test_check_prints_findings(folder: Path) -> None:
    done = vamper("check", "disc.png", "--width", 400, folder=folder)
    report = json.loads(done.stdout)
    assert report["findings"][0]["code"] == "art.resolution"
    assert vamper("check", "disc.png", "--width", -1, folder=folder).returncode == 2


def test_backup_and_restore(folder: Path) -> None:
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.workshop import Workshop

    opened = Workshop(folder / "w.db", ProcessNester())
    opened.jobs.create("Kept")
    assert vamper("backup", "copy.db", "--data", "w.db", folder=folder).returncode == 0
    opened.close()
    assert vamper("restore", "copy.db", "--data", "w.db", folder=folder).returncode == 2
    assert vamper("restore", "copy.db", "--data", "new.db", folder=folder).returncode == 0
    again = Workshop(folder / "new.db", ProcessNester())
    assert again.jobs.all()[0].title == "Kept"
    again.close()


def test_whoever_comes_as_soon_as_the_address_is_told_is_let_in(tmp_path: Path) -> None:
    """It was refused, now and then, by a server that had told its address but did not listen yet."""
    command = [sys.executable, "-u", "-m", "vamper", "serve", "--data", str(tmp_path / "w.db"), "--port", "8740"]
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    assert server.stdout is not None
    try:
        address = server.stdout.readline().split()[3]
        with urllib.request.urlopen(f"{address}api/jobs", timeout=60) as answer:
            assert json.load(answer) == []
    finally:
        server.terminate()
        server.wait(60)


def test_check_takes_the_edge_the_page_and_the_lift(folder: Path) -> None:
    done = vamper("check", "disc.png", "--width", 30, "--kind", "bare", "--distance", -1, "--lift", 12, folder=folder)
    report = json.loads(done.stdout)
    assert report["edge_mm"][0] == pytest.approx(28, abs=0.1)
    assert report["advice"]["manner"] in ("close", "smooth")
    assert {"Close", "Smooth", "Hull"} <= {shape["name"] for shape in report["shapes"]}
    wrong = vamper("check", "disc.png", "--width", 30, "--kind", "follow", "--distance", -1, folder=folder)
    assert (wrong.returncode, wrong.stderr.count("\n")) == (2, 1)
    assert "negative" in wrong.stderr


def test_a_job_file_may_compose_pieces(folder: Path) -> None:
    composed = {
        "composition": {
            "base": {"shape": "circle", "width_mm": 40, "colour": "#DCE8EA"},
            "arts": [{"art": "disc.png", "width_mm": 12, "x_mm": 20, "y_mm": 11}],
            "lines": [{"text": "{name}", "size_mm": 7, "x_mm": 20, "y_mm": 27}],
        },
        "names": ["Ada", "Bo"],
    }
    done = vamper("plan", write(folder, items=[], composed=[composed]), "--out", folder / "out", folder=folder)
    assert (done.returncode, done.stderr) == (0, "")
    plan = json.loads((folder / "out" / "plan.json").read_text())
    assert [item["art"] for item in plan["items"]] == ["composed-1-1.svg", "composed-1-2.svg"]
    assert plan["items"][0]["size_mm"] == pytest.approx([40, 40], abs=0.05)
    lost = {**composed, "composition": {**composed["composition"], "arts": [{**ART_ELSEWHERE}]}}
    refused = vamper("plan", write(folder, items=[], composed=[lost]), "--out", folder / "no", folder=folder)
    assert refused.returncode == 2
    assert "folder" in refused.stderr
    assert not (folder / "no").exists()


ART_ELSEWHERE = {"art": "../disc.png", "width_mm": 12, "x_mm": 20, "y_mm": 11}


def test_sheets_are_planned_as_the_job_file_asks(folder: Path) -> None:
    """Held pieces, straight rows without a machine, a part-used sheet, scale to fill, and layers of cut-only stock."""
    placed = [{"item": 0, "x_mm": 60, "y_mm": 120, "turn_deg": 0, "pin": "locked"}]
    items = [{"art": "disc.png", "width_mm": 30, "quantity": 5}]
    spent = {"width_mm": 210, "height_mm": 297, "spent": {"width_mm": 210, "height_mm": 100}}
    done = vamper("plan", write(folder, items=items, placed=placed, paper=spent), "--out", "a", *BRIEFLY, folder=folder)
    assert done.returncode == 0, done.stderr
    plan = json.loads((folder / "a" / "plan.json").read_text())
    (sheet,) = plan["sheets"]
    assert [one["pin"] for one in sheet["placements"] if "pin" in one] == ["locked"]
    assert sheet["live_area_mm"][0]["shell"]
    assert sheet["offcut_mm"]["width_mm"] > 50

    by_hand = write(folder, items=items, cutter={"feed": "hand"})
    assert vamper("plan", by_hand, "--out", "b", *BRIEFLY, folder=folder).returncode in (0, 3)
    plan = json.loads((folder / "b" / "plan.json").read_text())
    assert plan["marks"] == []
    assert len({round(one["y_mm"], 2) for one in plan["sheets"][0]["placements"]}) == 1

    scaled = write(folder, items=items, scale_to_fill=1)
    # On a busy machine a second is over before two sizes were tried.
    assert vamper("plan", scaled, "--out", "c", "--seconds", 5, folder=folder).returncode in (0, 3)
    plan = json.loads((folder / "c" / "plan.json").read_text())
    assert plan["items"][0]["size_mm"][0] > 60
    assert len(plan["sheets"][0]["placements"]) == 5

    cut_only = write(folder, items=items, stock="plain-vinyl")
    assert vamper("plan", cut_only, "--out", "d", *BRIEFLY, folder=folder).returncode == 0
    plan = json.loads((folder / "d" / "plan.json").read_text())
    assert "print" not in plan["sheets"][0]["files"]
    assert not list((folder / "d").glob("sheet-*.pdf"))


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--lan"], "need a passphrase"),
        (["--lan", "--certificate", "own.pem"], "goes with its key"),
        (["--new-passphrase"], "add --lan"),
    ],
)
def test_other_devices_are_let_in_with_a_passphrase_only(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, options: list[str], words: str
) -> None:
    monkeypatch.delenv("VAMPER_PASSPHRASE", raising=False)
    monkeypatch.setattr(sys, "setswitchinterval", lambda _seconds: None)
    ended = vamper("serve", "--data", tmp_path / "w.db", "--port", 8790, *options, folder=tmp_path)
    assert ended.returncode == 2
    assert words in ended.stderr


def test_readings_and_ladders_are_weighed_as_json(folder: Path) -> None:
    places = [(30, 25), (180, 25), (30, 250), (180, 250)]
    readings = [
        {"x_mm": x, "y_mm": y, "axis": axis, "miss_mm": miss}
        for x, y in places
        for axis, miss in (("x", 0.8), ("y", -0.3))
    ]
    (folder / "readings.json").write_text(json.dumps({"readings": readings}))
    found = json.loads(vamper("calibrate", "readings.json", folder=folder).stdout)
    assert found["offset_mm"] == {"x": pytest.approx(0.8), "y": pytest.approx(-0.3)}
    assert found["map"][0] == pytest.approx([1, 0, 0.8])
    (folder / "readings.json").write_text(json.dumps({"readings": readings[:3]}))
    few = vamper("calibrate", "readings.json", folder=folder)
    assert (few.returncode, few.stderr.count("\n")) == (2, 1)
    assert "at least three" in few.stderr
    tries = [{"force_gf": 84, "passes": 1, "outcome": "not-through"}]
    (folder / "tries.json").write_text(json.dumps({"stock": "satin-vinyl", "cut": "kiss", "tries": tries}))
    found = json.loads(vamper("ladder", "tries.json", folder=folder).stdout)
    assert found["force_gf"] > 84
    assert found["next_gf"] == sorted(found["next_gf"])
    tries[0]["outcome"] = "meh"
    (folder / "tries.json").write_text(json.dumps({"stock": "satin-vinyl", "tries": tries}))
    assert "tries.0.outcome" in vamper("ladder", "tries.json", folder=folder).stderr


def test_a_proof_and_a_page_are_written_on_request(folder: Path) -> None:
    done = vamper("plan", write(folder), "--out", "out", "--proof", "--page-ppi", 60, "--seconds", 1, folder=folder)
    assert done.returncode == 0, done.stderr
    names = {path.name for path in (folder / "out").iterdir()}
    assert {"proof-01.pdf", "sheet-01-page.png", "sheet-01-cut.hpgl"} <= names
    plan = json.loads((folder / "out" / "plan.json").read_text())
    assert plan["reading"]["chance"] > 0.95
    assert plan["sheets"][0]["ink"]["ml"] > 0
    assert {one["miss_mm"] for one in plan["sheets"][0]["placements"]} == {0.612}
    order = plan["sheets"][0]["cut"]["order"]
    assert {one["placement"] for one in order} == set(range(len(plan["sheets"][0]["placements"])))


def test_dry_run_writes_its_outcome_and_a_picture(folder: Path) -> None:
    job = write(folder)
    done = vamper("dry-run", job, "--out", folder / "dry", "--runs", 40, "--seed", 1, "--ppi", 100, folder=folder)
    assert (done.returncode, done.stderr) == (0, "")
    found = json.loads((folder / "dry" / "dry-run.json").read_text())
    assert found["marks_read"] == 1
    assert len(found["pieces"]) == 8
    assert set(found["pieces"][0]) >= {"sheet", "placement", "item", "miss_p95_mm", "bitten", "cut_clean", "good"}
    with Image.open(folder / "dry" / "sheet-01-result.png") as picture:
        assert picture.size == (850, 1100)
    again = folder / "again"
    vamper("dry-run", job, "--out", again, "--runs", 40, "--seed", 1, "--ppi", 100, folder=folder)
    assert json.loads((again / "dry-run.json").read_text()) == found


def test_a_twin_that_does_otherwise_spoils_and_says_why(folder: Path) -> None:
    job = write(
        folder, twin={"hardness": {"satin-vinyl": 1.4}, "scale": {"x": 1.0, "y": 1.0}, "faults": ["crooked-feed"]}
    )
    # A look before unloading makes up for it: what is not through is run once more.
    looked = vamper("dry-run", job, "--out", folder / "looked", "--runs", 20, folder=folder)
    assert looked.returncode == 0
    done = vamper("dry-run", job, "--out", folder / "dry", "--runs", 20, "--no-look", folder=folder)
    assert done.returncode == 3
    found = json.loads((folder / "dry" / "dry-run.json").read_text())
    assert found["causes"] == [{"cause": "not-through", "share": 1.0}]
    assert found["sheet_good"] == 0
    refused = vamper("dry-run", write(folder, twin={"slip": 1}), "--out", folder / "no", folder=folder)
    assert refused.returncode == 2
    assert refused.stderr.startswith("twin.slip: this field is unknown")
    assert not (folder / "no").exists()


SETTINGS = [
    {"name": "thick label paper", "pressures": ["less", "usual", "more"], "gentler_than": ["poster board"]},
    {"name": "poster board"},
    {"name": "vinyl"},
]
BY_PROGRAM = {
    "route": "program",
    "program": {"marks": {"rim_mm": {"top": 10, "right": 10, "bottom": 10, "left": 10}}, "mirrors": None},
    "granted": [{"paper_width": 215.9, "paper_height": 279.4, "width": {"taken": 190}, "height": {"taken": 240}}],
    "settings": SETTINGS,
}


def test_a_setting_is_chosen_by_its_name(folder: Path) -> None:
    def ask(settings: list[dict[str, object]], **more: object) -> subprocess.CompletedProcess[str]:
        (folder / "settings.json").write_text(json.dumps({"stock": "matte-label", "settings": settings, **more}))
        return vamper("settings", "settings.json", folder=folder)

    through = {"stock": "matte-label", "cut": "kiss", "pressure": "usual", "passes": 1, "outcome": "backing-through"}
    first = json.loads(ask(SETTINGS).stdout)
    assert set(first) == {"proposal", "placed", "next_try", "done", "look_for"}
    assert set(first["proposal"]) == {"setting", "pressure", "passes", "usable", "at_first"}
    assert first["proposal"]["at_first"] < first["proposal"]["usable"] < 1
    assert {one["pressure"] for one in first["placed"]} == {"less", "usual", "more", None}
    told = json.loads(ask([{**SETTINGS[0], "seen": [through]}, *SETTINGS[1:]]).stdout)
    assert told["proposal"]["setting"] != "poster board"
    assert (told["proposal"]["setting"], told["proposal"]["pressure"]) != ("thick label paper", "usual")
    empty = json.loads(ask([]).stdout)
    assert (empty["proposal"], empty["placed"], empty["next_try"]) == (None, [], None)
    assert "label" in empty["look_for"]
    for bad, words in (
        ([{"name": "a"}, {"name": "A"}], "two settings are called"),
        ([{"name": "a", "gentler_than": ["b"]}, {"name": "b", "gentler_than": ["a"]}], "both gentler and harder"),
        ([{"name": "a", "seen": [{**through, "pressure": None, "cut": "through"}]}], "no backing to mark"),
        ([{"name": "a", "seen": [{**through, "stock": "felt"}]}], "no stock is called"),
        ([{"name": "a", "seen": [{**through, "pressure": "less"}]}], "cannot be set to"),
    ):
        refused = ask(bad)
        assert (refused.returncode, refused.stderr.count("\n")) == (2, 1)
        assert words in refused.stderr


def test_a_job_for_the_machines_own_program(folder: Path) -> None:
    unread = {"marks": {"read": False, "tries": 2}, "room_light": "usual", "stock": "gloss-vinyl", "remedies": []}
    job = {"cutter": BY_PROGRAM, "stock": "gloss-label"}
    plans = {}
    for name, runs in (("plain", []), ("told", [unread, {"marks": {"read": False, "stock": "gloss-label"}}])):
        done = vamper("plan", write(folder, **job, runs=runs), "--out", name, *BRIEFLY, folder=folder)
        assert done.returncode == 0, done.stderr
        plans[name] = json.loads((folder / name / "plan.json").read_text())
    plan = plans["plain"]
    assert {path.name for path in (folder / "plain").iterdir()} == {
        "sheet-01-picture.png",
        "bench-card.pdf",
        "plan.json",
    }
    picture = plan["sheets"][0]["picture"]
    with Image.open(folder / "plain" / "sheet-01-picture.png") as image:
        assert image.size == (picture["width_px"], picture["height_px"])
        assert image.mode == "RGBA"
    assert picture["width_mm"] == pytest.approx(picture["width_px"] * 25.4 / picture["ppi"], abs=0.001)
    assert picture["width_mm"] <= 190
    assert picture["height_mm"] <= 240
    assert plan["program"]["bleed"] == "off"
    assert plan["cover_trim_mm"] == {"width": pytest.approx(189.9), "height": pytest.approx(253.4)}
    assert "force_gf" not in plan["settings"]["kiss"]
    assert set(plan["settings"]["kiss"]) >= {"setting", "pressure", "passes", "usable", "at_first"}
    assert plans["told"]["reading"]["chance"] < plan["reading"]["chance"] - 0.2
    assert plans["told"]["reading"]["offsets"]["machine"] < 0
    outcomes = {}
    for flag in ("--look", "--no-look"):
        out = folder / flag
        vamper("dry-run", write(folder, **job), "--out", out, "--runs", 40, "--unsure", flag, *BRIEFLY, folder=folder)
        outcomes[flag] = json.loads((out / "dry-run.json").read_text())
    assert outcomes["--look"]["sheet_good"] > outcomes["--no-look"]["sheet_good"]
    assert outcomes["--look"]["marks_read"] == pytest.approx(plan["reading"]["chance"], abs=0.2)


def test_compare_tells_a_print_from_its_plan(folder: Path) -> None:
    out = folder / "out"
    vamper("plan", write(folder), "--out", out, "--page-ppi", 150, folder=folder)
    with Image.open(out / "sheet-01-page.png") as page:
        sheet = Image.new("RGB", page.size, "white")
        sheet.paste(page, mask=page.getchannel("A"))
    plan = json.loads((out / "plan.json").read_text())
    one = plan["sheets"][0]["placements"][3]
    edge = placed(
        shapely.Polygon(plan["items"][one["item"]]["edge"][0]["shell"]), one["x_mm"], one["y_mm"], one["turn_deg"]
    )
    sheet.paste("white", tuple(round(side * 150 / 25.4) for side in edge.bounds))
    sheet.rotate(180).save(folder / "scan.png")
    done = vamper("compare", out / "plan.json", folder / "scan.png", "--sheet", 1, "--ppi", 150, folder=folder)
    assert (done.returncode, done.stderr) == (3, "")
    found = json.loads(done.stdout)
    assert found["marks_found"] == 4
    assert abs(found["turn_deg"]) == pytest.approx(180, abs=0.2)
    assert found["scale"]["x"] == pytest.approx(1, abs=0.002)
    assert [piece["placement"] for piece in found["missing"]] == [3]
    assert found["pale"] == []
    Image.new("RGB", (300, 300), "white").save(folder / "empty.png")
    refused = vamper("compare", out / "plan.json", folder / "empty.png", folder=folder)
    assert refused.returncode == 2
    assert "at least three of its marks" in refused.stderr
    pieces = vamper("compare", out / "plan.json", folder / "scan.png", "--pieces", folder=folder)
    assert (pieces.returncode, pieces.stderr) == (2, "--ppi: say how many pixels an inch the scan of the pieces has\n")


def test_the_samples_that_ship_show_what_they_say(tmp_path: Path) -> None:
    samples = Path(__file__).parents[1] / "docs" / "samples"
    printed = vamper("compare", samples / "plan.json", samples / "print.jpg", folder=tmp_path)
    assert (printed.returncode, len(json.loads(printed.stdout)["missing"])) == (3, 1)
    weeded = json.loads(
        vamper("compare", samples / "plan.json", samples / "weeded.jpg", "--weeded", folder=tmp_path).stdout
    )
    assert (len(weeded["pieces"]), weeded["gone"], weeded["unclear"]) == (6, [], [])
    pieces = vamper("compare", samples / "plan.json", samples / "pieces.jpg", "--pieces", "--ppi", 200, folder=tmp_path)
    assert sorted(one["item"] for one in json.loads(pieces.stdout)["pieces"]) == [0, 0, 0, 1, 1, 1]


def test_a_timetable_is_planned_and_written_as_a_calendar(tmp_path: Path) -> None:
    step = {"name": "coat", "minutes": 4, "hands_on": True, "occupies": ["spray"]}
    evening = {
        "start": "2026-05-02T18:00",
        "away": [{"from": "2026-05-02T18:10", "to": "2026-05-02T19:00"}],
        "places": {"oven": 1, "spray": 1},
        "batches": [
            {"name": "mugs", "process": "water-slide", "pieces": 3, "coats": 2},
            {"name": "tags", "steps": [step, {**step, "wait_least": 20}]},
        ],
    }
    (tmp_path / "evening.json").write_text(json.dumps(evening))
    done = vamper("timetable", "evening.json", "--ics", "evening.ics", folder=tmp_path)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    assert found["optimal"]
    assert found["ends"] == found["bound_ends"] == max(one["end"] for one in found["steps"])
    hands = [one for one in found["steps"] if one["hands_on"]]
    assert all(not ("2026-05-02T18:10" < one["end"] <= "2026-05-02T19:00") for one in hands)
    events = icalendar.Calendar.from_ical((tmp_path / "evening.ics").read_bytes()).walk("VEVENT")
    assert sorted(event["dtstart"].dt.isoformat(timespec="minutes") for event in events) == sorted(
        one["start"] for one in hands
    )
    for change, words in (
        ({"places": {"oven": 1}}, "there is no spray"),
        ({"away": [{"from": "2026-05-02T18:10", "to": "2026-05-02T18:00"}]}, "ends before it begins"),
        ({"batches": [{"name": "tags", "process": "magic"}]}, "there is no process"),
        (
            {"batches": [{"name": "t", "steps": [step, {**step, "wait_least": 9, "wait_most": 3}]}]},
            "t, coat: its greatest",
        ),
    ):
        (tmp_path / "bad.json").write_text(json.dumps(evening | change))
        refused = vamper("timetable", "bad.json", folder=tmp_path)
        assert refused.returncode == 2
        assert words in refused.stderr
        assert refused.stderr.count("\n") == 1


def test_wrap_bends_art_and_its_edge(tmp_path: Path) -> None:
    Image.new("RGBA", (400, 200), (20, 90, 140, 255)).save(tmp_path / "art.png")
    cup = ("--top", 84, "--bottom", 60, "--slant", 105)
    done = vamper(
        *("wrap", *cup, "--width", 70, "--height", 35, "--up", 50, "--art", "art.png", "--out", "bent.svg"),
        folder=tmp_path,
    )
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    assert found["kind"] == "taper"
    assert found["sheet"]["outer_radius_mm"] == pytest.approx(367.5)
    paths = ElementTree.parse(tmp_path / "bent.svg").findall(".//{*}g[@id='edge']/{*}path")
    assert len(paths) == 1
    assert paths[0].get("d", "").count("Z") == 1
    refused = vamper("wrap", "--top", 84, "--bottom", 60, "--slant", 12, "--width", 70, "--height", 35, folder=tmp_path)
    assert (refused.returncode, "too short" in refused.stderr) == (2, True)


def test_shrink_says_how_large_to_print(tmp_path: Path) -> None:
    bar = ("--before", "100x25", "--after", "44.1x11.6")
    found = json.loads(vamper("shrink", *bar, "--wanted", "40x30", "--hole", 4, folder=tmp_path).stdout)
    assert found["print_mm"]["width"] == pytest.approx(40 / 0.441, abs=1e-3)
    assert found["punch_mm"] == pytest.approx(4 / ((0.441 + 0.464) / 2), abs=1e-3)
    refused = vamper("shrink", "--before", "100", "--after", "44x11", "--wanted", "40x30", folder=tmp_path)
    assert (refused.returncode, refused.stderr) == (
        2,
        "--before: “100” is not a size; write width x height in mm, as in 100x25\n",
    )


def test_diagnose_says_what_may_have_gone_wrong(tmp_path: Path) -> None:
    found = json.loads(vamper("diagnose", "--seen", "backing-cut", "--fact", "steep-blade", folder=tmp_path).stdout)
    assert found["causes"][0]["code"] == "steep-on-soft"
    assert sum(one["chance"] for one in found["causes"]) == pytest.approx(1)
    check = found["causes"][0]["next_check"]["code"]
    args = ("diagnose", "--seen", "backing-cut", "--fact", "steep-blade", "--checked")
    after = json.loads(vamper(*args, f"{check}=no", folder=tmp_path).stdout)
    before, now = (
        next(one["chance"] for one in run["causes"] if one["code"] == "steep-on-soft") for run in (found, after)
    )
    assert now < before
    refused = vamper(*args, f"{check}=perhaps", folder=tmp_path)
    assert refused.returncode == 2
    assert "yes or no" in refused.stderr
    assert "blade-lens" in json.loads(vamper("diagnose", "--codes", folder=tmp_path).stdout)["checks"]


def test_runs_come_out_as_a_table(tmp_path: Path) -> None:
    missing = vamper("runs", "--data", "none.db", "--csv", folder=tmp_path)
    assert missing.returncode == 2
    workshop = Workshop(tmp_path / "club.db", ProcessNester())
    workshop.runs.add_all(shipped_season())
    workshop.close()
    table = vamper("runs", "--data", "club.db", "--csv", folder=tmp_path).stdout
    assert [run for _, run in read_runs_csv(table.encode())] == [run for _, run in shipped_season()]
    assert len(json.loads(vamper("runs", "--data", "club.db", folder=tmp_path).stdout)["runs"]) == len(shipped_season())
