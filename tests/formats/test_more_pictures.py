"""Pictures beyond the usual: GIF, TIFF, BMP, AVIF and HEIC, as phones and scanners make them."""

import io
from contextlib import suppress
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from vamper.core.art.picture import Conversion
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import endings, read_art, read_sketch

SIZE = SizeSpec(width_mm=20)
PHONE = Path(__file__).parent / "files" / "phone.heic"


def disc(mode: str = "RGBA", side: int = 120) -> Image.Image:
    y, x = np.mgrid[0:side, 0:side] - (side - 1) / 2
    inside = np.hypot(x, y) < 0.4 * side
    rgba = np.zeros((side, side, 4), np.uint8)
    rgba[inside] = (47, 111, 134, 255)
    image = Image.fromarray(rgba)
    if mode == "RGBA":
        return image
    ground = Image.new("RGB", image.size, "white")
    ground.paste(image, mask=image.getchannel("A"))
    return ground.convert(mode)


def saved(image: Image.Image, kind: str, **how: object) -> bytes:
    out = io.BytesIO()
    image.save(out, format=kind, **how)  # type: ignore[arg-type]
    return out.getvalue()


@pytest.mark.parametrize(
    ("kind", "ending", "mode", "near"),
    [
        ("GIF", "gif", "RGBA", 6),
        ("TIFF", "tif", "RGBA", 0),
        ("TIFF", "tiff", "RGB", 0),
        ("TIFF", "tif", "CMYK", 30),
        ("TIFF", "tif", "L", 60),
        ("BMP", "bmp", "RGB", 0),
        ("AVIF", "avif", "RGBA", 8),
        ("WEBP", "webp", "RGBA", 8),
    ],
)
def test_each_reads_in_its_colours(kind: str, ending: str, mode: str, near: int) -> None:
    picture = read_art(saved(disc(mode), kind), f"buoy.{ending}", SIZE)
    assert (picture.width_px, picture.height_px) == (120, 120)
    assert np.abs(picture.rgba[60, 60, :3].astype(int) - (47, 111, 134)).max() <= near
    if mode == "RGBA":
        assert picture.rgba[2, 2, 3] == 0
    assert f".{ending}" in endings()


def test_a_phones_picture_reads() -> None:
    picture = read_art(PHONE.read_bytes(), "IMG_0001.HEIC", SIZE)
    assert min(picture.width_px, picture.height_px) > 16
    assert picture.rgba[..., :3].std() > 5
    sketch = read_sketch(PHONE.read_bytes(), "IMG_0001.HEIC", 64, 1)
    assert sketch is None or max(sketch.width_px, sketch.height_px) <= 64


def test_of_an_animated_picture_the_first_is_used_and_said() -> None:
    frames = [disc(), Image.new("RGBA", (120, 120), (200, 40, 40, 255))]
    data = saved(frames[0].convert("P"), "GIF", save_all=True, append_images=[frames[1].convert("P")], duration=100)
    picture = read_art(data, "wave.gif", SIZE)
    assert Conversion.ANIMATED in picture.conversions
    assert np.abs(picture.rgba[60, 60, :3].astype(int) - (47, 111, 134)).max() <= 8


@pytest.mark.parametrize("share", [0.02, 0.3, 0.9])
def test_a_phones_picture_that_is_cut_off_is_refused_with_a_sentence(share: float) -> None:
    data = PHONE.read_bytes()
    with pytest.raises(BadInput) as refused:
        read_art(data[: int(len(data) * share)], "IMG_0001.HEIC", SIZE)
    assert len(refused.value.sentence) > 20


@pytest.mark.parametrize("kind", ["GIF", "TIFF", "BMP", "AVIF"])
def test_half_a_file_is_refused_or_read_and_never_a_mistake(kind: str) -> None:
    data = saved(disc("RGB" if kind == "BMP" else "RGBA"), kind)
    for share in (0.1, 0.5, 0.8):
        with suppress(BadInput):
            read_art(data[: int(len(data) * share)], f"half.{kind.lower()}", SIZE)
