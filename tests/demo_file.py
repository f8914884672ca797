"""The demo workshop as a file, drawn once for a whole run of the tests: the first to need it fills it, others copy."""

import os
import shutil
import time
from pathlib import Path

import pytest

from vamper.demo.workshop import fill
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop

_LONGEST_S = 600.0


def demo_file(factory: pytest.TempPathFactory, nester: ProcessNester) -> Path:
    """A copy of the filled demo workshop, to be changed as one likes."""
    base = factory.getbasetemp()
    # Under xdist each worker has a folder of its own in that of the whole run.
    shared = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    whole = shared / "demo-whole.db"
    try:
        os.close(os.open(shared / "demo.lock", os.O_CREAT | os.O_EXCL))
    except FileExistsError:
        _wait_for(whole)
    else:
        try:
            _fill(shared / "demo-filling.db", nester)
            (shared / "demo-filling.db").rename(whole)
        except BaseException:
            # Whoever needs it next tries again.
            (shared / "demo.lock").unlink()
            raise
    mine = factory.mktemp("demo") / "demo.db"
    shutil.copy(whole, mine)
    return mine


def _fill(path: Path, nester: ProcessNester) -> None:
    workshop = Workshop(path, nester, search_seconds=1)
    fill(workshop)
    # Designs are kept in the file: no copy has to work them out again.
    workshop.warm_up()
    workshop.close()


def _wait_for(path: Path) -> None:
    until = time.monotonic() + _LONGEST_S
    while not path.exists():
        if time.monotonic() > until:
            raise TimeoutError("the demo workshop was not filled; the first one to need it has failed")
        time.sleep(0.2)
