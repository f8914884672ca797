"""The command line, a module a group of commands: plan and check, calibrate, rehearse, serve, back up and restore."""

from vamper.cli import about, calibrating, comparing, cutting, finishing, keeping, ledger, planning, serving, simulating  # noqa: F401
from vamper.cli.app import app

__all__ = ["app"]
