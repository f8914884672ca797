"""When a lesson comes back: where it was lost, after a day; each time it goes well then, later; then not any more.

Lost is a lesson whose order was not filled. One that goes well the first time is known and does not come back.
"""

from collections.abc import Iterable

INTERVALS_DAYS = (1, 7, 30)


def days_until(played: Iterable[bool]) -> int | None:
    """How many days after the last play a lesson is due again, from whether each play of it was passed, the oldest
    first; None where it was never lost, or went well often enough since.
    """
    place: int | None = None
    for passed in played:
        if not passed:
            place = 0
        elif place is not None:
            place = place + 1 if place + 1 < len(INTERVALS_DAYS) else None
    return None if place is None else INTERVALS_DAYS[place]
