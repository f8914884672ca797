"""What can be said about one art at one size before anything else is decided."""

from vamper.core.art.outline import SPECK_MM2, Outline
from vamper.core.art.picture import Conversion, Picture
from vamper.core.art.resolution import SOFT_SHARE, VIEWING_DISTANCE_MM, largest_sharp_mm, needed_ppi
from vamper.core.findings import Finding, Fix, FixTarget, Place, Severity
from vamper.core.geometry import parts
from vamper.core.job import ItemSpec, Purpose

_MOST_PLACES = 40


def place_of(bounds: tuple[float, float, float, float]) -> Place:
    left, top, right, bottom = bounds
    return Place(left, top, right - left, bottom - top)


def art_findings(outline: Outline, item: ItemSpec, index: int, purpose: Purpose, picture: Picture) -> list[Finding]:
    """Findings of the Art station for item number `index` at its wanted size."""
    found = [
        _opaque(outline, index),
        _resolution(outline, item, index, purpose, picture.is_vector),
        _specks(outline, index),
        _converted(picture.conversions, index),
    ]
    return [finding for finding in found if finding is not None]


def _opaque(outline: Outline, index: int) -> Finding | None:
    if not outline.opaque:
        return None
    width, height = outline.size_mm
    return Finding(
        "art.opaque",
        Severity.LOOK,
        "No transparent ground",
        "The picture is opaque to its rim, so the blade would cut its rectangle. If the drawing should be cut out, "
        "bring it with a transparent ground.",
        {"width_mm": round(width, 2), "height_mm": round(height, 2)},
        item=index,
        places=(Place(0, 0, width, height),),
        fixes=(
            Fix(
                "Cut a rounded rectangle",
                "corners of 3 mm lift less",
                FixTarget.ITEM,
                {"edge.kind": "rounded", "edge.corner_mm": 3.0},
            ),
        ),
    )


def _resolution(outline: Outline, item: ItemSpec, index: int, purpose: Purpose, is_vector: bool) -> Finding | None:
    distance = VIEWING_DISTANCE_MM[purpose]
    needed = needed_ppi(distance)
    if is_vector or outline.ppi >= needed:
        return None
    soft = outline.ppi >= SOFT_SHARE * needed
    by_width = item.size.width_mm is not None
    size_mm = outline.size_mm[0 if by_width else 1]
    largest = largest_sharp_mm(size_mm / outline.mm_per_px, distance)
    # Rounded down to a tenth, so that the size that is offered is sharp.
    largest = int(largest * 10) / 10
    seen = f"{distance / 1000:g} m" if distance >= 1000 else f"{distance / 10:g} cm"
    if soft:
        text = f"From {seen} away the picture will look a little soft at this size."
    else:
        text = f"From {seen} away single pixels will show: the picture will look blurred at this size."
    fixes: tuple[Fix, ...] = ()
    if largest >= 5:
        side = "wide" if by_width else "high"
        changes = {"width_mm": largest} if by_width else {"height_mm": largest}
        fixes = (Fix(f"Make it {largest:g} mm {side}", "the largest sharp size", FixTarget.ITEM, changes),)
    return Finding(
        "art.resolution",
        Severity.LOOK,
        "Soft at this size" if soft else "Blurred at this size",
        text,
        {"ppi": round(outline.ppi, 1), "needed": round(needed, 1), "largest_sharp_mm": largest},
        item=index,
        places=(place_of(outline.shape.bounds),),
        fixes=fixes,
    )


def _specks(outline: Outline, index: int) -> Finding | None:
    dropped = (*outline.specks, *outline.pinholes)
    if not dropped:
        return None
    specks, pinholes = len(outline.specks), len(outline.pinholes)
    what = " and ".join(
        f"{count} {one if count == 1 else many}"
        for count, one, many in ((specks, "stray speck", "stray specks"), (pinholes, "pinhole", "pinholes"))
        if count
    )
    return Finding(
        "art.specks",
        Severity.NOTE,
        what[0].upper() + what[1:] + " left out",
        f"Parts below {SPECK_MM2} mm² are not cut round. Those inside the edge are still printed.",
        {"specks": specks, "pinholes": pinholes, "area_mm2": round(sum(part.area for part in dropped), 3)},
        item=index,
        places=tuple(place_of(part.bounds) for part in dropped[:_MOST_PLACES]),
    )


def _converted(conversions: tuple[Conversion, ...], index: int) -> Finding | None:
    if not conversions:
        return None
    return Finding(
        "art.mode",
        Severity.NOTE,
        "Converted on the way in",
        " ".join(f"The picture was {conversion}." for conversion in conversions),
        {"conversions": len(conversions)},
        item=index,
    )


def loose_parts(outline: Outline) -> int:
    """Separate parts of the inked area."""
    return len(parts(outline.shape))
