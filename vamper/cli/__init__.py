"""The command line, a module a group of commands: plan and check, calibrate, rehearse, serve, back up and restore."""

from vamper.cli import (  # noqa: F401
    about,
    calibrating,
    comparing,
    cutting,
    finishing,
    keeping,
    ledger,
    planning,
    practising,
    serving,
    simulating,
)
from vamper.cli.app import app

__all__ = ["app"]
