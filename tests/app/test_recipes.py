"""Materials, practices and recipes as kept and served."""

from uuid import uuid4

import pytest

from tests.conftest import bed

FILE = {"Content-Type": "application/octet-stream"}


def materials(person) -> dict[str, dict]:
    listed = person.client.get(f"/api/v1/workspaces/{person.workspace_id}/materials").json()
    return {entry["material"]["name"]: entry for entry in listed}


def estimate(person, **changes) -> dict:
    plot = {key: value for key, value in (bed() | changes).items() if key != "id"}
    answer = person.client.post(f"{person.site}/estimate", json={"plot_id": None, "plot": plot})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_an_own_material_is_copied_changed_used_deleted_and_taken_back(owner):
    copy = owner.add_material(name="Mill chips", base="clean_coarse", figures={"density": "350 lb/yd3", "cn": "300:1"})
    key = copy["material"]["key"]
    assert copy["material"]["density"]["value"] == pytest.approx(350 * 0.45359237 / 0.764554857984)
    assert copy["material"]["cn"]["source"]["mark"] == "entered"
    address = f"/api/v1/workspaces/{owner.workspace_id}/materials/{key}"
    changed = {"name": "Mill chips", "units": "metric", "base": "clean_coarse", "figures": {"settling": "10 %"}}
    assert owner.client.put(address, json=changed).status_code == 428
    assert owner.client.put(address, json=changed, headers={"If-Match": '"1"'}).status_code == 200
    plot = owner.add_plot(recipe={"material": key})["plot"]
    assert plot["material"] == "Mill chips"
    assert plot["planned_m3"] == pytest.approx(12 * 0.075 / 0.9 * 1.1)
    assert owner.client.delete(address).status_code == 204
    assert "Mill chips" not in materials(owner)
    bed = owner.client.get(owner.site).json()["plots"][0]
    assert bed["material"] == "Mill chips", "recipes keep what they name"
    assert owner.client.post(f"{address}/restoration").status_code == 204
    assert materials(owner)["Mill chips"]["entry"]["typed"]["figures"] == {"settling": "10 %"}


def test_a_mix_and_a_guessed_load_go_on_the_shelf(owner):
    parts = [{"material": "arborist_much_leaf", "share": "50 %"}, {"material": "conifer_bare", "share": "50 %"}]
    mixed = owner.add_material(name="Half oak, half pine", base=None, parts=parts)
    assert mixed["material"]["density"]["value"] == pytest.approx(175)
    answers = {"look": "mixed_bits", "leaves": "some", "smell": "musty"}
    guess = owner.client.post("/api/v1/load-guess", json=answers).json()
    assert guess["likely"][0] == "Arborist chips, leafy"
    guessed = owner.add_material(name="From the drive", base=None, found=answers)
    assert guessed["material"]["cn"]["low"] == guess["material"]["cn"]["low"]
    assert owner.client.post("/api/v1/load-guess", json={"look": "gold"}).status_code == 422


@pytest.mark.parametrize(
    ("entry", "field"),
    [
        ({"base": "moon_dust"}, "base"),
        ({"base": None}, "base"),
        ({"base": None, "found": {}}, "found"),
        ({"name": ""}, "name"),
        ({"figures": {"density": "heavy"}}, "figures.density"),
        ({"figures": {"density": "9999 kg/m3"}}, "figures.density"),
        ({"figures": {"cn": "0"}}, "figures.cn"),
        ({"figures": {"rate": "fast"}}, "figures.rate"),
        ({"figures": {"moisture": "120 %"}}, "figures.moisture"),
        ({"parts": [{"material": "nothing", "share": "50 %"}]}, "parts.0.material"),
        ({"parts": [{"material": "straw", "share": "0 %"}]}, "parts.0.share"),
    ],
)
def test_bad_materials_are_answered_at_their_field(owner, entry, field):
    typed = {"id": str(uuid4()), "name": "Own", "units": "metric", "base": "straw"} | entry
    answer = owner.client.post(f"/api/v1/workspaces/{owner.workspace_id}/materials", json=typed)
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]


def test_a_pile_is_mixed_by_volume_and_by_weight(owner):
    address = f"/api/v1/workspaces/{owner.workspace_id}/pile-mix"
    parts = [{"material": "grass_clippings", "amount": "1 m3"}, {"material": "leaves_shredded", "amount": "2 cu yd"}]
    pile = {"units": "metric", "parts": parts, "add": "straw", "ratio": "30", "moisture": "60 %"}
    out = owner.client.post(address, json=pile).json()
    assert [round(bucket["buckets"], 2) for bucket in out["buckets"]] == [1, 1.53]
    assert out["cn"]["working"]["terms"]
    assert out["for_ratio"]["kg"] is None, "it is above 30 already"
    assert out["for_moisture"]["kg"] is None or out["for_moisture"]["kg"] >= 0
    weighed = {**pile, "by": "kg", "parts": [{"material": "grass_clippings", "amount": "22.0462262 lb"}]}
    assert owner.client.post(address, json=weighed).json()["buckets"][0]["kg"] == pytest.approx(10)
    for wrong, field in (
        ({"parts": [{"material": "straw", "amount": "much"}]}, "parts.0.amount"),
        ({"ratio": "1"}, "ratio"),
    ):
        answer = owner.client.post(address, json=pile | wrong)
        assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, field)
    assert owner.client.post(address, json=pile | {"parts": [{"material": "straw", "amount": "0"}]}).status_code == 422


def test_a_practice_holds_from_workspace_to_plot(owner):
    address = f"/api/v1/workspaces/{owner.workspace_id}/practice"
    assert owner.client.put(address, json={"rhythm": "thin_often"}).json()["rhythm"] == "thin_often"
    assert estimate(owner)["recipe"]["proposal"]["depth"]["value"] == 40
    by_plot = estimate(owner, recipe={"practice": {"rhythm": "deep_seldom"}})
    assert by_plot["recipe"]["proposal"]["depth"]["value"] == 75
    owner.add_site(practice={"nitrogen": "cautious"})
    by_site = estimate(owner)["recipe"]
    assert (by_site["proposal"]["compost_mm"], by_site["proposal"]["depth"]["value"]) == (25, 40)
    assert owner.client.put(address, json={"rhythm": "never"}).status_code == 422
    assert owner.client.put(address, json={}).json()["rhythm"] is None


def test_a_recipe_is_kept_as_written_and_its_advice_stands_in_the_list(owner):
    recipe = {
        "material": "cocoa_shell",
        "compost_mm": "1 in",
        "laid_share": "80 %",
        "stage": "aged",
        "cardboard": True,
        "hold_backs": [{"name": "Carrots", "rows": 3, "length_m": "2 m", "width_m": "25 cm", "for_good": True}],
        "practice": {"cover": "depth_alone"},
    }
    plot = owner.add_plot(recipe=recipe, found={"pets": True})["plot"]
    assert plot["recipe"]["compost_mm"] == pytest.approx(25.4)
    assert plot["typed"]["recipe"]["compost_mm"] == "1 in"
    assert plot["typed"]["recipe"]["hold_backs"][0]["width_m"] == "25 cm"
    assert plot["advice"]["rule"] == "cocoa_dogs"
    now = owner.now()
    assert {layer["material"] for layer in now["also"]} == {"Cardboard, plain", "Compost, ripe"}
    assert [line["material"] for line in now["order"]] == ["Cocoa shell"], "as loads of its own"


@pytest.mark.parametrize(
    ("recipe", "field"),
    [
        ({"material": "moon_dust"}, "recipe.material"),
        ({"compost_mm": "deep"}, "recipe.compost_mm"),
        ({"laid_share": "300 %"}, "recipe.laid_share"),
        ({"stage": "rotten"}, "recipe.stage"),
        ({"chipped_on": "soon"}, "recipe.chipped_on"),
        ({"hold_backs": [{"length_m": "0", "width_m": "1"}]}, "recipe.hold_backs.0.length_m"),
        ({"practice": {"season": "always"}}, "recipe.practice.season"),
    ],
)
def test_bad_recipes_are_answered_at_their_field(owner, recipe, field):
    answer = owner.client.post(f"{owner.site}/plots", json=bed(recipe=recipe))
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]


def test_the_stage_follows_the_day_it_was_chipped(owner):
    owner.add_site(climate={"kind": "class", "name": "hot_wet"})
    old = estimate(owner, recipe={"chipped_on": "2020-01-01"})["recipe"]["layers"][-1]["stage"]
    assert old == "decomposed"
    assert estimate(owner, recipe={"chipped_on": "2999-01-01"})["recipe"]["layers"][-1]["stage"] == "fresh"


def test_an_archive_brings_its_own_materials_along(owner, new_person):
    key = owner.add_material(name="Our mix")["material"]["key"]
    owner.add_site(material=key, fire_district=True, practice={"season": "both_thin"})
    owner.add_plot(recipe={"material": key, "compost_mm": "20 mm"})
    content = owner.client.get(f"{owner.site}/file.json").content
    other = new_person()
    site = other.restores(str(uuid4()), content).json()
    sheet = other.client.get(f"{other.sites}/{site['id']}").json()
    assert sheet["plots"][0]["material"] == "Our mix"
    assert (sheet["site"]["fire_district"], sheet["site"]["practice"]["season"]) == (True, "both_thin")
    assert sheet["site"]["material"] != key, "it has an id of its own there"
    assert "Our mix" in materials(other)
    assert (
        owner.client.post(f"{owner.site}/plots", json=bed(recipe={"material": sheet["site"]["material"]})).status_code
        == 422
    )
