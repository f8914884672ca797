"""After the cut: a timetable for an evening, how art goes round a thing, what shrinks."""

import json
import re
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from vamper.cli.app import app, bad_input_is_one_line, finite
from vamper.cli.planning import STANDARD_INPUT, read_input
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import in_unit

if TYPE_CHECKING:
    from vamper.core.finishing.round_things import RoundThing
    from vamper.core.values.shrink import Bar

_SIZE = re.compile(r"^([0-9.]+)[xX×]([0-9.]+)$")
_ART_PPI = 300.0


@app.command()
def timetable(
    batches: Annotated[Path, typer.Argument(help="Batches with their steps (JSON); - for standard input.")],
    ics: Annotated[Path | None, typer.Option(help="Also as a calendar (iCalendar).")] = None,
    seconds: Annotated[
        float, typer.Option(callback=finite, min=0.1, max=600, help="How long a better plan may be looked for.")
    ] = 10.0,
) -> None:
    """Plan several batches that share one person and a few places, as in: vamper timetable evening.json --ics out.ics

    Prints the soonest plan as JSON; ends with 2 where a wait cannot be kept or a place is not there.
    """
    from vamper.core.finishing.soonest import plan_evening
    from vamper.formats.batches_file import read_batches, timetable_document
    from vamper.formats.out.calendar import write_calendar

    with bad_input_is_one_line():
        folder = Path() if batches == STANDARD_INPUT else batches.resolve().parent

        def job_text(name: str) -> bytes:
            return read_input(folder / name, name)

        evening, start = read_batches(read_input(batches, str(batches)), job_text)
        found = plan_evening(evening, seconds)
        if ics is not None:
            identity, now = f"timetable {start.date()}", datetime.now().astimezone()
            _write(ics, write_calendar(found, start, "Vamper timetable", {}, identity, now))
    typer.echo(in_unit(json.dumps(timetable_document(found, start), indent=1, ensure_ascii=False)))


@app.command()
def steps(job: Annotated[Path, typer.Argument(help="The job file (JSON); - for standard input.")]) -> None:
    """The steps for a job's pieces after the print, as in: vamper steps mugs.json

    Prints the chain as JSON: every step with its minutes, its check, its cautions and what its label must say.
    """
    from vamper.formats.chain_file import steps_document
    from vamper.formats.job_file import read_job

    with bad_input_is_one_line():
        found = steps_document(read_job(read_input(job, str(job))))
    typer.echo(in_unit(json.dumps(found, indent=1, ensure_ascii=False)))


@app.command()
def wrap(
    width: Annotated[float, typer.Option(callback=finite, help="Of the flat art, mm.")],
    height: Annotated[float, typer.Option(callback=finite, help="Of the flat art, mm.")],
    diameter: Annotated[float | None, typer.Option(callback=finite, help="Of a cylinder, mm.")] = None,
    top: Annotated[float | None, typer.Option(callback=finite, help="A taper's diameter at its upper rim, mm.")] = None,
    bottom: Annotated[
        float | None, typer.Option(callback=finite, help="A taper's diameter at its lower rim, mm.")
    ] = None,
    slant: Annotated[float | None, typer.Option(callback=finite, help="A taper's height along its wall, mm.")] = None,
    up: Annotated[
        float | None, typer.Option(callback=finite, help="The art's middle above the lower rim, along the wall, mm.")
    ] = None,
    overlap: Annotated[
        float, typer.Option(callback=finite, help="How far its ends lie over each other, mm; negative is a gap.")
    ] = 3.0,
    art: Annotated[Path | None, typer.Option(help="A picture to bend.")] = None,
    out: Annotated[Path | None, typer.Option(help="Where the bent art goes, an SVG in mm.")] = None,
    distance: Annotated[
        float, typer.Option(callback=finite, min=0, max=50, help="Border round the bent art, mm.")
    ] = 0.0,
) -> None:
    """How art goes round a cup, as in: vamper wrap --top 84 --bottom 60 --slant 105 --width 70 --height 40 --up 30

    Prints what was worked out as JSON; with --art and --out also writes the art bent to stand straight on a taper.
    """
    from vamper.core.finishing.round_things import check_height, half_way_mm
    from vamper.core.finishing.round_things import wrap as wrapped
    from vamper.formats.finish_file import wrap_document

    with bad_input_is_one_line():
        for name, value in (("--width", width), ("--height", height)):
            if not 0 < value <= 3000:
                raise BadInput("must be more than 0 mm and at most 3000", name)
        thing = _round_thing(diameter, top, bottom, slant)
        middle_up = half_way_mm(thing, height) if up is None else up
        check_height(thing, height, middle_up)
        found = wrapped(thing, width, middle_up, overlap)
        if (art is None) != (out is None):
            raise BadInput("give both --art and --out, or neither", "--art")
        if art is not None and out is not None:
            _write(out, _bent(thing, art, width, middle_up, distance).encode())
    typer.echo(json.dumps(wrap_document(found), indent=1))


@app.command()
def shrink(
    before: Annotated[str, typer.Option(help="The test bar before the oven, mm, as in 100x25.")],
    after: Annotated[str, typer.Option(help="The same afterwards, mm.")],
    wanted: Annotated[str, typer.Option(help="The finished thing, mm.")],
    hole: Annotated[
        float | None, typer.Option(callback=finite, min=0.1, max=100, help="The finished hole, mm.")
    ] = None,
) -> None:
    """How large to print what shrinks, as in: vamper shrink --before 100x25 --after 44x12 --wanted 40x30 --hole 4"""
    from vamper.core.finishing.shrink import shrink_of
    from vamper.formats.finish_file import shrink_document

    with bad_input_is_one_line():
        found = shrink_of(_bar(before, "--before"), _bar(after, "--after"))
        document = shrink_document(found, _bar(wanted, "--wanted"), hole)
    typer.echo(json.dumps(document, indent=1))


def _bar(text: str, where: str) -> "Bar":
    from vamper.core.values.shrink import Bar

    found = _SIZE.match(text.strip())
    try:
        sides = [float(side) for side in found.groups()] if found else []
    except ValueError:
        sides = []
    if not sides or min(sides) <= 0 or max(sides) > 3000:
        raise BadInput(f"“{text[:40]}” is not a size; write width x height in mm, as in 100x25", where)
    return Bar(*sides)


def _round_thing(diameter: float | None, top: float | None, bottom: float | None, slant: float | None) -> "RoundThing":
    from vamper.core.finishing.round_things import RoundThing

    given = [one for one in (diameter, top, bottom, slant) if one is not None]
    if any(not 0 < one <= 2000 for one in given):
        raise BadInput("measures of a cup are more than 0 mm and at most 2000", "--diameter")
    if diameter is not None:
        if top is not None or bottom is not None:
            raise BadInput("give either a diameter, or top, bottom and slant", "--diameter")
        return RoundThing(diameter, diameter, slant)
    if top is None or bottom is None:
        raise BadInput("say how wide it is: --diameter, or --top, --bottom and --slant", "--diameter")
    if top == bottom:
        raise BadInput("the top equals the bottom, and that is a cylinder; give it as --diameter", "--top")
    return RoundThing(top, bottom, slant)


def _bent(thing: "RoundThing", art: Path, width: float, up: float, distance: float) -> str:
    from vamper.core.art.bent import bent_picture
    from vamper.core.art.outline import outline_at, trace
    from vamper.core.finishing.round_things import bend_on, bent_edge
    from vamper.core.values.art import SizeSpec
    from vamper.formats.art_in.art_file import read_art
    from vamper.formats.finish_file import bent_svg

    if thing.is_cylinder:
        raise BadInput("on a cylinder art stands straight as it is; only a taper bends it", "--art")
    size = SizeSpec(width_mm=width)
    picture = read_art(read_input(art, str(art)), art.name, size)
    outline = outline_at(trace(picture), size)
    across, down = outline.size_mm
    bend = bend_on(thing, (across / 2, down / 2), up)
    bent = bent_picture(picture.rgba, outline.origin_px, outline.mm_per_px, bend)
    return bent_svg(bent, bent_edge(outline.shape, distance, bend))


def _write(path: Path, data: bytes) -> None:
    try:
        path.write_bytes(data)
    except OSError as error:
        raise BadInput(f"cannot be written to: {error.strerror}", str(path)) from None
