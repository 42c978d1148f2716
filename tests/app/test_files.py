"""Files: what is read back is what was written, and hostile files are refused in words."""

import csv
import io
import json
import math
import random
import zipfile
from datetime import date, timedelta
from uuid import uuid4

import pytest
from openpyxl import load_workbook
from pyproj import Geod

from tests.conftest import TODAY, bed, without_ids
from ulmatic.core.planning.plan import plan_on
from ulmatic.formats.archive import read_archive

BINARY = {"Content-Type": "application/octet-stream"}
EARTH = Geod(ellps="WGS84")


def send(person, name: str, content: bytes | str, **options):
    params = {"name": name, "import_id": str(uuid4())} | options
    return person.sends(f"{person.site}/imports", content, **params)


def walked_ring(radius: float = 40, noise: float = 0.0, points: int = 90) -> list[tuple[float, float]]:
    """Points (latitude, longitude) round a circle, each off by up to `noise` metres."""
    chance = random.Random(4)  # noqa: S311 - a repeatable test
    ring = []
    for index in range(points):
        distance = radius + chance.uniform(-noise, noise)
        longitude, latitude, _ = EARTH.fwd(-3.12, 51.05, 360 * index / points, distance)
        ring.append((latitude, longitude))
    return ring


def gpx(ring, kind: str = "trk") -> str:
    point = {"trk": "trkpt", "rte": "rtept", "wpt": "wpt"}[kind]
    points = "".join(f'<{point} lat="{lat}" lon="{lon}"></{point}>' for lat, lon in ring)
    body = {
        "trk": f"<trk><name>Top field</name><trkseg>{points}</trkseg></trk>",
        "rte": f"<rte>{points}</rte>",
        "wpt": points,
    }[kind]
    return (
        f'<?xml version="1.0"?><gpx version="1.1" creator="test" xmlns="http://www.topografix.com/GPX/1/1">{body}</gpx>'
    )


def kml(ring) -> str:
    points = " ".join(f"{lon},{lat},0" for lat, lon in [*ring, ring[0]])
    return (
        '<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><Placemark><name>Top field</name><Polygon>'
        f"<outerBoundaryIs><LinearRing><coordinates>{points}</coordinates></LinearRing></outerBoundaryIs>"
        "</Polygon></Placemark></Document></kml>"
    )


def geojson(ring, geometry: str = "Polygon") -> str:
    points = [[lon, lat] for lat, lon in [*ring, ring[0]]]
    coordinates = [points] if geometry == "Polygon" else points
    feature = {
        "type": "Feature",
        "properties": {"name": "Top field"},
        "geometry": {"type": geometry, "coordinates": coordinates},
    }
    return json.dumps({"type": "FeatureCollection", "features": [feature]})


@pytest.mark.parametrize(
    ("name", "make"),
    [
        ("a.gpx", gpx),
        ("b.gpx", lambda ring: gpx(ring, "rte")),
        ("c.gpx", lambda ring: gpx(ring, "wpt")),
        ("d.kml", kml),
        ("e.geojson", geojson),
    ],
)
def test_a_walked_boundary_comes_in_with_its_area(owner, name, make):
    preview = send(owner, name, make(walked_ring())).json()
    assert preview["errors"] == []
    assert not preview["kept"]
    assert preview["plots"][0]["area_m2"] == pytest.approx(math.pi * 40**2, rel=0.02)
    assert owner.client.get(owner.site).json()["plots"] == []
    assert send(owner, name, make(walked_ring()), keep=True, use="young_tree").json()["kept"]
    (plot,) = owner.client.get(owner.site).json()["plots"]
    assert (plot["shape"]["kind"], plot["use"]) == ("walked", "young_tree")


def test_a_noisy_walk_is_within_its_stated_range(owner):
    send(owner, "walk.gpx", gpx(walked_ring(noise=3)), keep=True)
    (plot,) = owner.client.get(owner.site).json()["plots"]
    area = owner.client.get(f"{owner.site}/plots/{plot['id']}").json()["figures"]["area"]
    true = math.pi * 40**2
    assert abs(area["value"] - true) < 0.05 * true
    assert area["low"] < area["value"] < area["high"]


def test_the_same_import_sent_twice_adds_its_plots_once(owner):
    request_id = str(uuid4())
    for _ in range(2):
        assert send(owner, "a.kml", kml(walked_ring()), import_id=request_id, keep=True).json()["kept"]
    assert len(owner.client.get(owner.site).json()["plots"]) == 1


TABLE = """name,used for,measured as,length,width,legs,wanted
Long bed,Perennials and shrubs,rectangle,12'6",4 ft,,75 mm
"Path, back",Foot path,path,,1.2 m,12 + 8 + 3.5 m,100
Wrong length,Foot path,rectangle,wide,2 m,,75
,Foot path,rectangle,3,2,,75
Odd use,Moon garden,rectangle,3,2,,75
"""


def test_a_table_with_three_bad_rows_says_which_and_adds_nothing(owner):
    preview = send(owner, "plots.csv", TABLE, keep=True).json()
    assert not preview["kept"]
    assert [(error["row"], error["column"]) for error in preview["errors"]] == [
        (4, "length"),
        (5, "name"),
        (6, "use"),
    ]
    assert "“wide” is not a length" in preview["errors"][0]["detail"]
    assert owner.client.get(owner.site).json()["plots"] == []
    good = "\n".join(TABLE.splitlines()[:3])
    assert send(owner, "plots.csv", good, keep=True).json()["kept"]
    first, second = owner.client.get(owner.site).json()["plots"]
    assert (first["typed"]["shape"]["length_m"], second["name"]) == ("12'6\"", "Path, back")


@pytest.mark.parametrize("ending", ["csv", "xlsx"])
def test_the_template_comes_in_as_it_is(owner, ending):
    content = owner.client.get(f"/api/v1/plot-template.{ending}").content
    preview = send(owner, f"t.{ending}", content, keep=True).json()
    assert preview["errors"] == []
    assert [plot["kind"] for plot in preview["plots"]] == ["rectangle", "path", "offsets", "ring_row"]


ALL = [
    {"kind": "rectangle", "length_m": "12 x 3.5 m", "width_m": ""},
    {"kind": "triangle", "a_m": "3", "b_m": "4", "c_m": "5"},
    {"kind": "ellipse", "across_m": "4 m", "other_m": "9 ft"},
    {"kind": "polygon", "corners_m": "0, 0; 6, 0; 6, -4"},
    {"kind": "offsets", "spacing_m": "2", "offsets_m": "0, 2, 1"},
    {"kind": "path", "legs_m": "12 + 4 m", "turns_deg": "45 left", "width_m": "1"},
    {
        "kind": "ring",
        "canopy_m": "4",
        "trunk_m": "20",
        "trunk_as": "diameter",
        "gap_m": "10",
        "part": "25 %",
        "trees": 3,
    },
    {"kind": "ring_row", "canopy_m": "4", "trunk_m": "20", "gap_m": "10", "trees": 5, "spacing_m": "3"},
    {
        "kind": "ring_block",
        "canopy_m": "3",
        "trunk_m": "20",
        "gap_m": "10",
        "trees": 5,
        "spacing_m": "4",
        "rows": 2,
        "row_spacing_m": "5",
    },
    {"kind": "strip", "length_m": "30", "width_m": "2", "trees": 4, "trunk_m": "20", "gap_m": "10"},
    {"kind": "walked", "points_deg": "51.05, -3.12; 51.0505, -3.12; 51.0505, -3.1192"},
]


@pytest.fixture
def full_site(owner):
    for number, shape in enumerate(ALL):
        owner.add_plot(name=f"Plot {number}", shape=shape)
    owner.add_plot(
        name="=1+1",
        shape=ALL[0],
        slope={"angle_deg": "15 %", "taped": "plan"},
        found={"cover": "lawn"},
        readings_mm="20, 30",
        cut_outs=[{"kind": "plants", "plants": 4, "gap_m": "10 cm"}],
    )
    places = {owner.plot_ids[0]: {"x_m": 3, "y_m": 4, "turn_deg": 30}}
    owner.client.put(f"{owner.site}/places", json={"places": places})
    return owner


def essence(person, site: str) -> tuple:
    """Everything of a site but ids, versions and automatic places."""
    sheet = person.client.get(f"{person.sites}/{site}").json()
    settings = {key: value for key, value in sheet["site"].items() if key not in ("id", "version")}
    plots = [{key: value for key, value in plot.items() if key not in ("id", "version")} for plot in sheet["plots"]]
    return settings, plots, sheet["now"]


def test_an_archive_reads_back_to_an_identical_site(full_site, new_person):
    full_site.buys(budget="900", people=3, carriers=["cart"], tax="21 %")
    first = {"priorities": {full_site.plot_ids[0]: 1}}
    full_site.client.put(f"{full_site.site}/priorities", json=first)
    sentences = {
        "season": full_site.reads("tasks")["season_key"],
        "plot_id": full_site.plot_ids[0],
        "task": "own",
        "own": str(uuid4()),
        "words": "Sweep",
        "hours": 1,
    }
    assert full_site.client.put(f"{full_site.site}/task-changes", json={"changes": [sentences]}).status_code == 200
    crop = {"id": str(uuid4()), "name": "Violet carrot", "days_least": 70, "days": 85, "days_most": 110}
    full_site.client.post(f"/api/v1/workspaces/{full_site.workspace_id}/crops", json=crop)
    full_site.logs(TODAY, kind="opened", opening=str(uuid4()), length_m="1 m", width_m="20 cm", crop=crop["id"])
    content = full_site.client.get(f"{full_site.site}/file.json").content
    for person in (full_site, new_person()):
        site_id = str(uuid4())
        for _ in range(2):
            answer = person.restores(site_id, content)
            assert answer.status_code == 200, answer.text
        assert essence(person, site_id) == essence(full_site, full_site.site_id)
        bought = [
            client.get(f"{address}/buying").json()
            for client, address in ((person.client, f"{person.sites}/{site_id}"), (full_site.client, full_site.site))
        ]
        assert bought[0] | {"typed": {}, "version": 0} == bought[1] | {"typed": {}, "version": 0}
    schema = full_site.client.get("/api/v1/site-archive.schema.json").json()
    assert set(schema["required"]) == {"site", "plots"}


@pytest.fixture
def lived_in(owner):
    """A site on which much was decided, logged, received and promised."""
    material = owner.add_material()["material"]["key"]
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"}, time_zone="Pacific/Auckland")
    plot = owner.add_plot(existing_mm="60 mm", lain_months=8)["plot"]["id"]
    owner.add_plot(name="Second", use="vegetables", recipe={"compost_mm": "20 mm"})
    rule = {"units": "metric", "rule": {"kind": "thin", "part": 0.4}}
    owner.client.put(f"{owner.site}/plots/{plot}/rule", json=rule, headers={"If-Match": '"1"'})
    window = {"opens": {"month": 3, "day": 1}, "closes": {"month": 4, "day": 20}}
    seasons = {"zone": "7a", "windows": {"spring": window}, "waits": False}
    assert owner.client.put(f"{owner.site}/seasons", json=seasons).status_code == 204
    yesterday = TODAY - timedelta(days=1)
    for entry in (
        {"kind": "laid", "material": material, "depth_mm": "45 mm"},
        {"kind": "fed", "grams_m2": 30, "n": "14 %", "soluble": True, "product": "Feather meal"},
        {"kind": "measured", "depth_mm": "99 mm", "settled": True},
        {"kind": "observed", "weeds": True},
    ):
        assert owner.logs(yesterday, plot, **entry).status_code == 201
    pile = owner.receives("4 m3", landmark_id=owner.add_landmark()["id"])
    owner.enters(pile["id"], "lay", "1 m3", plot_id=plot)
    owner.add_supplier()
    owner.buys(labour_per_h="24", sure=80)
    version = owner.client.get(owner.site).json()["site"]["version"]
    key = owner.reads("orders")["sources"][0]["key"]
    choice = {"season": None, "lines": [{"source": key, "loads": 1, "volume_m3": 3}]}
    answer = owner.client.put(f"{owner.site}/choice", json=choice, headers={"If-Match": f'"{version}"'})
    assert answer.status_code in (200, 204), answer.text
    return owner


def test_export_import_export_is_the_same_but_for_ids_and_so_is_the_plan(lived_in, new_person):
    content = lived_in.client.get(f"{lived_in.site}/file.json").content
    before = lived_in.reads("seasons")
    for person in (lived_in, new_person()):
        site = str(uuid4())
        answer = person.restores(site, content)
        assert answer.status_code == 200, answer.text
        second = person.client.get(f"{person.sites}/{site}/file.json").content
        assert without_ids(second) == without_ids(content)
        after = person.client.get(f"{person.sites}/{site}/seasons").json()
        assert without_ids(json.dumps(after["now"])) == without_ids(json.dumps(before["now"]))
        for same in ("overridden", "windows", "seasons", "waits", "soil"):
            assert after[same] == before[same]
        for old, new in zip(before["plots"], after["plots"], strict=True):
            assert {**new, "plot_id": None} == {**old, "plot_id": None}
    damaged = json.loads(content)
    damaged["ledger"][0]["on"] = "2099-01-01"
    answer = lived_in.restores(str(uuid4()), json.dumps(damaged))
    assert (answer.status_code, "in the future" in answer.json()["detail"]) == (422, True)


def test_the_plan_of_the_archive_is_the_plan_of_the_site(lived_in):
    """The command line reads the file, the pages read the rows: both tell the same."""
    archive = read_archive(lived_in.client.get(f"{lived_in.site}/file.json").content, TODAY)
    sheet = lived_in.client.get(lived_in.site).json()
    plan = plan_on(archive.to_site(), date.fromisoformat(sheet["today"]), 2)
    assert without_ids(plan.now.model_dump_json(by_alias=True)) == without_ids(
        json.dumps(sheet["now"], separators=(",", ":"))
    )
    depths = [plan.state.depth(plot.id).middle for plot in plan.plots]
    assert depths == pytest.approx([plot["depth"]["middle"] for plot in sheet["plots"]])


@pytest.mark.parametrize("ending", ["csv", "xlsx"])
def test_a_table_of_every_shape_reads_back_to_the_same_ground(full_site, ending):
    content = full_site.client.get(f"{full_site.site}/file.{ending}").content
    before = full_site.client.get(full_site.site).json()["plots"]
    if ending == "csv":
        names = [row["name"] for row in csv.DictReader(io.StringIO(content.decode("utf-8-sig")))]
        assert names[-1] == "'=1+1"
    else:
        assert load_workbook(io.BytesIO(content)).active["A13"].data_type == "s"
    full_site.add_site(name="Second")
    preview = send(full_site, f"again.{ending}", content, keep=True).json()
    assert preview["errors"] == []
    after = full_site.client.get(full_site.site).json()["plots"]
    assert [plot["name"] for plot in after] == [plot["name"] for plot in before]
    for old, new in list(zip(before, after, strict=True))[:-1]:
        assert new["area_m2"] == pytest.approx(old["area_m2"]), old["shape"]["kind"]


def test_geojson_lies_where_the_site_says_it_is(full_site):
    refused = full_site.client.get(f"{full_site.site}/file.geojson")
    assert (refused.status_code, "location" in refused.json()["detail"]) == (409, True)
    site = full_site.client.get(full_site.site).json()["site"]
    entry = {
        "name": "Here",
        "units": "metric",
        "load_m3": "5",
        "barrow_m3": "80 L",
        "location_deg": "51.05, -3.12",
        "north_deg": 20,
    }
    assert (
        full_site.client.put(full_site.site, json=entry, headers={"If-Match": f'"{site["version"]}"'}).status_code
        == 200
    )
    written = full_site.client.get(f"{full_site.site}/file.geojson").json()
    for feature in written["features"]:
        parts = feature["geometry"]["coordinates"]
        polygons = parts if feature["geometry"]["type"] == "MultiPolygon" else [parts]
        area = 0.0
        for rings in polygons:
            outer, *holes = (
                abs(EARTH.polygon_area_perimeter([x for x, _ in ring], [y for _, y in ring])[0]) for ring in rings
            )
            area += outer - sum(holes)
        if feature["properties"]["name"] != "=1+1":
            assert area == pytest.approx(feature["properties"]["area_m2"], rel=0.01)
    corner = written["features"][0]["geometry"]["coordinates"][0][0]
    _, _, distance_m = EARTH.inv(-3.12, 51.05, *corner)
    assert distance_m < 15


BOMB = io.BytesIO()
with zipfile.ZipFile(BOMB, "w", zipfile.ZIP_DEFLATED) as bomb:
    bomb.writestr("xl/worksheets/sheet1.xml", b"0" * 40_000_000)
ENTITIES = '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><gpx>&b;</gpx>'
RING = walked_ring(points=8)

HOSTILE = [
    ("a.gpx", ENTITIES, "entities"),
    ("a.kml", '<!DOCTYPE kml SYSTEM "file:///etc/passwd"><kml/>', "entities"),
    ("a.gpx", "<gpx", "GPX"),
    ("a.kml", "<kml", "KML"),
    ("a.xlsx", BOMB.getvalue(), "unpacks"),
    ("a.xlsx", b"PK\x03\x04 not really", "XLSX"),
    ("a.csv", "name;wanted\nBéd;3".encode("latin-1"), "UTF-8"),
    ("a.csv", "name\n".encode("utf-16"), "UTF-16"),
    ("a.csv", b"name\n\x00", "not a text file"),
    ("a.csv", "\n", "empty"),
    ("a.csv", "name\n" + "x\n" * 2_100, "more than 2,000 rows"),
    ("a.geojson", "[" * 50_000, "JSON"),
    ("a.geojson", '{"type": "Point", "coordinates": [1, 2]}', "something other than polygons"),
    ("a.geojson", geojson(RING, "LineString"), "something other than polygons"),
    ("a.txt", "hello", "are read from"),
]


@pytest.mark.parametrize(("name", "content", "words"), HOSTILE)
def test_hostile_files_get_a_clear_refusal(owner, name, content, words):
    answer = send(owner, name, content, keep=True)
    assert answer.status_code == 422
    assert words in answer.json()["errors"][0]["detail"]
    assert owner.client.get(owner.site).json()["plots"] == []


def test_boundaries_that_cannot_be_ground_are_errors_of_their_row(owner):
    crossing = [RING[0], RING[4], RING[2], RING[6]]
    swapped = [(lon, lat) for lat, lon in [(51, 150), (51.001, 150), (51.001, 150.001)]]
    for ring, words in [(crossing, "crosses itself"), (swapped, "at most 90")]:
        preview = send(owner, "a.geojson", geojson(ring), keep=True).json()
        assert not preview["kept"]
        assert words in preview["errors"][0]["detail"]


def test_a_file_of_fifty_megabytes_is_not_even_read(owner):
    assert send(owner, "a.csv", b"x" * 50_000_000).status_code == 413


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ("{", "JSON"),
        ("[]", "not an Ulmatic site archive"),
        ('{"format": "ulmatic-site", "version": 9}', "version 9"),
        ('{"format": "ulmatic-site", "version": 1, "site": {}, "plots": []}', "damaged at “site.name”"),
        ('{"format": "ulmatic-site", "version": 1, "x": "\\u0000"}', "cannot be stored"),
        ('{"format": "ulmatic-site", "version": 1, "x": "\\ud800"}', "cannot be stored"),
    ],
)
def test_damaged_archives_are_refused(owner, content, words):
    answer = owner.restores(str(uuid4()), content)
    assert (answer.status_code, words in answer.json()["detail"]) == (422, True), answer.text


def test_several_plots_change_together_or_not_at_all(owner):
    first, second = (owner.add_plot()["plot"]["id"] for _ in range(2))
    change = {"plots": [first, second], "units": "us", "use": "foot_path", "wanted_mm": "4"}
    assert owner.client.post(f"{owner.site}/changes", json=change).status_code == 204
    plots = owner.client.get(owner.site).json()["plots"]
    assert {(plot["use"], plot["wanted_mm"], plot["version"]) for plot in plots} == {("foot_path", 101.6, 2)}
    with_stranger = change | {"plots": [first, str(uuid4())], "wanted_mm": "1"}
    assert owner.client.post(f"{owner.site}/changes", json=with_stranger).status_code == 404
    owner.client.put(f"{owner.site}/order", json={"plots": [second]})
    plots = owner.client.get(owner.site).json()["plots"]
    assert [plot["id"] for plot in plots] == [second, first]
    assert {plot["wanted_mm"] for plot in plots} == {101.6}


def test_errors_in_nested_entries_name_their_field(owner):
    wrong = bed(
        cut_outs=[
            {"kind": "plants", "plants": 0, "gap_m": "x"},
            {"kind": "shape", "shape": {"kind": "ellipse", "across_m": "y"}},
        ],
        slope={"angle_deg": "80", "taped": "plan"},
        found={"soil": "mud"},
    )
    errors = owner.client.post(f"{owner.site}/plots", json=wrong).json()["errors"]
    assert {error["field"] for error in errors} == {
        "cut_outs.0.plants",
        "cut_outs.0.gap_m",
        "cut_outs.1.shape.across_m",
        "slope.angle_deg",
        "found.soil",
    }
