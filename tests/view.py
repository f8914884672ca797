"""A job's view put together from its parts, as the front end does."""

from typing import Any

import httpx

FIELDS = ("item_number", "x_mm", "y_mm", "turn_deg", "pin")


def view_of(client: httpx.Client, job: int) -> dict[str, Any]:
    """A view as it is sent to somebody who knows nothing of it yet."""
    found: dict[str, Any] = client.get(f"/api/jobs/{job}").json()
    return found


def whole_view(client: httpx.Client, job: int) -> dict[str, Any]:
    """A view with all its parts as its plan, None where there is none."""
    view = view_of(client, job)
    return {**view, "plan": _plan_of(view) if view["parts"] else None}


def plan_of(client: httpx.Client, job: int) -> dict[str, Any]:
    """Everything about a job's plan in one."""
    return _plan_of(view_of(client, job))


def _plan_of(view: dict[str, Any]) -> dict[str, Any]:
    parts = view["parts"]
    found: dict[str, Any] = {"packing": parts["packing"], "items": parts["new_designs"]}
    for name in ("sheet", "layout", "cut"):
        found |= parts[f"new_{name}"]
    wanted = {item["number"]: item["quantity"] for item in view["job"]["document"]["items"]}
    for item in found["items"]:
        item["wanted"] = wanted[item["number"]]
    for sheet in found["sheets"]:
        sheet["placements"] = placements(sheet["pieces"], found["pins"])
    return found


def placements(pieces: list[float], pins: list[str]) -> list[dict[str, Any]]:
    """Pieces out of their numbers, five each."""
    rows = [pieces[n : n + 5] for n in range(0, len(pieces), 5)]
    return [dict(zip(FIELDS, (int(a), x, y, turn, pins[int(pin)]), strict=True)) for a, x, y, turn, pin in rows]


def figures_of(client: httpx.Client, job: int) -> dict[str, Any]:
    """How good its layout is, which the front end asks for once that is drawn."""
    revision = view_of(client, job)["parts"]["layout"]
    found: dict[str, Any] = client.get(f"/api/jobs/{job}/parts/figures/{revision}").json()
    return found
