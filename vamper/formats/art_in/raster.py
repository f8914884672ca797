"""Pictures made of pixels, read into 8-bit RGBA by Pillow, and by the decoder that ships for what phones make.

The header is read before any pixel, so that a picture that is too large costs nothing.
"""

import io
import warnings
from collections.abc import Callable

import numpy as np
import numpy.typing as npt
import pi_heif
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from vamper.core.art.picture import Conversion, Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput

MOST_PIXELS = 100_000_000
# Drawings are rendered with at most so many: 600 ppi over 254 × 254 mm, and fewer an inch on anything larger.
MOST_DRAWN_PX = 36_000_000
_ORIENTATION_TAG = 0x0112
_ROWS_AT_ONCE = 512
_FORMATS = ("PNG", "JPEG", "WEBP", "GIF", "TIFF", "BMP", "AVIF")
_BOX_TYPE, _MOST_BRANDS = b"ftyp", 32


def brands_of(data: bytes) -> set[str]:
    """The formats that a file in boxes (AVIF, HEIC) says it can be read as; empty for any other file."""
    if data[4:8] != _BOX_TYPE:
        return set()
    end = min(int.from_bytes(data[:4], "big"), len(data), 16 + 4 * _MOST_BRANDS)
    return {data[at : at + 4].decode("latin-1") for at in (8, *range(16, end, 4))}


def _opened(data: bytes) -> Image.Image:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", Image.DecompressionBombWarning)
        return Image.open(io.BytesIO(data), formats=_FORMATS)


def _opened_heic(data: bytes) -> Image.Image:
    file = pi_heif.open_heif(data, convert_hdr_to_8bit=True)
    width, height = file.size
    if width * height > MOST_PIXELS:
        raise _too_large(width, height)
    image: Image.Image = file.to_pillow()
    return image


def read_raster(data: bytes, opened: Callable[[bytes], Image.Image] = _opened) -> Picture:
    """Decode a picture.

    Raises
    ------
    BadInput
        If it is damaged, of another format, or larger than `MOST_PIXELS`.
    """
    try:
        image = opened(data)
        width, height = image.size
        if width * height > MOST_PIXELS:
            raise _too_large(width, height)
        image.load()
        return _picture(image, _bits_of_png(data) > 8)
    except BadInput:
        raise
    except Image.DecompressionBombError:
        raise BadInput(f"the picture has more than {MOST_PIXELS // 1_000_000} megapixels; export it smaller") from None
    except UnidentifiedImageError:
        raise BadInput("the picture cannot be read: it is damaged or not a picture at all") from None
    # Pillow's decoders raise many kinds of errors on damaged data; all mean the same to a person.
    except (
        OSError,
        SyntaxError,
        ValueError,
        EOFError,
        IndexError,
        KeyError,
        TypeError,
        OverflowError,
        RuntimeError,
    ):
        raise BadInput("the picture is cut short or damaged; export or copy it again") from None


def read_pixels(data: bytes, _size: SizeSpec, _page: int) -> Picture:
    """The same, whatever the size: pixels are as many as there are."""
    return read_raster(data)


def read_heic(data: bytes, _size: SizeSpec, _page: int) -> Picture:
    """The same for what phones make: the decoder turns it upright."""
    return read_raster(data, _opened_heic)


def _too_large(width: int, height: int) -> BadInput:
    return BadInput(
        f"the picture has {width} × {height} pixels ({width * height / 1e6:.0f} megapixels), more than the "
        f"{MOST_PIXELS // 1_000_000} that fit; export it smaller"
    )


def _bits_of_png(data: bytes) -> int:
    """Bits a channel of a PNG, from its header; 8 for other formats. The decoder does not tell."""
    return data[24] if data.startswith(b"\x89PNG") and len(data) > 24 else 8


def _picture(image: Image.Image, deep: bool) -> Picture:
    notes = []
    if getattr(image, "n_frames", 1) > 1:
        notes.append(Conversion.ANIMATED)
        image.seek(0)
    if image.getexif().get(_ORIENTATION_TAG, 1) != 1:
        notes.append(Conversion.TURNED)
        image = ImageOps.exif_transpose(image)
    if deep:
        notes.append(Conversion.DEEP)
    if image.mode.startswith("I") or image.mode == "F":
        grey = np.asarray(image, dtype=np.float64)
        image = Image.fromarray((grey / 257.0).clip(0, 255).astype(np.uint8))
    elif image.mode == "CMYK":
        notes.append(Conversion.CMYK)
    elif image.mode == "P":
        notes.append(Conversion.PALETTE)
    elif image.mode in ("L", "LA", "1"):
        notes.append(Conversion.GREY)
    transform = _to_srgb(image)
    if transform is not None:
        notes.append(Conversion.PROFILE)
    # A large picture is never there more than twice: it is brought to its last form a strip at a time.
    rgba = np.empty((image.height, image.width, 4), dtype=np.uint8)
    for top in range(0, image.height, _ROWS_AT_ONCE):
        strip = image.crop((0, top, image.width, min(image.height, top + _ROWS_AT_ONCE)))
        if transform is not None:
            strip = _transformed(strip, transform)
        rgba[top : top + strip.height] = np.asarray(strip if strip.mode == "RGBA" else strip.convert("RGBA"))
    return Picture(rgba, conversions=tuple(notes))


def _to_srgb(image: Image.Image) -> ImageCms.ImageCmsTransform | None:
    """The transform of the picture's colours to sRGB, by the profile it carries; None where there is nothing to
    transform.
    """
    profile = image.info.get("icc_profile")
    if not profile or image.mode not in ("RGB", "RGBA", "CMYK", "L"):
        return None
    try:
        own = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "srgb" in ImageCms.getProfileDescription(own).lower():
            return None
        mode = "RGB" if image.mode == "RGBA" else image.mode
        return ImageCms.buildTransform(own, ImageCms.createProfile("sRGB"), mode, "RGB")
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        # A damaged profile is as good as none.
        return None


def _transformed(strip: Image.Image, transform: ImageCms.ImageCmsTransform) -> Image.Image:
    alpha = strip.getchannel("A") if strip.mode == "RGBA" else None
    turned = ImageCms.applyTransform(strip.convert("RGB") if alpha else strip, transform)
    assert turned is not None
    if alpha is not None:
        turned.putalpha(alpha)
    return turned


def png_bytes(picture: Picture, longest_px: int | None = None) -> bytes:
    """The picture as PNG, made smaller where its longer side exceeds `longest_px`."""
    image = Image.fromarray(picture.rgba)
    if longest_px is not None and max(image.size) > longest_px:
        image.thumbnail((longest_px, longest_px), Image.Resampling.LANCZOS, reducing_gap=3.0)
    out = io.BytesIO()
    image.save(out, format="PNG", compress_level=3)
    return out.getvalue()


def shown_pixels(data: bytes) -> npt.NDArray[np.uint8]:
    """The pixels of a picture that `png_bytes` wrote, shape (h, w, 4)."""
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
