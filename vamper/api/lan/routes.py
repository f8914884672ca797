"""Where a phone finds this server, as an address and as a code to point its camera at."""

import segno
from fastapi import Request
from pydantic import BaseModel

from vamper.api.lan.address import Lan
from vamper.api.lan.auth import CAUTION
from vamper.api.request_checks import router as door_router

router = door_router("lan")

# Blank squares round the code, as its standard asks for (ISO/IEC 18004).
_QUIET = 4


class LanOut(BaseModel):
    """`code` is the QR code of the address as one path of unit squares, `side` its width with the blank round it."""

    address: str
    caution: str
    code: str
    side: int


@router.get("/lan")
def get_lan(request: Request) -> LanOut | None:
    """Nothing where other devices cannot reach this server."""
    lan: Lan | None = request.app.state.lan
    if lan is None:
        return None
    address = f"{lan.address}/phone"
    rows = list(segno.make(address, error="m", micro=False).matrix)
    squares = [(x, y) for y, row in enumerate(rows) for x, dark in enumerate(row) if dark]
    path = "".join(f"M{x + _QUIET} {y + _QUIET}h1v1h-1z" for x, y in squares)
    return LanOut(address=address, caution="" if lan.encrypted else CAUTION, code=path, side=len(rows) + 2 * _QUIET)
