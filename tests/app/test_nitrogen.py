"""The nitrogen account through HTTP: layers, what was paid in, doses, and entries that make no sense."""

import base64
from datetime import date, timedelta

import numpy as np
import pytest

from tests.app.test_seasons import BED, NORMALS
from tests.conftest import TODAY, in_autumn, typed_bed


def unpacked(text: str) -> np.ndarray:
    return np.frombuffer(base64.b64decode(text), "<i2") / 100


@pytest.fixture
def bed(owner):
    owner.add_site(climate=NORMALS)
    owner.add_plot(shape=BED, use="vegetables", existing_mm="60 mm")
    return owner


def account(person, plot=-1, **query):
    answer = person.client.get(f"{person.site}/plots/{person.plot_ids[plot]}/nitrogen", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


def balance(person, plot=-1):
    return unpacked(account(person, plot)["balance"])


def test_chips_on_top_are_negligible_and_nothing_is_to_be_done(bed):
    sheet = account(bed)
    series = unpacked(sheet["balance"])
    assert series.size == sheet["weeks"]
    assert -1.5 < series.min() < 0
    assert series[-1] > series.min(), "it is being paid back"
    assert (unpacked(sheet["low"]) <= series).all()
    assert (unpacked(sheet["high"]) >= series).all()
    assert {season["rating"] for season in sheet["seasons"]} == {"negligible"}
    assert [step["step"] for step in sheet["advised"]] == ["nothing", "keep_on_top"]
    on_top = next(school["most_owed"] for school in sheet["schools"] if school["here"])
    mixed = next(school["most_owed"] for school in sheet["schools"] if school["key"] == "dug_in")
    assert f" {mixed / on_top:.0f} times" in sheet["advised"][1]["words"]
    assert sheet["dose"] is None
    assert sheet["layers"][0]["most_owed"] == pytest.approx(-series.min(), abs=0.3)


@in_autumn
def test_dug_in_it_is_to_be_acted_on_and_a_dose_follows_in_whole_bags(bed):
    before = balance(bed).min()
    assert bed.logs(TODAY, kind="dug_in").status_code == 201
    sheet = account(bed, n_percent=21, bag_kg=2)
    series = unpacked(sheet["balance"])
    assert series.min() < 20 * before < 0
    assert sheet["dug_in"] is True
    assert "act" in {season["rating"] for season in sheet["seasons"]}
    assert [step["step"] for step in sheet["advised"]] == ["compost", "dress", "legume"]
    wanting, dose = max(season["wanting"] for season in sheet["seasons"]), sheet["dose"]
    in_time = wanting - dose["too_late_g_m2"]
    assert in_time >= 10
    assert dose["total_kg"] == pytest.approx(in_time / 0.21 * 20 / 1000)
    hungriest = date.fromisoformat(sheet["first"]) + timedelta(weeks=int(series[52:].argmin()) + 52)
    assert dose["on"][-1] <= hungriest.isoformat()
    assert dose["bags"] == -(-dose["total_kg"] // 2)
    assert dose["each_grams_m2"] * 0.21 <= 5 + 1e-9
    assert dose["doses"] == len(dose["on"])
    assert min(dose["on"]) >= TODAY.isoformat()
    other = account(bed, product="Poultry pellets", n_percent=4.5, soluble=False)["dose"]
    assert (other["product"], other["doses"]) == ("Poultry pellets", 1)
    assert other["total_kg"] == pytest.approx(wanting / 0.045 * 20 / 1000)
    assert other["too_late_g_m2"] == 0


def test_what_is_paid_in_lifts_the_account(bed):
    bed.logs(TODAY, kind="dug_in")
    before = balance(bed)
    assert bed.logs(TODAY, kind="fed", product="Sulphate", n="21 %", grams_m2=20).status_code == 201
    fed = account(bed)
    lifted = unpacked(fed["balance"]) - before
    assert lifted[-1] == pytest.approx(4.2 - fed["washed_out_g_m2"], abs=0.02)
    assert 0 <= fed["washed_out_g_m2"] < 2
    assert "{4.2 g_m2} of nitrogen given" in fed["overdone"]
    bed.logs(TODAY, kind="spread", material="compost", depth_mm="25 mm")
    bed.logs(TODAY, kind="grown", crop="legume", grams_n_m2=5)
    sheet = account(bed)
    assert (unpacked(sheet["balance"]) >= unpacked(fed["balance"]) - 0.02).all()
    assert unpacked(sheet["balance"])[-1] > unpacked(fed["balance"])[-1] + 5
    assert [mark["kind"] for mark in sheet["marks"]] == ["fed", "spread", "grown", "dug_in"]
    assert {mark["words"] for mark in sheet["marks"]} == {"Sulphate", "Compost, ripe", "Legume", "Dug in"}


def test_compost_of_the_recipe_is_in_the_account(bed):
    bed.add_plot(shape=BED, use="vegetables", existing_mm="60 mm", recipe={"compost_mm": "25 mm"})
    sheet = account(bed)
    assert [mark["words"] for mark in sheet["marks"]] == ["Compost, ripe, by the recipe"]
    assert unpacked(sheet["balance"])[-1] > balance(bed, 0)[-1]


def test_a_soil_test_goes_before_the_soil_type(bed):
    bed.logs(TODAY, kind="dug_in")
    before = account(bed)
    entry = typed_bed(shape=BED, use="vegetables", existing_mm="60 mm") | {
        "found": {"soil": "sand", "soil_gives_n": 40}
    }
    answer = bed.client.put(f"{bed.site}/plots/{bed.plot_ids[0]}", json=entry, headers={"If-Match": '"1"'})
    assert answer.status_code == 200, answer.text
    after = account(bed)
    assert {season["soil"] for season in after["seasons"]} == {40}
    assert (
        max(season["wanting"] for season in after["seasons"])
        < max(season["wanting"] for season in before["seasons"]) - 20
    )


def test_the_schools_stand_side_by_side_and_the_own_one_is_marked(bed):
    says = {school["key"]: school for school in account(bed)["schools"]}
    owed = {key: school["most_owed"] for key, school in says.items()}
    assert owed["cautious"] == pytest.approx(2 * owed["where_it_touches"])
    assert owed["where_it_touches"] == pytest.approx(3 * owed["relaxed"])
    assert owed["dug_in"] > 30 * owed["cautious"]
    assert owed["aged"] < owed["where_it_touches"]
    assert [key for key, school in says.items() if school["here"]] == ["where_it_touches"]
    bed.logs(TODAY, kind="dug_in")
    assert [school["key"] for school in account(bed)["schools"] if school["here"]] == ["dug_in"]


def test_the_site_holds_every_plots_account(bed):
    bed.add_plot(name="Path", use="foot_path", shape=BED)
    site = bed.reads("nitrogen")
    assert [plot["plot_id"] for plot in site["plots"]] == bed.plot_ids
    for index, plot in enumerate(site["plots"]):
        assert plot["balance"] == account(bed, index)["balance"]


@pytest.mark.parametrize(
    ("on", "entry", "field"),
    [
        (TODAY, {"kind": "fed", "n": "0", "grams_m2": 10}, "entry.n"),
        (TODAY, {"kind": "fed", "n": "plenty", "grams_m2": 10}, "entry.n"),
        (TODAY, {"kind": "fed", "n": "10", "grams_m2": 0}, "entry.grams_m2"),
        (TODAY, {"kind": "fed", "n": "10", "grams_m2": 1e9}, "entry.grams_m2"),
        (TODAY, {"kind": "spread", "material": "gravel", "depth_mm": "5"}, "entry.material"),
        (TODAY, {"kind": "spread", "material": "compost", "depth_mm": "thick"}, "entry.depth_mm"),
        (TODAY, {"kind": "grown", "crop": "oak"}, "entry.crop"),
        (TODAY, {"kind": "grown", "crop": "legume", "grams_n_m2": -1}, "entry.grams_n_m2"),
        (TODAY + timedelta(days=2), {"kind": "dug_in"}, "on"),
    ],
)
def test_entries_that_make_no_sense_are_refused_at_their_field(bed, on, entry, field):
    answer = bed.logs(on, **entry)
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]
    assert account(bed)["marks"] == []


@pytest.mark.parametrize("query", [{"n_percent": 0}, {"n_percent": "inf"}, {"bag_kg": -1}, {"product": ""}])
def test_doses_that_make_no_sense_are_refused(bed, query):
    answer = bed.client.get(f"{bed.site}/plots/{bed.plot_ids[0]}/nitrogen", params=query)
    assert answer.status_code == 422


def test_bare_ground_and_what_was_dug_in_before_anything_lay_there(owner):
    owner.add_site(climate=NORMALS)
    owner.add_plot(shape=BED, use="vegetables", existing_mm="0", wanted_mm="0")
    owner.logs(date(2025, 12, 1), kind="dug_in")
    sheet = account(owner)
    assert unpacked(sheet["balance"]).min() == 0
    assert sheet["schools"] == []
    assert sheet["dose"] is None


def test_ways_feel_nothing_and_get_no_dose_even_where_chips_were_dug_in(owner):
    owner.add_site(climate=NORMALS)
    owner.add_plot(shape=BED, use="foot_path", existing_mm="100 mm")
    owner.logs(TODAY, kind="dug_in")
    sheet = account(owner)
    assert unpacked(sheet["balance"]).min() < -10
    assert {season["words"] for season in sheet["seasons"]} == {"No plants grow here, so this has no effect."}
    assert sheet["dose"] is None
    assert [step["step"] for step in sheet["advised"]] == ["nothing"]


def test_trees_draw_on_what_the_soil_has_to_spare_and_want_less_than_vegetables(bed):
    bed.add_plot(shape=BED, use="established_tree", existing_mm="60 mm")
    bed.logs(TODAY, kind="dug_in")
    tree = account(bed)
    entry = {
        "id": "7d0c6f1c-0000-4000-8000-000000000001",
        "plot_id": bed.plot_ids[0],
        "on": TODAY.isoformat(),
        "units": "metric",
        "entry": {"kind": "dug_in"},
    }
    assert bed.client.post(f"{bed.site}/log", json=entry).status_code == 201
    beans = account(bed, 0)
    for young, old in zip(beans["seasons"], tree["seasons"], strict=True):
        assert old["plants"] < young["plants"]
        assert old["wanting"] < young["wanting"] or young["wanting"] == 0
        assert old["spare"] == pytest.approx(old["soil"] - old["plants"])


def test_digging_in_is_taken_back_and_the_account_is_as_before(bed):
    before = account(bed)
    entry = bed.logs(TODAY, kind="dug_in").json()
    assert account(bed)["dug_in"] is True
    assert bed.client.delete(f"{bed.site}/log/{entry['id']}").status_code == 204
    assert account(bed) == before
    assert bed.client.post(f"{bed.site}/log/{entry['id']}/restoration").status_code == 204
    assert account(bed)["dug_in"] is True


def test_each_layer_is_dug_in_on_the_first_day_after_it_was_laid(bed):
    bed.logs(TODAY - timedelta(days=200), kind="dug_in")
    as_one = account(bed)
    bed.logs(TODAY - timedelta(days=20), kind="dug_in")
    twice = account(bed)
    assert twice["layers"][0] == as_one["layers"][0], "what was in the soil stays there"
    assert [mark["on"] for mark in twice["marks"]] == sorted(mark["on"] for mark in twice["marks"])
    assert len(twice["marks"]) == 2


def test_water_makes_chips_rot_and_borrow_sooner(bed):
    bed.add_plot(shape=BED, use="vegetables", existing_mm="60 mm", found={"irrigated": True})
    for index in (0, 1):
        entry = {
            "id": f"7d0c6f1c-0000-4000-8000-00000000000{index}",
            "plot_id": bed.plot_ids[index],
            "on": TODAY.isoformat(),
            "units": "metric",
            "entry": {"kind": "dug_in"},
        }
        bed.client.post(f"{bed.site}/log", json=entry)
    dry, wet = balance(bed, 0), balance(bed, 1)
    assert wet[52 + 13] < dry[52 + 13] < 0


def test_an_account_is_its_workspaces_own(bed, new_person):
    other = new_person("Elsewhere")
    other.add_site(climate=NORMALS)
    address = f"{other.site}/plots/{bed.plot_ids[0]}/nitrogen"
    assert other.client.get(address).status_code == 404
    assert other.client.get(f"{bed.site}/nitrogen").status_code == 404
    entry = {
        "id": "7d0c6f1c-0000-4000-8000-000000000009",
        "plot_id": bed.plot_ids[0],
        "on": TODAY.isoformat(),
        "units": "metric",
        "entry": {"kind": "dug_in"},
    }
    assert other.client.post(f"{other.site}/log", json=entry).status_code in (404, 422)
    assert account(bed)["dug_in"] is False


@in_autumn
def test_chips_that_wait_borrow_later(owner):
    bed = owner
    bed.add_site(climate=NORMALS)
    bed.add_plot(shape=BED, existing_mm="0")
    at_once = account(bed)
    prunings = {
        "kind": "own",
        "material": "arborist_leafy",
        "year_m3": "12 m3",
        "months": [(TODAY.month + 1) % 12 + 1],
    }
    bed.add_supplier(name="Hedges", source=prunings)
    waited = account(bed)
    (plot,) = bed.reads("seasons?years=3")["plots"]
    first_laying = plot["layings"][0]
    assert first_laying["wanted_on"] < first_laying["on"]
    planned = [layer["on"] for layer in waited["layers"] if layer["planned"]]
    assert planned[:2] == [laying["on"] for laying in plot["layings"]][:2]
    assert min(layer["on"] for layer in at_once["layers"] if layer["planned"]) < planned[0]
    week = (date.fromisoformat(planned[0]) - date.fromisoformat(waited["first"])).days // 7
    first, second = unpacked(at_once["balance"]), unpacked(waited["balance"])
    assert first[week - 1] < second[week - 1], "what is not laid has borrowed nothing yet"
