"""Sites on which the same number is told in many places."""

from dataclasses import replace
from uuid import uuid4

import pytest
from starlette.testclient import TestClient

from tests.conftest import HOST, Person, settings_for
from ulmatic.app import create_app

BINARY = {"Content-Type": "application/octet-stream"}
ROW = {
    "kind": "ring_row",
    "canopy_m": "2.4 m",
    "trunk_m": "12 cm",
    "trunk_as": "diameter",
    "gap_m": "15 cm",
    "trees": 35,
    "spacing_m": "4 m",
}


@pytest.fixture(scope="session")
def demo(new_database) -> Person:
    """A visitor of the demo, on a server of its own."""
    person = Person(TestClient(create_app(settings_for(new_database())), base_url=HOST, headers={"Origin": HOST}))
    person.workspace_id = person.client.post("/api/v1/session/demo").json()["workspaces"][0]["id"]
    return person


def _orchard(person: Person) -> Person:
    """Four hundred and twenty trees in twelve rows, a merchant and a crew."""
    person.add_site(
        name="Orchard", climate={"kind": "class", "name": "cool_maritime"}, barrow_m3="100 L", load_m3="10 m3"
    )
    for number in range(12):
        row = person.add_plot(name=f"Row {number}", use="young_tree", shape=ROW, wanted_mm="100 mm")["plot"]["id"]
        person.client.put(f"{person.site}/places", json={"places": {row: {"x_m": 6 * number, "y_m": 60}}})
    person.add_landmark()
    person.add_supplier()
    crew = {
        "kind": "arborist",
        "material": "arborist_leafy",
        "least_m3": "7",
        "likely_m3": "10",
        "most_m3": "13",
        "per_load": "20",
        "chance": "80 %",
    }
    person.add_supplier(name="Crew", source=crew)
    person.buys(labour_per_h="24", markup="10 %", disposal="15", tax="20 %", sure=80, people=2)
    return person


def _gardener(person: Person) -> Person:
    """A bed, a path, and nobody who brings anything."""
    person.add_site(name="Back garden")
    person.add_plot()
    person.add_plot(name="Path", use="foot_path", existing_mm="30 mm", wanted_mm="100 mm")
    return person


def _southern(person: Person) -> Person:
    """The other hemisphere, with chips on a pile and a load expected."""
    person.add_site(name="South", location_deg="-43.5, 172.6", time_zone="Pacific/Auckland")
    person.add_plot(shape={"kind": "rectangle", "length_m": "20 m", "width_m": "9 m"})
    person.receives("4 m3")
    entry = {"id": str(uuid4()), "name": "Crew", "units": "metric", "material": "arborist_leafy", "likely_m3": "5 m3"}
    assert person.client.post(f"{person.site}/deliveries", json=entry).status_code == 201
    person.add_supplier()
    person.buys(labour_per_h="30")
    return person


def _archived(person: Person) -> Person:
    """The southern site, out as a file and in again."""
    content = _southern(person).client.get(f"{person.site}/file.json").content
    person.site_id = str(uuid4())
    answer = person.restores(person.site_id, content)
    assert answer.status_code == 200, answer.text
    return person


MAKERS = {"orchard": _orchard, "gardener": _gardener, "southern": _southern, "archived": _archived}
DEMO = ("Quillet Holm", "Marrow Street Library")


@pytest.fixture(scope="session", params=(*DEMO, *MAKERS))
def demo_site(request, new_person, demo) -> Person:
    """Each of the sites in turn; nothing changes them."""
    if request.param in DEMO:
        sites = demo.client.get(demo.sites).json()
        return replace(
            demo, site_id=next(site["site"]["id"] for site in sites if site["site"]["name"] == request.param)
        )
    return MAKERS[request.param](new_person())


@pytest.fixture(scope="session")
def read(demo_site) -> dict[str, dict]:
    """Everything that the pages of a site read."""
    parts = ("orders", "moving", "quotes", "stock", "seasons", "years", "nitrogen")
    return {"site": demo_site.client.get(demo_site.site).json(), **{part: demo_site.reads(part) for part in parts}}
