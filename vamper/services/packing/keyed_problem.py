"""A packing problem with its key: a digest of everything that decides a layout."""

from dataclasses import dataclass

import numpy as np

from vamper.core.sheet.pack.problem import PackProblem
from vamper.services.work.keys import digest_of

_KEY = ("layout", 3)


@dataclass(frozen=True, slots=True)
class KeyedProblem:
    """A problem with its key, which takes a while to work out."""

    problem: PackProblem
    key: str

    @classmethod
    def of(cls, problem: PackProblem) -> "KeyedProblem":
        return cls(problem, key_of(problem))


def key_of(problem: PackProblem) -> str:
    """A digest of everything that decides a layout; the seed does not, whichever of its layouts is best is kept."""
    pins = [[one.pin.value for one in sheet] for sheet in problem.held]
    places = [np.array([(one.item, one.x_mm, one.y_mm, one.turn_deg) for one in sheet]) for sheet in problem.held]
    return digest_of(*_KEY, problem.pieces, problem.live, problem.first_live, problem.spec, places, pins)
