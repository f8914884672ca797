"""A zip of pictures: its pictures come in one by one, what is none is named, and a bomb is refused."""

import io
import zipfile

import pytest
from fastapi.testclient import TestClient

from tests.api.test_api import client, job  # noqa: F401
from tests.conftest import disc_png
from vamper.formats.art_in.art_file import MOST_BYTES


def zipped(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as bundle:
        for name, data in files.items():
            bundle.writestr(name, data)
    return out.getvalue()


def sent(client: TestClient, job: int, data: bytes, name: str = "bundle.zip"):  # type: ignore[no-untyped-def]  # noqa: F811
    return client.post(f"/api/jobs/{job}/art-zips", files={"file": (name, data, "application/zip")})


def test_pictures_come_in_by_their_names_and_what_is_none_is_named(client: TestClient, job: int) -> None:  # noqa: F811
    disc = disc_png()
    held = sent(
        client,
        job,
        zipped(
            {
                "buoys/10 far.png": disc,
                "buoys/2 near.png": disc,
                "../outside.png": disc,
                "readme.txt": b"thank you",
                "__MACOSX/._2 near.png": b"\0",
                "buoys/.DS_Store": b"\0",
                "licence.PDFX": b"%",
            }
        ),
    ).json()
    assert [one["name"] for one in held["pictures"]] == ["2 near.png", "10 far.png", "outside.png"]
    assert sorted(held["left_out"]) == ["licence.PDFX", "readme.txt"]
    before = len(client.get(f"/api/jobs/{job}").json()["job"]["document"]["items"])
    for one in held["pictures"]:
        added = client.post(f"/api/jobs/{job}/art-zips/{held['number']}/{one['place']}")
        assert added.status_code == 201
        assert added.json()["name"] in one["name"]
    items = client.get(f"/api/jobs/{job}").json()["job"]["document"]["items"]
    assert len(items) == before + 3
    # What is no picture of it cannot be asked for.
    assert client.post(f"/api/jobs/{job}/art-zips/{held['number']}/3").status_code == 404
    assert client.post(f"/api/jobs/{job}/art-zips/999/0").status_code == 404


def test_a_picture_that_is_none_inside_loses_none_of_the_others(client: TestClient, job: int) -> None:  # noqa: F811
    held = sent(client, job, zipped({"a.png": b"no picture", "b.png": disc_png()})).json()
    answers = [client.post(f"/api/jobs/{job}/art-zips/{held['number']}/{place}") for place in (0, 1)]
    assert [one.status_code for one in answers] == [422, 201]
    assert answers[0].json()["where"] == "a.png"


def test_what_unpacks_to_more_than_a_picture_may_have_is_refused(client: TestClient, job: int) -> None:  # noqa: F811
    bomb = zipped({"bomb.png": b"\0" * (MOST_BYTES + 1000)})
    assert len(bomb) < 200_000
    held = sent(client, job, bomb).json()
    refused = client.post(f"/api/jobs/{job}/art-zips/{held['number']}/0")
    assert refused.status_code == 422
    assert "64 MB that fit" in refused.json()["detail"]


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"no zip at all", "not a zip inside"),
        (b"PK\x03\x04 and then nothing", "broken or cut short"),
        (zipped({"readme.txt": b"hello"}), "holds no picture"),
        (zipped({f"{n}.png": b"" for n in range(501)}), "501 pictures"),
    ],
)
def test_a_zip_that_cannot_be_used_gets_a_sentence(client: TestClient, job: int, data: bytes, words: str) -> None:  # noqa: F811
    refused = sent(client, job, data)
    assert refused.status_code == 422
    assert words in refused.json()["detail"]


def test_a_locked_picture_says_so(client: TestClient, job: int) -> None:  # noqa: F811
    data = bytearray(zipped({"a.png": disc_png()}))
    for at in (data.find(b"PK\x03\x04") + 6, data.find(b"PK\x01\x02") + 8):
        data[at] |= 1
    held = sent(client, job, bytes(data)).json()
    refused = client.post(f"/api/jobs/{job}/art-zips/{held['number']}/0")
    assert "locked with a password" in refused.json()["detail"]
