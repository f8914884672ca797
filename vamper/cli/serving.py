"""Start the server on this computer."""

import gc
import socket
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from vamper.cli.app import DEFAULT_DATA, EXIT_BAD_INPUT, Data, app, bad_input_is_one_line, finite, make_default_folder
from vamper.cli.letting_in import LettingIn, let_in
from vamper.cli.places import FOLDER

if TYPE_CHECKING:
    from fastapi import FastAPI

FIRST_PORT = 8484
_PORTS_TRIED = 50

SearchSeconds = Annotated[
    float | None,
    typer.Option(
        "--search-seconds",
        callback=finite,
        min=1,
        max=600,
        help="How long it looks for a better layout after a change.",
    ),
]


@app.command()
def serve(
    data: Data = DEFAULT_DATA,
    port: Annotated[int, typer.Option(help="The first port tried; the next free one if it is taken.")] = FIRST_PORT,
    reload: Annotated[bool, typer.Option(help="Start again when the code changes (for development).")] = False,
    lan: Annotated[bool, typer.Option(help="Let the home's other devices in, with a passphrase.")] = False,
    new_passphrase: Annotated[bool, typer.Option(help="Choose another passphrase for them.")] = False,
    certificate: Annotated[Path | None, typer.Option(help="Your own certificate (PEM), with --key.")] = None,
    key: Annotated[Path | None, typer.Option(help="The certificate's key (PEM).")] = None,
    search_seconds: SearchSeconds = None,
) -> None:
    """Start the server on this computer and print its address."""
    if reload:
        import os

        import uvicorn

        os.environ["VAMPER_DATA"] = str(data)
        uvicorn.run("vamper.cli.serving:development_app", factory=True, host="127.0.0.1", port=port, reload=True)
        return
    if not lan and (new_passphrase or certificate or key):
        typer.echo("passphrase and certificate are for other devices; add --lan to let them in", err=True)
        raise typer.Exit(EXIT_BAD_INPUT)
    _serve(data, port, search_seconds, letting_in=LettingIn(new_passphrase, certificate, key) if lan else None)


@app.command()
def demo(
    data: Data = FOLDER / "demo.db",
    port: Annotated[int, typer.Option(help="The first port tried; the next free one if it is taken.")] = FIRST_PORT,
    fresh: Annotated[bool, typer.Option(help="Begin with a new demo workshop.")] = False,
    search_seconds: SearchSeconds = None,
) -> None:
    """Start with the workshop of the Gannet Reach Paddle Club."""
    from vamper.store.database import remove_database

    if fresh:
        with bad_input_is_one_line():
            remove_database(data)
    _serve(data, port, search_seconds, fill_demo=True)


def start(data: Path) -> None:
    """Serve a workshop in the usual way, until it is ended."""
    _serve(data, FIRST_PORT, None)


def development_app() -> "FastAPI":
    """The application for a reloading server; the workshop's file is named in the environment."""
    import os

    from vamper.api.app import create_app
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.workshop import Workshop

    return create_app(Workshop(Path(os.environ["VAMPER_DATA"]), ProcessNester()))


def _serve(
    data: Path, port: int, search_seconds: float | None, fill_demo: bool = False, letting_in: LettingIn | None = None
) -> None:
    import os
    import threading
    import webbrowser

    import uvicorn

    from vamper.api.app import create_app
    from vamper.api.lan.auth import CAUTION
    from vamper.demo.workshop import fill
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.packing.packing_service import SEARCH_SECONDS
    from vamper.services.work.idle import GivingBack, share_arenas
    from vamper.services.workshop import Workshop

    # Searches run beside the page: a request gets its turn after half a millisecond instead of five.
    sys.setswitchinterval(0.0005)
    share_arenas()
    nester = ProcessNester()
    with bad_input_is_one_line():
        make_default_folder(data)
        workshop = Workshop(data, nester, search_seconds or SEARCH_SECONDS)
        threading.Thread(target=nester.warm_up, daemon=True).start()
        if fill_demo:
            fill(workshop)
        threading.Thread(target=workshop.warm_up, daemon=True).start()
    listening = _free_socket(port, "127.0.0.1" if letting_in is None else "0.0.0.0")
    port = listening.getsockname()[1]
    with bad_input_is_one_line():
        others = None if letting_in is None else let_in(letting_in, workshop.passphrase, port)
    address = f"{'https' if others and others.encrypted else 'http'}://127.0.0.1:{port}/"
    typer.echo(f"Vamper is at {address} (Ctrl-C ends it; data in {data})")
    if others is not None:
        typer.echo(f"Other devices in this network: {others.address}/phone, with the passphrase")
        if not others.encrypted:
            typer.echo(CAUTION)
    if sys.platform != "linux" or os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"):
        webbrowser.open(address)
    served = create_app(workshop, lan=others)
    # All that is there now stays; it is not looked over for waste while somebody waits for an answer.
    gc.freeze()
    config = uvicorn.Config(
        served,
        log_level="warning",
        timeout_graceful_shutdown=1,
        # Who comes in is told by the connection itself, never by what a request says of it.
        proxy_headers=False,
        ssl_certfile=letting_in.certificate if letting_in else None,
        ssl_keyfile=letting_in.key if letting_in else None,
    )
    giving_back = GivingBack()
    try:
        uvicorn.Server(config).run(sockets=[listening])
    finally:
        giving_back.close()


def _free_socket(port: int, host: str) -> socket.socket:
    """A socket that listens on `port` or the next free port."""
    for candidate in range(port, port + _PORTS_TRIED):
        # The protocol is named so that answers go out at once: asyncio turns delayed sending off only where it is.
        listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind((host, candidate))
            # Before the address is told: whoever comes at once waits instead of being turned away.
            listening.listen()
        except OSError:
            listening.close()
            continue
        return listening
    typer.echo(f"no port from {port} to {port + _PORTS_TRIED - 1} is free; name another with --port", err=True)
    raise typer.Exit(EXIT_BAD_INPUT)
