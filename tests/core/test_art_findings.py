"""Every finding of the Art station: seen where it should be, not where it should not, gone when its fix is taken."""

import math

import numpy as np
import pytest
from scipy import ndimage

from tests.conftest import disc_alpha, picture_of
from vamper.core.art.groups import are_several, groups_of
from vamper.core.art.inspect import art_findings, look_over
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.art.picture import Conversion, Picture
from vamper.core.art.prepare import cropped, lifted, prepared, rim_of
from vamper.core.art.surface import survey
from vamper.core.art.unprinted import colour_findings
from vamper.core.values.art import Preparation, Purpose, SizeSpec
from vamper.core.values.colour import difference, lab_of, lab_of_one
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Severity
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import STOCK_BY_KEY

WIDTH = SizeSpec(width_mm=40)


def seen(picture: Picture, stock: str = "satin-vinyl", **spec: object) -> list[Finding]:
    item = ItemSpec(number=1, art="a.png", width_mm=WIDTH.width_mm, **spec)  # type: ignore[arg-type]
    picture = prepared(picture, item.prepare)
    outline = outline_at(trace(picture, item.prepare.threshold), WIDTH)
    facts = look_over(picture, outline, item.prepare.threshold)
    return art_findings(outline, item, 0, Purpose.VEHICLE, facts, STOCK_BY_KEY[stock])


def codes(picture: Picture, stock: str = "satin-vinyl", **spec: object) -> set[str]:
    return {finding.code for finding in seen(picture, stock, **spec)}


def one(picture: Picture, code: str, stock: str = "satin-vinyl", **spec: object) -> Finding:
    (finding,) = (f for f in seen(picture, stock, **spec) if f.code == code)
    return finding


def painted(*layers: tuple[np.ndarray, tuple[int, int, int]], ground: tuple[int, int, int] | None = None) -> Picture:
    """Coverage masks painted over each other in colours, on nothing or on an opaque ground."""
    shape = layers[0][0].shape
    rgb = np.zeros((*shape, 3)) + (ground or (0, 0, 0))
    alpha = np.full(shape, 1.0 if ground else 0.0)
    for cover, colour in layers:
        mixed = alpha * (1 - cover)
        total = mixed + cover
        rgb = (rgb * mixed[..., None] + np.array(colour) * cover[..., None]) / np.maximum(total, 1e-9)[..., None]
        alpha = total
    return Picture(np.dstack([np.round(rgb), np.round(alpha * 255)]).astype(np.uint8))


DISC = disc_alpha(400, 170, (200, 200))
BLUE, RED, WHITE = (40, 90, 160), (190, 50, 40), (255, 255, 255)
DARK, CREAM = (34, 48, 58), (247, 241, 228)


def test_a_plain_drawing_has_nothing_to_say() -> None:
    assert codes(painted((DISC, BLUE))) == set()


def test_colours_by_known_values() -> None:
    assert lab_of_one((255, 255, 255)) == pytest.approx([100, 0, 0], abs=0.02)
    assert lab_of_one((255, 0, 0)) == pytest.approx([53.24, 80.09, 67.20], abs=0.05)
    assert lab_of_one((0, 0, 0)) == pytest.approx([0, 0, 0], abs=0.02)
    assert float(difference(lab_of_one((0, 0, 0)), lab_of_one((255, 255, 255)))) == pytest.approx(100, abs=0.05)
    assert lab_of(np.zeros((2, 3, 3), np.uint8)).shape == (2, 3, 3)


class TestLift:
    def test_the_disc_comes_off_its_ground_at_sub_pixel_precision(self) -> None:
        picture = painted((DISC, BLUE), ground=WHITE)
        outline = outline_at(trace(lifted(picture, 12)), SizeSpec(width_mm=34))
        free = outline_at(trace(painted((DISC, BLUE))), SizeSpec(width_mm=34))
        assert outline.shape.hausdorff_distance(free.shape) < 0.06

    def test_the_same_colour_inside_stays(self) -> None:
        eye = disc_alpha(400, 40, (200, 200))
        rgba = lifted(painted((DISC, BLUE), (eye, WHITE), ground=WHITE), 12).rgba
        assert rgba[200, 200].tolist() == [255, 255, 255, 255]
        assert rgba[5, 5, 3] == 0

    def test_no_halo_of_the_ground_is_left(self) -> None:
        rgba = lifted(painted((DISC, BLUE), ground=WHITE), 12).rgba
        inked = rgba[rgba[..., 3] > 0][:, :3].astype(int)
        assert np.abs(inked - BLUE).max() <= 3

    def test_a_rim_of_many_colours_offers_no_lift(self) -> None:
        noise = np.random.default_rng(1).integers(0, 255, (60, 60, 3), dtype=np.uint8)
        busy = Picture(np.dstack([noise, np.full((60, 60), 255, np.uint8)]))
        assert not rim_of(busy).is_one_colour
        found = one(busy, "art.opaque")
        assert "prepare.lift_de" not in found.fixes[0].changes
        assert found.figures["rim_one_colour"] < 0.2

    def test_the_finding_offers_it_and_it_takes_the_finding_away(self) -> None:
        picture = painted((DISC, BLUE), ground=WHITE)
        found = one(picture, "art.opaque")
        assert found.figures["rim_one_colour"] > 0.95
        changes = found.fixes[0].changes
        assert "art.opaque" not in codes(picture, prepare=Preparation(lift_de=changes["prepare.lift_de"]))  # type: ignore[arg-type]


class TestSeveral:
    def picture(self) -> Picture:
        alpha = np.zeros((300, 500))
        for x, y in ((60, 60), (250, 70), (430, 50), (70, 230), (260, 220)):
            alpha = np.maximum(alpha, disc_alpha(500, 35, (x, y))[:300])
        return picture_of(alpha)

    def outline(self) -> Outline:
        return outline_at(trace(self.picture()), SizeSpec(width_mm=100))

    def test_drawings_come_in_reading_order(self) -> None:
        groups = groups_of(self.outline(), 5)
        assert are_several(groups)
        centres = [group.shape.centroid for group in groups]
        assert [round(c.x / 10) for c in centres] == sorted([round(c.x / 10) for c in centres[:3]]) + sorted(
            round(c.x / 10) for c in centres[3:]
        )

    @pytest.mark.parametrize(("lower_by", "first"), [(25, 300), (50, 100)])
    def test_a_row_is_what_begins_above_the_middle_of_its_first_drawing(self, lower_by: int, first: int) -> None:
        """The right one is 80 px tall and lies highest; the left one is read first if it begins in its upper half."""
        alpha = np.zeros((300, 500))
        alpha[40:120, 300:380] = 1
        alpha[40 + lower_by : 140, 100:180] = 1
        drawn = outline_at(trace(picture_of(alpha)), SizeSpec(width_mm=28))
        order = groups_of(drawn, 2)
        assert len(order) == 2
        is_left_first = order[0].shape.centroid.x < order[1].shape.centroid.x
        assert is_left_first == (first == 300)

    def test_each_crop_keeps_one_drawing(self) -> None:
        for group in groups_of(self.outline(), 5):
            alone = outline_at(trace(prepared(self.picture(), Preparation(crop=group.crop))), SizeSpec(width_mm=16))
            assert len(alone.shape.geoms) == 1

    def test_the_distance_decides(self) -> None:
        assert len(groups_of(self.outline(), 200)) == 1

    def test_crumbs_beside_a_drawing_are_not_several(self) -> None:
        crumbs = np.maximum(disc_alpha(400, 120, (150, 200)), disc_alpha(400, 8, (380, 200)))
        assert "art.several" not in codes(picture_of(crumbs))
        assert "art.several" in codes(self.picture())


def test_a_glow_is_a_fringe_and_a_crisp_rim_is_not() -> None:
    glow = painted((ndimage.gaussian_filter(DISC, 12), BLUE))
    assert one(glow, "art.fringe").severity == "look"
    assert len(one(glow, "art.fringe").fixes) == 2
    assert one(glow, "art.fringe", prepare=Preparation(threshold=0.2)).severity == "note"
    assert "art.fringe" not in codes(painted((DISC, BLUE)))


def test_the_threshold_moves_the_outline() -> None:
    glow = painted((ndimage.gaussian_filter(DISC, 12), BLUE))
    areas = [trace(glow, threshold).areas_px2[0] for threshold in (0.2, 0.5, 0.8)]
    assert areas[0] > areas[1] > areas[2]


@pytest.mark.parametrize(
    ("stock", "severity"), [("clear-vinyl", "stop"), ("light-transfer", "stop"), ("kraft-card", "look")]
)
def test_white_vanishes_on_what_is_not_white(stock: str, severity: str) -> None:
    face = painted((DISC, BLUE), (disc_alpha(400, 60, (200, 200)), WHITE))
    finding = one(face, "art.white-on-clear", stock)
    assert finding.severity == severity
    twin = finding.fixes[0].changes["stock"]
    assert "art.white-on-clear" not in codes(face, str(twin))
    assert "art.white-on-clear" not in codes(painted((DISC, BLUE)), stock)
    # What nothing is printed on shows no white either.
    assert "art.white-on-clear" not in codes(face, "plain-vinyl")


def test_a_border_that_is_there_is_found_and_cut_on() -> None:
    inner = disc_alpha(400, 140, (200, 200))
    bordered = painted((DISC, WHITE), (inner, RED))
    base = one(bordered, "art.base")
    # 30 of 340 px over 40 mm.
    assert base.figures["width_mm"] == pytest.approx(30 / 340 * 40, abs=0.25)
    changes = base.fixes[0].changes
    cut = EdgeSpec(str(changes["edge.kind"]), changes["edge.distance_mm"])  # type: ignore[arg-type]
    assert one(bordered, "art.base", edge=cut).severity is Severity.NOTE


def test_a_white_border_of_uneven_width_is_found_with_its_least_width() -> None:
    """As bought art often has it: a disc of 110 px in one of 170, their centres 30 px apart each way."""
    inner = disc_alpha(400, 110, (185, 185))
    base = one(painted((DISC, WHITE), (inner, RED)), "art.base")
    assert base.severity is Severity.LOOK
    narrowest = (170 - 110 - math.hypot(15, 15)) / 340 * 40
    assert base.figures["width_mm"] == pytest.approx(narrowest, abs=0.3)


@pytest.mark.parametrize("width_px", [8, 12])
def test_a_dark_contour_is_part_of_the_drawing(width_px: int) -> None:
    face = disc_alpha(400, 170 - width_px, (200, 200))
    assert "art.base" not in codes(painted((DISC, DARK), (face, CREAM)))
    # Nor is one that is used again inside.
    eye = disc_alpha(400, 20, (170, 180))
    assert "art.base" not in codes(painted((DISC, DARK), (face, RED), (eye, DARK)))


def test_a_border_narrower_than_the_miss_is_none() -> None:
    assert "art.base" not in codes(painted((DISC, WHITE), (disc_alpha(400, 166, (200, 200)), RED)))
    assert "art.base" in codes(painted((DISC, WHITE), (disc_alpha(400, 158, (200, 200)), RED)))


def test_where_it_may_be_either_both_readings_are_told() -> None:
    """A white bird with a dark eye, and a wide dark rim round something pale."""
    for picture in (
        painted((DISC, WHITE), (disc_alpha(400, 30, (170, 170)), DARK)),
        painted((DISC, DARK), (disc_alpha(400, 140, (200, 200)), CREAM)),
    ):
        base = one(picture, "art.base")
        assert base.severity is Severity.NOTE
        assert "if it is the drawing itself" in base.text


def test_one_colour_with_a_little_of_another_is_no_border() -> None:
    assert "art.base" not in codes(painted((DISC, RED), (disc_alpha(400, 30, (170, 170)), WHITE)))


def test_margin_can_be_cropped_and_nothing_else_changes() -> None:
    wide = painted((disc_alpha(600, 100, (180, 240)), BLUE))
    changes = one(wide, "art.margin").fixes[0].changes
    crop = Preparation(crop=tuple(changes["prepare.crop"]))  # type: ignore[arg-type]
    assert "art.margin" not in codes(wide, prepare=crop)
    before = outline_at(trace(wide), WIDTH).shape
    after = outline_at(trace(prepared(wide, crop)), WIDTH).shape
    assert before.hausdorff_distance(after) < 1e-6


@pytest.mark.parametrize(("radius_px", "told"), [(130, False), (110, True)])
def test_a_margin_is_told_from_three_fifths_of_a_side_on(radius_px: int, told: bool) -> None:
    assert ("art.margin" in codes(painted((disc_alpha(600, radius_px, (300, 300)), BLUE)))) is told


def test_conversions_and_fonts_are_told() -> None:
    drawn = painted((DISC, BLUE))
    turned = Picture(drawn.rgba, conversions=(Conversion.CMYK, Conversion.TURNED))
    assert one(turned, "art.mode").figures["conversions"] == 2
    lettered = Picture(drawn.rgba, is_vector=True, other_fonts=("Gannet Stencil",))
    assert "Gannet Stencil" in one(lettered, "art.font").text


def test_a_crop_begins_and_ends_at_the_nearest_pixel() -> None:
    wide = Picture(np.zeros((200, 300, 4), np.uint8))
    for crop, size in (
        ((0.1, 0.2, 0.6, 0.9), (150, 140)),
        ((0.0, 0.0, 1.0, 1.0), (300, 200)),
        ((0.5, 0.5, 0.5, 0.5), (1, 1)),
    ):
        cut = cropped(wide, crop)
        assert (cut.width_px, cut.height_px) == size


def test_what_is_lifted_off_is_as_soft_on_all_sides() -> None:
    away = np.hypot(*(np.mgrid[:201, :201] - 100.0))
    cover = np.clip(60.5 - away, 0, 1)[..., None]
    mixed = np.round(np.array(BLUE) * cover + np.array(WHITE) * (1 - cover)).astype(np.uint8)
    alpha = lifted(Picture(np.dstack([mixed, np.full((201, 201), 255, np.uint8)])), 14.0).alpha
    assert 0 < np.count_nonzero((alpha > 20) & (alpha < 235)) < 800
    for turned in (np.flipud(alpha), np.fliplr(alpha), alpha.T):
        assert np.array_equal(turned, alpha)


def test_a_drawing_of_more_pixels_than_are_traced_is_as_large_as_it_was() -> None:
    alpha = np.zeros((4200, 4200), np.uint8)
    alpha[600:3000, 300:3900] = 255
    left, top, right, bottom = trace(Picture(np.dstack([alpha] * 4))).polygons[0].bounds
    assert (left, top, right, bottom) == pytest.approx((300, 600, 3900, 3000), abs=1.5)


def test_an_uneven_coloured_rim_is_a_border_for_certain_only_round_something_busy() -> None:
    orange, plum, teal = (214, 140, 60), (178, 140, 200), (60, 175, 160)
    inner = disc_alpha(400, 130, (225, 200))
    stripes = inner * (np.arange(400) // 20 % 2)[:, None]

    def is_sure(*drawing: tuple[np.ndarray, tuple[int, int, int]]) -> bool:
        picture = painted((disc_alpha(400, 180, (200, 200)), orange), *drawing)
        base = survey(picture, outline_at(trace(picture), SizeSpec(longest_mm=60)), 0.5).base
        assert base is not None
        return base.sure

    assert not is_sure((inner, plum))
    assert is_sure((inner, plum), (stripes, teal))


def test_glitter_is_told_and_photos_shades_and_drawings_are_not() -> None:
    random = np.random.default_rng(3)
    inked = disc_alpha(400, 180, (200, 200))
    sparkle = random.integers(90, 255, (400, 400, 3)).astype(float)
    soft = np.dstack([np.linspace(20, 230, 400)[:, None].repeat(400, 1)] * 3) + random.normal(0, 3, (400, 400, 3))

    def told(rgb: np.ndarray) -> set[str]:
        return codes(Picture(np.dstack([np.clip(rgb, 0, 255), inked * 255]).astype(np.uint8)))

    assert "art.glitter" in told(sparkle)
    assert "art.glitter" not in told(soft)
    stripes = np.zeros((400, 400, 3))
    stripes[::12] = stripes[1::12] = stripes[2::12] = 255
    assert "art.glitter" not in told(stripes)


@pytest.mark.parametrize(
    ("rgb", "shaded"),
    [
        ("a photo", True),
        ("a photo of one flat colour, with its noise", False),
        ("one colour from light to dark", True),
        ("three flat colours", False),
    ],
)
def test_a_picture_that_lives_by_its_colours_is_told_from_one_shape(rgb: str, shaded: bool) -> None:
    random = np.random.default_rng(5)
    up, across = np.mgrid[0:300, 0:300] / 300
    drawn = {
        "a photo": np.dstack([255 * up, 128 + 127 * np.sin(9 * across), 255 * (1 - up * across)]),
        "a photo of one flat colour, with its noise": np.array([40, 40, 44]) + random.normal(0, 6, (300, 300, 3)),
        "one colour from light to dark": np.dstack([255 * up] * 3),
        "three flat colours": np.choose(
            (3 * up).astype(int)[..., None], [[31, 78, 121], [200, 60, 40], [240, 205, 60]]
        ),
    }[rgb]
    picture = Picture(np.dstack([np.clip(drawn, 0, 255), np.full((300, 300), 255)]).astype(np.uint8))
    facts = look_over(picture, outline_at(trace(picture), SizeSpec(longest_mm=60)), 0.5)
    assert facts.shaded is shaded
    for key, fixes in {
        "plain-vinyl": {"stock": "satin-vinyl"},
        "glitter-card": {"stock": "card"},
        "card": {"plain": False},
    }.items():
        found = [
            one for one in colour_findings(facts, STOCK_BY_KEY[key].plainly(True), 1) if one.code == "art.unprinted"
        ]
        assert [dict(fix.changes) for one in found for fix in one.fixes] == ([fixes] if shaded else [])
