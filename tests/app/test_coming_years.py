"""What coming years take, through HTTP: demand, rules side by side, chips that are waited for, soil, growth."""

from datetime import timedelta

import pytest

from tests.app.test_seasons import BED, NORMALS, site
from tests.conftest import TODAY, in_autumn
from tests.conftest import bed as a_bed

__all__ = ["site"]


def test_demand_is_the_sum_of_the_seasons_and_those_of_their_layings(site):
    site.add_plot(name="Path", use="foot_path", wanted_mm="100 mm")
    sheet, years = site.reads("seasons?years=3"), site.reads("years?years=3")
    laid = [laying for plot in sheet["plots"] for laying in plot["layings"]]
    assert laid
    assert years["seasons"][0]["figures"] == {key: value for key, value in sheet["now"].items() if key != "next"}
    offered = {season["key"] for season in site.reads("orders")["seasons"]}
    for season in years["seasons"]:
        ordered_m3 = sum(laying["ordered_m3"] for laying in laid if laying["season"] == season["figures"]["season"])
        assert season["figures"]["needed_m3"] == pytest.approx(ordered_m3)
        assert sum(season["by_material"].values()) == pytest.approx(ordered_m3)
        if season["figures"]["key"] in offered:
            ordered = site.reads(f"orders?season={season['figures']['key']}")["season"]
            assert ordered == season["figures"], "the order page of that season says the same"
    total = sum(season["figures"]["needed_m3"] for season in years["seasons"])
    assert 0 < sum(year["volume_m3"] for year in years["years"]) <= total + 1e-6, "years are those that end within"
    for year in years["years"]:
        assert year["low_m3"] <= year["volume_m3"] + 1e-6


def test_need_against_supply_says_when_it_breaks(site):
    assert site.reads("years")["breaks_in"] in (TODAY.year, TODAY.year + 1), "nobody brings anything yet"
    site.add_supplier(source={"kind": "own", "material": "ramial", "year_m3": "90 m3"})
    sheet = site.reads("years")
    assert sheet["breaks_in"] is None
    assert sheet["years"][0]["supply_m3"] == pytest.approx(90)


def test_rules_are_set_side_by_side(site):
    compared = site.client.get(f"{site.site}/plots/{site.plot_ids[0]}/rules").json()
    kinds = [choice["rule"]["kind"] for choice in compared]
    assert kinds[0] == "keep"
    assert {"thin", "every"} <= set(kinds)
    for choice in compared:
        assert choice["hours"] == pytest.approx(choice["volume_m3"] * compared[0]["hours"] / compared[0]["volume_m3"])
        assert choice["least_mm"] <= choice["mean_mm"]


def test_more_supply_holds_more_depth_and_what_it_needs_holds_what_it_is(site):
    depths = [site.reads(f"held?supply_m3={supply}")["depth_mm"] for supply in (0.5, 1.5, 3)]
    assert depths == sorted(depths)
    assert depths[0] < depths[2]
    assert site.reads("held?supply_m3=0")["depth_mm"] is None
    assert site.client.get(f"{site.site}/held?supply_m3=-1").status_code == 422


def test_what_is_made_good_at_first_is_not_needed_each_year(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(shape=BED, wanted_mm="150 mm", existing_mm="0")
    first, *other_years = (year["volume_m3"] for year in owner.reads("years")["years"])
    needed = owner.reads("held?supply_m3=0")["needed_m3"]
    assert needed == pytest.approx(sum(other_years) / len(other_years), rel=0.1)
    assert first > 2 * needed
    assert owner.reads(f"held?supply_m3={needed}")["depth_mm"] > 0.95 * 150, "deeper ground is filled up less often"


CREW = {
    "kind": "arborist",
    "material": "arborist_leafy",
    "least_m3": "1 m3",
    "likely_m3": "1.5 m3",
    "most_m3": "2 m3",
    "chance": 0.9,
}


@pytest.fixture
def short(site):
    """A site that wants more at once than a crew brings in a season."""
    site.add_plot(name="Second", shape=BED, wanted_mm="150 mm", existing_mm="0")
    return site


def late(sheet) -> list[dict]:
    return [laying for plot in sheet["plots"] for laying in plot["layings"] if laying["wanted_on"] < laying["on"]]


@in_autumn
def test_layings_wait_for_chips_where_nobody_sells_any(short):
    free = short.reads("seasons?years=5")
    assert (free["waits"], late(free)) == (False, []), "nobody is known: nothing to wait for"
    short.add_supplier(name="Crew", source=CREW)
    waits = short.reads("seasons?years=5")
    assert waits["waits"] is True
    assert late(waits)
    short.add_supplier(name="Quarry Lane")
    assert short.reads("seasons")["waits"] is False, "now the rest can be bought"


def test_whether_to_wait_can_be_said(short):
    short.add_supplier(name="Crew", source=CREW)
    short.client.put(f"{short.site}/seasons", json={"waits": False})
    assert late(short.reads("seasons")) == []
    short.client.put(f"{short.site}/seasons", json={"waits": True})
    sheet = short.reads("seasons")
    for plot in short.plot_ids[-2:]:
        drawn = next(other for other in sheet["plots"] if other["plot_id"] == plot)
        layers = short.client.get(f"{short.site}/plots/{plot}/layers").json()["layers"]
        assert [layer["on"] for layer in layers if layer["planned"]] == [laying["on"] for laying in drawn["layings"]]


@pytest.mark.parametrize("answer", ["maybe", 7, [], {}])
def test_whether_to_wait_is_yes_or_no(short, answer):
    answer = short.client.put(f"{short.site}/seasons", json={"waits": answer})
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, "waits")


def test_what_nobody_brings_is_waited_for_in_vain(short):
    short.add_supplier(name="Straw", source={"kind": "own", "material": "straw", "year_m3": "20 m3"})
    sheet = short.reads("seasons")
    assert sheet["waits"] is True
    assert all(plot["layings"] == [] for plot in sheet["plots"])
    waiting = [plot for plot in sheet["plots"] if plot["waits_since"]]
    assert waiting
    assert all("none are likely to come" in plot["next_step"] for plot in waiting)


@in_autumn
def test_what_lies_on_a_pile_need_not_be_waited_for(short):
    short.add_supplier(name="Crew", source=CREW)
    before = len(late(short.reads("seasons?years=5")))
    short.receives("40 m3")
    assert len(late(short.reads("seasons?years=5"))) < before


def test_all_sites_add_up(site):
    site.add_supplier(name="Crew", currency="USD", source=CREW | {"per_load": "30"})
    site.add_supplier(name="Quarry Lane")
    site.add_site(name="Second", climate=NORMALS)
    site.add_plot(shape=BED)
    site.buys(currency="USD")
    years = site.client.get(f"/api/v1/workspaces/{site.workspace_id}/years").json()
    volumes_by_site = {site["site_id"]: site["volumes_m3"] for site in years["sites"]}
    for index, total in enumerate(years["total_m3"]):
        assert total == pytest.approx(sum(volumes[index] for volumes in volumes_by_site.values()))
    sheet = site.reads("years")
    ahead = len(sheet["years"])
    assert volumes_by_site[site.site_id][:ahead] == pytest.approx(
        [year["volume_m3"] for year in sheet["years"]][: len(volumes_by_site[site.site_id])]
    )
    summaries = {summary["site"]["id"]: summary["now"] for summary in site.client.get(site.sites).json()}
    assert {site["site_id"]: site["now"] for site in years["sites"]} == summaries
    assert years["supply_m3"] > 0, "the crew comes to all sites together, whatever it is paid in"
    broken = [year for year, total in zip(years["years"], years["total_m3"], strict=True) if total > years["supply_m3"]]
    assert years["breaks_in"] == (broken[0] if broken else None)
    for season in years["seasons"]:
        assert set(season["costs"]) <= {"USD", "EUR"}


def test_soil_is_made_year_by_year_in_depth_mass_and_carbon(site):
    site.add_plot(name="Second", shape=BED, existing_mm="120 mm")
    soil = site.reads("seasons?years=6")["soil"]
    assert [year["years"] for year in soil] == [1, 2, 3, 4, 5, 6]
    for year in soil:
        assert year["humus_mm"] == pytest.approx(year["humus_kg_m2"] / 550 * 1000), "550 kg in a dry m³ of humus"
        assert year["carbon_kg"] == pytest.approx(year["humus_kg_m2"] / 2 * 40), "half of it, on twice 20 m²"
        assert year["low_carbon_kg"] == pytest.approx(year["low_kg_m2"] / 2 * 40)
        assert year["low_kg_m2"] <= year["humus_kg_m2"] <= year["high_kg_m2"]
    masses = [year["humus_kg_m2"] for year in soil]
    assert masses == sorted(masses)
    assert soil[0]["high_kg_m2"] > soil[0]["low_kg_m2"]


def test_a_site_without_ground_has_seasons_and_makes_no_soil(owner):
    owner.add_site(climate=NORMALS)
    sheet = owner.reads("seasons")
    assert (sheet["plots"], owner.reads("years")["breaks_in"]) == ([], None)
    assert {year["carbon_kg"] for year in sheet["soil"]} == {0}
    assert sheet["place_year"]["zone"] == "8b"


def test_rings_widen_by_what_is_noted_of_their_growth_and_so_take_more(owner):
    owner.add_site(climate=NORMALS)
    row = {"kind": "ring_row", "canopy_m": "2 m", "trunk_m": "10 cm", "gap_m": "10 cm", "trees": 10, "spacing_m": "4 m"}
    by_growth = {}
    for growth in (None, "0", "80 cm"):
        noted = {} if growth is None else {"growth_m": growth}
        owner.add_plot(name=f"Row {growth}", use="young_tree", shape=row, wanted_mm="100 mm", found=noted)
    for plot, growth in zip(owner.reads("seasons?years=4")["plots"], (None, "0", "80 cm"), strict=True):
        by_growth[growth] = (sum(laying["ordered_m3"] for laying in plot["layings"]), plot["closes_in"])
    assert by_growth["0"][0] < by_growth[None][0] < by_growth["80 cm"][0]
    assert by_growth["0"][1] is None
    assert by_growth["80 cm"][1] < by_growth[None][1]
    refused = owner.client.post(f"{owner.site}/plots", json=a_bed(found={"growth_m": "fast"}))
    assert (refused.status_code, refused.json()["errors"][0]["field"]) == (422, "found.growth_m")


@in_autumn
def test_a_plot_can_be_left_for_a_season_or_laid_before_it_is_due(site):
    (season, *_) = site.reads("orders")["seasons"]
    address = f"{site.site}/plots/{site.plot_ids[0]}/decision"
    planned = site.now()["needed_m3"]
    assert planned > 0
    headers = {"If-Match": '"1"'}
    answer = site.client.put(address, json={"season": season["key"], "decision": {"kind": "skip"}}, headers=headers)
    assert answer.status_code in (200, 204), answer.text
    assert site.now()["needed_m3"] == 0
    version = site.client.get(site.site).json()["plots"][0]["version"]
    headers = {"If-Match": f'"{version}"'}
    assert site.client.put(address, json={"season": season["key"], "decision": None}, headers=headers).status_code < 300
    assert site.now()["needed_m3"] == pytest.approx(planned)
    assert site.client.put(address, json={"season": season["key"], "decision": {"kind": "burn"}}).status_code == 422


def test_what_was_laid_last_season_is_no_part_of_this_one(site):
    site.logs(TODAY - timedelta(days=400), kind="laid", material="bark_shredded", depth_mm="75 mm")
    site.logs(TODAY, kind="measured", depth_mm="40 mm")
    assert site.now()["needed_m3"] > 0, "measured since, it is known to be thinner"
