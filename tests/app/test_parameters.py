"""Figures that a workspace sets in place of shipped ones: kept, used everywhere, marked, carried, reset."""

import json
from datetime import timedelta

import pytest

from tests.conftest import TODAY

ROW = {"kind": "ring_row", "canopy_m": "3 m", "trunk_m": "30 cm", "gap_m": "15 cm", "trees": 12, "spacing_m": "4 m"}


def address(person, key=""):
    return f"/api/v1/workspaces/{person.workspace_id}/parameters{f'/{key}' if key else ''}"


def sets(person, key, figure, units="metric"):
    return person.client.put(address(person, key), json={"figure": figure, "units": units})


def listed(person) -> dict[str, dict]:
    return {entry["figure"]["key"]: entry for entry in person.client.get(address(person)).json()}


def sheet(person) -> dict:
    return person.client.get(f"{person.site}/plots/{person.plot_ids[0]}").json()


def terms(figure: dict) -> dict[str, dict]:
    return {term["symbol"]: term["figure"] for term in figure["working"]["terms"]}


def test_spare_is_the_workspaces_until_the_site_says_its_own(owner):
    owner.add_site(spare=None)
    owner.add_plot()
    before = sheet(owner)["figures"]["to_target"]["value"]
    assert sets(owner, "schedule.spare", "25 %").status_code == 204
    figure = sheet(owner)["figures"]["to_target"]
    assert figure["value"] == pytest.approx(before / 1.10 * 1.25)
    spare = terms(figure)["w"]
    assert (spare["value"], spare["source"]["mark"]) == (0.25, "entered")
    assert "Set by your workspace; shipped is 0.1" in spare["source"]["text"]
    assert owner.now()["needed_m3"] == pytest.approx(figure["value"]), "the strip says the same"
    owner.add_site(spare="5 %")
    owner.plot_ids.clear()
    owner.add_plot()
    assert terms(sheet(owner)["figures"]["to_target"])["w"]["value"] == 0.05


def test_settling_least_depth_usual_depth_and_rates_of_work_follow(owner):
    owner.add_plot(use="foot_path", wanted_mm="150 mm", found={"walk_m": "30 m"})
    before = sheet(owner)
    hours = owner.now()["hours"]
    for key, figure in {
        "schedule.settling.trodden": "50 %",
        "recipe.least": "2.5 in",
        "work.spread": "30",
        "work.scoop": "20",
        "recipe.depth.foot_path": "12 cm",
    }.items():
        assert sets(owner, key, figure).status_code == 204, key
    after = sheet(owner)
    assert after["figures"]["to_target"]["value"] == pytest.approx(before["figures"]["to_target"]["value"] * 0.65 / 0.5)
    assert after["plot"]["least_mm"] == pytest.approx(63.5)
    assert owner.now()["hours"] > 2 * hours
    usual = {depth["use"]: depth for depth in owner.reads("usual-depths")}
    assert usual["foot_path"]["proposed_mm"] == 120


def test_a_materials_figure_holds_wherever_it_is_laid(owner):
    owner.add_plot(recipe={"material": "bark_shredded"})
    assert sets(owner, "materials.bark_shredded.settling", "50 %").status_code == 204
    assert terms(sheet(owner)["figures"]["to_target"])["s"]["value"] == 0.5
    rate = sheet(owner)["plot"]["below_least_from"], sets(owner, "materials.bark_shredded.rate", "3").status_code
    owner.logs(TODAY, kind="laid", material="bark_shredded", depth_mm="75")
    assert rate[1] == 204
    assert sheet(owner)["plot"]["below_least_from"] < (TODAY + timedelta(days=416)).isoformat(), "three times as fast"


def test_what_is_set_is_shown_with_what_is_shipped_and_reset_in_one_press(owner):
    assert listed(owner)["schedule.spare"]["own"] is False
    sets(owner, "schedule.spare", "12 %")
    spare = listed(owner)["schedule.spare"]
    assert (spare["own"], spare["typed"], spare["figure"]["value"], spare["shipped"]["value"]) == (
        True,
        "12 %",
        0.12,
        0.10,
    )
    assert spare["figure"]["low"] == pytest.approx(0.05 * 1.2), "the range stays in proportion"
    assert owner.client.delete(address(owner, "schedule.spare")).status_code == 204
    assert listed(owner)["schedule.spare"]["own"] is False
    sets(owner, "schedule.spare", "12 %")
    sets(owner, "work.pace", "60")
    assert owner.client.delete(address(owner)).status_code == 204
    assert not any(entry["own"] for entry in listed(owner).values())
    sets(owner, "schedule.spare", "10 %")
    assert listed(owner)["schedule.spare"]["own"] is False, "the shipped figure itself is none of one's own"


@pytest.mark.parametrize(
    ("key", "figure", "status", "says"),
    [
        ("schedule.spare", "plenty", 422, "is not a percentage"),
        ("schedule.spare", "900 %", 422, "more than"),
        ("work.pace", "fast", 422, "Type only a number, like 50."),
        ("work.pace", "5e300", 422, "too far from the shipped 50"),
        ("work.pace", "nan", 422, "too far"),
        ("recipe.least", "90 cm", 422, "too far"),
        ("schedule.frozen", "-40", 422, "too far"),
        ("recipe.least.play", "50 mm", 409, "People could be hurt".lower()),
        ("nitrogen.dose", "20", 409, "people could be hurt"),
        ("decay.mould_density", "500", 404, ""),
        ("no.such.figure", "1", 404, ""),
    ],
)
def test_figures_out_of_proportion_are_refused_at_the_field(owner, key, figure, status, says):
    answer = sets(owner, key, figure)
    assert answer.status_code == status, answer.text
    assert says in answer.text
    if status == 422:
        assert answer.json()["errors"][0]["field"] == "figure"


def test_own_figures_are_nobody_elses(owner, new_person):
    other = new_person("Elsewhere")
    sets(owner, "schedule.spare", "25 %")
    assert listed(other)["schedule.spare"]["own"] is False
    other.joins(owner, "viewer")
    other.workspace_id = owner.workspace_id
    assert sets(other, "schedule.spare", "5 %").status_code == 403


def test_an_archive_carries_them_and_the_site_keeps_them_until_it_is_told_otherwise(owner, new_person):
    owner.add_site(spare=None)
    owner.add_plot()
    sets(owner, "schedule.spare", "25 %")
    sets(owner, "recipe.least", "30 mm")
    archive = owner.client.get(f"{owner.site}/file.json").content
    assert json.loads(archive)["site"]["parameters"] == {"recipe.least": 30.0, "schedule.spare": 0.25}
    other, needed = new_person("Elsewhere"), owner.now()["needed_m3"]
    site_id = "0d9c1c9e-5d26-4f7d-9a6e-0d7f6a3f7d11"
    answer = other.restores(site_id, archive)
    assert answer.status_code == 200, answer.text
    other.site_id = site_id
    assert other.now()["needed_m3"] == pytest.approx(needed)
    assert other.client.get(other.site).json()["site"]["parameters"] == {"recipe.least": 30.0, "schedule.spare": 0.25}
    assert other.client.delete(f"{other.site}/parameters").status_code == 204
    assert other.now()["needed_m3"] == pytest.approx(needed / 1.25 * 1.10)


def test_rows_with_growing_plants_take_less_than_the_ground_between_crops(owner):
    rows = [
        {"name": "Garlic", "rows": 2, "length_m": "4 m", "width_m": "30 cm", "for_good": True},
        {"name": "Lettuces", "rows": 3, "length_m": "4 m", "width_m": "25 cm"},
    ]
    bed = {"kind": "rectangle", "length_m": "10 m", "width_m": "2 m"}
    plot = owner.add_plot(use="vegetables", shape=bed, wanted_mm="120 mm", recipe={"hold_backs": rows})["plot"]
    between_mm, round_plants = 20 - 2.4 - 3, 3
    loose = (between_mm * 0.120 + round_plants * 0.075) / 0.78
    assert plot["planned_m3"] == pytest.approx(loose * 1.1)
    assert (plot["least_mm"], plot["growing_mm"]) == (45, 75)


def test_guards_are_listed_with_the_order_and_ground_that_is_built_up_says_when_to_plant(owner):
    owner.add_plot(use="young_tree", shape=ROW, recipe={"practice": {"trunks": "hand_and_guard"}})
    assert [(item["material"], item["amount"], item["unit"]) for item in owner.now()["also"]] == [
        ("Trunk guards", 12, "trees")
    ]
    poor = owner.add_plot(name="Subsoil", found={"soil": "dead"}, wanted_mm="150 mm")["plot"]
    assert poor["builds_up"]
    assert poor["plant_from"] > TODAY.isoformat()
    assert owner.add_plot(name="Loam")["plot"]["plant_from"] is None
    sets(owner, "recipe.humus_to_plant", "60 mm")
    planting_day = owner.client.get(f"{owner.site}/plots/{poor['id']}").json()["plot"]["plant_from"]
    assert planting_day is None or planting_day > poor["plant_from"]


def test_worries_follow_a_load_to_its_plots(owner):
    owner.add_plot()
    landmark = owner.add_landmark()
    pile = owner.receives(landmark_id=landmark["id"], worries=["disease", "weed_seed"])
    plot = owner.client.get(f"{owner.site}/plots/{owner.plot_ids[0]}").json()["plot"]
    assert plot["advice"] is None
    assert owner.enters(pile["id"], "lay", "1 m3", plot_id=owner.plot_ids[0]).status_code < 300
    assert owner.reads("stock")["deliveries"][0]["worries"] == ["disease", "weed_seed"]
    plot = owner.client.get(f"{owner.site}/plots/{owner.plot_ids[0]}").json()["plot"]
    assert plot["advice"]["rule"] == "load_disease"
    wrong = owner.client.post(
        f"{owner.site}/deliveries", json={"id": pile["id"], "name": "x", "worries": ["spells"], "units": "metric"}
    )
    assert wrong.status_code == 422


def test_the_other_depth_stands_beside_what_is_logged(owner):
    owner.add_plot()
    entry = {
        "id": owner.plot_ids[0],
        "plot_id": owner.plot_ids[0],
        "on": TODAY.isoformat(),
        "units": "metric",
        "entry": {"kind": "laid", "material": "arborist_leafy", "depth_mm": "78 mm"},
    }
    settled = owner.client.post(f"{owner.site}/log/estimate", json=entry).json()
    assert settled["spread_mm"] == pytest.approx(100)
    assert settled["volume_m3"] == pytest.approx(12 * 0.1)
    entry["entry"] = {"kind": "laid", "material": "arborist_leafy", "volume_m3": "1.2 m3"}
    assert owner.client.post(f"{owner.site}/log/estimate", json=entry).json() == pytest.approx(settled)
    entry["entry"] |= {"volume_m3": "0.3 m3", "quarter": 1}
    quarter = owner.client.post(f"{owner.site}/log/estimate", json=entry).json()
    assert quarter == pytest.approx(settled | {"volume_m3": 0.3}), "it lies as deep on a quarter of the ground"
    entry["entry"] = {"kind": "observed"}
    assert owner.client.post(f"{owner.site}/log/estimate", json=entry).json() is None
