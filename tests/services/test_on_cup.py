"""A design for a cup, from its picture to its piece: bent before it is packed, straight where it stands."""

from dataclasses import replace

import numpy as np
import pytest

from tests.scenes import bars, item
from vamper.core.finishing.on_cup import on_cup
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.finish import WrapSpec
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.formats.out.picture_files import write_png
from vamper.services.design.designer import ArtFile, Designer

PICTURE = bars((60, 150, 260, 230), (240, 60, 300, 330))
ART = ArtFile.of("1.png", write_png(PICTURE.rgba, 300))
FILM = STOCK_BY_KEY["water-slide-white"]


@pytest.mark.parametrize("cup", [WrapSpec(84, 60, 105, 50.0), WrapSpec(60, 84, 105, 50.0)])
def test_a_design_on_a_cup_is_bent_before_it_is_packed(cup: WrapSpec) -> None:
    designer, spec = Designer(), item(1, width_mm=60.0, edge=EdgeSpec(distance_mm=2.0))
    flat = designer.design(spec, ART, FILM)
    bent = designer.design(replace(spec, wrap=cup), ART, FILM)
    found = on_cup(bent)
    assert found is not None
    # On the cup its drawing is as wide and as high as it was flat, and stands in the middle of its height.
    ring = found.drawing[0]
    across, down = flat.outline.size_mm
    assert np.ptp(ring[:, 0]) / 360 * found.thing.around_mm(50.0) == pytest.approx(across, abs=0.2)
    assert np.ptp(ring[:, 1]) == pytest.approx(down, abs=0.2)
    assert (ring[:, 1].max() + ring[:, 1].min()) / 2 == pytest.approx(50.0, abs=0.2)
    assert abs(ring[:, 0].max() + ring[:, 0].min()) < 1.0
    # The sheet packs the bent shape, and the page prints bent pixels under it.
    assert bent.outline.size_mm[0] > across + 0.3
    picture = designer.picture_of(bent, ART)
    inked = (picture.alpha > 127).sum() * bent.outline.mm_per_px**2
    assert inked == pytest.approx(bent.outline.shape.area, rel=0.01)


def test_on_a_cylinder_nothing_is_bent() -> None:
    designer, spec = Designer(), item(1, width_mm=60.0)
    mug = replace(spec, wrap=WrapSpec(82, 82, 95))
    assert designer.design(mug, ART, FILM).outline == designer.design(spec, ART, FILM).outline
