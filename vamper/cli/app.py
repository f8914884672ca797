"""What all commands have in common: the application, how they end, and where a workshop is."""

import gc
import math
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.places import FOLDER, make_folder
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import in_unit

# What a command imports stays to its end; looking it over for waste again and again takes a fifth of the start.
gc.set_threshold(50_000, 20, 20)

app = typer.Typer(
    add_completion=False,
    pretty_exceptions_enable=False,
)


def finite(value: float | None) -> float | None:
    """A number as it was typed; infinity and what is none ("nan" passes any range) are refused."""
    if value is not None and not math.isfinite(value):
        raise typer.BadParameter(f"{value} is nothing to measure with; type a number")
    return value


EXIT_BAD_INPUT = 2
EXIT_STOP = 3
Data = Annotated[Path, typer.Option(help="The workshop's file; made if it is missing.")]
DEFAULT_DATA = FOLDER / "workshop.db"


@contextmanager
def bad_input_is_one_line() -> Iterator[None]:
    """Bad input ends the command with one line on standard error and status 2."""
    try:
        yield
    except BadInput as bad:
        typer.echo(in_unit(" ".join(str(bad).split())), err=True)
        raise typer.Exit(EXIT_BAD_INPUT) from None


def make_default_folder(data: Path) -> None:
    """The folder that Vamper uses of itself is made; any other is the maker's to make."""
    if data.parent == FOLDER:
        make_folder()
