"""The door: who may come in, what may be asked, and that nothing asked for by any route ends in a mistake of ours."""

import json
import os
import re
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from functools import cache
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import disc_png
from vamper.api.app import create_app
from vamper.api.request_checks import MOST_BODY
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop

BASE = "http://127.0.0.1:8484"
HEADERS = ("content-security-policy", "cross-origin-resource-policy", "x-content-type-options", "referrer-policy")


@pytest.fixture(scope="module")
def served(tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester) -> Iterator[tuple[TestClient, Workshop]]:
    """A workshop with one job of two designs behind its door."""
    workshop = Workshop(tmp_path_factory.mktemp("door") / "w.db", nester, search_seconds=1)
    with TestClient(create_app(workshop), base_url=BASE, raise_server_exceptions=False) as client:
        job = client.post("/api/jobs", json={"title": "Discs"}).json()["id"]
        assert job == 1
        for side in (300, 200):
            assert client.post("/api/jobs/1/art", files={"file": ("disc.png", disc_png(side))}).status_code == 201
        small = {"label": "small", "changes": {"paper": {"width_mm": 120, "height_mm": 180}}}
        assert client.post("/api/jobs/1/changes", json=small).status_code == 200
        client.post("/api/jobs/1/pack/begin")
        yield client, workshop


@pytest.fixture
def client(served: tuple[TestClient, Workshop]) -> TestClient:
    return served[0]


@pytest.mark.parametrize(
    "host", ["evil@127.0.0.1", "127.0.0.1:8484@evil.example", "127.0.0.1.evil.example", "127.0.0.1:x", "[::1", "", "0"]
)
def test_only_its_own_names_are_answered(client: TestClient, host: str) -> None:
    answer = client.get("/api/jobs", headers={"host": host})
    assert answer.status_code == 421
    assert all(name in answer.headers for name in HEADERS)


@pytest.mark.parametrize("method", ["GET", "POST"])
@pytest.mark.parametrize(
    "headers",
    [
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site"},
        {"origin": "http://["},
        {"origin": "null"},
        {"origin": "http://evil.example"},
        {"origin": "http://evil@127.0.0.1:8484"},
        {"origin": "https://127.0.0.1:8484"},
        {"origin": "http://127.0.0.1:9999"},
    ],
)
def test_other_sites_may_neither_read_nor_write(client: TestClient, method: str, headers: dict[str, str]) -> None:
    answer = client.request(method, "/api/jobs", headers=headers)
    assert answer.status_code == 403
    assert "own page" in answer.json()["detail"]


@pytest.mark.parametrize("site", ["same-origin", "none"])
def test_its_own_page_may_come_in(client: TestClient, site: str) -> None:
    assert client.get("/api/jobs", headers={"sec-fetch-site": site, "origin": BASE}).status_code == 200


def test_every_answer_carries_the_headers(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    def breaks(*_: object) -> None:
        raise RuntimeError("a bug")

    paths = ["/", "/api/jobs", "/api/nothing", "/api/jobs/99", "/assets/nothing.js", "/api/jobs/1/sheets/1/cut.svg"]
    for path in paths:
        assert all(name in client.get(path).headers for name in HEADERS), path
    monkeypatch.setattr("vamper.services.jobs.jobs.Jobs.all", breaks)
    answer = client.get("/api/jobs")
    assert answer.status_code == 500
    assert "nothing was lost" in answer.json()["detail"]
    assert all(name in answer.headers for name in HEADERS)


def test_what_is_named_by_what_it_holds_is_not_asked_for_again(client: TestClient) -> None:
    page = client.get("/jobs/1/sheet")
    assert page.headers["cache-control"] == "no-cache"
    (script,) = re.findall(r'src="(/assets/[^"]+)"', page.text)
    assert "immutable" in client.get(script).headers["cache-control"]
    assert "cache-control" not in client.get("/assets/nothing.js").headers


@pytest.mark.parametrize(
    ("method", "path"), [("POST", "/api/jobs"), ("POST", "/api/jobs/1/undo"), ("GET", "/api/jobs"), ("POST", "/api/no")]
)
def test_bodies_have_a_limit_declared_or_not(client: TestClient, method: str, path: str) -> None:
    def chunks() -> Iterator[bytes]:
        for _ in range(MOST_BODY // 2**20 + 2):
            yield b" " * 2**20

    declared = client.request(method, path, content=b" " * (MOST_BODY + 1))
    assert declared.status_code == 413
    assert "too large" in declared.json()["detail"]
    if path == "/api/jobs" and method == "POST":
        streamed = client.request(method, path, content=chunks(), headers={"content-type": "application/json"})
        assert streamed.status_code == 413


BAD: list[tuple[str, str, Any, str]] = [
    ("GET", f"/api/jobs/{2**63}", None, "at most"),
    ("GET", f"/api/jobs/{2**200}", None, "at most"),
    ("POST", "/api/jobs/1/fillers", {"job_id": 2**63, "number": 1, "least_mm": 9, "most_mm": 9}, "at most"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "changes": {"printer_id": 2**64}}, "less than"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "numbers": [2**65], "changes": {}}, "at most"),
    ("GET", "/api/jobs/1/sheets/99/cut.svg", None, "there is no sheet 99"),
    ("POST", "/api/jobs", {"title": 7}, "text"),
    ("POST", "/api/jobs", {"title": "\u202e\x00\n"}, "empty"),
    ("POST", "/api/jobs", [1], "group of fields"),
    ("GET", "/api/jobs/one", None, "whole number"),
    ("GET", "/api/jobs/1/how-many?shape=blob&size_mm=3", None, "one of"),
    ("GET", "/api/jobs/1/how-many?shape=circle&size_mm=inf", None, "at most"),
    ("GET", "/api/jobs/1/how-many?shape=circle&size_mm=nan", None, "must be"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "numbers": [1], "changes": {"prepare.crop": [1]}}, "entr"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "numbers": [1], "changes": {"edge": 3}}, "group of fields"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "changes": {"x" * 3000: 1}}, "unknown"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "changes": {"stock": "y" * 3000}}, "letters"),
    ("PATCH", "/api/jobs/1", {}, "does not take"),
    ("POST", "/api/jobs/1/art", None, "missing"),
    ("GET", "/api/jobs/1/reading?room=-1", None, "at least 0"),
    ("POST", "/api/jobs/1/changes", {"label": "x", "changes": {"room_light": -0.5}}, "at least 0"),
    ("POST", "/api/jobs/1/calibration/fit", {"readings": []}, "at least three"),
    ("POST", "/api/jobs/1/calibration/fit", {"readings": [{"scale": 0, "tick": 3}] * 9}, "one line"),
    ("POST", "/api/jobs/1/calibration/fit", {"readings": [{"scale": 0, "tick": 99}]}, "ticks from"),
    ("POST", "/api/jobs/1/calibration/fit", {"readings": [{"scale": 50, "tick": 1}]}, "none of them"),
    ("POST", "/api/jobs/1/proof", {"across": 10, "down": 99.8}, "slip of the pen"),
    ("POST", "/api/jobs/1/proof", {"across": 3.5, "down": 3.5, "unit": "in"}, "sure"),
    ("PUT", "/api/jobs/1/printing", {"school": "folklore"}, "no such choice"),
    ("POST", "/api/jobs/1/misses", {"misses": [{"dx_mm": 1e9, "dy_mm": 0}]}, "at most"),
    ("GET", "/api/jobs/1/sheets/1/page.png?ppi=5", None, "at least"),
]


@pytest.mark.parametrize(("method", "path", "body", "words"), BAD)
def test_every_refusal_is_a_sentence_for_people(
    client: TestClient, method: str, path: str, body: Any, words: str
) -> None:
    answer = client.request(method, path, json=body) if body is not None else client.request(method, path)
    assert 400 <= answer.status_code < 500
    told = answer.json()
    assert words in told["detail"]
    assert "input should" not in told["detail"].lower()
    assert len(told["detail"]) < 400
    assert len(told["where"]) <= 100


@pytest.mark.parametrize(
    "content",
    [
        b'{"title": "\\ud800"}',
        b'{"title": NaN}',
        b'{"title": ',
        b"\xff\xfe",
        b"[" * 100_000,
        b'{"title": 1' + b"0" * 6000 + b"}",
    ],
)
def test_json_that_nothing_else_could_hold_is_refused(client: TestClient, content: bytes) -> None:
    answer = client.post("/api/jobs", content=content, headers={"content-type": "application/json"})
    assert answer.status_code == 422
    assert "what was sent" in answer.json()["detail"]


def test_a_line_break_in_composed_text_is_a_space(client: TestClient) -> None:
    base = {"shape": "circle", "width_mm": 30}
    lines = [{"text": "one\ntwo\x07", "size_mm": 5, "x_mm": 15, "y_mm": 15}]
    answer = client.post("/api/compose/preview.png", json={"composition": {"base": base, "lines": lines}})
    assert answer.status_code == 200
    assert answer.content.startswith(b"\x89PNG")


# As it is kept for the front end's client; `test_the_generated_client_is_current` holds it to the routes.
WHOLE: Any = json.loads((Path(__file__).parents[2] / "ui" / "openapi.json").read_text())
# Every route with what it takes.
ADDRESSES: list[tuple[str, str, dict[str, Any]]] = [
    (method.upper(), path, taken) for path, methods in WHOLE["paths"].items() for method, taken in methods.items()
]


# What stands in an address for what it names.
FILLED = {
    "job_id": 1,
    "number": 1,
    "sheet": 1,
    "phrase": "stock",
    "digest": "0" * 64,
    "name": "x",
    "revision": "0",
    "kind": "pdf",
    "key": "cover-trim",
    "school": "photo",
    "record_id": 1,
    "drop": 0,
    "side": "across",
    "play_id": 1,
    "step": 0,
    "what": "sheet",
    "level": "easy",
    "seed": 1,
}


def dump(path: Path) -> list[str]:
    with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True)) as connection:
        return list(connection.iterdump())


def test_no_get_changes_anything(served: tuple[TestClient, Workshop]) -> None:
    client, workshop = served
    workshop.packing.stop(1)
    before = dump(workshop.path)
    runs = dict(workshop.packing._runs)
    read = 0
    for method, path, _ in ADDRESSES:
        if method != "GET" or path.endswith("/events"):
            continue
        filled = path.format(**FILLED)
        answer = client.get(filled, params={"shape": "circle", "size_mm": 30} if path.endswith("how-many") else {})
        assert answer.status_code < 500, filled
        read += answer.status_code == 200
    assert read >= 15
    assert dump(workshop.path) == before
    assert workshop.packing._runs == runs


# Anything at all, by every route

TEXT = st.text(max_size=30) | st.sampled_from(["\ud800", "\x00", "../x", "C:x.png", "1", "a" * 2000])
NUMBERS = st.integers() | st.integers(0, 3) | st.floats() | st.sampled_from([2**63, -1, 1e308])
SCALARS = st.none() | st.booleans() | NUMBERS | TEXT
ANYTHING = st.recursive(SCALARS, lambda inner: st.lists(inner, max_size=3) | st.dictionaries(TEXT, inner, max_size=3))


def _valued(schema: dict[str, Any], depth: int = 0) -> st.SearchStrategy[Any]:
    """Mostly what a schema asks for, now and then anything."""
    if "$ref" in schema:
        schema = WHOLE["components"]["schemas"][schema["$ref"].rpartition("/")[2]]
    if depth > 6:
        return ANYTHING
    for key in ("anyOf", "oneOf"):
        if key in schema:
            return st.one_of(*(_valued(one, depth + 1) for one in schema[key]))
    if "const" in schema or "enum" in schema:
        return st.sampled_from(schema.get("enum") or [schema["const"]]) | SCALARS
    kind = schema.get("type")
    if kind == "object":
        fields = schema.get("properties", {})
        values = {name: _valued(one, depth + 1) for name, one in fields.items()}
        needed = {name: values.pop(name) for name in schema.get("required", ()) if name in values}
        wanted = st.fixed_dictionaries(needed, optional=values)
        return wanted | st.dictionaries(TEXT, ANYTHING, max_size=2)
    if kind == "array":
        return st.lists(_valued(schema.get("items", {}), depth + 1), max_size=3) | SCALARS
    plain: dict[str, st.SearchStrategy[Any]] = {
        "integer": st.integers(0, 3) | NUMBERS,
        "number": st.floats(0, 300) | NUMBERS,
        "boolean": st.booleans() | SCALARS,
        "string": TEXT | st.sampled_from(["edge.kind", "stock", "circle", "#112233"]),
        "null": st.none(),
    }
    return plain.get(str(kind), ANYTHING)


@cache
def _body(number: int) -> st.SearchStrategy[Any] | None:
    """What one of the routes takes as JSON."""
    body = ADDRESSES[number][2].get("requestBody", {}).get("content", {}).get("application/json")
    return None if body is None else _valued(body["schema"])


@st.composite
def requests(draw: st.DrawFn) -> tuple[str, str, dict[str, Any], bytes | None]:
    number = draw(st.integers(0, len(ADDRESSES) - 1))
    method, path, taken = ADDRESSES[number]
    query = {}
    for one in taken.get("parameters", []):
        value = draw(_valued(one["schema"]))
        plain = str(value).encode("utf-8", "replace").decode("utf-8")
        if one["in"] == "path":
            # Most of the time the job and the design that are there.
            there = draw(st.sampled_from(["1", "1", "1", "2", ""]))
            safe = "".join(c for c in plain if c.isalnum() or c in "-.")[:60] or "0"
            path = path.replace(f"{{{one['name']}}}", there or safe)
        else:
            query[one["name"]] = plain
    body = _body(number)
    content = None if body is None else json.dumps(draw(body)).encode("utf-8", "surrogatepass")
    return method, path, query, content


@settings(
    max_examples=int(os.environ.get("VAMPER_FUZZ", "80")),
    deadline=None,
    suppress_health_check=list(HealthCheck),
    derandomize="VAMPER_FUZZ" not in os.environ,
)
@given(request=requests())
def test_no_route_ends_in_a_mistake_of_ours(
    served: tuple[TestClient, Workshop], request: tuple[str, str, dict[str, Any], bytes | None]
) -> None:
    client, workshop = served
    method, path, query, content = request
    if path.endswith("/events") or (method == "DELETE" and path.startswith("/api/jobs/")):
        return
    if not workshop.jobs.get(1).document.items:
        # What came before took the last design off, as it may.
        client.post("/api/jobs/1/art", files={"file": ("disc.png", disc_png())})
    headers = {"content-type": "application/json"}
    answer = client.request(method, path, params=query, content=content, headers=headers)
    assert answer.status_code < 500, answer.text
    if answer.status_code >= 400:
        told = answer.json()
        assert told["detail"]
        assert "input should" not in told["detail"].lower()


def test_every_route_that_names_a_sheet_says_that_there_is_none(client: TestClient) -> None:
    """One rule for all of them: what is asked of another sheet than there are is never answered for another one."""
    paths = client.app.openapi()["paths"]  # type: ignore[attr-defined]
    naming = [(method, path) for path, methods in paths.items() for method in methods if "{sheet}" in path]
    assert len(naming) > 12
    client.post("/api/jobs/1/stop")
    assert client.post("/api/jobs/1/hand-off").status_code == 204
    assert client.post("/api/jobs/1/ladders", json={"cut": "kiss", "passes": 1}).status_code == 201
    records = client.get("/api/jobs/1/force?cut=kiss").json()["records"]
    named = {"job_id": "1", "sheet": "99", "key": "cover-trim", "record_id": str(records[0]["id"])}
    for method, path in naming:
        kinds = {"helpers": "pdf", "sample-": "print"}
        kind = next((word for part, word in kinds.items() if part in path), "svg")
        address = path.format(**named, kind=kind)
        sent: dict[str, Any] = {}
        if method == "post":
            sent = {"json": {"kind": "print"}} if path.endswith("sample") else {"data": {"kind": "print"}}
        if path.endswith("/photo"):
            sent["files"] = {"file": ("sheet.png", disc_png(300))}
        if path.endswith("result.jpg"):
            address += "?number=1"
        answer = client.request(method.upper(), address, **sent)
        assert answer.status_code == 404, (method, path, answer.text[:200])
