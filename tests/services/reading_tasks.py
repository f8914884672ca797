"""Tasks for the reading room, in a file that a child reads in no time."""

import os
import time

import numpy as np

from vamper.core.values.findings import BadInput


def takes(megabytes: int) -> int:
    return int(np.ones(megabytes * 2**17).sum())


def ends_badly() -> None:
    os.abort()


def is_killed() -> None:
    os.kill(os.getpid(), 9)


def refuses() -> None:
    raise BadInput("it is not to be had", "there")


def sleeps() -> None:
    time.sleep(60)


def rests(seconds: float) -> str:
    time.sleep(seconds)
    return "rested"


def works_on() -> None:
    while True:
        pass


def twice(array: np.ndarray) -> dict[str, np.ndarray]:
    return {"first": array, "second": array * 2}
