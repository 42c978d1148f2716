"""How sure an order is, whether it stands on the tip, and what it takes to move it."""

from uuid import uuid4

import pytest

from tests.conftest import bed


def sheet(person) -> dict:
    return person.client.get(person.site).json()


def test_a_range_of_loads_says_how_sure_an_order_is(owner):
    owner.add_site(load_m3="5", load_least_m3="4 m3", load_most_m3="6 m3")
    owner.add_plot(shape={"kind": "rectangle", "length_m": "20", "width_m": "9"})
    order = owner.reads("orders")
    need = 180 * 0.075 / 0.78 * 1.1
    assert order["now"]["needed_m3"] == pytest.approx(need)
    certainty = order["certainty"]
    assert certainty["for_50"] <= certainty["for_80"] <= certainty["for_95"]
    assert certainty["for_50"] == round(need / 5)
    assert sheet(owner)["site"]["typed"]["load_least_m3"] == "4 m3"
    owner.add_site()
    owner.add_plot()
    assert owner.reads("orders")["certainty"] is None, "a load that always holds the same is certain"


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"load_least_m3": "9"}, "load_least_m3"),
        ({"load_most_m3": "3"}, "load_most_m3"),
        ({"load_least_m3": "little"}, "load_least_m3"),
        ({"load_most_m3": "-1"}, "load_most_m3"),
    ],
)
def test_a_range_that_makes_no_sense_is_refused_at_its_field(owner, changes, field):
    entry = {"id": str(uuid4()), "name": "X", "units": "metric", "load_m3": "5"} | changes
    answer = owner.client.post(owner.sites, json=entry)
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]


def test_a_load_stands_on_a_tip_or_does_not(owner):
    owner.add_site(load_m3="12 m3")
    owner.add_landmark()
    small = {"kind": "tip", "place": {"x_m": "9", "y_m": "0"}, "length_m": "2 m", "width_m": "2 m"}
    owner.add_landmark(name="Verge", landmark=small)
    yard, verge = sheet(owner)["tips"]
    assert (yard["tip"], yard["fits"], verge["fits"]) == ("Yard", True, False)
    assert yard["stand"]["height_m"] <= 2
    assert verge["holds_m3"] == pytest.approx(3.141592653589793 * 0.8390996 / 3)


def test_hours_follow_the_walk_and_the_ground_of_the_tip(owner):
    plot = owner.add_plot(found={"way_width_m": "60 cm"})["plot"]
    ((leg,),) = [turn["legs"] for turn in owner.reads("moving")["turns"]]
    assert (leg["known"], leg["carrier"]) == (False, None), "a barrow is wider than its way"
    owner.client.put(f"{owner.site}/places", json={"places": {plot["id"]: {"x_m": 30, "y_m": 0}}})
    tip = {"kind": "tip", "place": {"x_m": "0", "y_m": "0"}, "length_m": "6 m", "width_m": "4 m", "surface": "hard"}
    landmark = owner.add_landmark(landmark=tip)
    hard = owner.now()
    assert owner.reads("moving")["walked_m"] == pytest.approx(2 * 16 * 30)
    assert hard["trips"] == 16
    typed = {"plot_id": plot["id"], "plot": {key: value for key, value in bed().items() if key != "id"}}
    figures = owner.client.post(f"{owner.site}/estimate", json=typed).json()["now"]
    assert figures["hours"] == pytest.approx(hard["hours"])
    soft = {"name": "Yard", "units": "metric", "landmark": tip | {"surface": "soft"}}
    address = f"{owner.site}/landmarks/{landmark['id']}"
    assert owner.client.put(address, json=soft, headers={"If-Match": '"1"'}).status_code == 200
    assert owner.now()["hours"] - hard["hours"] == pytest.approx(hard["needed_m3"] * 10 / 60)
