"""A picture that covers a blank: cropped to the blank's shape, as large as it and what reaches past it all round."""

from vamper.core.values.finish import BlankSpec

CropBox = tuple[float, float, float, float]


def covering_crop(picture_px: tuple[int, int], blank: BlankSpec, at: tuple[float, float] = (0.5, 0.5)) -> CropBox:
    """The largest part of a picture in the shape of a blank with what reaches past it, in shares of its sides.

    `at` says which part: 0 the left or upper end, 1 the right or lower end, 0.5 the middle.
    """
    width, height = blank.covered_mm
    across, down = picture_px
    share = width / height * down / across
    wide, high = (share, 1.0) if share <= 1 else (1.0, 1 / share)
    left, top = (1 - wide) * at[0], (1 - high) * at[1]
    return (round(left, 6), round(top, 6), round(left + wide, 6), round(top + high, 6))
