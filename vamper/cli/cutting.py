"""What a ladder of small cuts says about a stock on a machine, and which of its named settings to take."""

import json
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import app, bad_input_is_one_line
from vamper.cli.planning import read_input


@app.command()
def ladder(
    tries: Annotated[Path, typer.Argument(help="What was tried (JSON); - for standard input.")],
) -> None:
    """Weigh the drops of ladders and the outcomes of runs, as in: vamper ladder tries.json

    The file holds {"stock": "satin-vinyl", "cut": "kiss", "force_gf": {"min": 20, "max": 380, "step": 4},
    "blade": "45", "metres": 0, "tries": [{"force_gf": 84, "passes": 1, "outcome": "not-through"}, …], "runs": […]};
    outcomes are
    not-through, clean, backing-marked, backing-through and torn. Prints what is believed of the stock's hardness, the
    force to set with its chance, and the forces of the next ladder, as JSON.
    """
    from vamper.formats.ladder_file import ladder_document, ladder_result, read_ladder

    with bad_input_is_one_line():
        found = ladder_document(*ladder_result(read_ladder(read_input(tries, str(tries)))))
    typer.echo(json.dumps(found, indent=1))


@app.command()
def settings(
    file: Annotated[Path, typer.Argument(help="A machine's named settings (JSON); - for standard input.")],
) -> None:
    """Choose one of a machine's named settings, as in: vamper settings settings.json

    The file holds {"stock": "matte-label", "cut": "kiss", "force_gf": {"min": 20, "max": 380, "step": 4}, "settings":
    [{"name": "thick label paper", "pressures": ["less", "usual", "more"], "gentler_than": ["poster board"], "seen":
    [{"stock": "matte-label", "cut": "kiss", "pressure": "usual", "passes": 1, "outcome": "backing-through"}]}]}, in any
    order. Prints the setting to take with its chances, where each is believed to press, and what to try next on an
    offcut, as JSON.
    """
    from vamper.formats.settings_file import read_settings, settings_document, settings_result

    with bad_input_is_one_line():
        found = settings_document(settings_result(read_settings(read_input(file, str(file)))))
    typer.echo(json.dumps(found, indent=1, ensure_ascii=False))
