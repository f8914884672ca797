"""Files that come in, well made or not: each is taken or refused with a sentence, and every page answers afterwards."""

import json
from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from tests.api.test_request_checks import ADDRESSES, BASE, FILLED
from tests.conftest import disc_png
from tests.core.test_ledger import run_with, torn
from tests.tried import tried
from vamper.api.app import create_app
from vamper.core.ledger.run import LaterCheck, LaterKind, Run
from vamper.formats.runs_file import COLUMNS, write_runs_csv
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop

AT = datetime(2026, 5, 2, 18, 0, tzinfo=UTC)
_RUN = TypeAdapter(Run)
ODD = st.sampled_from(
    [
        None,
        -1,
        0,
        1,
        2**63,
        1e308,
        "",
        "nan",
        "x" * 300,
        "=1+1",
        "9999-12-31T23:59:59-12:00",
        "0001-01-01",
        [],
        {},
        True,
    ]
)


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester) -> Iterator[TestClient]:
    workshop = Workshop(tmp_path_factory.mktemp("files") / "w.db", nester, search_seconds=1)
    with TestClient(create_app(workshop), base_url=BASE, raise_server_exceptions=False) as found:
        found.post("/api/jobs", json={"title": "Discs"})
        assert found.post("/api/jobs/1/art", files={"file": ("disc.png", disc_png())}).status_code == 201
        found.post("/api/jobs/1/pack/begin")
        workshop.packing.stop(1)
        yield found


def every_page_answers(client: TestClient, only: tuple[str, ...] = ("/",)) -> None:
    for method, path, _ in ADDRESSES:
        if method != "GET" or path.endswith("/events") or not path.removeprefix("/api").startswith(only):
            continue
        filled = path.format(**FILLED)
        answer = client.get(filled, params={"shape": "circle", "size_mm": 30} if path.endswith("how-many") else {})
        assert answer.status_code < 500, (filled, answer.text)


THE_LEDGER = ("/ledger", "/supplies", "/offcuts", "/diagnosis", "/jobs/{job_id}/cost", "/evening")


def taken(answer: Any) -> None:
    assert answer.status_code < 500, answer.text
    if answer.status_code >= 400:
        assert answer.json()["detail"]


@st.composite
def ledgers(draw: st.DrawFn) -> bytes:
    """A ledger as it is written, with some of its fields something else."""
    run = {"made_at": AT.isoformat(), **_RUN.dump_python(run_with(*torn(1)), mode="json")}
    bought = {"bought_at": AT.isoformat(), "thing": "ink", "amount": 60.0, "price": 21.0, "name": "black"}
    offcut = {"kept_at": AT.isoformat(), "stock": "card", "paper": {"width_mm": 100, "height_mm": 80}, "name": "rest"}
    document: dict[str, Any] = {"format": "vamper-ledger", "version": 1}
    document |= {"runs": [run], "bought": [bought], "offcuts": [offcut], "rates": {"currency": "€", "hour": 12}}
    # Taken before anything is changed: what holds them may be something else afterwards.
    entries = [run, bought, offcut, document["rates"], run["settings"][0], run["spoilt"][0]]
    for _ in range(draw(st.integers(1, 3))):
        entry = draw(st.sampled_from(entries))
        key = draw(st.sampled_from(sorted(entry)))
        entry[key] = draw(ODD)
    return json.dumps(document).encode()


@st.composite
def tables(draw: st.DrawFn) -> bytes:
    """A table of runs with some of its cells something else."""
    rows = [line.split(",") for line in write_runs_csv([(AT, run_with(*torn(1)))]).decode().splitlines()]
    cells = st.sampled_from(["", "1e999", "-1", "1.5", "x", "9999-12-31", "a;b", "0 torn; 0 off 1 1", "=1", "wash"])
    for _ in range(draw(st.integers(1, 3))):
        rows[1][draw(st.integers(0, len(COLUMNS) - 1))] = draw(cells)
    return "\r\n".join(",".join(row) for row in rows).encode()


@given(ledgers() | tables())
@tried(40)
def test_a_ledger_that_came_in_breaks_no_page(client: TestClient, data: bytes) -> None:
    taken(client.post("/api/ledger/runs", files={"file": ("in", data)}))
    every_page_answers(client, THE_LEDGER)


AMOUNTS = st.sampled_from([0, 1e-9, 0.001, 1, 1e6, 1e308, -1, None, "x"])


@given(st.sampled_from(["ink", "laminate", "coat", "blank", "blade", "tea"]), AMOUNTS, AMOUNTS)
@tried(30)
def test_a_purchase_breaks_no_page(client: TestClient, thing: str, amount: Any, price: Any) -> None:
    taken(client.post("/api/supplies/things", json={"thing": thing, "amount": amount, "price": price}))
    taken(client.post("/api/supplies", json={"stock": "satin-vinyl", "sheets": amount, "price": price}))
    every_page_answers(client, THE_LEDGER)


FIGURES = st.dictionaries(
    st.sampled_from(["coats", "coat_minutes", "oven_c", "press_c", "press_s", "soak_s", "magic"]),
    st.sampled_from([0, -1, 1, 3, 150, 275, 9999, 1e7, 1e12]),
    max_size=3,
)


@given(FIGURES)
@tried(20)
def test_what_a_label_says_breaks_no_page(client: TestClient, figures: dict[str, float]) -> None:
    taken(client.put("/api/jobs/1/finish/labels", json={"figures": figures}))
    taken(client.post("/api/jobs/1/evening"))
    taken(client.put("/api/evening/batches/1/labels", json={"figures": figures}))
    every_page_answers(client, ("/evening", "/jobs/{job_id}/finish"))


@pytest.mark.parametrize(
    ("run", "at", "says"),
    [
        (run_with(cause="the moon"), AT, "no cause"),
        (run_with(), datetime(9999, 12, 31, tzinfo=UTC), "9999-12-31"),
        (run_with(), datetime(1066, 10, 14, tzinfo=UTC), "1066-10-14"),
        (run_with(*torn(9)), AT, "does not lie on this sheet"),
    ],
)
def test_a_run_that_cannot_have_been_is_named_and_nothing_comes_in(
    client: TestClient, run: Run, at: datetime, says: str
) -> None:
    before = client.get("/api/ledger").json()["total"]
    csv = write_runs_csv([(AT, run_with(title="good")), (at, run)])
    answer = client.post("/api/ledger/runs", files={"file": ("runs.csv", csv)})
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert client.get("/api/ledger").json()["total"] == before


def test_a_table_that_comes_in_again_brings_nothing_new(client: TestClient) -> None:
    noted = run_with(note="a note;\nof two lines", later=(LaterCheck(LaterKind.WASH, True, "held, a little pale"),))
    client.post("/api/ledger/runs", files={"file": ("runs.csv", write_runs_csv([(AT, noted)]))})
    again = client.get("/api/ledger/runs.csv").content
    answer = client.post("/api/ledger/runs", files={"file": ("runs.csv", again)}).json()
    assert answer["taken"] == 0
    whole = client.get("/api/ledger/ledger.json").content
    answer = client.post("/api/ledger/runs", files={"file": ("ledger.json", whole)}).json()
    assert (answer["taken"], answer["on_shelf"]) == (0, 0)


def test_a_run_of_years_ago_is_an_old_one(client: TestClient) -> None:
    csv = write_runs_csv([(datetime(2020, 1, 1, tzinfo=UTC), run_with(title="long ago"))])
    assert client.post("/api/ledger/runs", files={"file": ("runs.csv", csv)}).json()["taken"] == 1
    titles = [one["title"] for one in client.get("/api/ledger").json()["runs"]]
    assert titles[-1] == "long ago"


def test_after_all_of_it_every_page_answers_and_all_of_it_can_be_removed(client: TestClient) -> None:
    every_page_answers(client)
    for run in client.get("/api/ledger").json()["runs"]:
        assert client.delete(f"/api/ledger/runs/{run['id']}").status_code == 204
    assert client.get("/api/ledger").json()["total"] == 0
    supplies = client.get("/api/supplies").json()
    assert supplies
    every_page_answers(client)


def test_corners_that_no_sheet_has_are_refused(client: TestClient) -> None:
    form = {"width_mm": "100", "height_mm": "80"}
    for corners in (
        "0,0,1,1,1,0,0,1",
        "0,0,0,1,1,1,1,0",
        "0,0,1,0,1e38,1,0,1".replace("1e38", "9" * 38),
        "0,0,0,0,0,0,0,0",
    ):
        answer = client.post(
            "/api/offcuts/look", data={**form, "corners": corners}, files={"file": ("sheet.png", disc_png())}
        )
        assert answer.status_code == 422, corners
        assert answer.json()["where"] == "corners"


def test_a_sheet_of_the_largest_size_is_looked_at_in_little(client: TestClient) -> None:
    """Once 74 seconds and 20 GB."""
    form = {"width_mm": "3000", "height_mm": "3000", "corners": "0,0,1,0,1,1,0,1"}
    answer = client.post("/api/offcuts/look", data=form, files={"file": ("sheet.png", disc_png())})
    assert answer.status_code == 200, answer.text
