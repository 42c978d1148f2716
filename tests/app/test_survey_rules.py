"""What the survey promises beyond keeping and computing."""

from uuid import UUID, uuid4

import pytest
from sqlalchemy import func, insert, select

from tests.app.test_files import geojson, send, walked_ring
from tests.conftest import bed, typed_bed
from ulmatic.records.survey import PlotRow
from ulmatic.survey import service


def located(owner, location: str, **changes):
    site = owner.client.get(owner.site).json()["site"]
    entry = {"name": "Here", "units": "metric", "load_m3": "5", "barrow_m3": "80 L", "location_deg": location} | changes
    return owner.client.put(owner.site, json=entry, headers={"If-Match": f'"{site["version"]}"'})


def test_a_walked_boundary_is_placed_where_it_lies_once_the_site_says_where_it_is(owner):
    assert located(owner, "51.05, -3.12").status_code == 200
    send(owner, "a.geojson", geojson([(lat + 0.001, lon) for lat, lon in walked_ring()]), keep=True)
    (plot,) = owner.client.get(owner.site).json()["plots"]
    assert plot["placed_by_hand"]
    assert plot["place"]["x_m"] == pytest.approx(0, abs=0.5)
    assert plot["place"]["y_m"] == pytest.approx(111.2, abs=0.5)


def test_a_location_that_is_none_is_said_at_its_field(owner):
    answer = located(owner, "by the oak")
    assert [error["field"] for error in answer.json()["errors"]] == ["location_deg"]
    assert "51.0543, -3.1227" in answer.json()["detail"]


def test_readings_go_before_the_single_depth_and_a_change_of_several_replaces_them(owner):
    plot = owner.add_plot(existing_mm="10 mm", readings_mm="30; 50")["plot"]
    assert (plot["existing_mm"], plot["readings_mm"]) == (40, [30, 50])
    change = {"plots": [plot["id"]], "units": "metric", "existing_mm": "20"}
    owner.client.post(f"{owner.site}/changes", json=change)
    (after,) = owner.client.get(owner.site).json()["plots"]
    assert (after["existing_mm"], after["readings_mm"]) == (20, [])


def test_what_was_found_is_kept_as_noted_and_nothing_else_is_taken(owner):
    conditions = {
        "cover": "lawn",
        "soil": "clay",
        "compacted": True,
        "to_water_m": "30 ft",
        "walk_m": "25 m",
        "way_width_m": "90",
    }
    plot = owner.add_plot(found=conditions)["plot"]
    assert plot["found"]["to_water_m"] == pytest.approx(9.144)
    assert plot["found"]["way_width_m"] == 90
    assert plot["typed"]["found"] == {"to_water_m": "30 ft", "walk_m": "25 m", "way_width_m": "90"}
    stray = bed(found={"gossip": "much"})
    answer = owner.client.post(f"{owner.site}/plots", json=stray)
    assert answer.json()["errors"] == [{"field": "found.gossip", "detail": "This field is not expected here."}]


def test_a_site_holds_so_many_plots_and_says_so(owner, monkeypatch):
    monkeypatch.setattr(service, "MOST_PLOTS", 2)
    owner.add_plot()
    owner.add_plot()
    answer = owner.client.post(f"{owner.site}/plots", json=bed())
    assert (answer.status_code, "second site" in answer.json()["detail"]) == (409, True)


def test_an_import_that_would_overfill_a_site_adds_nothing(owner, app):
    table = "name,measured as,length,width,used for,wanted\n" + "Bed,rectangle,3,2,bank,75\n" * 500
    assert send(owner, "t.csv", table, keep=True).status_code == 200
    with app.state.sessions() as database:
        names = [column.name for column in PlotRow.__table__.columns if column.identity is None]
        values = [func.gen_random_uuid() if name == "id" else PlotRow.__table__.c[name] for name in names]
        copies = select(*values).where(PlotRow.site_id == UUID(owner.site_id))
        for _ in range(service.MOST_PLOTS // 500 - 1):
            database.execute(insert(PlotRow).from_select(names, copies.limit(500)))
        database.commit()
    assert send(owner, "t.csv", table, keep=True).status_code == 409
    page = owner.client.get(owner.site, params={"start": 1_999, "count": 10}).json()
    assert (len(page["plots"]), page["plots_in_all"]) == (1, service.MOST_PLOTS)
    assert len(owner.client.get(owner.site).content) < 2_000_000, "the first page of the largest site"


def test_a_plot_is_reached_through_its_own_site_only(owner):
    plot = owner.add_plot()["plot"]["id"]
    first = owner.site_id
    owner.add_site(name="Other")
    address = f"{owner.site}/plots/{plot}"
    assert owner.client.get(address).status_code == 404
    assert owner.client.put(address, json=typed_bed(), headers={"If-Match": '"1"'}).status_code == 404
    assert owner.client.delete(address).status_code == 404
    owner.client.delete(f"{owner.sites}/{first}/plots/{plot}")
    assert owner.client.post(f"{address}/restoration").status_code == 404


def test_the_id_of_a_deleted_plot_is_not_used_again(owner):
    entry = bed()
    owner.client.post(f"{owner.site}/plots", json=entry)
    owner.client.delete(f"{owner.site}/plots/{entry['id']}")
    assert owner.client.post(f"{owner.site}/plots", json=entry).status_code == 409


def test_the_same_id_in_two_workspaces_means_two_plots(owner, new_person):
    other = new_person()
    other.add_site()
    shared = str(uuid4())
    owner.add_plot(id=shared, name="Mine")
    other.add_plot(id=shared, name="Theirs")
    assert owner.client.get(f"{owner.site}/plots/{shared}").json()["plot"]["name"] == "Mine"
    assert other.client.get(f"{other.site}/plots/{shared}").json()["plot"]["name"] == "Theirs"


@pytest.mark.parametrize(
    ("shape", "rule"),
    [
        ({"kind": "offsets", "spacing_m": "1", "offsets_m": "1, 2, 3"}, "Simpson"),
        ({"kind": "offsets", "spacing_m": "1", "offsets_m": "1, 2, 3, 2"}, "Trapezoidal"),
        ({"kind": "offsets", "spacing_m": "1", "offsets_m": "1, 2, 3", "edge": "straight"}, "Trapezoidal"),
    ],
)
def test_the_rule_used_for_offsets_is_said_in_the_answer(owner, shape, rule):
    estimate = owner.client.post(f"{owner.site}/estimate", json={"plot": typed_bed(shape=shape)}).json()
    assert rule in estimate["plot"]["area"]["working"]["note"]
    assert {line["field"] for line in estimate["outline"]["dimensions"]} >= {"spacing_m", "offsets_m.0", "offsets_m.2"}
