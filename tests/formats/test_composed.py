"""Composed pieces: of fixed size, in shipped fonts, one for each name."""

import numpy as np
import pytest

from tests.conftest import disc_alpha, picture_of, png_of
from vamper.core.art.outline import outline_at, trace
from vamper.core.values.art import SizeSpec
from vamper.core.values.composition import Base, BaseShape, Centring, Composition, FreeBox, PlacedArt, TextLine
from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import DEFAULT_FAMILY, FAMILIES, FONTS
from vamper.formats.art_in.svg import read_svg, sketch_svg
from vamper.formats.composed_svg import write_composed
from vamper.formats.fonts import font_files
from vamper.formats.names_list import read_names
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.jobs.composing import Composer

BASE = Base(BaseShape.ROUNDED, 60, 30, "#DCE8EA", 5)


def line(text: str, size: float = 9, **more: object) -> TextLine:
    return TextLine(text, size, 30, 15, DEFAULT_FAMILY, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("shape", list(BaseShape))
def test_the_outer_size_is_the_base_exactly(shape: BaseShape) -> None:
    base = Base(shape, 60, 30, "#DCE8EA", 5)
    picture = read_svg(write_composed(Composition(base), (), "a"), SizeSpec(width_mm=60))
    outline = outline_at(trace(picture), SizeSpec(width_mm=60))
    assert outline.size_mm == pytest.approx(base.size_mm, abs=0.05)
    wanted = {BaseShape.CIRCLE: np.pi * 900, BaseShape.ELLIPSE: np.pi * 450, BaseShape.RECTANGLE: 1800}
    wanted[BaseShape.ROUNDED] = 1800 - (4 - np.pi) * 25
    assert outline.shape.area == pytest.approx(wanted[shape], rel=0.003)


def inked_box(composition: Composition, colour: tuple[int, int, int]) -> tuple[float, float, float, float]:
    """Left, top, right, bottom (mm) of all pixels near a colour."""
    rgba = sketch_svg(write_composed(composition, (), "a"), 1240).rgba.astype(int)
    rows, columns = np.nonzero((np.abs(rgba[..., :3] - colour).max(axis=2) < 60) & (rgba[..., 3] > 200))
    # 20 px a mm, and a rim of one millimetre.
    return columns.min() / 20 - 1, rows.min() / 20 - 1, (columns.max() + 1) / 20 - 1, (rows.max() + 1) / 20 - 1


def test_text_is_centred_on_its_place_and_long_text_is_set_smaller() -> None:
    left, top, right, bottom = inked_box(Composition(BASE, lines=(line("HOH"),)), (0x22, 0x30, 0x3A))
    assert (left + right) / 2 == pytest.approx(30, abs=0.4)
    assert (top + bottom) / 2 == pytest.approx(15, abs=0.5)
    long = inked_box(Composition(BASE, lines=(line("Bartholomew Featherstone-Haughterville"),)), (0x22, 0x30, 0x3A))
    assert long[0] > 1.5
    assert long[2] < 58.5
    assert long[2] - long[0] > 50


@pytest.mark.parametrize("family", FAMILIES)
def test_every_shipped_font_draws_accents(family: str) -> None:
    plain, accent = (
        sketch_svg(write_composed(Composition(BASE, lines=(TextLine(text, 9, 30, 15, family),)), (), "a"), 400).rgba
        for text in ("Zoe", "Zoë")
    )
    assert (plain != accent).any()


def test_a_circle_has_less_room_away_from_its_middle() -> None:
    circle = Base(BaseShape.CIRCLE, 40, 40)
    assert circle.room_at(20, 1) > circle.room_at(30, 1) > circle.room_at(38, 1) >= 0


def test_art_is_centred_by_box_or_by_eye() -> None:
    drop = np.maximum(disc_alpha(300, 90, (150, 200)), 0)
    drop[20:120, 146:154] = 1
    picture = picture_of(drop)
    outline = outline_at(trace(picture), SizeSpec(width_mm=10))
    tops = []
    for centring in Centring:
        placed = PlacedArt("a", 10, 30, 15, centring)
        svg = write_composed(Composition(Base(BaseShape.RECTANGLE, 60, 30), (placed,)), [(picture, outline)], "a")
        rgb = sketch_svg(svg, 1240).rgba[:, :, :3].astype(int)
        rows = np.nonzero(np.abs(rgb - (40, 90, 160)).max(axis=2) < 40)[0]
        tops.append(rows.min() / 20)
    away = outline.shape.centroid.y - outline.size_mm[1] / 2
    assert tops[0] - tops[1] == pytest.approx(away, abs=0.1)


def test_the_same_art_may_be_placed_twice_in_two_sizes() -> None:
    file = ArtFile.of("disc.png", png_of(picture_of(disc_alpha(300, 140, (150, 150)))))
    composer = Composer(Designer(), lambda _name: file)
    placed = (PlacedArt("disc.png", 20, 12, 15), PlacedArt("disc.png", 8, 48, 15))
    svg = composer.draw(Composition(Base(BaseShape.RECTANGLE, 60, 30), placed), "", "a").data
    rgb = sketch_svg(svg, 1240).rgba[:, :, :3].astype(int)
    columns = np.nonzero((np.abs(rgb - (40, 90, 160)).max(axis=2) < 40).any(axis=0))[0] / 20 - 1
    left, right = columns[columns < 30], columns[columns > 30]
    assert np.ptp(left) == pytest.approx(20, abs=0.3)
    assert np.ptp(right) == pytest.approx(8, abs=0.3)


def test_names_take_their_place_and_boxes_stay_free() -> None:
    composition = Composition(BASE, lines=(line("for {name}"),), free=(FreeBox(5, 20, 50, 6, "#FFFFFF"),))
    assert composition.takes_names
    assert composition.named("Ada").lines[0].text == "for Ada"
    svg = write_composed(composition.named("Ada & Bo <3"), (), "a").decode()
    assert "Ada &amp; Bo &lt;3" in svg


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("Ada\nBo\n\n Cleo  Day \n", ("Ada", "Bo", "Cleo Day")),
        ("boat,name\nTern,Ada\nGull,Bo\n", ("Ada", "Bo")),
        ("\ufeffName;Crew\nZoë;1\n", ("Zoë",)),
        ("Ada,1\nBo,2", ("Ada", "Bo")),
        ("Day, Ada\nBo", ("Day, Ada", "Bo")),
        ("", ()),
    ],
)
def test_names_typed_or_from_a_table(text: str, names: tuple[str, ...]) -> None:
    assert read_names(text) == names


@pytest.mark.parametrize(("text", "words"), [("x" * 81, "longer than"), ("a\n" * 501, "more than")])
def test_what_is_no_list_of_names_is_refused(text: str, words: str) -> None:
    with pytest.raises(BadInput, match=words):
        read_names(text)


def test_every_font_file_ships_with_its_licence() -> None:
    from pathlib import Path

    for file in font_files():
        assert Path(file).exists()
        assert Path(file).with_name(f"{Path(file).stem.split('-')[0]}-OFL.txt").exists()
    assert len(FONTS) >= 3
