"""A picture of a print, or of cut pieces, held against its plan."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import EXIT_STOP, app, bad_input_is_one_line, finite
from vamper.cli.planning import read_input
from vamper.core.values.findings import BadInput


@app.command()
def compare(
    plan: Annotated[Path, typer.Argument(help="The plan.json of a hand-off; its print files lie beside it.")],
    picture: Annotated[Path, typer.Argument(help="A scan or photo.")],
    sheet: Annotated[int, typer.Option(min=1, help="Which sheet of the plan.")] = 1,
    ppi: Annotated[
        float | None, typer.Option(callback=finite, min=50, max=2400, help="Of a flat scan; leave it out for a photo.")
    ] = None,
    pieces: Annotated[
        bool, typer.Option("--pieces", help="Cut pieces on a plain ground unlike them, in a flat scan.")
    ] = False,
    weeded: Annotated[
        bool, typer.Option("--weeded", help="The weeded sheet, its pieces in their places, its marks in sight.")
    ] = False,
) -> None:
    """Hold a picture against its plan, as in: vamper compare out/plan.json scan.png --sheet 1 --ppi 300

    Without --pieces the picture shows the printed sheet, at least three of its marks in sight. Prints what was found,
    as JSON; ends with 3 where print is missing, 2 for bad input.
    """
    from vamper.core.vision.loose_pieces import loose_pieces
    from vamper.core.vision.weeded_sheet import weeded_sheet
    from vamper.formats.compare_file import pieces_document, print_document, weeded_document
    from vamper.formats.plan_document import PlanDocument
    from vamper.formats.reference_in import reference_in
    from vamper.services.twin.comparing import compared_print, found_as_it_reads, read_picture

    with bad_input_is_one_line():
        planned = reference_in(PlanDocument.read(read_input(plan, str(plan))), sheet, _beside(plan))
        seen = read_picture(read_input(picture, str(picture)), picture.name)
        if pieces:
            if ppi is None:
                raise BadInput("say how many pixels an inch the scan of the pieces has", "--ppi")
            typer.echo(json.dumps(pieces_document(loose_pieces(seen, ppi, planned)), indent=1))
            return
        if weeded:
            lying = found_as_it_reads(seen, planned)
            typer.echo(json.dumps(weeded_document(weeded_sheet(seen, planned, lying)), indent=1))
            return
        found = compared_print(seen, planned)
    typer.echo(json.dumps(print_document(found, planned, ppi), indent=1))
    if found.missing:
        raise typer.Exit(EXIT_STOP)


def _beside(plan: Path) -> Callable[[str], bytes | None]:
    """A function that reads a file beside a plan by its name; it returns None where there is no such file."""

    def read(name: str) -> bytes | None:
        path = plan.resolve().parent / Path(name).name
        return path.read_bytes() if path.is_file() else None

    return read
