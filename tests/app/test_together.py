"""Two people on the same materials, ways and practices, and those who may only look."""

import pytest

from tests.app.test_commands import at_once
from tests.conftest import bed

TIP = {"kind": "tip", "place": {"x_m": "1", "y_m": "2"}, "length_m": "6 m", "width_m": "4 m"}


def materials(person) -> str:
    return f"/api/v1/workspaces/{person.workspace_id}/materials"


def test_of_two_changes_to_a_material_one_is_told_to_look_again(owner):
    address = f"{materials(owner)}/{owner.add_material()['material']['key']}"
    entry = {"name": "Ours", "units": "metric", "base": "straw"}
    change = lambda name: owner.client.put(address, json=entry | {"name": name}, headers={"If-Match": '"1"'})  # noqa: E731
    assert at_once(lambda: change("One"), lambda: change("Two")) == [200, 412]


def test_of_two_changes_to_a_way_one_is_told_to_look_again(owner):
    address = f"{owner.site}/landmarks/{owner.add_landmark()['id']}"
    entry = {"name": "Yard", "units": "metric", "landmark": TIP}
    change = lambda name: owner.client.put(address, json=entry | {"name": name}, headers={"If-Match": '"1"'})  # noqa: E731
    assert at_once(lambda: change("One"), lambda: change("Two")) == [200, 412]


def test_the_same_tip_sent_twice_at_once_is_kept_once(owner):
    entry = {"id": "7d7f0b9c-57a8-4d8b-8d36-0c6f33f0a111", "name": "Yard", "units": "metric", "landmark": TIP}
    statuses = at_once(*[lambda: owner.client.post(f"{owner.site}/landmarks", json=entry)] * 4)
    assert set(statuses) <= {201, 409}
    assert [landmark["name"] for landmark in owner.client.get(owner.site).json()["landmarks"]] == ["Yard"]


def test_a_viewer_reads_materials_and_practice_and_mixes_a_pile(owner, new_person):
    viewer = new_person().joins(owner, "viewer")
    assert viewer.client.get(materials(owner)).status_code == 200
    pile = {"units": "metric", "parts": [{"material": "straw", "amount": "1"}]}
    assert viewer.client.post(f"/api/v1/workspaces/{owner.workspace_id}/pile-mix", json=pile).status_code == 200
    practice = f"/api/v1/workspaces/{owner.workspace_id}/practice"
    assert viewer.client.get(practice).status_code == 200
    assert viewer.client.put(practice, json={"rhythm": "thin_often"}).status_code == 403
    entry = {"id": "7d7f0b9c-57a8-4d8b-8d36-0c6f33f0a112", "name": "Mine", "units": "metric", "base": "straw"}
    assert viewer.client.post(materials(owner), json=entry).status_code == 403


def test_anothers_material_cannot_be_named_in_a_recipe_or_a_mix(owner, new_person):
    other = new_person()
    other.add_site()
    key = other.add_material(name="Secret blend")["material"]["key"]
    for recipe in ({"material": key},):
        answer = owner.client.post(f"{owner.site}/plots", json=bed(recipe=recipe))
        assert answer.status_code == 422
        assert "Secret blend" not in answer.text
    mixed = {"id": "7d7f0b9c-57a8-4d8b-8d36-0c6f33f0a113", "name": "Mix", "units": "metric"}
    parts = [{"material": key, "share": "50 %"}, {"material": "straw", "share": "50 %"}]
    assert owner.client.post(materials(owner), json=mixed | {"parts": parts}).status_code == 422
    site = owner.client.get(owner.site).json()["site"]
    entry = {"name": site["name"], "units": "metric", "load_m3": "5", "material": key}
    answer = owner.client.put(owner.site, json=entry, headers={"If-Match": f'"{site["version"]}"'})
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, "material")


@pytest.mark.parametrize("what", ["materials", "landmarks"])
def test_what_was_deleted_is_gone_until_it_is_taken_back(owner, what):
    if what == "materials":
        address = f"{materials(owner)}/{owner.add_material()['material']['key']}"
    else:
        address = f"{owner.site}/landmarks/{owner.add_landmark()['id']}"
    assert owner.client.delete(address).status_code == 204
    assert owner.client.delete(address).status_code == 404
    assert owner.client.post(f"{address}/restoration").status_code == 204
    assert owner.client.post(f"{address}/restoration").status_code == 404
