"""From a plan to its document: what `plan.json` says of a job, for scripts and for the record."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, astuple, replace
from typing import Any

from vamper.core.cutting.drops import DROP_MM
from vamper.core.cutting.setting import CutSetting
from vamper.core.design import DesignedItem
from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.work import dry_minutes, work_of
from vamper.core.marks.reading import REMEDIES
from vamper.core.marks.reading_offsets import ReadingOffsets
from vamper.core.plan import Plan, cut_of, timing_of
from vamper.core.printing.advice import PrintAdvice, advice_for
from vamper.core.printing.ink import InkUse
from vamper.core.program.choices import cover_trim_mm, program_choices
from vamper.core.program.picture import picture_frame
from vamper.core.tell_tale import tell_tale_of
from vamper.core.values.findings import Finding
from vamper.core.values.geometry import ring_points
from vamper.core.values.placement import Pin
from vamper.core.values.program import PICTURE_PPI
from vamper.formats.out.drops_file import tell_tale_names
from vamper.formats.out.sheet_file import sheet_files
from vamper.formats.plan_document import (
    DECIMALS,
    FORMAT,
    VERSION,
    BoundEntry,
    CutEntry,
    FindingEntry,
    ItemEntry,
    MarkEntry,
    OffsetsEntry,
    PassEntry,
    PictureEntry,
    PlaceEntry,
    PlacementEntry,
    PlanDocument,
    ProgramEntry,
    ReadingEntry,
    RectangleEntry,
    RemedyEntry,
    SettingEntry,
    SheetEntry,
    SizeEntry,
    StockEntry,
    TellTaleEntry,
    UnplacedEntry,
    page_entry,
    ring_entry,
    shape_entry,
)

Places = Mapping[int, int]
"""The place in the file of each design, by its number."""


def plan_document(plan: Plan, findings: Sequence[Finding], inks: Sequence[InkUse] = ()) -> PlanDocument:
    """The document of a plan, written as `plan.json`; `inks` is the ink of its sheets, where that is known."""
    places = {item.number: place for place, item in enumerate(plan.items)}
    return PlanDocument(
        format=FORMAT,
        version=VERSION,
        title=plan.job.title,
        copies=plan.job.copies,
        paper_mm=(plan.job.paper.width_mm, plan.job.paper.height_mm),
        page=page_entry(plan.job),
        stock=StockEntry(key=plan.job.stock.key, name=plan.job.stock.name, colour=plan.job.stock.colour),
        live_area_mm=ring_entry(ring_points(plan.setup.live.shape.exterior)),
        marks=[
            MarkEntry(
                family=mark.family,
                x_mm=round(mark.x_mm, DECIMALS),
                y_mm=round(mark.y_mm, DECIMALS),
                shape=[ring_entry(ring) for ring in mark.rings],
            )
            for mark in plan.setup.marks
        ],
        items=[_item(plan, item, places) for item in plan.items],
        sheets=[_sheet(plan, number, places, inks) for number in range(len(plan.layout.sheets))],
        unplaced=[
            UnplacedEntry(item=places[one.item], quantity=one.quantity, reason=one.reason)
            for one in plan.layout.unplaced
        ],
        bound=BoundEntry(
            pieces_at_most=plan.bound.pieces_at_most, sheets_at_least=plan.bound.sheets_at_least, basis="area"
        ),
        time_limited=plan.layout.time_limited,
        settings={cut: _setting(setting, plan.job.cutter.has_own_program) for cut, setting in plan.settings.items()},
        **_for_its_program(plan),
        reading=_reading(plan),
        printing=_printing(plan),
        mirror=plan.mirror,
        stopped=any(finding.stops() for finding in findings),
        findings=[finding_entry(finding, places) for finding in findings],
    )


def _setting(setting: CutSetting, by_name: bool) -> SettingEntry:
    more: dict[str, Any] = {} if by_name else {"force_gf": setting.force_gf}
    choice = setting.spoken.choice
    if setting.spoken.speaks:
        more |= {"setting": choice and choice.name, "pressure": choice and choice.pressure}
    return SettingEntry(
        blade=setting.blade,
        passes=setting.passes if choice is None else choice.passes,
        usable=round(setting.usable, 4),
        at_first=round(setting.at_first, 4),
        speed_mm_s=setting.speed_mm_s,
        mat=setting.mat,
        exposure_mm=setting.exposure_mm,
        chance=round(setting.spoken.clean if setting.spoken.speaks else setting.chance, 4),
        why=list(setting.why),
        **more,
    )


def _for_its_program(plan: Plan) -> dict[str, Any]:
    """The choices to make in a machine's own program, where that leads the cut."""
    if not plan.job.cutter.has_own_program:
        return {}
    choices, trim = program_choices(plan), cover_trim_mm(plan)
    return {
        "program": ProgramEntry(bleed=choices.bleed, mirror=choices.mirror, why=list(choices.why)),
        "cover_trim_mm": None if trim is None else SizeEntry(width=round(trim[0], 3), height=round(trim[1], 3)),
    }


def _picture(plan: Plan, number: int) -> PictureEntry:
    frame = picture_frame(plan, number)
    width, height = frame.size_mm
    return PictureEntry(
        width_mm=round(width, 6),
        height_mm=round(height, 6),
        width_px=frame.width_px,
        height_px=frame.height_px,
        ppi=PICTURE_PPI,
        at_mm=(round(frame.left_mm, 6), round(frame.top_mm, 6)),
    )


def finding_entry(finding: Finding, places: Places) -> FindingEntry:
    """A finding as it is written."""
    there: dict[str, Any] = {}
    if finding.item is not None:
        there["item"] = places[finding.item]
    if finding.sheet is not None:
        there["sheet"] = finding.sheet + 1
    if finding.places:
        there["places"] = tuple(
            PlaceEntry(**{name: round(value, 3) for name, value in asdict(place).items()}) for place in finding.places
        )
    return FindingEntry(
        code=finding.code,
        severity=finding.severity,
        title=finding.title,
        text=finding.text,
        figures=dict(finding.figures),
        can_be_meant=finding.answer() is not None,
        meant=finding.meant,
        **there,
    )


def _item(plan: Plan, item: DesignedItem, places: Places) -> ItemEntry:
    (width, height), shrink = item.outline.size_mm, plan.job.stock.shrink
    finished = {} if shrink is None else {"finished_mm": (round(width * shrink.x, 3), round(height * shrink.y, 3))}
    return ItemEntry(
        index=places[item.number],
        art=item.spec.art,
        size_mm=(round(width, 3), round(height, 3)),
        ppi=round(item.outline.ppi, 1),
        cut=item.spec.cut,
        outline=shape_entry(item.outline.shape),
        edge=shape_entry(item.edge.shape),
        **finished,
    )


def _sheet(plan: Plan, number: int, places: Places, inks: Sequence[InkUse]) -> SheetEntry:
    """One sheet (from 0)."""
    more: dict[str, Any] = {}
    if inks:
        more["ink"] = InkUse(*(round(value, 3) for value in astuple(inks[number])))
    if plan.job.cutter.is_machine:
        more |= {"cut": _cut(plan, number, places)}
        more |= {} if plan.job.cutter.has_own_program else {"tell_tale": _tell_tale(plan, number)}
    if plan.job.cutter.has_own_program:
        more["picture"] = _picture(plan, number)
    if number == 0 and plan.setup.first is not None:
        more["live_area_mm"] = shape_entry(plan.setup.first.shape)
    if colour := plan.sheet_colour(number):
        more["stock_colour"] = colour
    offcut = plan.sheets[number].offcut(plan.job.packing.gap_mm)
    return SheetEntry(
        number=number + 1,
        used=round(plan.sheets[number].used_share, 4),
        placements=_placements(plan, number, places),
        files=sheet_files(number, plan.job),
        offcut_mm=RectangleEntry(
            x_mm=round(offcut.left_mm, 3),
            y_mm=round(offcut.top_mm, 3),
            width_mm=round(offcut.width_mm, 3),
            height_mm=round(offcut.height_mm, 3),
        ),
        **more,
    )


def _placements(plan: Plan, number: int, places: Places) -> list[PlacementEntry]:
    misses = plan.misses_mm(number).tolist()
    return [
        PlacementEntry(
            item=places[one.item],
            x_mm=round(one.x_mm, 6),
            y_mm=round(one.y_mm, 6),
            turn_deg=round(one.turn_deg, 6),
            miss_mm=round(miss, 4),
            **({"pin": one.pin} if one.pin is not Pin.FREE else {}),
        )
        for one, miss in zip(plan.layout.sheets[number], misses, strict=True)
    ]


def _cut(plan: Plan, number: int, places: Places) -> CutEntry:
    """The blade's way over one sheet (from 0): how long it takes, and every pass of every loop in order."""
    cut = cut_of(plan, number)
    timing = timing_of(plan, cut)
    return CutEntry(
        length_mm=round(timing.length_mm, 3),
        travel_mm=round(timing.travel_mm, 3),
        lifts=timing.lifts,
        seconds=round(timing.seconds, 1),
        parts={name: round(seconds, 1) for name, seconds in timing.parts.items()},
        order=[
            PassEntry(item=places[loop.item], placement=loop.placement, hole=loop.is_hole, cut=loop.cut, number=number)
            for loop in cut.loops
            for number in range(1, plan.settings[loop.cut].passes + 1)
        ],
    )


def _tell_tale(plan: Plan, number: int) -> TellTaleEntry | None:
    """Where the tell-tale of one sheet (from 0) lies, and its files; nothing where no waste is left for it."""
    place = tell_tale_of(plan, number)
    if place is None:
        return None
    x, y = place
    return TellTaleEntry(x_mm=round(x, 3), y_mm=round(y, 3), size_mm=DROP_MM, files=tell_tale_names(number))


def _reading(plan: Plan) -> ReadingEntry | None:
    reading = plan.reading
    if reading is None:
        return None
    return ReadingEntry(
        chance=reading.chance,
        marks=list(reading.marks),
        cause=reading.cause,
        remedies=[
            RemedyEntry(key=one.remedy, text=REMEDIES[one.remedy].text, chance=one.chance) for one in reading.remedies
        ],
        **_offsets(reading.offsets),
    )


def _offsets(offsets: ReadingOffsets) -> dict[str, Any]:
    if not offsets.all_runs:
        return {}
    entry = OffsetsEntry(machine=round(offsets.machine, 4), stock=round(offsets.stock, 4), runs=offsets.runs)
    return {"offsets": entry}


def _printing(plan: Plan) -> PrintAdvice | None:
    if not plan.job.stock.printable:
        return None
    dry = dry_minutes(chain_of_job(plan.asked), work_of(plan.asked))
    return replace(advice_for(plan.job.stock, plan.job.printer), dry_minutes=dry)
