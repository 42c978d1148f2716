"""Seasons through HTTP: layers from what was said and logged, weather, rules, demand."""

import base64
from datetime import UTC, date, datetime, timedelta
from uuid import uuid4

import httpx2
import numpy as np
import pytest
from starlette.testclient import TestClient

from ulmatic.platform import asking
from ulmatic.schedule.weather import WeatherService
from ulmatic.standins.weather import Asked, create_service, day_of

TODAY = datetime.now(UTC).date()
NORMALS = {"kind": "class", "name": "cool_maritime"}
BED = {"kind": "rectangle", "length_m": "10 m", "width_m": "2 m"}


def unpacked(text: str) -> np.ndarray:
    return np.frombuffer(base64.b64decode(text), "<i2") / 10


@pytest.fixture
def site(owner):
    owner.add_site(climate=NORMALS)
    owner.add_plot(shape=BED, existing_mm="60 mm")
    return owner


def logged(person, on: date, **event):
    entry = {
        "id": str(uuid4()),
        "plot_id": person.plot_ids[-1],
        "on": on.isoformat(),
        "units": "metric",
        "event": event,
    }
    return person.client.post(f"{person.site}/events", json=entry)


def rule(person, version=1, **rule):
    address = f"{person.site}/plots/{person.plot_ids[-1]}/rule"
    entry = {"units": "metric", "rule": rule or None}
    return person.client.put(address, json=entry, headers={"If-Match": f'"{version}"'})


def test_what_lies_there_today_is_as_deep_as_was_said_and_sinks(site):
    sheet = site.reads("seasons")
    (plot,) = sheet["plots"]
    held = unpacked(plot["held"])
    week = (TODAY - date.fromisoformat(sheet["first"])).days // 7
    assert held.size == sheet["weeks"]
    assert held[week] == pytest.approx(60, abs=0.5)
    assert held[week - 26] > 60
    low, high = unpacked(plot["low"]), unpacked(plot["high"])
    assert (low <= held[::4] + 0.1).all()
    assert (high >= held[::4] - 0.1).all()
    assert plot["proposed"] is True


def test_a_rule_of_its_own_changes_what_is_laid_and_what_it_takes(site):
    before = site.reads("seasons")
    assert rule(site, kind="thin", months=[4], layer_mm="30 mm").status_code == 204
    after = site.reads("seasons")
    plot = after["plots"][0]
    assert (plot["proposed"], plot["rule"]["kind"]) == (False, "thin")
    assert {one["settled_mm"] for one in plot["top_ups"]} == {30}
    assert {date.fromisoformat(one["on"]).month for one in plot["top_ups"]} == {4}
    assert sum(one["volume_m3"] for one in after["years"]) < sum(one["volume_m3"] for one in before["years"])
    assert rule(site, version=2).status_code == 204
    assert site.reads("seasons")["plots"][0]["proposed"] is True
    assert rule(site, version=1, kind="once").status_code == 412


def test_what_was_laid_is_a_layer_from_its_day(site):
    before = site.reads("seasons")["plots"][0]
    assert (
        logged(site, TODAY - timedelta(days=0), kind="laid", material="bark_shredded", depth_mm="40 mm").status_code
        == 201
    )
    layers = site.client.get(f"{site.site}/plots/{site.plot_ids[0]}/layers").json()["layers"]
    assert [(one["name"], one["planned"]) for one in layers[:2]] == [
        ("Arborist chips, leafy", False),
        ("Shredded bark", False),
    ]
    after = site.reads("seasons")["plots"][0]
    assert unpacked(after["held"])[53] > unpacked(before["held"])[53] + 20 or after["top_ups"] != before["top_ups"]
    pile = site.receives("6 m3")
    site.enters(pile["id"], "lay", "1 m3", plot_id=site.plot_ids[0], on=TODAY.isoformat())
    layers = site.client.get(f"{site.site}/plots/{site.plot_ids[0]}/layers").json()["layers"]
    laid = next(one for one in layers if one["on"] == TODAY.isoformat() and one["name"] == "Arborist chips, leafy")
    assert unpacked(laid["chips"]).max() == pytest.approx(1 / 20 * 1000, rel=0.02), "1 m³ on 20 m², before it settles"


def test_entries_of_the_log_are_kept_once_deleted_and_taken_back(site):
    kept = logged(site, TODAY, kind="read", depth_mm="55 mm").json()
    assert (kept["event"]["depth_mm"], kept["typed"]["event"]["depth_mm"]) == (55, "55 mm")
    again = {
        "id": kept["id"],
        "plot_id": kept["plot_id"],
        "on": kept["on"],
        "units": "metric",
        "event": {"kind": "read", "depth_mm": "9"},
    }
    assert site.client.post(f"{site.site}/events", json=again).json()["event"]["depth_mm"] == 55
    address = f"{site.site}/events/{kept['id']}"
    assert site.client.delete(address).status_code == 204
    assert site.reads("seasons")["events"] == []
    assert site.client.post(f"{address}/restoration").status_code == 204
    assert len(site.reads("seasons")["events"]) == 1


@pytest.mark.parametrize(
    ("on", "event", "field"),
    [
        (TODAY + timedelta(days=1), {"kind": "read", "depth_mm": "5"}, "on"),
        (TODAY, {"kind": "read", "depth_mm": "deep"}, "event.depth_mm"),
        (TODAY, {"kind": "laid", "material": "gravel", "depth_mm": "50"}, "event.material"),
        (TODAY, {"kind": "laid", "material": "straw", "depth_mm": "0"}, "event.depth_mm"),
        (TODAY, {"kind": "danced"}, "event"),
    ],
)
def test_entries_that_make_no_sense_are_refused_at_their_field(site, on, event, field):
    answer = logged(site, on, **event)
    assert answer.status_code == 422
    assert [one["field"] for one in answer.json()["errors"]] == [field]


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"kind": "hold", "least_mm": "50", "to_mm": "0"}, "rule.to_mm"),
        ({"kind": "thin", "months": [0], "layer_mm": "40"}, "rule.months.0"),
        ({"kind": "every", "years": 2.5, "month": 3, "to_mm": "50"}, "rule.years"),
        ({"kind": "sometimes"}, "rule"),
    ],
)
def test_rules_that_make_no_sense_are_refused_at_their_field(site, given, field):
    answer = rule(site, **given)
    assert answer.status_code == 422
    assert field in [one["field"] for one in answer.json()["errors"]]


def test_seasons_of_the_place_are_derived_and_can_be_overridden(site):
    derived = site.reads("seasons")
    assert derived["seasons"]["zone"] == "8b"
    said = {"last_frost": 120, "zone": "7a", "open_months": [3, 4]}
    assert site.client.put(f"{site.site}/seasons", json=said).status_code == 204
    sheet = site.reads("seasons")
    assert (sheet["seasons"]["last_frost"], sheet["seasons"]["zone"], sheet["open_months"]) == (120, "7a", [3, 4])
    assert sheet["seasons"]["first_frost"] == derived["seasons"]["first_frost"]
    assert all(date.fromisoformat(one["on"]).month in (3, 4) for one in sheet["plots"][0]["top_ups"])
    for wrong in ({"zone": "99"}, {"last_frost": 400}, {"open_months": []}, {"colour": "red"}):
        assert site.client.put(f"{site.site}/seasons", json=wrong).status_code == 422


def test_irrigated_ground_sinks_sooner(owner):
    owner.add_site(climate={"kind": "class", "name": "dry_summer"})
    for irrigated in (False, True):
        owner.add_plot(name=str(irrigated), existing_mm="80 mm", wanted_mm="80 mm", found={"irrigated": irrigated})
    for plot in owner.plot_ids[-2:]:
        owner.client.put(f"{owner.site}/plots/{plot}/rule", json={"units": "metric", "rule": {"kind": "once"}},
                         headers={"If-Match": '"1"'})  # fmt: skip
    dry, wet = (unpacked(one["held"]) for one in owner.reads("seasons")["plots"])
    assert wet[150] < dry[150] - 2


def test_piles_age_and_ripen(site):
    site.receives("8 m3", received_on=(TODAY - timedelta(days=30)).isoformat())
    (pile,) = site.reads("seasons")["piles"]
    assert pile["volume_m3"] > pile["in_half_a_year_m3"] > pile["in_a_year_m3"] > 0
    assert date.fromisoformat(pile["ripe_on"]) > TODAY


class ThroughTestClient(httpx2.BaseTransport):
    """The stand-in itself, reached without a socket."""

    def __init__(self, app):
        self.client = TestClient(app)

    def handle_request(self, request):
        answer = self.client.request(request.method, request.url.path, content=request.read(), headers=request.headers)
        return httpx2.Response(answer.status_code, content=answer.content)


@pytest.fixture
def service(app):
    made = create_service(lambda: TODAY)
    before, app.state.weather = app.state.weather, WeatherService("http://weather", ThroughTestClient(made))
    yield made
    app.state.weather = before


def refreshed(person) -> dict:
    answer = person.client.post(f"{person.site}/weather/refresh")
    assert answer.status_code == 200, answer.text
    return answer.json()["weather"]


def test_observed_weather_drives_the_past_and_the_service_lags(site, service):
    weather = refreshed(site)
    assert weather["observed_to"] == (TODAY - timedelta(days=2)).isoformat()
    assert weather["days"] > 365
    assert (weather["simulated"], weather["trouble"]) == (True, None)
    assert weather["outlook_rain_mm"] >= 0
    assert refreshed(site)["days"] == weather["days"], "asked again it adds what is new"
    assert site.reads("seasons")["seasons"]["observed"] is False, "not a whole calendar year yet"
    assert site.client.delete(f"{site.site}/weather").status_code == 204
    assert site.reads("seasons")["weather"]["days"] == 0


def test_a_service_that_fails_leaves_what_is_known_and_says_how_old_it_is(site, service, app, monkeypatch):
    monkeypatch.setattr(asking, "PAUSE_S", 0.01)
    known = refreshed(site)
    service.state.trouble = 1.0
    weather = refreshed(site)
    assert "does not answer" in weather["trouble"]
    assert (weather["days"], weather["heard_at"]) == (known["days"], known["heard_at"])
    for nonsense in (b"{}", b"[]", b"no", b'{"days": [{"day": "x"}], "outlook": []}'):
        app.state.weather = WeatherService(
            "http://w", httpx2.MockTransport(lambda _, c=nonsense: httpx2.Response(200, content=c))
        )
        assert refreshed(site)["trouble"]
    app.state.weather = None
    assert refreshed(site)["trouble"] == "No weather service is set up here."


def test_the_same_place_and_day_have_the_same_weather_near_its_normals():
    asked = Asked(place="x", temperatures_c=[10.0] * 12, rain_mm=[60.0] * 12, first=TODAY, last=TODAY)
    days = [day_of(asked, date(2020, 1, 1) + timedelta(days=at)) for at in range(365 * 4)]
    assert day_of(asked, TODAY) == day_of(asked, TODAY)
    mean = np.mean([(one["tmax_c"] + one["tmin_c"]) / 2 for one in days])
    assert mean == pytest.approx(10, abs=1)
    assert sum(one["rain_mm"] for one in days) / 4 == pytest.approx(720, rel=0.2)


def daily(first: date, count: int, mean: float, rain: float) -> bytes:
    lines = [f"{(first + timedelta(days=at)).isoformat()},{mean + 4},{mean - 4},{rain}" for at in range(count)]
    return "\n".join(["date,tmax,tmin,precipitation", *lines]).encode()


def test_a_warm_wet_year_from_csv_visibly_differs_from_a_cold_dry_one(site):
    first = TODAY - timedelta(days=730)
    rule(site, kind="once")
    before = []
    for mean, rain in ((5.0, 0.5), (18.0, 4.0)):
        answer = site.client.put(f"{site.site}/weather", content=daily(first, 700, mean, rain))
        assert answer.json()["days"] == 700
        sheet = site.reads("seasons")
        assert sheet["weather"]["simulated"] is False
        before.append(unpacked(sheet["plots"][0]["held"])[0])
    assert before[1] > before[0] + 10, "more had to be there a year ago to leave as much today"


@pytest.mark.parametrize(
    "content",
    [
        b" ",
        b"date,tmax\n",
        b"\xff\xfe",
        b"date,tmax,tmin,rain\n2999-01-01,3,1,0",
        b"date,tmax,tmin,rain\n2020-01-01,a,1,0",
    ],
)
def test_weather_that_cannot_be_read_is_refused_with_a_sentence(site, content):
    answer = site.client.put(f"{site.site}/weather", content=content)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "file"
    assert site.reads("seasons")["weather"]["days"] == 0


def test_a_quarter_of_the_ring_is_a_layer_of_its_quarter(owner):
    owner.add_site(climate=NORMALS)
    ring = {"kind": "ring", "canopy_m": "4 m", "trunk_m": "20 cm", "gap_m": "15 cm"}
    owner.add_plot(use="young_tree", shape=ring, practice=None, wanted_mm="100 mm")
    assert rule(owner, kind="quarter", month=11, layer_mm="100 mm").status_code == 204
    layers = owner.client.get(f"{owner.site}/plots/{owner.plot_ids[-1]}/layers").json()["layers"]
    assert [one["quarter"] for one in layers[:5]] == [0, 1, 2, 3, 0]
    plot = owner.reads("seasons")["plots"][0]
    assert {one["settled_mm"] for one in plot["top_ups"]} == {25}


def test_what_was_dug_in_is_no_longer_mulch_and_is_laid_anew(site):
    before = site.reads("seasons")["plots"][0]
    assert logged(site, TODAY - timedelta(days=60), kind="mixed").status_code == 201
    after = site.reads("seasons")["plots"][0]
    held, low = unpacked(after["held"]), unpacked(after["low"])
    assert held[40] == pytest.approx(unpacked(before["held"])[40], abs=0.1), "before that day it lay there"
    assert held[46] == held[52] == 0
    assert low[10] > 0
    assert low[12] == 0
    assert after["top_ups"][0]["settled_mm"] > before["top_ups"][0]["settled_mm"] + 20
    (lay, *_) = site.client.get(f"{site.site}/plots/{site.plot_ids[0]}/layers").json()["layers"]
    chips = unpacked(lay["chips"])
    assert chips[40] > 0
    assert chips[46] == 0
