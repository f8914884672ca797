"""The stream of a job's packing, over a real socket: it tells of changes, and takes no worker thread from anybody."""

import socket
import threading
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager

import uvicorn

from tests.services.test_jobs import job_with_disc
from vamper.api.app import create_app
from vamper.services.workshop import Workshop

PAGES = 40


@contextmanager
def served(workshop: Workshop) -> Iterator[int]:
    """The port of a server in a thread of its own."""
    listening = socket.create_server(("127.0.0.1", 0))
    server = uvicorn.Server(uvicorn.Config(create_app(workshop), log_level="error", timeout_graceful_shutdown=1))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
    thread.start()
    until = time.monotonic() + 10
    while not server.started and time.monotonic() < until:
        time.sleep(0.01)
    yield listening.getsockname()[1]
    server.should_exit = True
    thread.join(10)


@contextmanager
def streams(port: int, job: int, count: int) -> Iterator[list[socket.socket]]:
    ask = f"GET /api/jobs/{job}/events HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\n\r\n".encode()
    opened = []
    for _ in range(count):
        one = socket.create_connection(("127.0.0.1", port), timeout=10)
        one.sendall(ask)
        assert b"200 OK" in one.recv(4096)
        opened.append(one)
    try:
        yield opened
    finally:
        for one in opened:
            one.close()


def workers() -> int:
    return sum("worker" in one.name.lower() or one.name.startswith("asyncio_") for one in threading.enumerate())


def test_many_open_pages_hear_of_a_change_and_hold_no_worker(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    with served(workshop) as port, streams(port, job, PAGES) as opened:
        time.sleep(0.3)
        assert workers() < 5
        # Others are answered meanwhile, and every page hears of what happens.
        with closing(socket.create_connection(("127.0.0.1", port), timeout=10)) as other:
            begin = f"POST /api/jobs/{job}/pack/begin HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nContent-Length: 0\r\n\r\n"
            other.sendall(begin.encode())
            assert b"202" in other.recv(4096)
        for one in opened:
            told = b""
            while b"event: packing" not in told:
                told += one.recv(4096)
