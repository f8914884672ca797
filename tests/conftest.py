"""What all tests share: pictures made by formula, and a workshop in a folder of its own."""

import gc
import io
import os
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from tests.tried import load_usual
from vamper.core.art.picture import Picture
from vamper.services.design.designer import Designer
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.shop.makes import Makes
from vamper.services.shop.usual import Usual
from vamper.services.workshop import Workshop

load_usual()
# As the program itself has it.
gc.set_threshold(50_000, 20, 20)


def disc_alpha(size_px: int, radius_px: float, centre: tuple[float, float]) -> np.ndarray:
    """Coverage of a disc, anti-aliased by distance, values 0..1."""
    y, x = np.mgrid[0:size_px, 0:size_px] + 0.5
    return np.clip(radius_px - np.hypot(x - centre[0], y - centre[1]) + 0.5, 0, 1)


def picture_of(alpha: np.ndarray) -> Picture:
    rgba = np.zeros((*alpha.shape, 4), np.uint8)
    rgba[..., :3] = (40, 90, 160)
    rgba[..., 3] = np.round(alpha * 255)
    return Picture(rgba)


def png_of(picture: Picture) -> bytes:
    out = io.BytesIO()
    Image.fromarray(picture.rgba).save(out, format="PNG")
    return out.getvalue()


def disc_png(size_px: int = 300, share: float = 0.45) -> bytes:
    return png_of(picture_of(disc_alpha(size_px, share * size_px, (size_px / 2, size_px / 2))))


@pytest.fixture(scope="session")
def nester() -> ProcessNester:
    process_nester = ProcessNester()
    process_nester.warm_up()
    return process_nester


@pytest.fixture(scope="session")
def designer() -> Designer:
    """Shared by all workshops: most tests lay the same art, and a design goes by all that it was made from."""
    return Designer()


@pytest.fixture
def workshop(tmp_path: Path, nester: ProcessNester, designer: Designer) -> Iterator[Workshop]:
    opened = Workshop(tmp_path / "workshop.db", nester, search_seconds=0.4, designer=designer)
    # Jobs begin on satin vinyl, for a vehicle.
    opened.usual.put(Usual(makes=Makes.OUTDOORS))
    yield opened
    opened.close()


# What takes longest is begun first, so that no worker is left alone at the end. All screens are looked at by one
# worker: each that looks at some has a demo workshop drawn, a server and a browser started for it.
_SCREENS = "tests/screens/"
_BESIDE_SCREENS = 5
_LONGEST = (
    _SCREENS,
    "tests/test_cli.py",
    "tests/approved/",
    "tests/core/test_twin.py",
    "tests/core/test_compare.py",
    "tests/services/test_right_rules.py",
)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    def place(item: pytest.Item) -> int:
        path = item.path.as_posix()
        return next((number for number, part in enumerate(_LONGEST) if part in path), len(_LONGEST))

    items.sort(key=place)


def pytest_collection_finish() -> None:
    # As the program itself has it, once it has loaded all it needs.
    gc.freeze()


def pytest_runtest_setup(item: pytest.Item) -> None:
    if "PYTEST_XDIST_WORKER" in os.environ and not item.nodeid.startswith(_SCREENS):
        _let_screens_go_first()


@cache
def _let_screens_go_first() -> None:
    """The screens are one long row that waits for a browser and a server in turn; all else fits in beside it."""
    os.nice(_BESIDE_SCREENS)


@pytest.hookimpl(optionalhook=True)
def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> Any:
    from xdist.scheduler import LoadFileScheduling

    class ByFile(LoadFileScheduling):
        """A file is done by one worker, and so are all screens."""

        def _split_scope(self, nodeid: str) -> str:
            return _SCREENS if nodeid.startswith(_SCREENS) else str(super()._split_scope(nodeid))

    return ByFile(config, log)
