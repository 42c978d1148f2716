"""Photos of the log: checked, kept once, located only where that is wanted, packed with the archive, and swept."""

import io
import zipfile
from uuid import uuid4

import pytest
from PIL import Image
from sqlalchemy import delete

from tests.app.test_stock import picture
from tests.conftest import BINARY, TODAY, without_ids
from ulmatic.formats.photos import photo
from ulmatic.platform.photos import keep_photo, photo_content
from ulmatic.records.log import PhotoRow
from ulmatic.site.photos import sweep_photos

ROW = {"kind": "ring_row", "canopy_m": "2 m", "trunk_m": "20 cm", "gap_m": "10 cm", "trees": 10, "spacing_m": "4 m"}


@pytest.fixture
def row(owner):
    """A row of ten trees that was laid and read."""
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="Quince row", use="young_tree", shape=ROW)
    return owner


def photo_of(person, content: bytes, photo_id: str | None = None, **params):
    return person.client.put(
        f"{person.site}/photos/{photo_id or uuid4()}", content=content, params=params, headers=BINARY
    )


def located() -> bytes:
    out, exif = io.BytesIO(), Image.Exif()
    exif.get_ifd(0x8825).update({1: "N", 2: (52.0, 30.0, 0.0), 3: "W", 4: (1.0, 15.0, 0.0)})
    Image.new("RGB", (800, 600), "tan").save(out, "JPEG", exif=exif)
    return out.getvalue()


def test_where_a_photo_was_taken_is_kept_only_where_that_is_wanted(owner):
    owner.add_plot()
    assert photo_of(owner, located()).json()["location"] is None
    with_place = photo_of(owner, located(), keep_location=True).json()
    assert with_place["location"] == pytest.approx([52.5, -1.25])
    address = f"{owner.sites.removesuffix('/sites')}/photos/{with_place['id']}"
    with Image.open(io.BytesIO(owner.client.get(address).content)) as image:
        assert dict(image.getexif()) == {}, "the file itself never says"


def test_photos_are_checked_sent_twice_and_seen_by_members_alone(owner, new_person):
    photo_id = str(uuid4())
    assert photo_of(owner, b"GIF89a nothing").status_code == 422
    assert photo_of(owner, located()[:4000]).status_code == 422
    for _ in range(2):
        assert photo_of(owner, picture(), photo_id).status_code == 201
    assert len(owner.client.get(f"{owner.site}/photos").json()) == 1
    other = new_person()
    assert other.client.get(f"/api/v1/workspaces/{owner.workspace_id}/photos/{photo_id}").status_code == 404
    assert other.client.get(f"/api/v1/workspaces/{other.workspace_id}/photos/{photo_id}").status_code == 404


def test_an_entry_names_photos_that_are_here_alone(owner):
    owner.add_plot()
    line = {
        "id": str(uuid4()),
        "plot_id": owner.plot_ids[-1],
        "on": TODAY.isoformat(),
        "units": "metric",
        "photos": [str(uuid4())],
        "entry": {"kind": "note"},
    }
    answer = owner.client.post(f"{owner.site}/log", json=line)
    assert answer.json()["errors"][0]["field"] == "photos"


def test_the_zip_holds_everything_and_reads_back_identically(row, new_person):
    photo_id = photo_of(row, located()).json()["id"]
    first = row.logs(TODAY, kind="measured", depth_mm="70 mm").json()
    more = {"note": "By the gate", "photos": [photo_id], "trees": {"first": 1, "last": 3}}
    reading = {"kind": "measured", "depth_mm": "60 mm"}
    assert row.corrects(first, TODAY, entry=reading, **more).status_code == 201
    archive = row.client.get(f"{row.site}/file.zip").content
    with zipfile.ZipFile(io.BytesIO(archive)) as zipped:
        assert len([name for name in zipped.namelist() if name.startswith("photos/")]) == 1
        packed = zipped.read("site.json")
    other, site_id = new_person(), str(uuid4())
    answer = other.restores(site_id, archive)
    assert answer.status_code == 200, answer.text
    other.site_id = site_id
    [entry] = [entry for entry in other.reads("log") if entry["note"]]
    assert entry["trees"] == {"first": 1, "last": 3}
    address = f"/api/v1/workspaces/{other.workspace_id}/photos/{entry['photos'][0]}"
    photo = f"/api/v1/workspaces/{row.workspace_id}/photos/{photo_id}"
    assert other.client.get(address).content == row.client.get(photo).content
    [original] = other.client.get(f"{other.site}/log/{entry['id']}/history").json()
    assert original["entry"]["depth_mm"] == 70
    second = other.client.get(f"{other.site}/file.zip").content
    with zipfile.ZipFile(io.BytesIO(second)) as zipped:
        assert without_ids(zipped.read("site.json")) == without_ids(packed)


@pytest.mark.parametrize("content", [b"PK\x03\x04 nothing", b"PK"])
def test_a_damaged_zip_is_refused(owner, content):
    answer = owner.restores(str(uuid4()), content)
    assert answer.status_code == 422
    assert "ZIP" in answer.text or "archive" in answer.text


def test_files_of_photos_that_no_row_names_are_swept(app, owner):
    owner.add_plot()
    photo_id = photo_of(owner, located()).json()["id"]
    address = f"{owner.sites.removesuffix('/sites')}/photos/{photo_id}"
    with app.state.sessions() as database:
        sweep_photos(database, older_than_s=0)
        assert owner.client.get(address).status_code == 200
        database.execute(delete(PhotoRow).where(PhotoRow.id == photo_id))
        lost = keep_photo(photo(picture((64, 48))))
        assert sweep_photos(database, older_than_s=0) >= 1
        assert photo_content(lost) is None
        database.rollback()
