"""What a request may hold: JSON that any file can hold too, and numbers that any list can be looked up by.

Every route is a `CheckedRoute`, so that nothing behind it meets halves of letters, numbers that are none, or nesting
without end.
"""

import json
from collections.abc import Callable, Coroutine
from typing import Annotated, Any, NoReturn, TypeVar

from annotated_types import Ge, Le
from anyio import CapacityLimiter, to_thread
from fastapi import APIRouter, Request, Response
from fastapi.routing import APIRoute

from vamper.api.problems import Refused
from vamper.formats.art_in.art_file import MOST_BYTES
from vamper.formats.art_in.art_zip import MOST_ZIP_BYTES

T = TypeVar("T")

# A multipart body carries a little more than the file in it; everything else is small.
MOST_FILE_BODY = MOST_BYTES + 64 * 1024
MOST_ZIP_BODY = MOST_ZIP_BYTES + 64 * 1024
MOST_BODY = 4 * 2**20

# A row of the workshop's file; larger numbers cannot be asked for.
Id = Annotated[int, Ge(1), Le(2**63 - 1)]
# A design in its job, a sheet of a job.
Number = Annotated[int, Ge(1), Le(1_000_000)]


# Requests that wait for a turn have threads of their own, so that a burst of them leaves the others theirs.
_WAITING_THREADS = 6
_waiting = CapacityLimiter(_WAITING_THREADS)


async def in_turn(work: Callable[[], T]) -> T:
    """Do what may have to wait for its turn, reading art or counting, without keeping others waiting."""
    return await to_thread.run_sync(work, limiter=_waiting)


def _no_number(_name: str) -> NoReturn:
    raise Refused("what was sent holds a number that is none; send finite numbers only")


class _Checked(Request):
    async def json(self) -> Any:
        body = await self.body()
        try:
            text = body.decode("utf-8")
            value = json.loads(text, parse_constant=_no_number)
            # A half of a letter passes as JSON, but can be written nowhere.
            json.dumps(value, ensure_ascii=False).encode("utf-8")
        except UnicodeError:
            raise Refused("what was sent holds broken letters; send it as UTF-8") from None
        except RecursionError:
            raise Refused("what was sent is nested too deeply") from None
        except json.JSONDecodeError:
            raise
        except ValueError:
            raise Refused("what was sent holds a number with too many digits") from None
        return value


class CheckedRoute(APIRoute):
    """A route that looks at what comes in before anything else does."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handler = super().get_route_handler()

        async def checked(request: Request) -> Response:
            return await handler(_Checked(request.scope, request.receive))

        return checked


def router(*tags: str) -> APIRouter:
    """The router of one subject."""
    return APIRouter(prefix="/api", route_class=CheckedRoute, tags=list(tags))
