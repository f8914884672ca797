"""A packing problem with its key: a digest of everything that decides a layout."""

import hashlib
from dataclasses import dataclass

import shapely

from vamper.core.sheet.pack.problem import PackProblem


@dataclass(frozen=True, slots=True)
class Posed:
    """A problem with its key, which takes a while to work out."""

    problem: PackProblem
    key: str

    @classmethod
    def of(cls, problem: PackProblem) -> "Posed":
        return cls(problem, key_of(problem))


def key_of(problem: PackProblem) -> str:
    """A digest of everything that decides a layout."""
    digest = hashlib.sha256()
    for piece in problem.pieces:
        rules = (piece.quantity, piece.cut, piece.bleed_mm, piece.turn, piece.wish, piece.sheet_colour)
        digest.update(f"{piece.item}:{rules!r}:".encode())
        digest.update(shapely.to_wkb(piece.edge))
    digest.update(shapely.to_wkb(problem.live))
    digest.update(repr((problem.spec, problem.held)).encode())
    if problem.first_live is not None:
        digest.update(shapely.to_wkb(problem.first_live))
    return digest.hexdigest()[:32]
