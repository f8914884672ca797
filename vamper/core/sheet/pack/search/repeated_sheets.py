"""Many sheets of few designs: a sheet that is found once is laid as often as the order has pieces for it.

A sheet found in a second is filled less than one that had ten, so the time goes to few sheets that are each laid many
times. What one of them may hold of each design is what the order still wants of it over how often the sheet is to be
laid; that is as often as leaves enough to choose from. What no repetition takes is laid at the end, sheet by sheet.
"""

from collections import Counter

from vamper.core.sheet.pack.search.promise import Progress
from vamper.core.sheet.pack.search.run import HOPELESS_FILL, LEAST_ATTEMPT_S, ODD, SearchRun
from vamper.core.values.placement import Sheet

# A sheet chooses among so many times what it is likely to hold.
_CHOICE = 1.12
# Of the time left, the least and the most for one sheet that is not the last.
_LEAST_SHARE, _MOST_SHARE = 0.15, 0.45
# How patient an attempt is that asks for hardly more than lies already.
_PATIENCE, _HAIR = 4.0, 1e-6


def lay_repeated(run: SearchRun, stop_at: float, seed: int, known: list[Sheet], wanted: int | None) -> None:
    """Offer layouts of all free pieces; what is left over when time is up lies in rows of boxes.

    Parameters
    ----------
    stop_at : float
        It ends when only so many seconds are left.
    known : list of Sheet
        Sheets that were found before, which this adds to.
    wanted : int or None
        How many sheets it is to take: one that is laid once is made no fuller than that asks for. None for as few as
        it gets.
    """
    remaining, sheets = run.free.copy(), list[Sheet]()
    while remaining.total() and (left := run.watch.seconds_left() - stop_at) > 0:
        likely = min(HOPELESS_FILL, run.likely_fill(remaining, _MOST_SHARE * left))
        rest = _load_of(run, remaining) / run.room
        to_come = rest / likely
        times = _times(run, remaining, likely, int(to_come))
        choice = shared_out(remaining, times)
        enough = rest / max(1, wanted - len(sheets)) if wanted and times == 1 else HOPELESS_FILL
        best = max((one for one in known if holds_of(one) <= choice), key=lambda one: _load(run, one), default=())
        share = min(_MOST_SHARE, max(_LEAST_SHARE, times / to_come)) if to_come > 1 else 1.0
        sheet = full_sheet(run, choice, likely, share * left, ODD * seed, best, enough)
        if not sheet:
            break
        if sheet not in known:
            known.append(sheet)
        holds = holds_of(sheet)
        times = min(remaining[item] // count for item, count in holds.items())
        sheets += [sheet] * times
        remaining -= Counter({item: times * count for item, count in holds.items()})
        run.offer((*sheets, *run.in_rows(remaining, len(sheets))))


def shared_out(remaining: Counter[int], times: int) -> Counter[int]:
    """The pieces that a sheet may hold of each design where it is laid so many times."""
    return +Counter({item: count // times for item, count in remaining.items()})


def _times(run: SearchRun, remaining: Counter[int], likely: float, at_most: int) -> int:
    """How often the next sheet is to be laid: as often as leaves it enough to choose from."""
    enough = _CHOICE * likely * run.room
    for times in range(at_most, 1, -1):
        if run.load_of(list(shared_out(remaining, times).elements())) >= enough:
            return times
    return 1


def full_sheet(
    run: SearchRun, choice: Counter[int], likely: float, seconds: float, seed: int, best: Sheet, enough: float
) -> Sheet:
    """The sheet of most area found in so many seconds: as full as is promised, then fuller, then a little fuller than
    the best from other seeds.

    Parameters
    ----------
    choice : Counter of int
        What it may hold at most of each design.
    likely, enough : float
        The fill to begin with, and the fill at which it ends, as shares of the sheet's room.
    best : Sheet
        The best sheet that is known already.
    """
    stop_at = run.watch.seconds_left() - seconds
    fill, tries = likely, 0
    while (left := run.watch.seconds_left() - stop_at) >= LEAST_ATTEMPT_S or not tries:
        least = (_load(run, best) + _smallest(run, choice)) / run.room
        group = loaded(run, choice, max(min(fill, max(enough, likely)), least + _HAIR))
        load = _load_of(run, group) / run.room
        if load > HOPELESS_FILL or not group or _load(run, best) >= enough * run.room:
            break
        way = Progress(load, max(LEAST_ATTEMPT_S, left), _PATIENCE if best and fill <= least else 1.0)
        sheet = run.nested(group, run.plain, way.seconds, None, way, seed + tries)
        sheet = run.topped_up(run.plain, sheet, choice - holds_of(sheet))
        best = max(best, sheet, key=lambda one: _load(run, one))
        # What an engine says nothing of at all it will say nothing of again.
        if len(best) == choice.total() or not way.fill:
            break
        fill, tries = way.promises(run.watch.seconds_left() - stop_at), tries + 1
    return best


def holds_of(sheet: Sheet) -> Counter[int]:
    return Counter(one.item for one in sheet)


def _load(run: SearchRun, sheet: Sheet) -> float:
    return run.load_of([one.item for one in sheet])


def _load_of(run: SearchRun, group: Counter[int]) -> float:
    return run.load_of(list(group.elements()))


def _smallest(run: SearchRun, choice: Counter[int]) -> float:
    return min(run.areas[item] for item in choice)


def loaded(run: SearchRun, waiting: Counter[int], fill: float) -> Counter[int]:
    """The pieces of `waiting` that load a sheet to a share of its room, each design in proportion to its number."""
    share = fill * run.room / max(1e-9, run.load_of(list(waiting.elements())))
    if share >= 1:
        return +waiting
    group = Counter({item: int(count * share) for item, count in waiting.items()})
    load = run.load_of(list(group.elements()))
    for item in run.largest_first(waiting - group):
        if load + run.areas[item] <= fill * run.room:
            group[item] += 1
            load += run.areas[item]
    return +group
