"""Composed pieces: of fixed size, in shipped fonts, one for each name."""

import io
from dataclasses import replace

import numpy as np
import pytest
from fontTools.ttLib import TTFont

from tests.conftest import disc_alpha, picture_of, png_of
from vamper.core.art.outline import outline_at, trace
from vamper.core.values.art import SizeSpec
from vamper.core.values.composition import BasePlate, BaseShape, Centring, Composition, FreeBox, PlacedArt, TextLine
from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import DEFAULT_FAMILY, FAMILIES, FONTS
from vamper.formats.art_in.svg import read_svg, sketch_svg
from vamper.formats.composed_svg import places_of, write_composed
from vamper.formats.fonts import FOLDER, font_files
from vamper.formats.names_list import read_names
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.jobs.composing import Composer, width_mm
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop

BASE = BasePlate(BaseShape.ROUNDED, 60, 30, "#DCE8EA", 5)


def line(text: str, size: float = 9, **more: object) -> TextLine:
    return TextLine(text, size, 30, 15, DEFAULT_FAMILY, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("shape", [shape for shape in BaseShape if shape is not BaseShape.NONE])
def test_the_outer_size_is_the_base_exactly(shape: BaseShape) -> None:
    base = BasePlate(shape, 60, 30, "#DCE8EA", 5)
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
    circle = BasePlate(BaseShape.CIRCLE, 40, 40)
    assert circle.room_at(20, 1) > circle.room_at(30, 1) > circle.room_at(38, 1) >= 0


def test_art_is_centred_by_box_or_by_eye() -> None:
    drop = np.maximum(disc_alpha(300, 90, (150, 200)), 0)
    drop[20:120, 146:154] = 1
    picture = picture_of(drop)
    outline = outline_at(trace(picture), SizeSpec(width_mm=10))
    tops = []
    for centring in (Centring.BOX, Centring.EYE):
        placed = PlacedArt("a", 10, 30, 15, centring)
        svg = write_composed(Composition(BasePlate(BaseShape.RECTANGLE, 60, 30), (placed,)), [(picture, outline)], "a")
        rgb = sketch_svg(svg, 1240).rgba[:, :, :3].astype(int)
        rows = np.nonzero(np.abs(rgb - (40, 90, 160)).max(axis=2) < 40)[0]
        tops.append(rows.min() / 20)
    away = outline.shape.centroid.y - outline.size_mm[1] / 2
    assert tops[0] - tops[1] == pytest.approx(away, abs=0.1)


def test_the_same_art_may_be_placed_twice_in_two_sizes() -> None:
    file = ArtFile.of("disc.png", png_of(picture_of(disc_alpha(300, 140, (150, 150)))))
    composer = Composer(Designer(), lambda _name: file)
    placed = (PlacedArt("disc.png", 20, 12, 15), PlacedArt("disc.png", 8, 48, 15))
    svg = composer.draw(Composition(BasePlate(BaseShape.RECTANGLE, 60, 30), placed), "", "a").data
    rgb = sketch_svg(svg, 1240).rgba[:, :, :3].astype(int)
    columns = np.nonzero((np.abs(rgb - (40, 90, 160)).max(axis=2) < 40).any(axis=0))[0] / 20 - 1
    left, right = columns[columns < 30], columns[columns > 30]
    assert np.ptp(left) == pytest.approx(20, abs=0.3)
    assert np.ptp(right) == pytest.approx(8, abs=0.3)


def test_names_take_their_place_and_boxes_stay_free() -> None:
    composition = Composition(BASE, lines=(line("for {name}"),), free=(FreeBox(5, 20, 50, 6, "#FFFFFF"),))
    assert composition.takes_names
    assert composition.named("Ada").lines[0].text == "for Ada"
    drawn = {write_composed(composition.named(name), (), "a") for name in ("Ada & Bo <3", "Bo", "Ada & Bo <3")}
    assert len(drawn) == 2
    # Letters are shapes: the drawing needs no font wherever it is opened.
    assert all(b"<text" not in svg for svg in drawn)


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


def test_a_line_along_an_arc_keeps_to_its_circle() -> None:
    """Every letter's middle is as far from the arc's centre as the line's place is; a smile is the same upside down."""
    plate = BasePlate(BaseShape.CIRCLE, 80, 80)
    for radius, y in ((30.0, 10.0), (-30.0, 70.0)):
        arc = TextLine("HHHHHHHHHH", 6, 40, y, radius_mm=radius)
        rgba = sketch_svg(write_composed(Composition(plate, lines=(arc,)), (), "a"), 1640).rgba.astype(int)
        inked = np.abs(rgba[..., :3] - (0x22, 0x30, 0x3A)).max(axis=2) < 60
        rows, columns = (axis / 20 - 1 for axis in np.nonzero(inked & (rgba[..., 3] > 200)))
        away = np.hypot(columns - 40, rows - 40)
        # Capitals are 0.7 of their size high, half of it on each side of the arc.
        assert away.min() == pytest.approx(30 - 2.1, abs=0.4)
        assert away.max() == pytest.approx(30 + 2.1, abs=0.4)
        assert (rows.mean() < 40) == (radius > 0)
        assert columns.mean() == pytest.approx(40, abs=0.3)


def test_a_line_too_long_for_its_arc_is_set_smaller() -> None:
    plate = BasePlate(BaseShape.CIRCLE, 60, 60)
    places = places_of(Composition(plate, lines=(TextLine("W" * 60, 12, 30, 8, radius_mm=22.0),)), ())
    left, top, right, bottom = places.lines[0]
    assert min(left, top) >= 2 - 0.01
    assert max(right, bottom) <= 58 + 0.01
    assert right - left > 30


def test_an_arc_tighter_than_a_letter_is_refused() -> None:
    with pytest.raises(ValueError, match="at least 3"):
        TextLine("a", 5, 0, 0, radius_mm=1)


def test_text_alone_is_cut_round_itself() -> None:
    """Without a base the piece is as large as its letters, and says so."""
    composition = Composition(BasePlate(BaseShape.NONE, 60, 30), lines=(line("Reach", 20),))
    composer = Composer(Designer(), lambda _name: ArtFile.of("", b""))
    drawing = composer.draw(composition, "", "a")
    left, top, right, bottom = composer.places(composition, "").lines[0]
    width = composer.inked_width_mm(drawing, composition, "")
    assert width == pytest.approx(right - left, abs=0.1)
    outline = outline_at(trace(read_svg(drawing.data, SizeSpec(width_mm=width))), SizeSpec(width_mm=width))
    assert outline.size_mm == pytest.approx((right - left, bottom - top), abs=0.1)
    assert len(outline.shape.geoms) == 5
    with pytest.raises(BadInput, match="nothing on this piece"):
        composer.draw(Composition(BasePlate(BaseShape.NONE, 60, 30)), "", "a")


def test_a_blank_is_covered_with_its_allowance_and_what_sticks_out_is_cropped() -> None:
    blank = BasePlate(BaseShape.RECTANGLE, 60, 30, allowance_mm=3)
    picture = picture_of(np.ones((200, 200)))
    file = ArtFile.of("square.png", png_of(picture))
    composer = Composer(Designer(), lambda _name: file)
    composition = Composition(blank, (PlacedArt("square.png", 5, 0, 0, cover=True),))
    left, top, right, bottom = composer.places(composition, "").arts[0]
    assert (right - left, bottom - top) == pytest.approx((66, 66), abs=0.01)
    assert ((left + right) / 2, (top + bottom) / 2) == pytest.approx((30, 15), abs=0.01)
    drawn = read_svg(composer.draw(composition, "", "a").data, SizeSpec(width_mm=66))
    outline = outline_at(trace(drawn), SizeSpec(width_mm=66))
    assert outline.size_mm == pytest.approx((66, 36), abs=0.05)


def test_art_is_centred_by_a_part_that_is_pointed_at() -> None:
    """A face in the upper left of a picture comes to the middle, wherever the rest then lies."""
    face = np.maximum(disc_alpha(300, 40, (60, 60)), disc_alpha(300, 60, (220, 220)))
    picture = picture_of(face)
    outline = outline_at(trace(picture), SizeSpec(width_mm=26))
    base = BasePlate(BaseShape.RECTANGLE, 60, 60)
    placed = PlacedArt("a", 26, 30, 30, Centring.PART, part=(0, 0, 0.4, 0.4))
    rgb = sketch_svg(write_composed(Composition(base, (placed,)), [(picture, outline)], "a"), 1240).rgba.astype(int)
    rows, columns = np.nonzero(np.abs(rgb[..., :3] - (40, 90, 160)).max(axis=2) < 40)
    upper = rows < np.median(rows)
    scale = 26 / 260
    assert (columns[upper].min() / 20 - 1, rows.min() / 20 - 1) == pytest.approx((30 - 40 * scale,) * 2, abs=0.1)
    nowhere = PlacedArt("a", 26, 30, 30, Centring.PART, part=(0.8, 0, 1, 0.2))
    with pytest.raises(BadInput, match="pointed at"):
        places_of(Composition(base, (nowhere,)), [(picture, outline)])


def test_a_font_may_be_called_by_its_kind_and_so_may_one_that_shipped_before() -> None:
    texts = {
        family: write_composed(Composition(BASE, lines=(TextLine("Ada", 9, 30, 15, family),)), (), "a")
        for family in ("handwritten", "plain", FAMILIES[2])
    }
    assert texts["handwritten"] == texts[FAMILIES[2]] != texts["plain"]
    with pytest.raises(BadInput, match="there are plain, sturdy, handwritten"):
        write_composed(Composition(BASE, lines=(TextLine("Ada", 9, 30, 15, "Gannet Stencil"),)), (), "a")


def own_font() -> bytes:
    """A font of the club's own: the handwritten one under another name."""
    font = TTFont(FOLDER / FONTS[2].files[0])
    for record in font["name"].names:
        if record.nameID in (1, 4, 16):
            record.string = "Gannet Hand"
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


def test_a_font_of_the_makers_own_is_kept_used_and_taken_away(workshop: Workshop) -> None:
    assert workshop.own_fonts.add("hand.ttf", own_font()) == "Gannet Hand"
    composition = Composition(BASE, lines=(TextLine("Ada", 9, 30, 15, "Gannet Hand"),))
    assert workshop.compositions.preview(composition, "", 200).startswith(b"\x89PNG")
    assert workshop.own_fonts.all() == ["Gannet Hand"]
    workshop.own_fonts.remove("Gannet Hand")
    with pytest.raises(BadInput, match="no font is called"):
        workshop.compositions.preview(composition, "", 200)
    with pytest.raises(NotFound):
        workshop.own_fonts.remove("Gannet Hand")


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "not a font"),
        (b"hello, I am a letter", "not a font"),
        (b"wOF2" + b"\0" * 100, "web font"),
        (b"ttcf" + b"\0" * 100, "collection"),
        (b"\x00\x01\x00\x00" + b"\xff" * 400, "damaged"),
        (None, "damaged|no letters|does not say"),
    ],
)
def test_what_is_no_font_is_refused_with_a_sentence(workshop: Workshop, data: bytes | None, words: str) -> None:
    with pytest.raises(BadInput, match=words):
        workshop.own_fonts.add("a.ttf", own_font()[:3000] if data is None else data)
    assert workshop.own_fonts.all() == []


def test_a_workshop_keeps_so_many_fonts(workshop: Workshop, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("vamper.services.shop.own_fonts._MOST_FONTS", 1)
    workshop.own_fonts.add("hand.ttf", own_font())
    # The same family is replaced; another one has no room, and what ships needs none.
    workshop.own_fonts.add("hand-2.ttf", own_font())
    workshop.own_fonts.remove("Gannet Hand")
    monkeypatch.setattr("vamper.services.shop.own_fonts._MOST_FONTS", 0)
    with pytest.raises(BadInput, match="remove one first"):
        workshop.own_fonts.add("hand.ttf", own_font())
    with pytest.raises(BadInput, match="in the list already"):
        workshop.own_fonts.add("shipped.ttf", (FOLDER / FONTS[2].files[0]).read_bytes())


@pytest.mark.parametrize(
    ("shape", "width"), [(BaseShape.CIRCLE, 50.0), (BaseShape.ROUNDED, 50.0), (BaseShape.NONE, None)]
)
def test_a_composed_design_is_as_wide_as_its_base_or_its_letters(
    designer: Designer, shape: BaseShape, width: float | None
) -> None:
    base = replace(BASE, shape=shape, width_mm=50.0, height_mm=None)
    composition = Composition(base, lines=(TextLine("Ada", 9, 25, 25),))
    composer = Composer(designer, lambda _: ArtFile.of("none.svg", b""))
    drawing = composer.draw(composition, "", "ada")
    found = width_mm(composer, drawing, composition, "")
    if width is None:
        assert 9 < found < 40
    else:
        assert found == width
