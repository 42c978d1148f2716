"""Seasons through HTTP: layers from what was said and logged, weather, rules, demand."""

import base64
from collections import Counter
from datetime import date, timedelta
from functools import partial

import httpx2
import numpy as np
import pytest

from tests.conftest import TODAY, in_autumn
from ulmatic.core.schedule.place_year import WHOLE_YEAR_DAYS
from ulmatic.platform import asking
from ulmatic.schedule.weather import WeatherService
from ulmatic.standins.weather import Asked, create_service, day_of

NORMALS = {"kind": "class", "name": "cool_maritime"}
BED = {"kind": "rectangle", "length_m": "10 m", "width_m": "2 m"}


def unpacked(text: str) -> np.ndarray:
    return np.frombuffer(base64.b64decode(text), "<i2") / 10


@pytest.fixture
def site(owner):
    owner.add_site(climate=NORMALS)
    owner.add_plot(shape=BED, existing_mm="60 mm")
    return owner


def rule(person, version=1, **rule):
    address = f"{person.site}/plots/{person.plot_ids[-1]}/rule"
    entry = {"units": "metric", "rule": rule or None}
    return person.client.put(address, json=entry, headers={"If-Match": f'"{version}"'})


def test_what_lies_there_today_is_as_deep_as_was_measured_and_sinks(site):
    sheet = site.reads("seasons")
    (plot,) = sheet["plots"]
    chips = unpacked(plot["held"])
    week = (TODAY - date.fromisoformat(sheet["first"])).days // 7
    assert chips.size == sheet["weeks"]
    assert chips[week] == pytest.approx(60, abs=0.1)
    assert site.client.get(site.site).json()["plots"][0]["depth"]["middle"] == pytest.approx(60, abs=0.1)
    assert chips[week - 26] > 60
    low, high = unpacked(plot["low"]), unpacked(plot["high"])
    assert (low <= chips[::4] + 0.1).all()
    assert (high >= chips[::4] - 0.1).all()
    assert plot["proposed"] is True


def test_a_rule_of_its_own_changes_what_is_laid_and_what_it_takes(site):
    before = site.reads("seasons")["plots"][0]
    assert rule(site, kind="thin", part=0.4).status_code == 204
    plot = site.reads("seasons")["plots"][0]
    assert (plot["proposed"], plot["rule"]["kind"]) == (False, "thin")
    assert plot["layings"]
    assert all(laying["settled_mm"] <= 0.4 * 75 + 0.01 for laying in plot["layings"])
    assert all(
        "spring" in laying["season"].lower() or "autumn" in laying["season"].lower() for laying in plot["layings"]
    )
    assert plot["layings"] != before["layings"]
    assert rule(site, version=2).status_code == 204
    assert site.reads("seasons")["plots"][0]["proposed"] is True
    assert rule(site, version=1, kind="once").status_code == 412


@in_autumn
def test_what_was_laid_is_a_layer_from_its_day_and_no_longer_needed(site):
    needed = site.now()["needed_m3"]
    assert needed == pytest.approx(20 * 0.015 / 0.78 * 1.1, rel=0.01)
    assert site.logs(TODAY, kind="laid", material="bark_shredded", depth_mm="15 mm").status_code == 201
    layers = site.client.get(f"{site.site}/plots/{site.plot_ids[0]}/layers").json()["layers"]
    assert [(layer["name"], layer["planned"]) for layer in layers[:2]] == [
        ("Arborist chips, leafy", False),
        ("Shredded bark", False),
    ]
    assert site.now()["needed_m3"] == 0
    pile = site.receives("6 m3")
    site.enters(pile["id"], "lay", "1 m3", plot_id=site.plot_ids[0])
    layers = site.client.get(f"{site.site}/plots/{site.plot_ids[0]}/layers").json()["layers"]
    laid = next(
        layer for layer in layers if layer["on"] == TODAY.isoformat() and layer["name"] == "Arborist chips, leafy"
    )
    assert unpacked(laid["chips"]).max() == pytest.approx(1 / 20 * 1000 * 0.78, rel=0.02), "1 m³ on 20 m², settled"


def test_layers_add_up_to_the_plot(site):
    site.logs(TODAY - timedelta(days=100), kind="laid", material="bark_shredded", depth_mm="40 mm")
    for plot in site.reads("seasons")["plots"]:
        layers = site.client.get(f"{site.site}/plots/{plot['plot_id']}/layers").json()["layers"]
        total = sum(unpacked(layer["chips"]) for layer in layers)
        assert total == pytest.approx(unpacked(plot["held"]), abs=0.1 * len(layers))


def test_entries_of_the_log_are_kept_once_deleted_and_taken_back(site):
    entry = site.logs(TODAY, kind="measured", depth_mm="55 mm").json()
    assert (entry["entry"]["depth_mm"], entry["typed"]["entry"]["depth_mm"]) == (55, "55 mm")
    line = {key: entry[key] for key in ("id", "plot_id", "on")}
    line |= {"units": "metric", "entry": {"kind": "measured", "depth_mm": "9"}}
    assert site.client.post(f"{site.site}/log", json=line).json()["entry"]["depth_mm"] == 55
    address, before = f"{site.site}/log/{entry['id']}", len(site.reads("log"))
    assert site.client.delete(address).status_code == 204
    assert len(site.reads("log")) == before - 1
    assert site.client.post(f"{address}/restoration").status_code == 204
    assert len(site.reads("log")) == before


@pytest.mark.parametrize(
    ("on", "entry", "field"),
    [
        (TODAY + timedelta(days=1), {"kind": "measured", "depth_mm": "5"}, "on"),
        (TODAY, {"kind": "measured", "depth_mm": "deep"}, "entry.depth_mm"),
        (TODAY, {"kind": "laid", "material": "gravel", "depth_mm": "50"}, "entry.material"),
        (TODAY, {"kind": "laid", "material": "straw", "depth_mm": "0"}, "entry.depth_mm"),
        (TODAY, {"kind": "laid", "material": "straw"}, "entry.depth_mm"),
        (TODAY, {"kind": "danced"}, "entry"),
    ],
)
def test_entries_that_make_no_sense_are_refused_at_their_field(site, on, entry, field):
    answer = site.logs(on, **entry)
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({"kind": "thin", "part": 0}, "rule.part"),
        ({"kind": "every", "years": 2.5}, "rule.years"),
        ({"kind": "every", "years": 2, "window": "monsoon"}, "rule.window"),
        ({"kind": "sometimes"}, "rule"),
    ],
)
def test_rules_that_make_no_sense_are_refused_at_their_field(site, typed, field):
    answer = rule(site, **typed)
    assert answer.status_code == 422
    assert field in [error["field"] for error in answer.json()["errors"]]


def test_seasons_of_the_place_are_derived_and_can_be_overridden(site):
    derived = site.reads("seasons")
    assert derived["place_year"]["zone"] == "8b"
    assert [window["key"] for window in derived["windows"]] == ["spring", "autumn"]
    opens, closes = {"month": 3, "day": 1}, {"month": 3, "day": 31}
    overrides = {"last_frost": 120, "zone": "7a", "windows": {"spring": {"opens": opens, "closes": closes}}}
    assert site.client.put(f"{site.site}/seasons", json=overrides).status_code == 204
    sheet = site.reads("seasons")
    assert (sheet["place_year"]["last_frost"], sheet["place_year"]["zone"]) == (120, "7a")
    assert sheet["place_year"]["first_frost"] == derived["place_year"]["first_frost"]
    springs = [season for season in sheet["seasons"] if season["window"] == "spring"]
    assert springs
    for season in springs:
        assert (season["opens"][5:], season["closes"][5:]) == ("03-01", "03-31")
    seasons = {season["name"]: (season["opens"], season["closes"]) for season in sheet["seasons"]}
    for laying in sheet["plots"][0]["layings"]:
        opens, closes = seasons[laying["season"]]
        assert opens <= laying["on"] <= closes or laying["on"] == TODAY.isoformat()
    for wrong in ({"zone": "99"}, {"last_frost": 400}, {"windows": {"monsoon": None}}, {"colour": "red"}):
        assert site.client.put(f"{site.site}/seasons", json=wrong).status_code == 422


def test_irrigated_ground_sinks_sooner(owner):
    owner.add_site(climate={"kind": "class", "name": "dry_summer"})
    for irrigated in (False, True):
        owner.add_plot(name=str(irrigated), existing_mm="80 mm", wanted_mm="80 mm", found={"irrigated": irrigated})
    for plot in owner.plot_ids[-2:]:
        owner.client.put(
            f"{owner.site}/plots/{plot}/rule",
            json={"units": "metric", "rule": {"kind": "once"}},
            headers={"If-Match": '"1"'},
        )
    dry, wet = (unpacked(plot["held"]) for plot in owner.reads("seasons")["plots"])
    assert wet[150] < dry[150] - 2


def test_piles_age_and_ripen(site):
    site.receives("8 m3", received_on=(TODAY - timedelta(days=30)).isoformat())
    (pile,) = site.reads("seasons")["piles"]
    assert pile["volume_m3"] > pile["in_half_a_year_m3"] > pile["in_a_year_m3"] > 0
    assert pile["ripe"]["years"][-1] >= TODAY.year


@pytest.fixture
def service(app):
    standin = create_service(lambda: TODAY)
    before, app.state.weather = (
        app.state.weather,
        WeatherService("http://weather", lambda: httpx2.ASGITransport(standin)),
    )
    yield standin
    app.state.weather = before


def heard(person) -> str | None:
    """Have the service asked; return what was wrong."""
    errand = person.awaits(person.client.post(f"{person.site}/weather/refresh"))
    return errand["problem"] and errand["problem"]["detail"]


def refreshed(person) -> dict:
    assert heard(person) is None
    return person.reads("seasons")["weather"]


@pytest.mark.usefixtures("service")
def test_observed_weather_drives_the_past_and_the_service_lags(site):
    weather = refreshed(site)
    assert weather["observed_to"] == (TODAY - timedelta(days=2)).isoformat()
    assert weather["days"] > 365
    assert weather["simulated"] is True
    assert weather["outlook_rain_mm"] >= 0
    assert refreshed(site)["days"] == weather["days"], "asked again it adds what is new"
    observed = Counter((TODAY - timedelta(days=2 + ago)).year for ago in range(weather["days"]))
    is_whole = max(observed.values()) >= WHOLE_YEAR_DAYS
    assert site.reads("seasons")["place_year"]["observed"] is is_whole, "a calendar year that is nearly whole counts"
    assert site.client.delete(f"{site.site}/weather").status_code == 204
    assert site.reads("seasons")["weather"]["days"] == 0


def answering(content: bytes) -> httpx2.MockTransport:
    return httpx2.MockTransport(lambda _: httpx2.Response(200, content=content))


def test_a_service_that_fails_leaves_what_is_known_and_says_how_old_it_is(site, service, app, monkeypatch):
    monkeypatch.setattr(asking, "PAUSE_S", 0.01)
    known = refreshed(site)
    service.state.trouble = 1.0
    assert "does not answer" in heard(site)
    weather = site.reads("seasons")["weather"]
    assert (weather["days"], weather["heard_at"]) == (known["days"], known["heard_at"])
    for nonsense in (b"{}", b"[]", b"no", b'{"days": [{"day": "x"}], "outlook": []}'):
        app.state.weather = WeatherService("http://w", partial(answering, nonsense))
        assert heard(site)
    app.state.weather = None
    assert heard(site) == "No weather service is set up."


def test_the_same_place_and_day_have_the_same_weather_near_its_normals():
    question = Asked(place="x", temperatures_c=[10.0] * 12, rain_mm=[60.0] * 12, first=TODAY, last=TODAY)
    days = [day_of(question, date(2020, 1, 1) + timedelta(days=index)) for index in range(365 * 4)]
    assert day_of(question, TODAY) == day_of(question, TODAY)
    mean = np.mean([(day["tmax_c"] + day["tmin_c"]) / 2 for day in days])
    assert mean == pytest.approx(10, abs=1)
    assert sum(day["rain_mm"] for day in days) / 4 == pytest.approx(720, rel=0.2)


def daily(first: date, count: int, mean: float, rain: float) -> bytes:
    lines = [f"{(first + timedelta(days=index)).isoformat()},{mean + 4},{mean - 4},{rain}" for index in range(count)]
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


@in_autumn
def test_a_quarter_of_the_ring_is_a_layer_of_its_quarter(owner):
    owner.add_site(climate=NORMALS)
    ring = {"kind": "ring", "canopy_m": "4 m", "trunk_m": "20 cm", "gap_m": "15 cm"}
    owner.add_plot(use="young_tree", shape=ring, wanted_mm="100 mm")
    assert rule(owner, kind="quarter").status_code == 204
    layers = owner.client.get(f"{owner.site}/plots/{owner.plot_ids[-1]}/layers?years=6").json()["layers"]
    assert [layer["quarter"] for layer in layers[:5]] == [0, 1, 2, 3, 0]
    area = owner.client.get(owner.site).json()["plots"][0]["area_m2"]
    assert owner.now()["needed_m3"] == pytest.approx(area / 4 * 0.100 / 0.78 * 1.1, rel=0.01)


@in_autumn
def test_what_was_dug_in_is_no_longer_mulch_and_is_laid_anew(site):
    before = site.reads("seasons")["plots"][0]
    assert site.logs(TODAY - timedelta(days=60), kind="dug_in").status_code == 201
    after = site.reads("seasons")["plots"][0]
    chips, low = unpacked(after["held"]), unpacked(after["low"])
    assert chips[52] == unpacked(before["held"])[52] == pytest.approx(60, abs=0.1), "measured after that it lies there"
    assert chips[40] >= 0
    assert low.size == chips[::4].size
    assert site.logs(TODAY, kind="dug_in").status_code == 201
    dug = site.reads("seasons")["plots"][0]
    assert unpacked(dug["held"])[52] == 0
    assert dug["layings"][0]["settled_mm"] == pytest.approx(75)
    assert before["layings"][0]["settled_mm"] == pytest.approx(15, abs=0.5)
