"""PNG, JPEG and WebP pictures, read into 8-bit RGBA by Pillow.

The header is read before any pixel, so that a picture that is too large costs nothing.
"""

import io
import warnings

import numpy as np
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from vamper.core.art.picture import Conversion, Picture
from vamper.core.findings import BadInput

MOST_PIXELS = 100_000_000
# Drawings are rendered with at most so many: 600 ppi over 254 × 254 mm, and fewer an inch on anything larger.
MOST_DRAWN_PX = 36_000_000
_ORIENTATION_TAG = 0x0112
_FORMATS = ("PNG", "JPEG", "WEBP")


def read_raster(data: bytes) -> Picture:
    """Decode a picture.

    Raises
    ------
    BadInput
        If it is damaged, of another format, or larger than `MOST_PIXELS`.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image: Image.Image = Image.open(io.BytesIO(data), formats=_FORMATS)
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
        MemoryError,
    ):
        raise BadInput("the picture is cut short or damaged; export or copy it again") from None


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
    image, converted = _in_srgb(image)
    if converted:
        notes.append(Conversion.PROFILE)
    # A large picture is not copied once more than it must be.
    whole = image if image.mode == "RGBA" else image.convert("RGBA")
    return Picture(np.asarray(whole), conversions=tuple(notes))


def _in_srgb(image: Image.Image) -> tuple[Image.Image, bool]:
    """The picture with its colours in sRGB, by the profile it carries; and whether that changed anything."""
    profile = image.info.get("icc_profile")
    if not profile or image.mode not in ("RGB", "RGBA", "CMYK", "L"):
        return image, False
    try:
        own = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "srgb" in ImageCms.getProfileDescription(own).lower():
            return image, False
        alpha = image.getchannel("A") if image.mode == "RGBA" else None
        flat = image.convert("RGB") if alpha else image
        turned = ImageCms.profileToProfile(flat, own, ImageCms.createProfile("sRGB"), outputMode="RGB")
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
        # A damaged profile is as good as none.
        return image, False
    if turned is None:
        return image, False
    if alpha is not None:
        turned.putalpha(alpha)
    return turned, True


def png_bytes(picture: Picture, longest_px: int | None = None) -> bytes:
    """The picture as PNG, made smaller where its longer side exceeds `longest_px`."""
    image = Image.fromarray(picture.rgba)
    if longest_px is not None and max(image.size) > longest_px:
        image.thumbnail((longest_px, longest_px), Image.Resampling.LANCZOS, reducing_gap=3.0)
    out = io.BytesIO()
    image.save(out, format="PNG", compress_level=3)
    return out.getvalue()
