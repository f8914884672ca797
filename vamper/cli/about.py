"""What this Vamper is, and whether everything it needs is here."""

import shutil
import socket
import sys
from collections.abc import Iterator
from importlib.metadata import version
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import DEFAULT_DATA, EXIT_BAD_INPUT, Data, app
from vamper.core.values.findings import BadInput

_LEAST_FREE_MB = 500
_OLDEST = (3, 11)


def _show_version(wanted: bool) -> None:
    if wanted:
        typer.echo(f"vamper {version('vamper')}")
        raise typer.Exit


@app.callback(invoke_without_command=True)
def begin(
    ctx: typer.Context,
    _version: Annotated[
        bool, typer.Option("--version", callback=_show_version, is_eager=True, help="Say the version and end.")
    ] = False,
) -> None:
    """Plans sheets of stickers and decals, from pictures to print and cut files. Alone: starts with your workshop."""
    if ctx.invoked_subcommand is None:
        from vamper.cli.serving import start

        start(DEFAULT_DATA)


@app.command()
def doctor(data: Data = DEFAULT_DATA) -> None:
    """Look whether everything is here that Vamper needs: a line each."""
    well = True
    for what, good, told in _looked_at(data):
        well &= good
        typer.echo(f"{'ok  ' if good else 'look'}  {what}: {told}")
    if not well:
        raise typer.Exit(EXIT_BAD_INPUT)


def _looked_at(data: Path) -> Iterator[tuple[str, bool, str]]:
    python = ".".join(str(part) for part in sys.version_info[:3])
    yield "Python", sys.version_info[:2] >= _OLDEST, python
    folder = next(one for one in (data.absolute().parent, *data.absolute().parents) if one.exists())
    free = shutil.disk_usage(folder).free // 2**20
    yield "disk", free >= _LEAST_FREE_MB, f"{free:,} MB free at {folder}"
    yield ("workshop", *_workshop(data))
    yield ("page", *_page())
    yield ("fonts", *_fonts())
    yield ("port", *_port())


def _workshop(data: Path) -> tuple[bool, str]:
    if not data.exists():
        return True, f"none yet; it is made at {data}"
    from vamper.store.workshop_file import check_workshop

    try:
        check_workshop(data)
    except BadInput as bad:
        return False, " ".join(str(bad).split())
    return True, str(data)


def _page() -> tuple[bool, str]:
    from vamper.api.app import FRONT_END

    built = (FRONT_END / "index.html").exists()
    return built, str(FRONT_END) if built else "not built; run `make demo` in a checkout, or install the wheel again"


def _fonts() -> tuple[bool, str]:
    from vamper.formats.fonts import font_files

    missing = [path for path in font_files() if not Path(path).exists()]
    return not missing, f"missing: {', '.join(missing)}" if missing else "all that ship with Vamper are here"


def _port() -> tuple[bool, str]:
    from vamper.cli.serving import FIRST_PORT

    with socket.socket() as trial:
        taken = trial.connect_ex(("127.0.0.1", FIRST_PORT)) == 0
    return True, f"{FIRST_PORT} is taken, so the next free one is used" if taken else f"{FIRST_PORT} is free"
