"""The command line: plan and check without the screen, start the server, back up and restore the workshop."""

import json
import socket
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from vamper.core.findings import BadInput
from vamper.core.job import EdgeKind, Purpose
from vamper.core.stocks import STOCK_BY_KEY

if TYPE_CHECKING:
    from fastapi import FastAPI

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    pretty_exceptions_enable=False,
    help="Vamper: plans sheets of stickers and decals, from pictures to print and cut files.",
)

EXIT_BAD_INPUT = 2
EXIT_STOP = 3


@contextmanager
def _bad_input_is_one_line() -> Iterator[None]:
    """Bad input ends the command with one line on standard error and status 2."""
    try:
        yield
    except BadInput as bad:
        typer.echo(" ".join(str(bad).split()), err=True)
        raise typer.Exit(EXIT_BAD_INPUT) from None


def _read(path: Path, name: str) -> bytes:
    try:
        return path.read_bytes()
    except FileNotFoundError:
        raise BadInput("there is no such file", name) from None
    except (OSError, ValueError):
        raise BadInput("the file cannot be read", name) from None


@app.command()
def plan(
    job: Annotated[Path, typer.Argument(help="The job file (JSON); its art lies beside it.")],
    out: Annotated[Path, typer.Option(help="Where the files go; made if it is missing.")],
    seconds: Annotated[float, typer.Option(min=0.1, max=3600, help="How long packing may search.")] = 5.0,
    seed: Annotated[int, typer.Option(min=0, help="Seed of the search.")] = 1,
) -> None:
    """Plan a job file and write everything to hand over.

    Ends with 0 when planned, 3 when planned with findings that would spoil the sheet, 2 for bad input.
    """
    from vamper.formats.jobfile import read_job
    from vamper.services.composing import Composer, drawn_job
    from vamper.services.design import ArtFile, Designer
    from vamper.services.hand_off import plan_files
    from vamper.services.nesting_process import ProcessNester
    from vamper.services.planning import plan_job
    from vamper.services.scaling import plan_scaled

    with _bad_input_is_one_line():
        spec = read_job(_read(job, str(job)))
        folder = job.resolve().parent

        def art_file(name: str) -> ArtFile:
            path = (folder / name).resolve()
            # A link inside the folder may still lead out of it.
            if not path.is_relative_to(folder):
                raise BadInput("must stay inside the job file's folder", name)
            return ArtFile.of(name, _read(path, name))

        designer = Designer()
        spec, drawings = drawn_job(spec, Composer(designer, art_file))
        arts = [drawings.get(item.art) or art_file(item.art) for item in spec.items]
        nester = ProcessNester()
        if spec.scale_to_fill:
            planned = plan_scaled(spec, arts, designer, nester)
        else:
            planned = plan_job(spec, arts, designer, nester, seconds, seed)
        by_name = {item.art: art for item, art in zip(spec.items, arts, strict=True)}
        files = plan_files(planned, lambda item: designer.picture_of(item, by_name[item.spec.art]))
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
    if planned.has_stop:
        raise typer.Exit(EXIT_STOP)


@app.command()
def check(
    art: Annotated[Path, typer.Argument(help="A picture: PNG, JPEG, WebP, SVG or PDF.")],
    width: Annotated[float, typer.Option(help="Wanted width of the inked area, mm.")],
    stock: Annotated[str, typer.Option(help="The stock it is to be cut from.")] = "satin-vinyl",
    purpose: Annotated[Purpose, typer.Option(help="What it is for; decides the viewing distance.")] = Purpose.VEHICLE,
    kind: Annotated[EdgeKind, typer.Option(help="The kind of edge.")] = EdgeKind.FOLLOW,
    distance: Annotated[float | None, typer.Option(help="Border, mm; 0 or less for bare.")] = None,
    smooth: Annotated[float, typer.Option(help="Smoothing, mm.")] = 2.0,
    page: Annotated[int, typer.Option(help="Page of a PDF.")] = 1,
    threshold: Annotated[float, typer.Option(help="The least alpha that counts as inked, 0.05 to 0.95.")] = 0.5,
    lift: Annotated[float | None, typer.Option(help="Lift the background within this ΔE of the rim.")] = None,
) -> None:
    """Print what can be said about one art at one size, as JSON."""
    from vamper.formats.jobfile import read_item
    from vamper.formats.planfile import check_document
    from vamper.services.design import ArtFile, Designer

    with _bad_input_is_one_line():
        if stock not in STOCK_BY_KEY:
            raise BadInput(f"no stock is called “{stock[:40]}”; known are {', '.join(STOCK_BY_KEY)}", "--stock")
        edge = {"kind": kind.value, "smooth_mm": smooth} | ({} if distance is None else {"distance_mm": distance})
        prepare = {"page": page, "threshold": threshold, "lift_de": lift}
        spec = read_item({"art": art.name, "width_mm": width, "edge": edge, "prepare": prepare})
        item = Designer().design(0, spec, ArtFile.of(art.name, _read(art, str(art))), STOCK_BY_KEY[stock])
    report = check_document(item, purpose, STOCK_BY_KEY[stock])
    json.dump(report, sys.stdout, indent=1, ensure_ascii=False)
    typer.echo()


_Data = Annotated[Path, typer.Option(help="The workshop's file; made if it is missing.")]
_DEFAULT_DATA = Path("data/workshop.db")
_PORTS_TRIED = 50


@app.command()
def serve(
    data: _Data = _DEFAULT_DATA,
    port: Annotated[int, typer.Option(help="The first port tried; the next free one if it is taken.")] = 8484,
    reload: Annotated[bool, typer.Option(help="Start again when the code changes (for development).")] = False,
) -> None:
    """Start the server on this computer and print its address."""
    if reload:
        import os

        import uvicorn

        os.environ["VAMPER_DATA"] = str(data)
        uvicorn.run("vamper.cli:development_app", factory=True, host="127.0.0.1", port=port, reload=True)
        return
    _serve(data, port)


@app.command()
def demo(
    data: _Data = Path("data/demo.db"),
    port: Annotated[int, typer.Option(help="The first port tried; the next free one if it is taken.")] = 8484,
    fresh: Annotated[bool, typer.Option(help="Begin with a new demo workshop.")] = False,
) -> None:
    """Start with the workshop of the Gannet Reach Paddle Club."""
    from vamper.store.database import remove_database

    if fresh:
        with _bad_input_is_one_line():
            remove_database(data)
    _serve(data, port, fill_demo=True)


def development_app() -> "FastAPI":
    """The application for a reloading server; the workshop's file is named in the environment."""
    import os

    from vamper.api.app import create_app
    from vamper.services.nesting_process import ProcessNester
    from vamper.services.workshop import Workshop

    return create_app(Workshop(Path(os.environ["VAMPER_DATA"]), ProcessNester()))


def _serve(data: Path, port: int, fill_demo: bool = False) -> None:
    import os
    import threading
    import webbrowser

    import uvicorn

    from vamper.api.app import create_app
    from vamper.demo.workshop import fill
    from vamper.services.nesting_process import ProcessNester
    from vamper.services.workshop import Workshop

    # Searches run beside the page: a request gets its turn after half a millisecond instead of five.
    sys.setswitchinterval(0.0005)
    nester = ProcessNester()
    with _bad_input_is_one_line():
        _make_default_folder(data)
        workshop = Workshop(data, nester)
        threading.Thread(target=nester.warm_up, daemon=True).start()
        if fill_demo:
            fill(workshop)
    listening = _free_socket(port)
    address = f"http://127.0.0.1:{listening.getsockname()[1]}/"
    typer.echo(f"Vamper is at {address} (Ctrl-C ends it; data in {data})")
    if os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"):
        webbrowser.open(address)
    config = uvicorn.Config(create_app(workshop), log_level="warning", timeout_graceful_shutdown=1)
    uvicorn.Server(config).run(sockets=[listening])


def _make_default_folder(data: Path) -> None:
    """The folder that Vamper uses of itself is made; any other is the maker's to make."""
    if data.parent == _DEFAULT_DATA.parent and not data.parent.exists():
        data.parent.mkdir()


def _free_socket(port: int) -> socket.socket:
    """A socket that listens on loopback, on `port` or the next free one."""
    for candidate in range(port, port + _PORTS_TRIED):
        # The protocol is named so that answers go out at once: asyncio turns delayed sending off only where it is.
        listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind(("127.0.0.1", candidate))
            # Before the address is told: whoever comes at once waits instead of being turned away.
            listening.listen()
        except OSError:
            listening.close()
            continue
        return listening
    typer.echo(f"no port from {port} to {port + _PORTS_TRIED - 1} is free; name another with --port", err=True)
    raise typer.Exit(EXIT_BAD_INPUT)


@app.command()
def backup(
    target: Annotated[Path, typer.Argument(help="Where the copy goes.")],
    data: _Data = _DEFAULT_DATA,
) -> None:
    """Copy the workshop's file, also while the server runs."""
    from vamper.store.database import copy_database

    with _bad_input_is_one_line():
        copy_database(data, target)
    typer.echo(f"copied to {target}")


@app.command()
def restore(
    source: Annotated[Path, typer.Argument(help="A copy made by `backup`.")],
    data: _Data = _DEFAULT_DATA,
) -> None:
    """Put a copy in the place of a workshop that is not there (move a broken one away first)."""
    from vamper.store.database import copy_database

    with _bad_input_is_one_line():
        _make_default_folder(data)
        copy_database(source, data)
    typer.echo(f"restored to {data}")


if __name__ == "__main__":
    app()
