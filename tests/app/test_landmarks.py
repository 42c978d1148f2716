"""Tips, pile places and ways, and the climate of a site."""

from typing import Any
from uuid import uuid4

import pytest

from tests.conftest import without_ids

WAY = {"kind": "way", "points_m": "0, 0\n20, 0\n20, 15", "width_m": "90 cm", "climb_m": "1.5 m"}


@pytest.fixture
def placed(owner):
    """A bed that was put where it lies, with a tip and a way to it."""
    plot = owner.add_plot()["plot"]
    owner.client.put(f"{owner.site}/places", json={"places": {plot["id"]: {"x_m": 22, "y_m": 10}}})
    owner.add_landmark()
    owner.way = owner.add_landmark(name="Garden walk", landmark=WAY)
    return owner


def walk_of(person) -> dict:
    return person.client.get(person.site).json()["plots"][0]["access"]


@pytest.mark.usefixtures("owner")
def test_a_walk_is_measured_along_the_ways_once_the_plot_lies_somewhere(placed):
    walk = walk_of(placed)
    assert walk["walk"]["value"] == pytest.approx(20 + 10 + 2)
    assert walk["width"]["value"] == 0.9
    assert walk["climb"]["value"] == pytest.approx(1.5 * 30 / 35)
    assert walk["tip"] == "Yard"
    plot: dict[str, Any] = {"name": "Bed", "use": "bank", "units": "metric", "wanted_mm": "75"}
    plot |= {"shape": {"kind": "rectangle", "length_m": "6", "width_m": "2"}, "found": {"walk_m": "50"}}
    typed = {"plot_id": placed.plot_ids[0], "plot": plot}
    estimate = placed.client.post(f"{placed.site}/estimate", json=typed).json()
    assert estimate["access"]["walk"]["value"] == 50
    other = placed.add_plot(name="Not put anywhere")["plot"]
    assert other["access"]["walk"] is None


def test_landmarks_are_changed_with_their_version_deleted_and_taken_back(placed):
    address = f"{placed.site}/landmarks/{placed.way['id']}"
    changed = {"name": "Garden walk", "units": "metric", "landmark": WAY | {"width_m": "1.4 m"}}
    assert placed.client.put(address, json=changed).status_code == 428
    assert placed.client.put(address, json=changed, headers={"If-Match": '"1"'}).status_code == 200
    assert placed.client.put(address, json=changed, headers={"If-Match": '"1"'}).status_code == 412
    assert walk_of(placed)["width"]["value"] == 1.4
    assert placed.client.delete(address).status_code == 204
    assert walk_of(placed)["width"] is None
    assert placed.client.post(f"{address}/restoration").status_code == 204
    assert walk_of(placed)["width"]["value"] == 1.4
    second = placed.client.post(f"{placed.site}/landmarks", json=changed | {"id": placed.way["id"]})
    assert second.json()["version"] == 2, "sent twice, kept once"


@pytest.mark.parametrize(
    ("change", "field", "sentence"),
    [
        ({"width_m": "0"}, "landmark.width_m", "more than 0"),
        ({"points_m": "0, 0"}, "landmark.points_m", "at least two points"),
        ({"points_m": "0, 0\n1; 2; 3"}, "landmark.points_m", "Point 2: needs two numbers"),
        ({"climb_m": "steep"}, "landmark.climb_m", "not a length"),
        ({"kind": "bridge"}, "landmark", "one from the list"),
    ],
)
def test_bad_entries_are_answered_at_their_field(owner, change, field, sentence):
    entry = {"id": str(uuid4()), "name": "Walk", "units": "metric", "landmark": WAY | change}
    for address in ("landmarks", "landmark-estimate"):
        answer = owner.client.post(f"{owner.site}/{address}", json=entry if address == "landmarks" else {**entry})
        assert answer.status_code == 422
        (error,) = [error for error in answer.json()["errors"] if error["field"] != "id"]
        assert error["field"] == field
        assert sentence in error["detail"]


def test_climate_is_kept_as_written_and_answered_by_month(owner):
    climate = {"kind": "normals", "temperatures_c": ", ".join(["50 °F"] * 12), "rain_mm": "33 in"}
    site = owner.add_site(climate=climate)
    assert site["normals"]["temperatures_c"] == pytest.approx([10] * 12)
    assert sum(site["normals"]["rain_mm"]) == pytest.approx(838.2)
    assert site["typed"]["climate"]["rain_mm"] == "33 in"
    generic = owner.add_site(climate={"kind": "class", "name": "hot_wet"})
    assert generic["normals"]["temperatures_c"][6] > generic["normals"]["temperatures_c"][0]
    wrong = {
        "id": str(uuid4()),
        "name": "X",
        "units": "metric",
        "load_m3": "5",
        "climate": climate | {"rain_mm": "a lot"},
    }
    (error,) = owner.client.post(owner.sites, json=wrong).json()["errors"]
    assert error["field"] == "climate.rain_mm"


def test_the_archive_and_geojson_carry_them(placed):
    site = placed.client.get(placed.site).json()["site"]
    entry = {key: site[key] for key in ("name", "units", "load_m3")}
    entry |= {"location_deg": "51.05, -3.12", "climate": {"kind": "class", "name": "dry_summer", "southern": True}}
    placed.client.put(placed.site, json=entry, headers={"If-Match": f'"{site["version"]}"'})
    content = placed.client.get(f"{placed.site}/file.json").content
    restored = placed.restores(str(uuid4()), content).json()
    second = placed.client.get(f"{placed.sites}/{restored['id']}/file.json").content
    assert without_ids(second) == without_ids(content)
    features = placed.client.get(f"{placed.site}/file.geojson").json()["features"]
    kinds = {feature["properties"].get("kind"): feature["geometry"]["type"] for feature in features}
    assert kinds == {None: "Polygon", "tip": "Polygon", "way": "LineString"}
