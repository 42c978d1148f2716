"""What to order: suppliers, limits, priorities, and what a site's own choices change."""

from uuid import uuid4

import pytest

from tests.conftest import in_autumn

BED = {"kind": "rectangle", "length_m": "20 m", "width_m": "9 m"}
SMALL = {"kind": "rectangle", "length_m": "10 m", "width_m": "9 m"}
CREW = {
    "kind": "arborist",
    "material": "arborist_leafy",
    "least_m3": "7",
    "likely_m3": "10",
    "most_m3": "13",
    "per_load": "20",
    "chance": "100 %",
}


def bought(plan: dict, choice: int = 0) -> dict[str, int]:
    return {purchase["name"]: purchase["loads"] for purchase in plan["choices"][choice]["purchases"]}


def test_the_cheapest_is_chosen_and_the_next_best_is_told_apart(owner):
    owner.add_plot(shape=SMALL)
    owner.add_supplier()
    owner.add_supplier(name="Two Saws", source=CREW)
    plan = owner.reads("orders")
    need = 90 * 0.075 / 0.78 * 1.1
    assert plan["now"]["needed_m3"] == pytest.approx(need)
    assert bought(plan) == {"Two Saws": 1}
    best, *others = plan["choices"]
    assert best["cost"] == 20
    assert best["left_over_m3"] == pytest.approx(10 - need)
    assert 0.5 <= best["enough"] < 1
    assert all(other["difference"] and other["cost"] >= 20 for other in others)
    assert sum(loads for _, loads in best["purchases"][0]["by_month"]) == 1
    assert (plan["now"]["loads"], plan["now"]["enough"]) == (1, best["enough"])
    assert float(plan["now"]["cost"]) == 20, "no labour is priced here"


def test_surer_takes_more_loads(owner):
    owner.add_site(load_m3="9 m3", load_least_m3="6 m3", load_most_m3="12 m3")
    owner.add_plot(shape={"kind": "rectangle", "length_m": "20 m", "width_m": "8.2 m"})
    fifty_percent = owner.now()
    owner.buys(sure=95)
    surer = owner.now()
    assert surer["loads"] > fifty_percent["loads"]
    assert (surer["sure"], surer["short_m3"]) == (95, 0)
    assert fifty_percent["enough"] < 0.95 <= surer["enough"]


@pytest.mark.parametrize(
    ("buying", "source", "sentence"),
    [
        ({"budget": "100"}, None, "The budget is too small."),
        ({}, {"kind": "own", "material": "arborist_leafy", "year_m3": "2 m3"}, "Too few loads are likely to come"),
    ],
)
def test_what_binds_is_said_with_what_can_be_had_all_the_same(owner, buying, source, sentence):
    owner.add_plot(shape=BED)
    owner.add_supplier(**({"source": source} if source else {}))
    owner.buys(**buying)
    plan = owner.reads("orders")
    assert plan["choices"] == []
    assert plan["binding"].startswith(sentence)
    assert plan["nearest"]["short_m3"] == pytest.approx(plan["now"]["needed_m3"] - plan["nearest"]["volume_m3"])
    assert plan["plots"][0]["short_m3"] == pytest.approx(plan["nearest"]["short_m3"])
    assert plan["now"]["short_m3"] == pytest.approx(plan["nearest"]["short_m3"])
    assert plan["now"]["binding"] == plan["binding"]


@in_autumn
def test_whole_plots_first_by_priority_and_one_load_more_buys_the_rest(owner):
    names = {name: owner.add_plot(name=name, shape=BED)["plot"]["id"] for name in ("Row", "Bank", "Track")}
    owner.receives("40 m3")
    owner.add_supplier()
    owner.buys(budget="1")
    assert [(plot["name"], plot["whole"]) for plot in owner.reads("orders")["plots"]] == [
        ("Row", True),
        ("Bank", True),
        ("Track", False),
    ]
    changed = {names["Row"]: 3, names["Track"]: 1}
    assert owner.client.put(f"{owner.site}/priorities", json={"priorities": changed}).status_code == 204
    plan = owner.reads("orders")
    assert [(plot["name"], plot["whole"]) for plot in plan["plots"]] == [
        ("Track", True),
        ("Bank", True),
        ("Row", False),
    ]
    more = plan["one_more"]
    assert (more["source"], more["load_m3"], more["whole"], more["part"]) == ("Quarry Lane", 15, [], "Row")
    assert more["over_m3"] == pytest.approx(0, abs=1e-6)
    refused = owner.client.put(f"{owner.site}/priorities", json={"priorities": {names["Row"]: 7}})
    assert refused.status_code == 422
    assert owner.client.put(f"{owner.site}/priorities", json={"priorities": {str(uuid4()): 1}}).status_code == 404


@in_autumn
def test_too_much_goes_to_a_pile_with_what_it_will_be_good_for(owner):
    owner.add_plot()
    owner.add_landmark(
        name="Barn",
        landmark={"kind": "pile_place", "place": {"x_m": "0", "y_m": "0"}, "length_m": "5 m", "width_m": "4 m"},
    )
    owner.receives("9 m3")
    (surplus,) = owner.reads("orders")["surplus"]
    assert surplus["volume_m3"] == pytest.approx(9 - 12 * 0.075 / 0.78 * 1.1, abs=0.01)
    assert (surplus["place"], surplus["in_a_year"]) == ("Barn", "ageing")


def test_a_plot_takes_what_its_recipe_and_advice_allow(owner):
    bank = owner.add_plot(name="Bank", use="bank", slope={"angle_deg": "18", "taped": "along"})["plot"]
    owner.add_plot(name="Sown", recipe={"material": "straw"})
    owner.add_supplier()
    owner.add_supplier(name="Bark", source={"kind": "own", "material": "bark_shredded", "year_m3": "9 m3"})
    plan = owner.reads("orders")
    accepts = {plot["name"]: plot["accepts"] for plot in plan["plots"]}
    assert "Arborist chips, leafy" not in accepts["Bank"], "chips slide there"
    assert "Shredded bark" in accepts["Bank"]
    assert accepts["Sown"] == ["Straw"], "what was chosen by hand is the only one"
    unnamed = [line["material"] for line in plan["now"]["order"] if line["source"] is None]
    assert unnamed == ["Straw"], "nobody brings it"
    assert plan["now"]["cost"] is None
    assert bought(plan)["Bark"] == 1
    accepted = {"accepts": ["arborist_leafy"], "accepts_stages": ["fresh"]}
    entry = {key: bank[key] for key in ("name", "use", "shape", "slope", "wanted_mm")}
    answer = owner.client.put(
        f"{owner.site}/plots/{bank['id']}",
        json=entry | {"units": "metric", "recipe": accepted},
        headers={"If-Match": '"1"'},
    )
    assert answer.status_code == 200, answer.text
    changed = next(plot for plot in owner.reads("orders")["plots"] if plot["name"] == "Bank")
    assert (changed["accepts"], changed["stages"]) == (["Arborist chips, leafy"], ["fresh"])


def test_compost_beneath_is_ordered_too(owner):
    owner.add_plot(recipe={"compost_mm": "25 mm"})
    owner.add_supplier()
    first = owner.now()
    assert [(layer["role"], layer["amount"]) for layer in first["also"]] == [
        ("compost", pytest.approx(12 * 0.025 / 0.8 * 1.1)),
    ]
    owner.add_supplier(
        name="Town compost",
        source={"kind": "yard", "material": "compost", "trailer_m3": "1 m3", "payload_kg": "300 kg", "per_trip": "10"},
    )
    plan = owner.reads("orders")
    assert bought(plan)["Town compost"] == 1
    assert plan["now"]["needed_m3"] == pytest.approx(12 * 0.075 / 0.78 * 1.1), "the need is that of mulch"
    assert plan["now"]["hours"] == pytest.approx(first["hours"]), "it is hauled whoever brings it"


def test_who_is_not_reckoned_with_is_told_why(owner):
    owner.add_plot()
    owner.add_landmark(landmark={"kind": "tip", "place": {"x_m": "0", "y_m": "0"}, "length_m": "3 m", "width_m": "2 m"})
    owner.add_supplier(name="Abroad", currency="USD")
    owner.add_supplier(name="Large", source=CREW)
    owner.add_supplier(name="Straw", source={"kind": "own", "material": "straw", "year_m3": "1 m3"})
    owner.add_supplier(name="Seldom", source=CREW | {"chance": "1 %"})
    unfit = {source["name"]: source["unfit"] for source in owner.reads("orders")["sources"] if source["name"]}
    assert unfit == {
        "Abroad": "Priced in USD; this site uses EUR.",
        "Large": "No tip on this site holds its largest load.",
        "Straw": "No plot here accepts this material.",
        "Seldom": "Comes too rarely to plan with; accept offers when they come.",
    }


def test_what_is_typed_comes_back_as_typed(owner):
    source = {
        "kind": "merchant",
        "material": "bark_shredded",
        "truck_m3": "20 cu yd",
        "per_m3": "34 / yd",
        "per_load": "$75",
    }
    supplier = owner.add_supplier(units="us", currency="USD", source=source)
    assert supplier["typed"]["source"] == {key: source[key] for key in ("truck_m3", "per_m3", "per_load")}
    assert supplier["source"]["per_m3"] == pytest.approx(34 / 0.764554857984)
    buying = owner.buys(labour_per_h="€24", tax="21 %", budget="1,250.50", carriers=["cart", "barrow"])
    assert (buying["labour_per_h"], buying["tax"], buying["budget"]) == (24, pytest.approx(0.21), 1250.5)
    assert buying["typed"] == {"labour_per_h": "€24", "tax": "21 %", "budget": "1,250.50"}


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"name": " "}, "name"),
        ({"currency": "euro"}, "currency"),
        ({"source": CREW | {"material": "gravel"}}, "source.material"),
        ({"source": CREW | {"most_m3": "8"}}, "source.most_m3"),
        ({"source": CREW | {"chance": "130 %"}}, "source.chance"),
        ({"source": CREW | {"per_load": "a bit"}}, "source.per_load"),
        ({"source": CREW | {"months": []}}, "source.months"),
        ({"source": {"kind": "merchant", "material": "bark_shredded", "per_m3": "30"}}, "source.truck_m3"),
        ({"source": {"kind": "magic"}}, "source"),
    ],
)
def test_a_supplier_that_makes_no_sense_is_refused_at_its_field(owner, changes, field):
    entry = {"id": str(uuid4()), "name": "X", "units": "metric", "currency": "EUR", "source": CREW} | changes
    answer = owner.client.post(f"/api/v1/workspaces/{owner.workspace_id}/suppliers", json=entry)
    assert answer.status_code == 422
    assert field in [error["field"] for error in answer.json()["errors"]]


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"people": 0}, "people"),
        ({"people": "two"}, "people"),
        ({"sure": 60}, "sure"),
        ({"carriers": []}, "carriers"),
        ({"carriers": ["ox"]}, "carriers.0"),
        ({"tax": "150 %"}, "tax"),
        ({"budget": "lots"}, "budget"),
        ({"wanted_by": "soon"}, "wanted_by"),
        ({"labour_per_h": "1e999"}, "labour_per_h"),
    ],
)
def test_buying_that_makes_no_sense_is_refused_at_its_field(owner, changes, field):
    entry = {"units": "metric", "currency": "EUR"} | changes
    answer = owner.client.put(f"{owner.site}/buying", json=entry, headers={"If-Match": '"1"'})
    assert answer.status_code == 422
    assert field in [error["field"] for error in answer.json()["errors"]]


def test_a_supplier_is_changed_deleted_and_taken_back(owner):
    stored = owner.add_supplier()
    address = f"/api/v1/workspaces/{owner.workspace_id}/suppliers"
    entry = {"name": "Quarry Road", "units": "metric", "currency": "EUR", "source": CREW}
    assert owner.client.put(f"{address}/{stored['id']}", json=entry).status_code == 428
    changed = owner.client.put(f"{address}/{stored['id']}", json=entry, headers={"If-Match": '"1"'})
    assert (changed.json()["name"], changed.json()["source"]["kind"]) == ("Quarry Road", "arborist")
    assert owner.client.delete(f"{address}/{stored['id']}").status_code == 204
    assert owner.client.get(address).json() == []
    assert owner.client.post(f"{address}/{stored['id']}/restoration").status_code == 204
    assert [supplier["name"] for supplier in owner.client.get(address).json()] == ["Quarry Road"]


def test_a_crew_that_cannot_be_counted_on_covers_nothing_and_is_told_apart_from_what_is_needed(owner):
    owner.add_plot()
    owner.add_supplier(name="Seldom", source=CREW | {"chance": "5 %"})
    plan = owner.reads("orders")
    assert plan["sources"][0]["unfit"] == "Comes too rarely to plan with; accept offers when they come."
    (line,) = plan["now"]["order"]
    assert (line["source"], line["cost"]) == (None, None), "the need is told, whoever brings it"
    assert plan["now"]["short_m3"] == 0
    owner.receives("9 m3")
    now = owner.now()
    assert (now["to_order_m3"], now["order"], now["binding"]) == (0, [], None), "what lies here is enough"


def test_a_newcomer_without_suppliers_reads_what_to_order(owner):
    owner.add_plot(shape=BED)
    now = owner.now()
    assert now["to_order_m3"] == pytest.approx(180 * 0.075 / 0.78 * 1.1)
    assert now["loads"] == 4, "whole loads of 5 m³"
    assert now["left_over_m3"] == pytest.approx(20 - now["to_order_m3"])
    assert (now["short_m3"], now["cost"], now["enough"]) == (0, None, 1)
    assert [line["source"] for line in now["order"]] == [None]


def test_an_empty_site_has_nothing_to_order_and_nothing_to_move(owner):
    plan = owner.reads("orders")
    assert (plan["now"]["needed_m3"], plan["binding"], plan["plots"]) == (0, None, [])
    assert owner.reads("moving")["turns"] == []
    assert owner.reads("quotes")["today"] is None
    assert owner.reads("quotes")["wanting"]


def placed(owner, name, x, y, **changes):
    plot = owner.add_plot(name=name, **changes)["plot"]["id"]
    owner.client.put(f"{owner.site}/places", json={"places": {plot: {"x_m": x, "y_m": y}}})
    return plot


def test_plots_are_laid_farthest_first_from_the_nearer_pile_with_what_fits(owner):
    yard = owner.add_landmark(name="Yard")
    barn = {"kind": "pile_place", "place": {"x_m": "60", "y_m": "0"}, "length_m": "5 m", "width_m": "4 m"}
    barn_id = owner.add_landmark(name="Barn", landmark=barn)
    owner.add_landmark(name="Lane", landmark={"kind": "way", "points_m": "0, 0; 70, 0", "width_m": "80 cm"})
    placed(owner, "Near", 10, 5)
    placed(owner, "Far", 62, 5)
    pile = owner.receives("9 m3", landmark_id=yard["id"])
    owner.enters(pile["id"], "move", "4 m3", to_landmark_id=barn_id["id"])
    owner.buys(carriers=["cart", "barrow"], people=2)
    moving = owner.reads("moving")
    legs = {turn["plot"]: [(leg["place"], leg["carrier"]) for leg in turn["legs"]] for turn in moving["turns"]}
    assert legs["Far"] == [("the pile at Barn", "barrow")], "the cart is wider than the lane"
    assert legs["Near"][0][0] in ("the pile at Yard", "what is tipped at Yard")
    assert [turn["plot"] for turn in moving["turns"]] == ["Near", "Far"] or moving["turns"][0]["walk_m"] >= moving[
        "turns"
    ][1]["walk_m"]
    assert moving["hours"]["low"] < moving["hours"]["value"] < moving["hours"]["high"]


def test_a_second_tip_is_suggested_on_a_way_that_bears_a_truck(owner):
    owner.add_landmark(name="Gate")
    owner.add_landmark(name="Drive", landmark={"kind": "way", "points_m": "0, 0; 200, 0", "width_m": "3 m"})
    placed(owner, "Orchard", 190, 8, shape=BED)
    owner.buys(labour_per_h="20")
    tip = owner.reads("moving")["second_tip"]
    assert 150 < tip["at"][0] <= 200
    assert tip["hours_then"] < tip["hours_now"] / 2
    assert tip["saves"] == pytest.approx(20 * (tip["hours_now"] - tip["hours_then"]))
