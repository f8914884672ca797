"""The workshop from another device: the passphrase, how often one may try, and what stays shut."""

import hashlib
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import select

from tests.conftest import disc_png
from vamper.api.app import create_app
from vamper.api.guard import _is_address
from vamper.api.lan.address import Lan
from vamper.core.values.findings import BadInput
from vamper.services.lan import passphrase
from vamper.services.lan.visitors import Visitors, Wait, Wrong
from vamper.services.workshop import Workshop
from vamper.store.tables import PreferenceRow

# An address for documentation (RFC 5737).
ADDRESS = "http://192.0.2.5:8484"
WORDS = "three green oars"


@pytest.fixture(autouse=True)
def cheap_hash(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """Guessing is not dear, but where that is looked at."""
    if "dear" not in request.node.name:
        monkeypatch.setitem(passphrase._COST, "n", 2**8)


class Clock:
    now = 1000.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def visitors(workshop: Workshop, clock: Clock) -> Visitors:
    workshop.passphrase.choose(WORDS)
    return Visitors(workshop.passphrase, clock)


@pytest.fixture
def phone(workshop: Workshop, visitors: Visitors) -> Iterator[TestClient]:
    """A device that is not this computer."""
    app = create_app(workshop, lan=Lan(ADDRESS, visitors, encrypted=False))
    with TestClient(app, base_url=ADDRESS, client=("192.0.2.77", 50000), follow_redirects=False) as client:
        yield client


def give(client: TestClient, words: str):  # type: ignore[no-untyped-def]
    return client.post("/enter", data={"passphrase": words}, headers={"origin": ADDRESS})


def test_the_passphrase_is_kept_as_a_hash_that_is_dear_to_guess(workshop: Workshop) -> None:
    workshop.passphrase.choose(WORDS)
    with workshop.sessions() as session:
        (row,) = session.scalars(select(PreferenceRow).where(PreferenceRow.key == "passphrase"))
    salt = bytes.fromhex(row.value["salt"])
    assert len(salt) == 16
    # Not less than RFC 7914 has for what is typed in.
    assert (
        row.value["hash"] == hashlib.scrypt(WORDS.encode(), salt=salt, n=2**15, r=8, p=1, maxmem=2**26, dklen=32).hex()
    )
    assert WORDS not in str(row.value)


def test_nothing_is_told_before_the_passphrase(phone: TestClient) -> None:
    for path in ("/", "/phone", "/assets/index.js", "/jobs/1/sheet"):
        answer = phone.get(path)
        assert answer.status_code == 401
        assert "Give the passphrase" in answer.text
        assert "not encrypted" in answer.text
    for path in ("/api/jobs", "/api/lan", "/api/catalog", "/api/openapi.json"):
        answer = phone.get(path)
        assert answer.status_code == 401
        assert answer.json()["title"] == "Passphrase needed"
    assert phone.post("/api/jobs", json={}).status_code == 401


def test_with_the_passphrase_pictures_come_in_and_the_bench_is_read(phone: TestClient) -> None:
    answer = give(phone, WORDS)
    assert (answer.status_code, answer.headers["location"]) == (303, "/phone")
    cookie = answer.headers["set-cookie"].lower()
    assert all(word in cookie for word in ("httponly", "samesite=strict", "max-age"))
    job = phone.post("/api/jobs", json={}).json()["id"]
    sent = phone.post(f"/api/jobs/{job}/art", files={"file": ("buoy.png", disc_png())})
    assert sent.status_code == 201
    steps = phone.get(f"/api/jobs/{job}/bench").json()
    assert [step["do"] for step in steps] == [
        "Print 1 page",
        "Let the ink dry",
        "Put the blade in",
        "Lay the sheet on the mat",
        "Let it read the marks",
        "The tell-tale",
        "Kiss cut",
        "Pause after the first piece",
        "Before you unload",
        "Take it off",
        "Afterwards",
    ]
    lan = phone.get("/api/lan").json()
    assert lan["address"] == f"{ADDRESS}/phone"
    assert "not encrypted" in lan["caution"]


def test_the_code_says_the_address(phone: TestClient) -> None:
    """Read back with OpenCV, which knows nothing of how it was made."""
    cv2 = pytest.importorskip("cv2")
    import re

    import numpy as np

    give(phone, WORDS)
    lan = phone.get("/api/lan").json()
    image = np.full((lan["side"], lan["side"]), 255, np.uint8)
    for x, y in re.findall(r"M(\d+) (\d+)h1", lan["code"]):
        image[int(y), int(x)] = 0
    read, *_ = cv2.QRCodeDetector().detectAndDecode(np.kron(image, np.ones((8, 8), np.uint8)))
    assert read == f"{ADDRESS}/phone"


def test_a_wrong_passphrase_ten_times_has_to_wait(phone: TestClient, clock: Clock) -> None:
    told = [give(phone, f"guess {n}") for n in range(10)]
    assert told[0].status_code == 401
    assert "not the passphrase" in told[0].text
    assert told[-1].status_code == 429
    assert "Too many wrong passphrases. Wait" in told[-1].text
    assert int(told[-1].headers["retry-after"]) > 0
    # The right one does not help before the wait is over, and does after it.
    assert give(phone, WORDS).status_code == 429
    clock.now += 20
    assert give(phone, WORDS).status_code == 303


def test_every_further_wrong_one_doubles_the_wait(visitors: Visitors, clock: Clock) -> None:
    for _ in range(5):
        with pytest.raises(Wrong):
            visitors.enter("a", "wrong")
    waits = []
    for _ in range(4):
        with pytest.raises(Wait) as wait:
            visitors.enter("a", "wrong")
        waits.append(wait.value.seconds)
        clock.now += wait.value.seconds + 0.1
        with pytest.raises(Wrong):
            visitors.enter("a", "wrong")
    assert waits == pytest.approx([15, 30, 60, 120])
    # Others may still come in.
    assert visitors.enter("b", WORDS)


def test_a_crowd_of_devices_has_to_wait_as_well(visitors: Visitors) -> None:
    for n in range(30):
        with pytest.raises(Wrong):
            visitors.enter(f"device {n}", "wrong")
    with pytest.raises(Wait):
        visitors.enter("one more", WORDS)


def test_a_session_ends_after_a_while_unused_and_with_the_server(
    workshop: Workshop, visitors: Visitors, clock: Clock
) -> None:
    token = visitors.enter("a", WORDS)
    clock.now += 11 * 3600
    assert visitors.is_in(token)
    clock.now += 11 * 3600
    assert visitors.is_in(token)
    clock.now += 13 * 3600
    assert not visitors.is_in(token)
    assert not Visitors(workshop.passphrase).is_in(visitors.enter("a", WORDS))


@pytest.mark.parametrize("cookie", ["", "vamper-session=", "vamper-session=wrong", 'vamper-session="\\"; x', "=;;="])
def test_no_other_cookie_opens(phone: TestClient, cookie: str) -> None:
    assert phone.get("/api/jobs", headers={"cookie": cookie}).status_code == 401


def test_other_sites_and_other_names_are_kept_out(phone: TestClient) -> None:
    give(phone, WORDS)
    assert phone.get("/api/jobs").status_code == 200
    assert phone.get("/api/jobs", headers={"host": "evil.example:8484"}).status_code == 421
    assert phone.post("/api/jobs", json={}, headers={"origin": "http://evil.example"}).status_code == 403
    assert give(phone, WORDS).status_code != 403
    wrong = phone.post("/enter", data={"passphrase": WORDS}, headers={"origin": "http://evil.example"})
    assert wrong.status_code == 403


def test_who_sits_at_this_computer_is_not_asked(workshop: Workshop, visitors: Visitors) -> None:
    app = create_app(workshop, lan=Lan(ADDRESS, visitors, encrypted=False))
    with TestClient(app, base_url="http://127.0.0.1:8484", client=("127.0.0.1", 50000)) as here:
        assert here.get("/api/jobs").status_code == 200
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as alone:
        assert alone.get("/api/lan").json() is None


def test_a_form_without_end_is_refused(phone: TestClient) -> None:
    assert phone.post("/enter", content=b"passphrase=" + b"a" * 5000).status_code == 413


@pytest.mark.parametrize("words", ["", "short", "a" * 201])
def test_a_poor_passphrase_is_not_taken(workshop: Workshop, words: str) -> None:
    with pytest.raises(BadInput, match="8 to 200 letters"):
        workshop.passphrase.choose(words)
    assert not workshop.passphrase.is_set


def test_the_passphrase_is_not_kept_as_it_was_typed(workshop: Workshop) -> None:
    workshop.passphrase.choose(WORDS)
    assert workshop.passphrase.is_right(WORDS)
    assert not workshop.passphrase.is_right(WORDS + " ")
    assert WORDS.encode() not in workshop.path.read_bytes()


@pytest.mark.parametrize(
    ("server", "scheme", "host", "is_it"),
    [
        (("192.0.2.5", 8484), "http", "192.0.2.5:8484", True),
        (("192.0.2.5", 80), "http", "192.0.2.5", True),
        (("192.0.2.5", 443), "https", "192.0.2.5", True),
        (("192.0.2.5", 443), "http", "192.0.2.5", False),
        (("192.0.2.5", 8484), "http", "192.0.2.5", False),
        (("2001:db8::5", 8484), "http", "[2001:db8::5]:8484", True),
        (("2001:db8::5", 443), "https", "[2001:db8::5]", True),
        (("192.0.2.5", 80), "http", "evil.example", False),
    ],
)
def test_an_address_is_known_as_browsers_write_it(server: tuple[str, int], scheme: str, host: str, is_it: bool) -> None:
    assert _is_address(host, {"type": "http", "server": server, "scheme": scheme}) == is_it
