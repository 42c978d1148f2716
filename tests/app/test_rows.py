"""Rows through the API: opened, sown and closed in the ledger, with order and volume following; crops of one's own."""

from datetime import date, timedelta
from typing import Any
from uuid import uuid4

import pytest

from tests.conftest import TODAY
from ulmatic.formats.archive import read_archive


@pytest.fixture
def garden(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="Kitchen bed", use="vegetables", wanted_mm="100", existing_mm="100")
    return owner


def opens(person, on: date = TODAY, **more) -> tuple[str, Any]:
    opening = str(uuid4())
    entry = {"kind": "opened", "opening": opening, "length_m": "2 m", "width_m": "250 mm", "count": 2} | more
    return opening, person.logs(on, **entry)


def step(person, opening: str, to: str, on: date = TODAY, **more):
    return person.logs(on, kind="row", opening=opening, step=to, **more)


def test_rows_are_opened_sown_and_closed_and_the_order_follows(garden):
    planned = garden.now()["needed_m3"]
    opening, answer = opens(garden, crop="radish")
    assert answer.status_code == 201, answer.text
    [row] = garden.reads("rows")["rows"]
    assert (row["state"], row["crop_name"], row["plot"]) == ("pulled_back", "Radish", "Kitchen bed")
    assert row["figures"]["area"]["value"] == pytest.approx(1.0)
    assert garden.now()["needed_m3"] <= planned + 1e-9, "chips pulled aside are not ordered again"
    [plot] = garden.client.get(garden.site).json()["plots"]
    assert len(plot["open_rows"]) == 2, "drawn on the plan"
    for to in ("loosened", "sown", "up", "closed"):
        assert step(garden, opening, to).status_code == 201
    [row] = garden.reads("rows")["rows"]
    assert [state for state, _ in row["steps"]] == ["pulled_back", "loosened", "sown", "up", "closed"]
    assert garden.client.get(garden.site).json()["plots"][0]["open_rows"] == []
    assert step(garden, opening, "cleared").status_code == 201
    assert garden.reads("rows")["rows"] == []


def test_a_step_that_does_not_follow_is_refused_and_nothing_is_written(garden):
    opening, _ = opens(garden)
    answer = step(garden, opening, "up")
    assert answer.status_code == 422
    assert answer.json()["errors"][0] == {
        "field": "entry.step",
        "detail": "These rows are pulled back already; this step does not follow.",
    }
    assert step(garden, str(uuid4()), "sown").status_code == 422
    assert step(garden, opening, "sown", TODAY - timedelta(days=3)).status_code == 422, "they were not open then"
    assert len(garden.reads("rows")["rows"][0]["steps"]) == 1


def test_the_calendar_says_when_to_close_rows(garden):
    opening, _ = opens(garden, crop="radish")
    step(garden, opening, "sown")
    last = (TODAY + timedelta(days=365)).isoformat()
    sheet = garden.client.get(f"{garden.site}/calendar", params={"first": TODAY.isoformat(), "last": last}).json()
    [occasion] = [occasion for occasion in sheet["occasions"] if occasion["kind"] == "rows"]
    assert occasion["words"].startswith("Kitchen bed: look whether it is up")
    assert occasion["on"] == garden.reads("rows")["rows"][0]["next_on"]


def test_what_opening_comes_to_is_told_before(garden):
    entry = {"kind": "opened", "opening": str(uuid4()), "length_m": "1 m", "width_m": "250 mm", "crop": "carrot"}
    body = {"plot_id": garden.plot_ids[0], "units": "metric", "entry": entry}
    tried = garden.client.post(f"{garden.site}/rows/trial", json=body).json()
    assert tried["area"]["value"] == pytest.approx(0.25)
    assert tried["seed"]["value"] == pytest.approx(0.0005)
    assert not tried["outside"]
    assert garden.reads("rows")["rows"] == [], "nothing is kept"
    wide = garden.client.post(f"{garden.site}/rows/trial", json=body | {"entry": entry | {"length_m": "90 m"}}).json()
    assert wide["outside"]
    bad = garden.client.post(f"{garden.site}/rows/trial", json=body | {"entry": entry | {"length_m": "long"}})
    assert bad.json()["errors"][0]["field"] == "entry.length_m"
    assert garden.client.post(f"{garden.site}/rows/trial", json=body | {"plot_id": str(uuid4())}).status_code == 422


def test_whether_there_is_time_and_what_to_sow_instead(garden):
    august = {"crop": "bush_bean", "on": "2026-08-12"}
    sheet = garden.client.get(f"{garden.site}/time-left", params=august).json()
    assert not sheet["in_time"]
    assert "radish" in [other["crop"] for other in sheet["instead"]]
    spring = garden.client.get(f"{garden.site}/time-left", params=august | {"on": sheet["time"]["first_on"]}).json()
    assert spring["in_time"]
    assert garden.client.get(f"{garden.site}/time-left", params=august | {"crop": "triffid"}).status_code == 422


def test_a_crop_of_ones_own_is_kept_used_and_taken_away(garden):
    crops = f"/api/v1/workspaces/{garden.workspace_id}/crops"
    key = str(uuid4())
    figures = {"name": "Purple carrot", "days_least": 70, "days": 85, "days_most": 110, "seed_g_m": 0.6}
    answer = garden.client.post(crops, json=figures | {"id": key})
    assert answer.status_code == 201, answer.text
    assert answer.json()["source"]["mark"] == "entered"
    assert garden.client.post(crops, json=figures | {"id": key}).json()["key"] == key, "sent twice it is kept once"
    opens(garden, crop=key)
    assert garden.reads("rows")["rows"][0]["crop_name"] == "Purple carrot"
    assert (
        garden.client.put(f"{crops}/{key}", json=figures | {"name": "Violet carrot"}).json()["name"] == "Violet carrot"
    )
    archived = read_archive(garden.client.get(f"{garden.site}/file.json").content, TODAY)
    assert archived.to_site().crops[key].name == "Violet carrot"
    assert garden.client.delete(f"{crops}/{key}").status_code == 204
    assert garden.client.delete(f"{crops}/{key}").status_code == 404
    assert garden.client.delete(f"{crops}/radish").status_code == 404, "shipped ones stay"
    assert garden.reads("rows")["rows"][0]["crop_name"] is None
    bad = garden.client.post(crops, json=figures | {"id": str(uuid4()), "days": 300})
    assert bad.json()["errors"][0]["field"] == "days"


def test_crops_are_those_of_the_workspace(garden, new_person):
    crops = f"/api/v1/workspaces/{garden.workspace_id}/crops"
    key = str(uuid4())
    garden.client.post(crops, json={"id": key, "name": "Secret", "days_least": 20, "days": 30, "days_most": 40})
    other = new_person("Other ground")
    assert other.client.delete(f"{crops}/{key}").status_code == 404
    other.add_site()
    assert key not in [crop["key"] for crop in other.reads("rows")["crops"]]


def test_lanes_of_a_cover_crop(garden):
    body = {
        "crop": "rye",
        "units": "us",
        "length_m": "60 ft",
        "width_m": "50 ft",
        "apart_m": "10 ft",
        "lane_m": "12 in",
    }
    address = f"/api/v1/workspaces/{garden.workspace_id}/lanes"
    lanes = garden.client.post(address, json=body).json()
    assert lanes["count"] == 5
    assert lanes["area"]["value"] == pytest.approx(5 * 60 * 1 * 0.3048**2)
    bad = garden.client.post(address, json=body | {"lane_m": "20 ft"})
    assert bad.json()["errors"][0]["field"] == "lane_m"
