from uuid import uuid4

import pytest

from tests.conftest import bed, typed_bed


def test_a_site_with_three_plots_is_kept_as_typed_and_computed(owner):
    owner.add_plot(name="Bed", shape={"kind": "rectangle", "length_m": "12 x 3.5 m", "width_m": ""})
    owner.add_plot(name="Path", use="foot_path", shape={"kind": "path", "legs_m": "12'6\" + 8 ft", "width_m": "3 ft"})
    ring = {"kind": "ring", "canopy_m": "4", "trunk_m": "60", "gap_m": "15 cm", "trees": 3}
    owner.add_plot(name="Trees", use="young_tree", shape=ring, existing_mm="1 in")
    sheet = owner.client.get(owner.site).json()
    bed_row, path_row, ring_row = sheet["plots"]
    assert bed_row["shape"]["length_m"] == 12
    assert bed_row["typed"]["shape"] == {"length_m": "12 x 3.5 m"}
    assert path_row["shape"]["legs_m"] == pytest.approx([3.81, 2.4384])
    assert ring_row["shape"]["trunk_m"] == 0.6
    assert ring_row["existing_mm"] == 25.4
    assert sheet["now"]["needed_m3"] == pytest.approx(sum(plot["planned_m3"] for plot in sheet["plots"]))
    (summary,) = [site for site in owner.client.get(owner.sites).json() if site["site"]["id"] == owner.site_id]
    assert summary["now"] == sheet["now"]
    assert summary["plots"] == 3


def test_bare_numbers_take_the_sites_unit(owner):
    owner.add_site(units="us", load_m3="12", barrow_m3="6 cu ft")
    plot = owner.add_plot(units="us", shape={"kind": "rectangle", "length_m": "10", "width_m": "10"}, wanted_mm="3")
    assert plot["plot"]["area_m2"] == pytest.approx(9.290304)
    assert plot["plot"]["wanted_mm"] == pytest.approx(76.2)
    assert owner.client.get(owner.site).json()["site"]["load_m3"] == pytest.approx(9.174658)


def test_nonsense_gets_its_sentence_at_each_field(owner):
    wrong = bed(shape={"kind": "rectangle", "length_m": "wide", "width_m": "-2"}, wanted_mm="9 m", name=" ")
    answer = owner.client.post(f"{owner.site}/plots", json=wrong)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    errors = {error["field"]: error["detail"] for error in answer.json()["errors"]}
    assert set(errors) == {"name", "shape.length_m", "shape.width_m", "wanted_mm"}
    assert "“wide” is not a length that can be read. Type it like 12.5" in errors["shape.length_m"]
    assert "below zero" in errors["shape.width_m"]
    assert "Is the unit right?" in errors["wanted_mm"]


def test_a_ring_without_ground_says_so_at_the_canopy(owner):
    ring = {"kind": "ring", "canopy_m": "1 m", "trunk_m": "90 cm", "trunk_as": "diameter", "gap_m": "30 cm"}
    answer = owner.client.post(f"{owner.site}/plots", json=bed(shape=ring))
    assert answer.json()["errors"] == [{"field": "shape.canopy_m", "detail": answer.json()["detail"]}]


def test_what_is_being_typed_is_estimated_with_the_site_and_not_kept(owner):
    plot = owner.add_plot()["plot"]
    entry = {"plot_id": None, "plot": typed_bed()}
    with_new = owner.client.post(f"{owner.site}/estimate", json=entry).json()
    assert with_new["now"]["needed_m3"] == pytest.approx(2 * plot["planned_m3"])
    assert with_new["plot"]["planned"]["value"] == pytest.approx(plot["planned_m3"])
    in_place = owner.client.post(f"{owner.site}/estimate", json=entry | {"plot_id": plot["id"]}).json()
    assert in_place["now"]["needed_m3"] == pytest.approx(plot["planned_m3"])
    assert with_new["now"]["hours"] > in_place["now"]["hours"] > 0
    assert len(owner.client.get(owner.site).json()["plots"]) == 1


def test_the_first_plot_already_says_how_long_it_takes(owner):
    with_first = owner.client.post(f"{owner.site}/estimate", json={"plot_id": None, "plot": typed_bed()}).json()
    assert with_first["now"]["loads"] == 1
    assert with_first["now"]["hours"] > 0


def test_a_site_is_made_from_a_region_and_says_what_to_do_next(owner):
    listed = owner.client.get("/api/v1/regions", params={"time_zone": "Pacific/Auckland"}).json()
    guessed = next(region for region in listed["regions"] if region["key"] == listed["guess"])
    assert (guessed["key"], "judgement" in listed["climate_source"]) == ("new_zealand", True)
    entry = {
        "id": str(uuid4()),
        "name": "Terrace",
        "units": guessed["units"],
        "currency": guessed["currency"],
        "load_m3": "10",
        "climate": {"kind": "class", "name": guessed["climate"], "southern": guessed["southern"]},
    }
    assert owner.client.post(owner.sites, json=entry).status_code == 201
    site = f"{owner.sites}/{entry['id']}"
    sheet = owner.client.get(site).json()
    assert [step["key"] for step in sheet["steps"]] == ["plot"]
    assert (sheet["climate_assumed"], sheet["now"]["currency"]) == (False, "NZD")
    owner.client.post(f"{site}/plots", json=bed())
    steps = owner.client.get(site).json()["steps"]
    assert next(step["key"] for step in steps if not step["optional"]) == "order"
    odd = owner.client.post(owner.sites, json=entry | {"id": str(uuid4()), "currency": "kiwi"})
    assert (odd.status_code, odd.json()["errors"][0]["field"]) == (422, "currency")


def test_saving_twice_makes_one_plot(owner):
    entry = bed()
    for _ in range(2):
        assert owner.client.post(f"{owner.site}/plots", json=entry).status_code == 201
    assert len(owner.client.get(owner.site).json()["plots"]) == 1


def test_two_people_changing_one_plot_do_not_overwrite_each_other(owner):
    plot = owner.add_plot()["plot"]
    address = f"{owner.site}/plots/{plot['id']}"
    first = owner.client.put(address, json=typed_bed(name="First"), headers={"If-Match": '"1"'})
    assert first.headers["etag"] == '"2"'
    assert owner.client.put(address, json=typed_bed(name="Second"), headers={"If-Match": '"1"'}).status_code == 412
    assert owner.client.put(address, json=typed_bed(name="Third")).status_code == 428
    assert owner.client.get(address).json()["plot"]["name"] == "First"


def test_places_are_kept_and_given_back_and_leave_the_version_alone(owner):
    plot = owner.add_plot()["plot"]
    place = {"x_m": 4.5, "y_m": -2, "turn_deg": 30}
    stray = {str(uuid4()): place}
    owner.client.put(f"{owner.site}/places", json={"places": {plot["id"]: place} | stray})
    (placed,) = owner.client.get(owner.site).json()["plots"]
    assert (placed["place"], placed["placed_by_hand"], placed["version"]) == (place, True, 1)
    owner.client.put(f"{owner.site}/places", json={"places": {plot["id"]: None}})
    assert not owner.client.get(owner.site).json()["plots"][0]["placed_by_hand"]


def test_deleting_can_be_taken_back(owner):
    plot = owner.add_plot()["plot"]
    address = f"{owner.site}/plots/{plot['id']}"
    assert owner.client.delete(address).status_code == 204
    assert owner.client.get(address).status_code == 404
    assert owner.client.get(owner.site).json()["now"]["needed_m3"] == 0
    assert owner.client.post(f"{address}/restoration").status_code == 204
    assert owner.client.get(address).json()["plot"]["name"] == "Rose bed"
    owner.client.delete(owner.site)
    assert owner.client.get(owner.sites).json() == []
    owner.client.post(f"{owner.site}/restoration")
    assert owner.client.get(owner.sites).json()[0]["plots"] == 1


def choose(person, lines, version=None):
    version = version or person.client.get(person.site).json()["site"]["version"]
    season = person.now()["key"]
    entry = {"season": season, "lines": lines}
    return person.client.put(f"{person.site}/choice", json=entry, headers={"If-Match": f'"{version}"'})


def test_loads_can_be_chosen_short_or_over_and_every_page_knows(owner):
    owner.add_plot(shape={"kind": "rectangle", "length_m": "20 m", "width_m": "10 m"})
    need = 200 * 0.075 / 0.78 * 1.1
    planned = owner.now()
    assert (planned["loads"], planned["decided"]) == (5, False)
    (line,) = planned["order"]
    assert choose(owner, [{"source": line["key"], "loads": 2}], version=99).status_code == 412
    assert choose(owner, [{"source": line["key"], "loads": 2}]).status_code in (200, 204)
    short = owner.now()
    assert (short["loads"], short["decided"], short["left_over_m3"]) == (2, True, 0)
    assert short["short_m3"] == pytest.approx(need - 10)
    assert owner.reads("orders")["now"] == owner.reads("quotes")["now"] == short
    assert choose(owner, [{"source": line["key"], "loads": 6}]).status_code in (200, 204)
    assert owner.now()["left_over_m3"] == pytest.approx(30 - need)
    assert choose(owner, None).status_code in (200, 204)
    assert owner.now() == planned
    assert choose(owner, [{"source": "nobody", "loads": 1}]).status_code == 422
    assert choose(owner, [{"source": line["key"], "loads": -1}]).status_code == 422
