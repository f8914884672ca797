"""Start the server on this computer."""

import socket
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from vamper.cli.app import DEFAULT_DATA, EXIT_BAD_INPUT, Data, app, bad_input_is_one_line, make_default_folder

if TYPE_CHECKING:
    from fastapi import FastAPI

_PORTS_TRIED = 50


@app.command()
def serve(
    data: Data = DEFAULT_DATA,
    port: Annotated[int, typer.Option(help="The first port tried; the next free one if it is taken.")] = 8484,
    reload: Annotated[bool, typer.Option(help="Start again when the code changes (for development).")] = False,
) -> None:
    """Start the server on this computer and print its address."""
    if reload:
        import os

        import uvicorn

        os.environ["VAMPER_DATA"] = str(data)
        uvicorn.run("vamper.cli.serving:development_app", factory=True, host="127.0.0.1", port=port, reload=True)
        return
    _serve(data, port)


@app.command()
def demo(
    data: Data = Path("data/demo.db"),
    port: Annotated[int, typer.Option(help="The first port tried; the next free one if it is taken.")] = 8484,
    fresh: Annotated[bool, typer.Option(help="Begin with a new demo workshop.")] = False,
) -> None:
    """Start with the workshop of the Gannet Reach Paddle Club."""
    from vamper.store.database import remove_database

    if fresh:
        with bad_input_is_one_line():
            remove_database(data)
    _serve(data, port, fill_demo=True)


def development_app() -> "FastAPI":
    """The application for a reloading server; the workshop's file is named in the environment."""
    import os

    from vamper.api.app import create_app
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.workshop import Workshop

    return create_app(Workshop(Path(os.environ["VAMPER_DATA"]), ProcessNester()))


def _serve(data: Path, port: int, fill_demo: bool = False) -> None:
    import os
    import threading
    import webbrowser

    import uvicorn

    from vamper.api.app import create_app
    from vamper.demo.workshop import fill
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.workshop import Workshop

    # Searches run beside the page: a request gets its turn after half a millisecond instead of five.
    sys.setswitchinterval(0.0005)
    nester = ProcessNester()
    with bad_input_is_one_line():
        make_default_folder(data)
        workshop = Workshop(data, nester)
        threading.Thread(target=nester.warm_up, daemon=True).start()
        if fill_demo:
            fill(workshop)
        threading.Thread(target=workshop.warm_up, daemon=True).start()
    listening = _free_socket(port)
    address = f"http://127.0.0.1:{listening.getsockname()[1]}/"
    typer.echo(f"Vamper is at {address} (Ctrl-C ends it; data in {data})")
    if os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"):
        webbrowser.open(address)
    config = uvicorn.Config(create_app(workshop), log_level="warning", timeout_graceful_shutdown=1)
    uvicorn.Server(config).run(sockets=[listening])


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
