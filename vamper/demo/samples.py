"""Sample pictures that ship with Vamper, and the plan they show: a print that lost a picture, its weeded sheet, pieces.

`make samples` draws them anew into docs/samples; they are for trying `vamper compare`, and the photo check, by hand.
"""

import json
import sys
from pathlib import Path

from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.demo.drawings import lighthouse, seabird, svg
from vamper.formats.job_file import read_job
from vamper.formats.out.picture_files import write_jpeg
from vamper.formats.out.sheet_file import sheet_files
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.handoff.files import PLAN_NAME, PRINT_KEY, plan_files
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import plan_job
from vamper.services.twin.samples import PHOTO_PPI, PIECES_PPI, sample_photo, sample_pieces, sample_weeded

_ART = {"seabird.svg": svg(seabird()), "lighthouse.svg": svg(lighthouse())}
_JOB = {
    "format": "vamper-job",
    "version": 1,
    "title": "Gannet Reach samples",
    "paper": "a5",
    "stock": "satin-vinyl",
    "items": [
        {"art": "seabird.svg", "width_mm": 40, "quantity": 3, "edge": {"kind": "follow", "distance_mm": 2.5}},
        {"art": "lighthouse.svg", "height_mm": 45, "quantity": 3, "edge": {"kind": "follow", "distance_mm": 2}},
    ],
}
_QUALITY = 72
_SECONDS, _SEED = 2.0, 1


def sample_files() -> dict[str, bytes]:
    """The plan with its print file, and the pictures, by name."""
    spec = read_job(json.dumps(_JOB).encode())
    designer = Designer()
    arts = {name: ArtFile.of(name, data) for name, data in _ART.items()}
    plan = plan_job(spec, [arts[item.art] for item in spec.items], designer, ProcessNester(), _SECONDS, _SEED)

    def pictures(item: DesignedItem) -> Picture:
        return designer.picture_of(item, arts[item.spec.art])

    made = plan_files(plan, (), pictures)
    printed = sheet_files(0, plan.job)[PRINT_KEY]
    return {
        PLAN_NAME: made[PLAN_NAME],
        printed: made[printed],
        "print.jpg": write_jpeg(sample_photo(plan, 0, pictures), PHOTO_PPI, _QUALITY),
        "weeded.jpg": write_jpeg(sample_weeded(plan, 0, pictures), PIECES_PPI, _QUALITY),
        "pieces.jpg": write_jpeg(sample_pieces(plan, 0, pictures), PIECES_PPI, _QUALITY),
    }


if __name__ == "__main__":
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    for name, data in sample_files().items():
        (folder / name).write_bytes(data)
