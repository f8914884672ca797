"""A dry run of a job file on the simulated devices."""

from dataclasses import replace
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import EXIT_STOP, app, bad_input_is_one_line, finite
from vamper.cli.planning import planned_from, read_input
from vamper.core.values.findings import BadInput


@app.command("dry-run")
def dry_run(
    job: Annotated[Path, typer.Argument(help="The job file (JSON); its art lies beside it.")],
    out: Annotated[Path, typer.Option(help="Where the files go; made if it is missing.")],
    runs: Annotated[int, typer.Option(min=1, max=2000, help="How often each sheet is run.")] = 200,
    seed: Annotated[int, typer.Option(min=0, help="Seed of the runs, and of packing.")] = 1,
    seconds: Annotated[
        float, typer.Option(callback=finite, min=0.1, max=3600, help="How long packing may search.")
    ] = 5.0,
    ppi: Annotated[int, typer.Option(min=50, max=600, help="Of the pictures.")] = 150,
    unsure: Annotated[
        bool, typer.Option("--unsure", help="Draw the stock's hardness from what is believed of it, run by run.")
    ] = False,
    look: Annotated[
        bool, typer.Option("--look/--no-look", help="Look before unloading, and run once more what is not through.")
    ] = True,
) -> None:
    """Print, read and cut a job on simulated devices, as in: vamper dry-run hull.json --out out --runs 200 --seed 1

    Writes dry-run.json and, for each sheet, sheet-01-result.png: one such sheet after cutting and weeding, as a scan.
    Ends with 0 when at least half of all sheets come out good, 3 when not, 2 for bad input.
    """
    from vamper.formats.dry_run_file import write_dry_run
    from vamper.services.twin.dry_runs import devices_for
    from vamper.services.twin.dry_runs import dry_run as run
    from vamper.services.twin.pictures import result_png

    with bad_input_is_one_line():
        planned, pictures = planned_from(read_input(job, str(job)), job.resolve().parent, seconds, seed)
        found = run(planned, pictures, runs, seed, replace(devices_for(planned, unsure), looks=look))
        files = {"dry-run.json": write_dry_run(found.outcome)}
        for sheet in range(len(found.sheets)):
            files[f"sheet-{sheet + 1:02d}-result.png"] = result_png(found, sheet, ppi)
        try:
            out.mkdir(parents=True, exist_ok=True)
            for name, data in files.items():
                (out / name).write_bytes(data)
        except OSError as error:
            raise BadInput(f"cannot be written to: {error.strerror}", str(out)) from None
    outcome = found.outcome
    typer.echo(
        f"marks read in {outcome.marks_read * 100:.0f} of 100 runs, the sheet good in {outcome.sheet_good * 100:.0f}, "
        f"{outcome.pieces_good_mean * 100:.0f} of 100 pieces; files in {out}"
    )
    if outcome.sheet_good < 0.5:
        raise typer.Exit(EXIT_STOP)
