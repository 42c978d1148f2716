"""The same quantity is the same wherever it is told: on pages, in files, on the command line."""

import csv
import io
import json
import threading
from datetime import date, timedelta
from decimal import Decimal
from uuid import uuid4

import pytest
from sqlalchemy import event

from tests.app.test_seasons import unpacked
from tests.conftest import TODAY, bed
from ulmatic.core.planning import report
from ulmatic.core.planning.plan import plan_on
from ulmatic.formats.archive import read_archive


def test_every_route_tells_the_season_that_runs_alike(demo_site, read):
    now = read["site"]["now"]
    others = {part: sheet["now"] for part, sheet in read.items()}
    summary = next(
        site for site in demo_site.client.get(demo_site.sites).json() if site["site"]["id"] == demo_site.site_id
    )
    others["sites"] = summary["now"]
    everywhere = demo_site.client.get(f"/api/v1/workspaces/{demo_site.workspace_id}/years").json()["sites"]
    others["all sites"] = next(site["now"] for site in everywhere if site["site_id"] == demo_site.site_id)
    for plot in read["site"]["plots"][:2]:
        others[plot["name"]] = demo_site.client.get(f"{demo_site.site}/plots/{plot['id']}").json()["now"]
    assert {part: figures for part, figures in others.items() if figures != now} == {}
    season = {key: value for key, value in now.items() if key != "next"}
    assert read["orders"]["season"] == read["moving"]["season"] == read["quotes"]["season"] == season
    assert read["years"]["seasons"][0]["figures"] == season


def test_what_plots_need_adds_up_to_what_the_site_needs(read):
    now = read["site"]["now"]
    planned = sum(plot["planned_m3"] for plot in read["site"]["plots"])
    assert planned == pytest.approx(now["needed_m3"], abs=1e-6)
    laid = [
        laying for plot in read["seasons"]["plots"] for laying in plot["layings"] if laying["season"] == now["season"]
    ]
    if not read["seasons"]["waits"]:
        assert sum(laying["ordered_m3"] for laying in laid) == pytest.approx(now["needed_m3"], abs=1e-6)
    assert sum(plot["needs_m3"] for plot in read["orders"]["plots"]) == pytest.approx(now["needed_m3"], abs=1e-6)
    for plot in read["orders"]["plots"]:
        assert plot["gets_m3"] + plot["short_m3"] == pytest.approx(plot["needs_m3"], abs=1e-6)
    assert now["to_order_m3"] == pytest.approx(
        max(0, now["needed_m3"] - now["on_hand_m3"] - now["coming_m3"]), abs=1e-6
    )
    if now["binding"] is None:
        assert now["ordered_m3"] >= now["to_order_m3"] - 1e-6
        assert now["short_m3"] == 0


def test_hours_trips_and_cost_are_those_of_the_work_and_the_quote(demo_site, read):
    now, moving, quotes = read["site"]["now"], read["moving"], read["quotes"]
    tasks = demo_site.reads("tasks")
    every = [task for plot in tasks["plots"] for task in plot["tasks"]]
    assert now["hours"] == pytest.approx(tasks["hours"]["value"])
    assert now["hours"] == pytest.approx(sum(task["hours"]["value"] for task in every))
    legs = [leg for turn in moving["turns"] for leg in turn["legs"]]
    assert now["trips"] == moving["trips"] == sum(leg["trips"] for leg in legs)
    assert moving["hours"]["value"] == pytest.approx(sum(leg["hours"]["value"] for leg in legs))
    carried = [task for task in every if task["unit"] == "m3"]
    assert moving["hours"]["value"] == pytest.approx(sum(task["hours"]["value"] for task in carried))
    assert sum(leg["volume_m3"] for leg in legs) == pytest.approx(sum(task["amount"] for task in carried))
    beside_m3 = sum(layer["amount"] for layer in now["also"] if layer["unit"] == "m3")
    assert sum(leg["volume_m3"] for leg in legs) == pytest.approx(now["needed_m3"] + beside_m3, abs=1e-6)
    if quotes["today"] is None:
        assert quotes["wanting"]
    else:
        subtotal = Decimal(quotes["today"]["subtotal"])
        assert subtotal == Decimal(now["cost"])
        assert sum(Decimal(plot["amount"]) for plot in quotes["today"]["plots"]) == subtotal
        assert sum(plot["hours"] for plot in quotes["today"]["plots"]) == pytest.approx(now["hours"])
    assert now["loads"] == sum(
        line["loads"]
        for line in now["order"]
        if line["kind"] != "bags" and line["material_key"] not in {layer["material_key"] for layer in now["also"]}
    )


def test_depth_today_and_the_next_laying_are_told_alike(demo_site, read):
    table = csv.DictReader(io.StringIO(demo_site.client.get(f"{demo_site.site}/file.csv").content.decode("utf-8-sig")))
    written = {row["name"].lstrip("'"): row for row in table}
    futures = {plot["plot_id"]: plot for plot in read["seasons"]["plots"]}
    for plot in read["site"]["plots"]:
        future = futures[plot["id"]]
        plot_page = demo_site.client.get(f"{demo_site.site}/plots/{plot['id']}").json()["plot"]
        assert (plot_page["depth"], plot_page["laying"]) == (plot["depth"], plot["laying"])
        assert unpacked(future["held"])[52] == pytest.approx(plot["depth"]["middle"], abs=0.06)
        assert future["least_mm"] == plot["least_mm"]
        assert future["gap"] == plot["gap"]
        assert plot["name"] in written
        if future["layings"] and plot["laying"] and not read["seasons"]["waits"]:
            assert future["layings"][0]["on"] == plot["laying"]["on"]
            assert future["layings"][0]["settled_mm"] == pytest.approx(plot["laying"]["settled_mm"])
            assert future["layings"][0]["ordered_m3"] == pytest.approx(plot["laying"]["ordered_m3"])
        layers = demo_site.client.get(f"{demo_site.site}/plots/{plot['id']}/layers").json()["layers"]
        total = sum(unpacked(layer["chips"])[52] for layer in layers)
        assert total == pytest.approx(plot["depth"]["middle"], abs=0.1 + 0.05 * len(layers))


def test_the_file_and_the_command_line_tell_the_same(demo_site):
    sheet = demo_site.client.get(demo_site.site).json()
    archive = read_archive(demo_site.client.get(f"{demo_site.site}/file.json").content, TODAY)
    planned = json.loads(
        report(plan_on(archive.to_site(), date.fromisoformat(sheet["today"]), 2)).model_dump_json(by_alias=True)
    )
    for key in (
        "season",
        "from",
        "until",
        "needed_m3",
        "on_hand_m3",
        "coming_m3",
        "to_order_m3",
        "loads",
        "trips",
        "hours",
        "cost",
        "left_over_m3",
        "short_m3",
        "unused_m3",
        "enough",
    ):
        assert (
            planned["now"][key] == pytest.approx(sheet["now"][key])
            if isinstance(planned["now"][key], float)
            else (planned["now"][key] == sheet["now"][key])
        ), key
    for ours, theirs in zip(planned["plots"], sheet["plots"], strict=True):
        assert ours["name"] == theirs["name"]
        assert ours["depth_mm"]["middle"] == pytest.approx(theirs["depth"]["middle"])
        assert ours["below_least_from"] == theirs["below_least_from"]
    years = demo_site.reads("years")["seasons"]
    for ours, theirs in zip(planned["seasons"], years, strict=False):
        assert (ours["name"], ours["loads"]) == (theirs["figures"]["season"], theirs["figures"]["loads"])
        assert ours["needed_m3"] == pytest.approx(theirs["figures"]["needed_m3"])


def test_what_is_typed_is_estimated_as_it_will_be_kept(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot()
    owner.add_supplier()
    entry = bed(name="Second", existing_mm="20 mm")
    typed = {key: value for key, value in entry.items() if key != "id"}
    estimate = owner.client.post(f"{owner.site}/estimate", json={"plot_id": None, "plot": typed}).json()
    assert owner.client.post(f"{owner.site}/plots", json=entry).status_code == 201
    plot = owner.client.get(f"{owner.site}/plots/{entry['id']}").json()
    for key in ("needed_m3", "loads", "hours", "trips", "cost"):
        assert plot["now"][key] == pytest.approx(estimate["now"][key]), key
    assert plot["figures"]["planned"]["value"] == pytest.approx(estimate["plot"]["planned"]["value"])
    assert plot["plot"]["laying"] == estimate["laying"]


def test_what_is_typed_stands_beside_what_was_saved_meanwhile(owner):
    """Nothing is loaded again while nothing is written; whatever is written shows in the next estimate."""
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    typed = {key: value for key, value in bed(name="Typed").items() if key != "id"}

    def needed() -> dict:
        answer = owner.client.post(f"{owner.site}/estimate", json={"plot_id": None, "plot": typed})
        assert answer.status_code == 200
        return answer.json()["now"]

    volume = needed()
    assert needed() == volume
    plot = owner.add_plot()["plot"]["id"]
    both = needed()
    assert both["needed_m3"] == pytest.approx(2 * volume["needed_m3"])
    owner.logs(TODAY, plot, kind="measured", depth_mm="200 mm", settled=True)
    assert needed()["needed_m3"] == pytest.approx(volume["needed_m3"])
    assert owner.client.delete(f"{owner.site}/plots/{plot}").status_code == 204
    assert needed() == volume
    owner.receives("1 m3")
    now = needed()
    rots = 0 if now["from"] <= TODAY.isoformat() else 0.4
    assert 0.999999 - rots <= now["on_hand_m3"] <= 1.000001, "it rots until the season opens, half a year at most"
    owner.add_supplier()
    assert needed()["cost"] is not None
    request = {"plot_id": plot, "plot": typed}
    assert owner.client.post(f"{owner.site}/estimate", json=request).status_code == 404


def test_logging_what_was_planned_leaves_nothing_to_do(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot()
    owner.add_plot(name="Path", use="foot_path", existing_mm="40 mm", wanted_mm="100 mm")
    assert owner.now()["needed_m3"] > 0
    for plot in owner.client.get(owner.site).json()["plots"]:
        laid = {"kind": "laid", "material": "arborist_leafy", "depth_mm": f"{plot['laying']['settled_mm']} mm"}
        assert owner.logs(TODAY, plot["id"], **laid).status_code == 201
    now = owner.now()
    assert (now["needed_m3"], now["loads"], now["hours"], now["order"]) == (0, 0, 0, [])
    assert owner.reads("moving")["turns"] == []
    assert owner.reads("quotes")["today"] is None


def test_a_load_booked_for_the_season_is_coming_and_ordered_no_more(owner):
    owner.add_plot(shape={"kind": "rectangle", "length_m": "20 m", "width_m": "9 m"})
    owner.add_supplier()
    before = owner.now()
    (line,) = before["order"]
    answer = owner.client.post(f"{owner.site}/bookings", json={"id": str(uuid4()), "source": line["key"]})
    assert answer.status_code in (200, 201, 204), answer.text
    after = owner.now()
    assert after["needed_m3"] == pytest.approx(before["needed_m3"])
    assert after["coming_m3"] > 0
    assert after["to_order_m3"] == pytest.approx(before["to_order_m3"] - after["coming_m3"])
    assert len(owner.reads("stock")["deliveries"]) == 1


def test_the_number_of_queries_does_not_grow_with_plots(owner, app):
    counted: list[str] = []

    def count(_connection, _cursor, statement, *_rest) -> None:
        # Those of requests, not of what goes on in the background.
        if threading.current_thread().name.startswith("AnyIO"):
            counted.append(statement)

    engine = app.state.sessions.kw["bind"]
    counts = {}
    for plots in (2, 12):
        while len(owner.client.get(owner.site).json()["plots"]) < plots:
            owner.add_plot()
        for part in ("", "/orders", "/seasons", "/moving"):
            event.listen(engine, "before_cursor_execute", count)
            counted.clear()
            assert owner.client.get(f"{owner.site}{part}").status_code == 200
            event.remove(engine, "before_cursor_execute", count)
            counts.setdefault(part, []).append(len(counted))
    for part, (few, many) in counts.items():
        assert few == many > 0, part


def test_what_was_measured_is_what_lies_there(owner):
    owner.add_site(climate={"kind": "class", "name": "hot_wet"})
    owner.add_plot(existing_mm="0")
    owner.logs(TODAY - timedelta(days=300), kind="laid", material="arborist_leafy", depth_mm="100 mm")
    sunk = owner.client.get(owner.site).json()["plots"][0]["depth"]["middle"]
    assert sunk == 0, "measured as bare after that"
    owner.logs(TODAY, kind="measured", depth_mm="37 mm", settled=True)
    plot = owner.client.get(owner.site).json()["plots"][0]
    assert plot["depth"]["middle"] == pytest.approx(37)
    assert plot["measured_on"] == TODAY.isoformat()
