"""Plan a job file, and say what there is to say about one art, without the screen."""

import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from vamper.cli.app import EXIT_STOP, app, bad_input_is_one_line, finite
from vamper.core.values.art import Purpose
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import in_unit
from vamper.core.values.stock import STOCK_BY_KEY

if TYPE_CHECKING:
    from vamper.core.plan import Plan
    from vamper.services.handoff.drafts import Pictures

STANDARD_INPUT = Path("-")


def read_input(path: Path, name: str) -> bytes:
    """A file, or standard input for `-`.

    Raises
    ------
    BadInput
        If it cannot be read.
    """
    try:
        if path == STANDARD_INPUT:
            return sys.stdin.buffer.read()
        return path.read_bytes()
    except FileNotFoundError:
        raise BadInput("there is no such file", name) from None
    except (OSError, ValueError):
        raise BadInput("the file cannot be read", name) from None


def planned_from(text: bytes, folder: Path, seconds: float, seed: int) -> "tuple[Plan, Pictures]":
    """The plan of a job file whose art lies in a folder, and what gives its designs' pixels.

    Raises
    ------
    BadInput
        If the job, or some of its art, cannot be used.
    """
    from vamper.core.art.picture import Picture
    from vamper.core.design import DesignedItem
    from vamper.formats.job_file import read_job
    from vamper.services.design.designer import ArtFile, Designer
    from vamper.services.jobs.composing import Composer, drawn_job
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.packing.planning import plan_job
    from vamper.services.packing.scaling import plan_scaled

    spec = read_job(text)

    def art_file(name: str) -> ArtFile:
        path = (folder / name).resolve()
        # A link inside the folder may still lead out of it.
        if not path.is_relative_to(folder):
            raise BadInput("must stay inside the job file's folder", name)
        return ArtFile.of(name, read_input(path, name))

    designer = Designer()
    spec, drawings = drawn_job(spec, Composer(designer, art_file))
    arts = [drawings.get(item.art) or art_file(item.art) for item in spec.items]
    nester = ProcessNester()
    if spec.scale_to_fill:
        planned = plan_scaled(spec, arts, designer, nester)
    else:
        planned = plan_job(spec, arts, designer, nester, seconds, seed)
    by_name = {item.art: art for item, art in zip(spec.items, arts, strict=True)}

    def pictures(item: DesignedItem) -> Picture:
        return designer.picture_of(item, by_name[item.spec.art])

    return planned, pictures


@app.command()
def plan(
    job: Annotated[Path, typer.Argument(help="The job file (JSON); its art lies beside it.")],
    out: Annotated[Path, typer.Option(help="Where the files go; made if it is missing.")],
    seconds: Annotated[
        float, typer.Option(callback=finite, min=0.1, max=3600, help="How long packing may search.")
    ] = 5.0,
    seed: Annotated[int, typer.Option(min=0, help="Seed of the search.")] = 1,
    proof: Annotated[bool, typer.Option("--proof", help="Also a proof of each sheet, for plain paper.")] = False,
    page_ppi: Annotated[
        int | None, typer.Option(min=30, max=1200, help="Also each page as PNG, at so many ppi.")
    ] = None,
) -> None:
    """Plan a job file and write everything to hand over, as in: vamper plan hull.json --out out --proof


    Ends with 0 when planned, 3 when planned with findings that would spoil the sheet, 2 for bad input.
    """
    from vamper.core.inspect import findings_of
    from vamper.services.handoff.files import page_file, plan_files, proof_file, proof_name

    with bad_input_is_one_line():
        planned, pictures = planned_from(read_input(job, str(job)), job.resolve().parent, seconds, seed)
        findings = findings_of(planned)
        files = plan_files(planned, findings, pictures)
        for sheet in range(len(planned.sheets)) if planned.job.stock.printable else ():
            if proof:
                files[proof_name(sheet)] = proof_file(planned, sheet, pictures)
            if page_ppi is not None:
                files[f"sheet-{sheet + 1:02d}-page.png"] = page_file(planned, sheet, page_ppi, pictures)
        try:
            out.mkdir(parents=True, exist_ok=True)
            for name, data in files.items():
                (out / name).write_bytes(data)
        except OSError as error:
            raise BadInput(f"cannot be written to: {error.strerror}", str(out)) from None
    sheets = len(planned.layout.sheets)
    typer.echo(
        f"{planned.layout.pieces} of {sum(item.quantity for item in planned.job.items)} pieces on "
        f"{sheets} sheet{'s' if sheets != 1 else ''}, files in {out}"
    )
    if any(finding.stops() for finding in findings):
        raise typer.Exit(EXIT_STOP)


@app.command()
def check(
    art: Annotated[Path, typer.Argument(help="A picture, a drawing or a page of a PDF.")],
    width: Annotated[float, typer.Option(callback=finite, help="Wanted width of the inked area, mm.")],
    stock: Annotated[str, typer.Option(help="The stock it is to be cut from.")] = "satin-vinyl",
    purpose: Annotated[Purpose, typer.Option(help="What it is for; decides the viewing distance.")] = Purpose.VEHICLE,
    kind: Annotated[str, typer.Option(help="The kind of edge.")] = "follow",
    distance: Annotated[float | None, typer.Option(callback=finite, help="Border, mm; 0 or less for bare.")] = None,
    smooth: Annotated[float, typer.Option(callback=finite, help="Smoothing, mm.")] = 2.0,
    page: Annotated[int, typer.Option(help="Page of a PDF.")] = 1,
    threshold: Annotated[
        float, typer.Option(callback=finite, help="The least alpha that counts as inked, 0.05 to 0.95.")
    ] = 0.5,
    lift: Annotated[
        float | None, typer.Option(callback=finite, help="Lift the background within this ΔE of the rim.")
    ] = None,
) -> None:
    """Print what can be said about one art at one size, as JSON."""
    from vamper.formats.check_file import check_document
    from vamper.formats.job_file import read_item
    from vamper.services.design.designer import ArtFile, Designer
    from vamper.services.work.children import fork_from_here

    fork_from_here()
    with bad_input_is_one_line():
        if stock not in STOCK_BY_KEY:
            raise BadInput(f"no stock is called “{stock[:40]}”; known are {', '.join(STOCK_BY_KEY)}", "--stock")
        edge = {"kind": kind, "smooth_mm": smooth} | ({} if distance is None else {"distance_mm": distance})
        prepare = {"page": page, "threshold": threshold, "lift_de": lift}
        spec = read_item({"number": 1, "art": art.name, "width_mm": width, "edge": edge, "prepare": prepare})
        item = Designer().design(spec, ArtFile.of(art.name, read_input(art, str(art))), STOCK_BY_KEY[stock])
    report = check_document(item, purpose, STOCK_BY_KEY[stock])
    typer.echo(in_unit(json.dumps(report, indent=1, ensure_ascii=False)))
