"""Pictures as they are shown: as large as was asked for, never larger than they are, and whole where that is needed."""

import io

import numpy as np
import pytest
from PIL import Image

from tests.conftest import disc_alpha, disc_png, picture_of
from vamper.services.design.art_reading import PREVIEW_PX, shown
from vamper.services.design.item_pictures import ItemPictures
from vamper.services.design.kept_designs import KeptDesigns
from vamper.services.workshop import Workshop


@pytest.mark.parametrize("longest", [40, 160, 300])
def test_a_picture_is_shown_as_large_as_was_asked_for(longest: int) -> None:
    data = shown(picture_of(disc_alpha(900, 400, (450, 450))), longest)
    assert max(Image.open(io.BytesIO(data)).size) == longest


def test_a_small_picture_is_not_blown_up() -> None:
    data = shown(picture_of(disc_alpha(90, 40, (45, 45))), 400)
    assert max(Image.open(io.BytesIO(data)).size) <= 110


@pytest.mark.parametrize(("seen_ppi", "whole"), [(100.0, False), (300.0, False), (900.0, True)])
def test_a_design_is_shown_whole_only_where_a_preview_would_be_too_coarse(
    workshop: Workshop, seen_ppi: float, whole: bool
) -> None:
    job = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png(1600))
    workshop.jobs.add_item(job, art.digest, "disc", 60, {})
    item = workshop.items.designed(workshop.jobs.get(job), 1)
    pictures = ItemPictures(workshop.arts, workshop.designer, seen_ppi)
    longest = max(pictures.shown(item).rgba.shape)
    assert longest > max(PREVIEW_PX) if whole else longest <= max(PREVIEW_PX)
    assert np.array_equal(pictures.whole(item).rgba, workshop.pictures.whole(item).rgba)


def test_without_a_file_designs_are_made_each_time_and_nothing_is_written() -> None:
    kept, made = KeptDesigns(), list[int]()

    def make() -> str:
        made.append(1)
        return "design"

    assert [kept.get(str, ("a",), make) for _ in range(2)] == ["design"] * 2
    assert len(made) == 2
    kept.write()
