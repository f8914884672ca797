"""Fit the readings of a vernier sheet."""

import json
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import app, bad_input_is_one_line
from vamper.cli.planning import read_input


@app.command()
def calibrate(
    readings: Annotated[Path, typer.Argument(help="Readings of a vernier sheet (JSON); - for standard input.")],
) -> None:
    """Fit readings of where cuts lie from the print, as in: vamper calibrate readings.json

    The file holds {"readings": [{"x_mm": 30, "y_mm": 25, "axis": "x", "miss_mm": 0.3}, …]}, right and down positive; at
    least three an axis. Prints the map, its parts in words, the residual and the reading that fits worst, as JSON.
    """
    from vamper.core.marks.calibrate import fit
    from vamper.formats.readings_file import fit_document, read_readings

    with bad_input_is_one_line():
        found = fit(read_readings(read_input(readings, str(readings))).readings)
    typer.echo(json.dumps(fit_document(found), indent=1))
