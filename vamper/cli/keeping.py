"""Copy a workshop's file, and put a copy back."""

from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import DEFAULT_DATA, Data, app, bad_input_is_one_line, make_default_folder


@app.command()
def backup(
    target: Annotated[Path, typer.Argument(help="Where the copy goes.")],
    data: Data = DEFAULT_DATA,
) -> None:
    """Copy the workshop's file, also while the server runs."""
    from vamper.store.database import copy_database

    with bad_input_is_one_line():
        copy_database(data, target)
    typer.echo(f"copied to {target}")


@app.command()
def restore(
    source: Annotated[Path, typer.Argument(help="A copy made by `backup`.")],
    data: Data = DEFAULT_DATA,
) -> None:
    """Put a copy in the place of a workshop that is not there (move a broken one away first)."""
    from vamper.store.database import copy_database

    with bad_input_is_one_line():
        make_default_folder(data)
        copy_database(source, data)
    typer.echo(f"restored to {data}")
