"""What can be said about the finish: of a job and its process, and of a design on its cup."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from vamper.core.art.inspect import size_fix
from vamper.core.art.outline import scaled
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.finishing.chain import USUAL_COATS, Chain, chain_of_job
from vamper.core.finishing.chain_facts import usual_cover
from vamper.core.finishing.cloth_fit import cloth_findings
from vamper.core.finishing.dangers import RIM_MM, Circumstances, Trait
from vamper.core.finishing.goes_on import ApplyWay, goes_on
from vamper.core.finishing.labels import LABELS
from vamper.core.finishing.on_cup import OnCup, on_cup
from vamper.core.finishing.place import place_findings
from vamper.core.finishing.round_things import FLAT_SAG_MM
from vamper.core.finishing.targets import TARGETS
from vamper.core.finishing.work import wanted_coats, work_of
from vamper.core.values.art import SizedOver
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.finish import BlankSpec, CoverKind, SetWay
from vamper.core.values.job import Job
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.printer import PrinterKind
from vamper.core.values.stock import Ground, StockClass
from vamper.core.values.wrap import WrapSpec

# Ends nearer to each other than this are seen as one seam.
_MEETS_MM = 1.0
_NEAR_MM = 0.05
_LEAST_SCALE = 0.05
_TRIALS = 4
_SAFELY = 0.99


def finish_findings(job: Job, items: Sequence[DesignedItem]) -> Iterator[Finding]:
    """Findings on how a job, as it was asked for, is finished."""
    chain = chain_of_job(job)
    yield from _goes_on(job)
    yield from _cover(job)
    yield from _labels(job, chain)
    yield from _coats(job, chain)
    yield from _oven(job, chain)
    if chain.facts.way is ApplyWay.PRESS and job.finish.cloth is not None:
        yield from cloth_findings(job.stock, job.finish.cloth)
    if job.stock.stock_class is StockClass.SHRINK and job.shrink is None:
        yield Finding(
            "finish.shrink",
            Severity.LOOK,
            "No test bar baked yet",
            "Sizes are those of the print, and it comes out at a third or a half of them. Bake a test bar, measure it "
            "before and after, and type both at Finish: sizes are then those of the finished piece.",
        )
    if job.finish.place is not None and chain.facts.way is ApplyWay.HINGE:
        yield from place_findings(items, job.finish.place)
    if job.finish.cloth is not None and job.finish.cloth.dark and chain.facts.way is ApplyWay.PRESS:
        yield from _white_rim(job, items)
    yield from _askew(job)
    if job.finish.blank is not None:
        for item in items:
            yield from _blank(item, job.finish.blank)


def _white_rim(job: Job, items: Sequence[DesignedItem]) -> Iterator[Finding]:
    """A border of a white film shows on dark cloth."""
    if job.stock.ground is not Ground.WHITE:
        return
    for item in items:
        edge = item.as_asked.edge
        if edge.distance_mm <= 0 or edge.colour is not None:
            continue
        yield Finding(
            "art.rim-dark",
            Severity.LOOK,
            "Its white border shows on dark cloth",
            f"{mm(edge.distance_mm, 1)} of white film stay round the drawing. Cut it without a border, or give the "
            "border a colour.",
            {"distance_mm": edge.distance_mm},
            item=item.number,
            fixes=(
                Fix(
                    "No border",
                    "cut along the drawing",
                    FixTarget.ITEM,
                    {"edge.kind": "bare", "edge.distance_mm": 0.0},
                ),
            ),
        )


def _askew(job: Job) -> Iterator[Finding]:
    """Pieces that a maker laid askew on a film on which none may lie so."""
    turns = job.stock.shrinking(job.shrink).turns
    askew = sum(not turns.allows(one.turn_deg) for sheet in job.held for one in sheet)
    if not askew:
        return
    yield Finding(
        "finish.askew",
        Severity.LOOK,
        "Turned pieces would come out askew",
        "This film shrinks more one way than the other, so a piece that lies turned on the sheet comes out askew. "
        f"{askew} that lay so {'is' if askew == 1 else 'are'} laid again, upright or upside down.",
        {"askew": askew},
    )


def _goes_on(job: Job) -> Iterator[Finding]:
    """Findings on targets that a stock must not go on, and the limit of an unusual target that works."""
    if job.target is None:
        return
    found = goes_on(job.stock.stock_class, job.target)
    if not found.limit:
        return
    words = TARGETS[job.target].words
    yield Finding(
        "finish.target",
        Severity.LOOK,
        f"Unusual on {words}" if found.fits else f"{job.stock.title} does not go on {words}",
        found.limit
        if found.fits
        else f"{found.limit} What comes after the cut is left out until target or stock is another.",
    )


def _cover(job: Job) -> Iterator[Finding]:
    """A print that hangs outdoors wants a cover; what is not printed, and what has decided, is left alone."""
    if job.finish.cover is not None or not job.stock.printable or job.target is None:
        return
    chain = chain_of_job(job)
    if not TARGETS[job.target].outdoors or chain.facts.way not in (ApplyWay.STICK, ApplyWay.HINGE):
        return
    yield Finding(
        "finish.cover",
        Severity.LOOK,
        "An uncovered print fades outdoors",
        "Sun bleaches it and rain gets under it within months. A laminate lasts longest, a coat reaches round rims.",
        fixes=(
            Fix("Under a laminate", "60 µm", FixTarget.JOB, {"finish.cover": {"kind": "laminate", "um": 60.0}}),
            Fix(
                "Sealed with a coat after the cut",
                "over the rims too",
                FixTarget.JOB,
                {"finish.cover": {"kind": "coat", "when": "after-cut"}},
            ),
            Fix("Leave it bare", "for a short use", FixTarget.JOB, {"finish.cover": {"kind": "none"}}),
        ),
    )


def _labels(job: Job, chain: Chain) -> Iterator[Finding]:
    read = work_of(job).figures(chain)
    missing = [LABELS[key] for key in chain.label_keys() if key not in read]
    first = [label.name for label in missing if label.first]
    if first:
        yield Finding(
            "finish.label",
            Severity.LOOK,
            "The label has not been read yet",
            f"Before you heat or coat anything, read your product’s label and type in under Finish: "
            f"{', '.join(first)}. Until then these times are only starter figures.",
            {"missing": len(missing)},
        )


def _coats(job: Job, chain: Chain) -> Iterator[Finding]:
    cover, wants = job.finish.cover, usual_cover(job.stock).kind is CoverKind.COAT
    if cover is None or cover.kind is CoverKind.LAMINATE:
        return
    asked = cover.coats if cover.kind is CoverKind.COAT else 0 if wants else None
    wanted = wanted_coats(job, chain) or USUAL_COATS
    if asked is None or asked >= wanted:
        return
    runs = asked == 0 and wants and job.printer.kind is PrinterKind.INKJET
    yield Finding(
        "finish.coats",
        Severity.STOP if runs else Severity.LOOK,
        "This ink runs without a coat" if runs else "Fewer coats than are needed",
        "Inkjet print runs in water without a coat. Give it the coats of the label."
        if runs
        else f"{asked} where {wanted:g} are wanted: let a drop of water stand for a minute on the dry coat; if it "
        "takes colour when it is wiped off, give it one more.",
        {"coats": asked, "wanted": wanted},
        fixes=(
            Fix(
                f"Give it {wanted:g} coats",
                "as the label says",
                FixTarget.JOB,
                {"finish.cover": {"kind": "coat", "when": cover.when.value, "coats": int(wanted)}},
            ),
        ),
    )


def _oven(job: Job, chain: Chain) -> Iterator[Finding]:
    if chain.facts.set is not SetWay.OVEN or job.target is None or TARGETS[job.target].heat:
        return
    target = TARGETS[job.target]
    yield Finding(
        "finish.oven",
        Severity.STOP,
        "This must not go in an oven",
        f"{chain.name} would be set in the oven, and {target.words} may hold wax, plastic, paint or seals that burn, "
        "give off fumes or burst. Nothing that cannot stand heat goes in; take a way without an oven.",
        fixes=tuple(
            Fix(_SET_WORDS[way], "no oven", FixTarget.JOB, {"finish.set": way.value})
            for way in target.set
            if way is not SetWay.OVEN
        ),
    )


_SET_WORDS = {SetWay.AIR: "Let it dry in air", SetWay.TOP_COAT: "Set it under a top coat"}


def covers(blank: BlankSpec, item: DesignedItem, scale: float = 1.0) -> bool:
    """Whether a design covers a blank, or would at another scale."""
    wanted, got = blank.covered_mm, item.outline.size_mm
    return all(side * scale >= least - _NEAR_MM for side, least in zip(got, wanted, strict=True))


def _blank(item: DesignedItem, blank: BlankSpec) -> Iterator[Finding]:
    """A print has to cover its blank with something to spare all round."""
    if covers(blank, item):
        return
    wanted, got = blank.covered_mm, item.outline.size_mm
    grow = max(wanted[0] / got[0], wanted[1] / got[1])
    spec = item.as_asked
    yield Finding(
        "finish.blank",
        Severity.STOP,
        "The print does not cover its blank",
        f"It is {size_mm(*got, 1)}, and the blank with {mm(blank.past_mm)} to spare all round is "
        f"{size_mm(*wanted, 1)}: a pale rim would be left.",
        {"width_mm": round(got[0], 2), "height_mm": round(got[1], 2)},
        item=item.number,
        fixes=(size_fix(spec, math.ceil(spec.size.side_of(*got) * grow * 10) / 10, "covers the blank"),),
    )


def _fits_round(item: DesignedItem, found: OnCup) -> Fix:
    """The largest size that goes once round; its border keeps its width."""
    drawn = np.concatenate(found.drawing)[:, 0]
    inked = float(np.ptp(drawn)) / 360 * found.wrap.around_mm
    spec = item.as_asked
    # A rounded corner keeps its radius, and may take more of a smaller drawing's border than of this one's.
    corner = item.spec.edge.corner_mm if item.spec.edge.uses("corner_mm") else 0.0
    around = max(found.width_mm - inked, 2 * (item.spec.edge.reach_mm + (math.sqrt(2) - 1) * corner))
    scale = max((found.room_mm - around) / inked, _LEAST_SCALE)
    if item.bend is None and item.spec.tile is None:
        scale = _tried_round(item, scale)
    border = found.width_mm - inked if spec.size.size_over is SizedOver.BORDER else 0.0
    side = (spec.size.wanted_mm - border) * scale
    return size_fix(spec, math.floor(side * 10) / 10, "goes round once")


def _tried_round(item: DesignedItem, scale: float) -> float:
    """A scale at which a design that is laid flat goes round once: on a taper its width is not that of its box."""
    for _ in range(_TRIALS):
        outline = scaled(item.outline, scale)
        edge = derive_edge(outline, item.spec.edge, item.edge_facts.neck_mm)
        found = on_cup(replace(item, outline=outline, edge=edge))
        if found is None or found.parts == 1 or scale <= _LEAST_SCALE:
            break
        scale = max(scale * _SAFELY * found.room_mm / found.width_mm, _LEAST_SCALE)
    return scale


def _room(wrap: WrapSpec) -> str:
    if wrap.handle_mm:
        return f"with {mm(wrap.handle_mm, 1)} kept free for the handle"
    return f"with {mm(wrap.overlap_mm, 1)} of overlap"


def _sag(found: OnCup, wrap: WrapSpec, number: int) -> Iterator[Finding]:
    flat = found.wrap.flat_width_most_mm
    if wrap.bent or flat is None or found.wrap.sag_mm <= FLAT_SAG_MM:
        return
    yield Finding(
        "finish.sag",
        Severity.LOOK,
        "It will sag on this cup",
        f"Laid flat, a straight line of {mm(found.width_mm, 1)} sags by {mm(found.wrap.sag_mm, 1)} here; up to "
        f"{mm(flat, 1)} wide it would not be seen.",
        {"sag_mm": round(found.wrap.sag_mm, 2), "flat_width_most_mm": round(flat, 1)},
        item=number,
        fixes=(Fix("Bend it to the cup", "it stands straight there", FixTarget.ITEM, {"wrap.bent": True}),),
    )


def cup_findings(item: DesignedItem, where: Circumstances) -> Iterator[Finding]:
    """Findings where a design goes round a thing."""
    found = on_cup(item)
    if found is None:
        return
    number, wrap = item.number, item.as_asked.wrap
    assert wrap is not None
    around, count = found.wrap.around_mm, found.parts
    if min(found.below_rim_mm, found.above_foot_mm) < 0:
        yield Finding(
            "finish.too-high",
            Severity.STOP,
            "It reaches past the rim",
            f"The piece is {mm(found.height_mm, 1)} high with its middle {mm(found.up_mm, 1)} up the wall; make it "
            "smaller, or move it.",
            {"height_mm": found.height_mm},
            item=number,
        )
    elif found.below_rim_mm < RIM_MM and where.have(Trait.DRUNK_FROM):
        yield Finding(
            "finish.rim",
            Severity.LOOK,
            "Close to the rim that touches lips",
            f"It comes to {mm(found.below_rim_mm, 1)} below the rim; keep {mm(RIM_MM)} free, outside only, hand wash.",
            {"below_rim_mm": found.below_rim_mm},
            item=number,
        )
    yield from _sag(found, wrap, number)
    if count > 1:
        yield Finding(
            "finish.too-wide",
            Severity.STOP,
            "Wider than the way round",
            f"The piece is {mm(found.width_mm, 1)} wide and the way round is {mm(around, 1)} {_room(wrap)}: it would "
            f"take {count} parts. Make it smaller, or split it.",
            {"width_mm": found.width_mm, "around_mm": around, "parts": count},
            item=number,
            fixes=(
                _fits_round(item, found),
                Fix(
                    f"Make it in {count} parts",
                    "parted where the least is drawn",
                    FixTarget.CUP,
                    {"seams_mm": []},
                ),
            ),
        )
    elif not wrap.handle_mm and found.width_mm > around - _MEETS_MM:
        yield Finding(
            "finish.seam",
            Severity.NOTE,
            "Its ends meet",
            f"It goes all round ({mm(around, 1)}); its ends lie {mm(found.width_mm - around, 1)} over each other. Put "
            "the seam opposite the side that is looked at, by the handle.",
            {"over_mm": found.width_mm - around},
            item=number,
        )
