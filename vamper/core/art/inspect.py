"""What can be said about one art at one size, before anything else is decided."""

from dataclasses import dataclass

from vamper.core.art.colours import flat_colours, has_shades
from vamper.core.art.groups import Group, are_several, groups_of, start_apart_mm, together_in
from vamper.core.art.outline import SPECK_MM2, Outline
from vamper.core.art.own_border import base_finding
from vamper.core.art.picture import CONVERSION_WORDS, Conversion, Picture
from vamper.core.art.prepare import START_LIFT_DE, Rim, rim_of
from vamper.core.art.resolution import SOFT_SHARE, largest_sharp_mm, need_of, seen_from
from vamper.core.art.surface import Surface, survey
from vamper.core.values.art import Purpose
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget, Place, Severity
from vamper.core.values.item import ItemSpec
from vamper.core.values.lengths import figure, mm
from vamper.core.values.stock import STOCK_BY_KEY, WHITE_FACED, Ground, Stock
from vamper.core.values.units import MM_PER_INCH

FRINGE_LOOK = 0.25
WHITE_SHARE = 0.03
# From this change of lightness between points on a picture sparkles rather than shows.
GRAIN_LOOK = 9.0
MARGIN_SHARE = 0.6
# What changes nothing that anybody could see.
_UNSEEN = (Conversion.GREY, Conversion.PALETTE)
_MOST_PLACES = 40

# Where nothing white can be printed, and how much that matters.
_WHITE_VANISHES = {
    Ground.CLEAR: Severity.STOP,
    Ground.TRANSLUCENT: Severity.STOP,
    Ground.DARK: Severity.LOOK,
    Ground.METALLIC: Severity.LOOK,
    Ground.CLEAR_OR_WHITE: Severity.LOOK,
}


@dataclass(frozen=True, slots=True)
class ArtFacts:
    """Features of a picture at one size. Pixels are not kept: nobody who plans needs them any more.

    Parameters
    ----------
    surface : Surface
        What is half transparent along its rim, what is white, and how grainy it is.
    groups, apart : tuple of Group
        The drawings in it, and the parts in them that lie apart.
    rim : Rim or None
        The colour along the picture's rim, where it is opaque.
    is_vector, conversions, other_fonts : bool, tuple of Conversion, tuple of str
        Whether it is drawn sharp, what was converted, and the fonts that were replaced.
    flat_colours, shaded : tuple of str, bool
        The colours of a drawing in few colours; whether it has no such and lives by its shades.
    embedded : float or None
        The resolution of the coarsest picture inside a drawing.
    """

    surface: Surface
    groups: tuple[Group, ...]
    apart: tuple[Group, ...]
    rim: Rim | None
    is_vector: bool = False
    conversions: tuple[Conversion, ...] = ()
    other_fonts: tuple[str, ...] = ()
    flat_colours: tuple[str, ...] = ()
    shaded: bool = False
    embedded: float | None = None

    def ppi(self, outline: Outline) -> float | None:
        """The resolution at the outline's size, of the coarsest picture in a drawing; None for what is drawn sharp."""
        if self.embedded is not None:
            return outline.ppi * self.embedded
        return None if self.is_vector else outline.ppi


def look_over(picture: Picture, outline: Outline, threshold: float) -> ArtFacts:
    """Everything the findings need that is dear to compute."""
    apart, colours = groups_of(outline, start_apart_mm(outline)), flat_colours(picture)
    return ArtFacts(
        surface=survey(picture, outline, threshold),
        groups=together_in(outline, apart),
        apart=apart,
        rim=rim_of(picture) if picture.is_opaque else None,
        is_vector=picture.is_vector,
        conversions=picture.conversions,
        other_fonts=picture.other_fonts,
        flat_colours=tuple(colours),
        shaded=not colours and has_shades(picture),
        embedded=picture.embedded,
    )


def place_of(bounds: tuple[float, float, float, float]) -> Place:
    left, top, right, bottom = bounds
    return Place(left, top, right - left, bottom - top)


def art_findings(
    outline: Outline, item: ItemSpec, number: int, purpose: Purpose, facts: ArtFacts, stock: Stock
) -> list[Finding]:
    """Findings of the Art station for design `number` at its wanted size."""
    found = [
        _opaque(outline, item, number, facts),
        _several(outline, item, number, facts),
        base_finding(outline, item, number, facts.surface.base, stock),
        _white(outline, number, facts.surface, stock),
        _glitter(outline, number, facts.surface, stock),
        _resolution(outline, item, number, purpose, facts, 1.0 if stock.shrink is None else stock.shrink.mean),
        _fringe(outline, item, number, facts.surface),
        _fonts(facts.other_fonts, number),
        _specks(outline, number),
        _margin(outline, number),
        _converted(facts.conversions, number),
    ]
    return [finding for finding in found if finding is not None]


def _whole(outline: Outline) -> tuple[Place, ...]:
    return (place_of(outline.shape.bounds),)


def _opaque(outline: Outline, item: ItemSpec, number: int, facts: ArtFacts) -> Finding | None:
    if not outline.opaque:
        return None
    rim = facts.rim
    # A shape that does not follow the picture was chosen for it.
    decided = not item.edge.follows
    width, height = outline.size_mm
    lift = Fix(
        "Lift the background",
        f"the colour touching the rim, within ΔE {START_LIFT_DE:g} of its colour becomes transparent",
        FixTarget.ITEM,
        {"prepare.lift_de": START_LIFT_DE, "edge.kind": "follow"},
    )
    rounded = Fix(
        "Cut a rounded rectangle",
        f"corners of {mm(EdgeSpec().corner_mm)} lift less",
        FixTarget.ITEM,
        {"edge.kind": "rounded", "edge.corner_mm": EdgeSpec().corner_mm},
    )
    # Of a picture that is one colour all over nothing would be left.
    plain = len(facts.flat_colours) == 1
    liftable = rim is not None and rim.is_one_colour and not plain
    rest = (
        "Its rim is one colour, which can be lifted off so that the drawing itself is cut out."
        if liftable
        else "It is one colour all over, so there is nothing to lift off."
        if plain
        else "Its rim has many colours, so there is no background to lift off."
    )
    return Finding(
        "art.opaque",
        Severity.NOTE if decided else Severity.LOOK,
        "No transparent ground",
        f"The picture is opaque to its rim, so the blade would cut its rectangle. {rest}",
        {
            "width_mm": round(width, 2),
            "height_mm": round(height, 2),
            "rim_one_colour": round(rim.share, 3) if rim else 0.0,
        },
        item=number,
        places=_whole(outline),
        fixes=((lift,) if liftable else ()) + (() if decided else (rounded,)),
    )


def _several(outline: Outline, item: ItemSpec, number: int, facts: ArtFacts) -> Finding | None:
    # What lies apart on one layer belongs together on the drawing.
    if item.layer_of is not None:
        return None
    apart = round(start_apart_mm(outline), 3)
    several = are_several(facts.groups)
    # Lettering is one piece by itself; who wants it in several says so.
    groups = facts.groups if several else facts.apart
    if not several and (len(facts.groups) > 1 or not are_several(groups)):
        return None
    text = (
        f"The picture holds {len(groups)} drawings more than {mm(apart, 1)} apart. Split, each becomes a design with "
        "its own size, border and count."
        if several
        else f"Its {len(groups)} parts read as lettering or as a picture with its caption, so they are one design."
    )
    return Finding(
        "art.several",
        Severity.LOOK if several else Severity.NOTE,
        f"Looks like {len(groups)} stickers" if several else "Taken as one piece",
        text,
        {"groups": len(groups), "apart_mm": round(apart, 2)},
        item=number,
        places=tuple(place_of(group.shape.bounds) for group in groups[:_MOST_PLACES]),
        fixes=(
            Fix(
                f"Split into {len(groups)} designs",
                "in reading order, at the same scale",
                FixTarget.SPLIT,
                {"apart_mm": apart, "together": several},
            ),
        ),
    )


def _white(outline: Outline, number: int, surface: Surface, stock: Stock) -> Finding | None:
    severity = _WHITE_VANISHES.get(stock.ground)
    if severity is None or not stock.printable or surface.white <= WHITE_SHARE:
        return None
    twin = WHITE_FACED.get(stock.key)
    fixes: tuple[Fix, ...] = ()
    if twin is not None:
        name = STOCK_BY_KEY[twin].name
        fixes = (Fix(f"Use {name}", "its face is white, so white shows", FixTarget.JOB, {"stock": twin}),)
    return Finding(
        "art.white-on-clear",
        severity,
        "White parts will not show",
        f"{surface.white * 100:.0f} % of the drawing is white. Desktop inks hold no white: on {stock.name} "
        f"these parts show the {'stock' if stock.ground in (Ground.DARK, Ground.METALLIC) else 'ground behind it'}.",
        {"white": round(surface.white, 3), "limit": WHITE_SHARE},
        item=number,
        places=_whole(outline),
        fixes=fixes,
    )


def _glitter(outline: Outline, number: int, surface: Surface, stock: Stock) -> Finding | None:
    if surface.grain < GRAIN_LOOK or not stock.printable:
        return None
    return Finding(
        "art.glitter",
        Severity.LOOK,
        "Its glitter prints as a blur",
        "More than half of it changes from point to point, as glitter and noise do. Ink mixes points so small: it "
        "comes out flat and a little grey, without any sparkle. A shimmering stock sparkles by itself.",
        {"grain": round(surface.grain, 1), "limit": GRAIN_LOOK},
        item=number,
        places=_whole(outline),
    )


def _fringe(outline: Outline, item: ItemSpec, number: int, surface: Surface) -> Finding | None:
    if surface.fringe <= FRINGE_LOOK:
        return None
    threshold = item.prepare.threshold
    decided = abs(threshold - 0.5) > 1e-9
    fixes = tuple(
        Fix(label, effect, FixTarget.ITEM, {"prepare.threshold": value})
        for label, effect, value in (
            ("Include more of the soft rim", "what is over 20 % opaque counts as drawn", 0.2),
            ("Leave more of the soft rim out", "what is over 80 % opaque counts as drawn", 0.8),
            ("Back to the middle", "what is over 50 % opaque counts as drawn", 0.5),
        )
        if abs(threshold - value) > 1e-9
    )
    return Finding(
        "art.fringe",
        Severity.NOTE if decided else Severity.LOOK,
        "A soft rim: glow or shadow",
        f"{surface.fringe * 100:.0f} % of the rim is half transparent, so where the drawing ends is a guess. It is "
        f"taken to end where {threshold * 100:.0f} % is left.",
        {"fringe": round(surface.fringe, 3), "threshold": threshold},
        item=number,
        places=_whole(outline),
        fixes=fixes,
    )


def _fonts(fonts: tuple[str, ...], number: int) -> Finding | None:
    if not fonts:
        return None
    names = ", ".join(font[:40] for font in fonts[:5])
    return Finding(
        "art.font",
        Severity.LOOK,
        "A different font is used",
        f"The drawing asks for {names}, which Vamper does not ship; its letters may look and run differently. Turn "
        "text into paths where the drawing was made to keep it as it is.",
        {"fonts": len(fonts)},
        item=number,
    )


def _margin(outline: Outline, number: int) -> Finding | None:
    width, height = outline.size_mm
    _, _, whole_width, whole_height = outline.picture_box_mm
    share = max(1 - width / whole_width, 1 - height / whole_height)
    if outline.opaque or share <= MARGIN_SHARE:
        return None
    x, y = outline.origin_px
    across, down = outline.picture_px
    crop = (x / across, y / down, (x + width / outline.mm_per_px) / across, (y + height / outline.mm_per_px) / down)
    rim = 2 / min(across, down)
    box = [max(0.0, crop[0] - rim), max(0.0, crop[1] - rim), min(1.0, crop[2] + rim), min(1.0, crop[3] + rim)]
    return Finding(
        "art.margin",
        Severity.NOTE,
        "A transparent margin",
        f"{share * 100:.0f} % of a side is empty; a typed size means the inked area, not the picture.",
        {"margin": round(share, 3)},
        item=number,
        fixes=(
            Fix(
                "Crop to the inked area",
                "nothing that is printed changes",
                FixTarget.ITEM,
                {"prepare.crop": [round(side, 6) for side in box]},
            ),
        ),
    )


def _resolution(
    outline: Outline, item: ItemSpec, number: int, purpose: Purpose, facts: ArtFacts, shrinks: float
) -> Finding | None:
    # Pixels move together with the film, so fewer are needed while it is large.
    needed, ppi = need_of(purpose) * shrinks, facts.ppi(outline)
    if ppi is None or ppi >= needed:
        return None
    soft = ppi >= SOFT_SHARE * needed
    largest = largest_sharp_mm(item.size.side_of(*outline.size_mm) * ppi / MM_PER_INCH, needed)
    # Rounded down to a tenth, so that the size that is offered is sharp.
    largest = int(largest * 10) / 10
    what = "the picture" if facts.embedded is None else "a picture in this drawing"
    looks = f"{what} will look a little soft" if soft else f"single pixels will show: {what} will look blurred"
    fixes: tuple[Fix, ...] = ()
    rest = ""
    if facts.embedded is not None:
        # What was laid out at a size stays at it.
        rest = f" It has {ppi:.0f} pixels an inch as it is drawn: put in a larger one, or draw it smaller there."
    elif largest >= 5:
        fixes = (size_fix(item, largest, "the largest sharp size"),)
    return Finding(
        "art.resolution",
        Severity.LOOK,
        "Soft at this size" if soft else "Blurred at this size",
        f"From {seen_from(purpose)} away {looks} at this size.{rest}",
        {"ppi": round(ppi, 1), "needed": round(needed, 1), "largest_sharp_mm": largest},
        item=number,
        places=_whole(outline),
        fixes=fixes,
    )


def _specks(outline: Outline, number: int) -> Finding | None:
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
        f"Parts below {figure(SPECK_MM2, 'mm²')} are not cut round. Those inside the edge are still printed.",
        {"specks": specks, "pinholes": pinholes, "area_mm2": round(sum(part.area for part in dropped), 3)},
        item=number,
        places=tuple(place_of(part.bounds) for part in dropped[:_MOST_PLACES]),
    )


def _converted(every: tuple[Conversion, ...], number: int) -> Finding | None:
    conversions = [one for one in every if one not in _UNSEEN]
    if not conversions:
        return None
    return Finding(
        "art.mode",
        Severity.NOTE,
        "Converted when it was added",
        " ".join(f"The picture was {CONVERSION_WORDS[conversion]}." for conversion in conversions),
        {"conversions": len(conversions)},
        item=number,
    )


def size_fix(item: ItemSpec, wanted_mm: float, effect: str) -> Fix:
    """Set the side that the item is sized by, as inked area."""
    sides = {
        "width_mm": (item.size.width_mm, "wide"),
        "height_mm": (item.size.height_mm, "high"),
        "longest_mm": (item.size.longest_mm, "at its longest side"),
    }
    field, (_, words) = next((field, side) for field, side in sides.items() if side[0] is not None)
    return Fix(f"Set to {mm(wanted_mm)} {words}", effect, FixTarget.ITEM, {field: wanted_mm, "size_over": "ink"})
