"""How two documents differ, so that a history need not keep each of them whole.

A difference is JSON itself: `{"to": value}` puts another value there; `{"in": {name: difference}, "out": [names]}`
changes fields of a group; `{"at": {place: difference}}` changes entries of a list of the same length, and
`{"from": n, "cut": n, "put": [...]}` exchanges a stretch of one. None stands for no difference.
"""

from typing import Any

Difference = dict[str, Any] | None


def difference(before: Any, after: Any) -> Difference:
    """The difference that makes `after` of `before`; see `applied`."""
    if isinstance(before, dict) and isinstance(after, dict):
        inner = {
            name: {"to": value} if name not in before else difference(before[name], value)
            for name, value in after.items()
        }
        changed = {name: one for name, one in inner.items() if one is not None}
        gone = [name for name in before if name not in after]
        return {"in": changed, "out": gone} if changed or gone else None
    if isinstance(before, list) and isinstance(after, list):
        return _of_lists(before, after)
    # 1, 1.0 and true are equal, but not the same.
    return None if before == after and type(before) is type(after) else {"to": after}


def _of_lists(before: list[Any], after: list[Any]) -> Difference:
    if len(before) == len(after):
        pairs = enumerate(zip(before, after, strict=True))
        changed = {str(place): difference(*pair) for place, pair in pairs if not _is_same(*pair)}
        kept = {place: one for place, one in changed.items() if one is not None}
        return {"at": kept} if kept else None
    most = min(len(before), len(after))
    start = next((n for n in range(most) if difference(before[n], after[n])), most)
    end = next((n for n in range(most - start) if difference(before[-1 - n], after[-1 - n])), most - start)
    return {"from": start, "cut": len(before) - start - end, "put": after[start : len(after) - end]}


def _is_same(before: Any, after: Any) -> bool:
    """Whether two entries are the same to the letter; most of a long list are, and this tells it at once."""
    return bool(before == after) and repr(before) == repr(after)


def applied(before: Any, change: Difference) -> Any:
    """The document that a difference makes of `before`; `before` itself stays as it is."""
    if change is None:
        return before
    if "to" in change:
        return change["to"]
    if "in" in change:
        kept = {name: value for name, value in before.items() if name not in change["out"]}
        return kept | {name: applied(before.get(name), one) for name, one in change["in"].items()}
    if "at" in change:
        return [applied(value, change["at"].get(str(place))) for place, value in enumerate(before)]
    start = change["from"]
    return [*before[:start], *change["put"], *before[start + change["cut"] :]]
