"""The keys of layouts that were found before designs went by their numbers, so that none of them is searched for again.

They digest the same as `posed.key_of`, in the words of that time, with each design named by its place.
"""

import hashlib

import shapely

from vamper.core.sheet.pack.problem import PackProblem


def older_key_of(problem: PackProblem) -> str:
    """The key of a problem's layout in version 1."""
    digest = hashlib.sha256()
    places = {}
    for place, piece in enumerate(problem.pieces):
        places[piece.item] = place
        rules = (piece.quantity, piece.cut, piece.bleed_mm, piece.turn, piece.wish, piece.sheet_colour)
        digest.update(f"{place}:{rules!r}:".encode())
        digest.update(shapely.to_wkb(piece.edge))
    digest.update(shapely.to_wkb(problem.live))
    digest.update(f"({_spec(problem)}, {_held(problem, places)})".encode())
    if problem.first_live is not None:
        digest.update(shapely.to_wkb(problem.first_live))
    return digest.hexdigest()[:32]


def _spec(problem: PackProblem) -> str:
    spec = problem.spec
    mode = f"<PackingMode.{spec.mode.upper().replace('-', '_')}: {spec.mode!r}>"
    return (
        f"PackingSpec(gap_mm={spec.gap_mm!r}, turn={spec.turn!r}, max_sheets={spec.max_sheets!r}, mode={mode}, "
        f"fill={spec.fill!r})"
    )


def _held(problem: PackProblem, places: dict[int, int]) -> str:
    pieces = [
        f"HeldPiece(item={places[one.item]!r}, sheet={sheet!r}, x_mm={one.x_mm!r}, y_mm={one.y_mm!r}, "
        f"turn_deg={one.turn_deg!r}, pin={one.pin!r})"
        for sheet, lying in enumerate(problem.held)
        for one in lying
    ]
    return f"({', '.join(pieces)}{',' if len(pieces) == 1 else ''})"
