"""What CONTRIBUTING says of adding is so: things added to a copy of the program, in no other files than it names.

The copy is asked in a process of its own, as it is imported under the program's own name; all at once, as a process
takes a while to start.
"""

import os
import shutil
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest

from tests.conftest import disc_png
from vamper.core.sheet.pack.nesting import Nester
from vamper.services.workshop import Workshop

PROGRAM = Path(__file__).parents[1] / "vamper"

OCTAGON = '''"""Eight sides round the art."""

from shapely.geometry import MultiPolygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import as_multi


def octagon(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    middle = shape.convex_hull.centroid
    reach = shape.hausdorff_distance(middle) + spec.distance_mm
    return Derived(as_multi([middle.buffer(reach / 0.92, quad_segs=2)]))


KIND = EdgeKind("octagon", 7, "octagon", "eight sides round it", octagon, ("fillet_mm",))
'''
NOTE = '''"""A line of text beside each sheet."""

from vamper.formats.out.sheet_file import SheetFile

KIND = SheetFile(
    key="note", place=9, ending="note.txt", media_type="text/plain", words="a note",
    write=lambda plan, sheet, printed: b"a note",
)
'''


def _edge_kind(copy: Path) -> str:
    (copy / "core/edge/kinds/octagon.py").write_text(OCTAGON)
    return """
from vamper.core.edge.kind import KINDS
assert "octagon" in [kind.key for kind in KINDS]
changed = workshop.jobs.change_items(job, "eight sides", (1,), {"edge.kind": "octagon"})
plan = workshop.plans.of(changed).plan
assert plan.items[0].spec.edge.kind == "octagon" and plan.items[0].edge.shape.area > 0
from vamper.api.catalog import catalog
assert "octagon" in [kind.key for kind in catalog().edge_kinds]
"""


def _file_of_a_sheet(copy: Path) -> str:
    (copy / "formats/out/kinds/note.py").write_text(NOTE)
    return """
from vamper.services.handoff.files import is_own_name, plan_files
from vamper.formats.plan_document import PlanDocument
files = plan_files(workshop.plans.latest(job).plan, (), workshop.pictures.whole)
assert files["sheet-01-note.txt"] == b"a note"
assert PlanDocument.read(files["plan.json"]).sheets[0].files["note"] == "sheet-01-note.txt"
assert is_own_name("sheet-01-note.txt")
"""


def _field_of_a_design(copy: Path) -> str:
    path = copy / "core/values/item.py"
    line = "    quantity: "
    text = path.read_text()
    path.write_text(text.replace(line, f"    drawer: Annotated[int, Ge(1), Le(99)] = 1\n{line}", 1))
    return """
from vamper.core.values.findings import BadInput
assert workshop.jobs.change_items(job, "drawer", (1,), {"drawer": 7}).document.items[0].drawer == 7
assert workshop.jobs.undo(job).document.items[0].drawer == 1
try:
    workshop.jobs.change_items(job, "drawer", (1,), {"drawer": 100})
except BadInput:
    pass
else:
    raise AssertionError("a limit was not kept")
"""


def _stock(copy: Path) -> str:
    path = copy / "core/values/stocks.toml"
    row = '  ["laminate",          "laminate",    60,  70,  0.95, 1,   0.8, 100, "medium", 0.8, 0,   "kiss"],\n'
    text = path.read_text()
    assert row in text
    text = text.replace(row, row + row.replace('"laminate", ', '"thick-film", ', 1))
    path.write_text(text.replace("[about]\n", '[about]\nthick-film = { name = "thick film", ground = "clear" }\n', 1))
    return """
assert workshop.shop.stock("thick-film").name == "thick film"
assert workshop.jobs.change(job, "film", {"stock": "thick-film"}).document.stock == "thick-film"
"""


ADDED: tuple[Callable[[Path], str], ...] = (_edge_kind, _file_of_a_sheet, _field_of_a_design, _stock)


@pytest.fixture
def before(tmp_path_factory: pytest.TempPathFactory, nester: Nester) -> Path:
    """A workshop of today's program, with a job of one design."""
    path = tmp_path_factory.mktemp("before") / "workshop.db"
    workshop = Workshop(path, nester, 1)
    art = workshop.arts.take_in("disc.png", disc_png()).digest
    job = workshop.jobs.create("One design")
    workshop.jobs.add_items(job, "add", [{"name": "disc", "art": art, "longest_mm": 30, "quantity": 2}])
    workshop.close()
    return path


def test_what_is_added_touches_nothing_else(before: Path, tmp_path: Path) -> None:
    copy = tmp_path / "vamper"
    shutil.copytree(PROGRAM, copy, ignore=shutil.ignore_patterns("__pycache__"))
    questions = "".join(add(copy) for add in ADDED)
    asked = f"""
from pathlib import Path
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
import vamper
assert vamper.__file__.startswith({str(tmp_path)!r})
workshop = Workshop(Path({str(before)!r}), ProcessNester(), 1)
job = workshop.jobs.all()[0].id
{questions}
workshop.close()
"""
    done = subprocess.run(
        [sys.executable, "-c", asked],
        cwd=tmp_path,
        env={**os.environ, "PYTHONPATH": str(tmp_path)},
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr[-2000:]
