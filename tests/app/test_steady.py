"""What is sent to cost more than it is worth is refused at its field; what meets on one site waits its turn."""

import asyncio
import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any
from uuid import uuid4

import httpx2
import pytest
from starlette.requests import Request
from starlette.responses import PlainTextResponse
from starlette.testclient import TestClient

from tests.app.test_commands import at_once
from tests.app.test_files import geojson, kml, send
from tests.conftest import HOST, TODAY, bed, settings_for, typed_bed, wait_for_answer
from ulmatic.app import create_app
from ulmatic.platform.cluster import free_port
from ulmatic.platform.gate import Gate, Lane
from ulmatic.platform.problems import Problem, answer

SPACES = " " * 15_000
POINT = '<wpt lat="51.0" lon="-3.0"/>'


def sent_plot(person, **changes):
    entry = json.dumps(bed(**changes))
    address = f"{person.site}/plots"
    return person.client.post(address, content=entry, headers={"Content-Type": "application/json"})


@pytest.mark.parametrize(
    "text", [f"1{SPACES}x!", f"1 m{SPACES}", "1/" * 7_000, "1'" * 7_000, f"{SPACES}-", "9" * 19_000, "m" * 19_000]
)
@pytest.mark.parametrize("field", ["wanted_mm", "shape.length_m", "shape.legs_m"])
def test_a_long_text_is_refused_at_its_field(owner, field, text):
    shape = {"kind": "rectangle", "length_m": "6 m", "width_m": "2 m"}
    if field == "shape.length_m":
        shape["length_m"] = text
    changes = {"wanted_mm": text} if field == "wanted_mm" else {}
    if field == "shape.legs_m":
        shape = {"kind": "path", "legs_m": text, "turns_deg": "", "width_m": "2 m"}
    answer = sent_plot(owner, shape=shape, **changes)
    assert answer.status_code == 422
    assert field in [error["field"] for error in answer.json()["errors"]]
    assert len(answer.text) < 4_000, "what was typed is not sent back whole"


@pytest.mark.parametrize("width", [5e-324, 1e-300, "0.000001 mm"])
def test_what_is_thinner_than_a_hair_is_not_kept(owner, width):
    answer = sent_plot(owner, shape={"kind": "rectangle", "length_m": "6 m", "width_m": width})
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, "shape.width_m")
    assert owner.client.get(owner.site).status_code == 200


@pytest.mark.parametrize("rows", [1, pytest.param(50, marks=pytest.mark.long)])
def test_as_many_trees_as_a_plot_holds_are_planned_and_drawn_small(owner, rows):
    trees = 5_000 // rows
    shape = {
        "kind": "ring_row",
        "trunk_m": "10 cm",
        "gap_m": "10 cm",
        "canopy_m": "1 m",
        "trees": trees,
        "spacing_m": "0.9 m",
    }
    if rows > 1:
        shape |= {"kind": "ring_block", "rows": rows, "row_spacing_m": "0.9 m"}
    assert (answer := sent_plot(owner, use="young_tree", shape=shape)).status_code == 201, answer.text
    sheet = owner.client.get(owner.site)
    assert sheet.status_code == 200
    assert len(sheet.content) < 3_000_000


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("a.gpx", f'<gpx xmlns="http://www.topografix.com/GPX/1/1">{POINT * 90_000}</gpx>', "points"),
        ("a.kml", f"<kml>{'<Placemark/>' * 20_000}</kml>", "places"),
        ("a.geojson", geojson([(51, -3 + index / 1e6) for index in range(60_000)]), "points"),
        ("a.kml", kml([(51, -3 + index / 1e6) for index in range(60_000)]), "points"),
        ("a.csv", "name\n" + ",".join(["x"] * 700_000), "This is needed"),
    ],
)
def test_a_file_with_more_than_it_may_hold_is_refused_before_it_is_read(owner, name, content, words):
    answer = send(owner, name, content, keep=True)
    assert answer.status_code in (200, 413, 422)
    assert words in answer.text
    assert owner.client.get(owner.site).json()["plots"] == []


def test_a_way_that_crosses_the_others_without_end_is_refused(owner):
    def way(turn: bool) -> dict:
        ends = [(index, index % 2 * 60) for index in range(60)]
        points = "\n".join(f"{y}, {x}" if turn else f"{x}, {y}" for x, y in ends)
        landmark = {"kind": "way", "points_m": points, "width_m": "1 m"}
        return {"id": str(uuid4()), "name": "Way", "units": "metric", "landmark": landmark}

    assert owner.client.post(f"{owner.site}/landmarks", json=way(turn=False)).status_code == 201
    refused = owner.client.post(f"{owner.site}/landmarks", json=way(turn=True))
    assert (refused.status_code, refused.json()["errors"][0]["field"]) == (422, "landmark.points_m")
    assert "crosses" in refused.json()["errors"][0]["detail"]


def test_people_who_change_one_site_at_once_wait_for_each_other(owner):
    """Orders of plots, a plot, a way, a supplier, buying: whatever two of them lock, they lock the site first."""
    plots = [owner.add_plot(name=f"Bed {number}")["plot"]["id"] for number in range(6)]
    supplier = owner.add_supplier()["id"]
    owner.add_landmark()

    def reorder(shift: int):
        turned = plots[shift:] + plots[:shift]
        priorities = {plot: 1 + (index + shift) % 3 for index, plot in enumerate(turned)}
        return owner.client.put(f"{owner.site}/priorities", json={"priorities": priorities})

    statuses = at_once(
        *[lambda shift=shift: reorder(shift) for shift in range(5)],
        *[
            lambda plot=plot: owner.client.put(
                f"{owner.site}/plots/{plot}", json=typed_bed(), headers={"If-Match": '"1"'}
            )
            for plot in plots
        ],
        *[lambda: owner.logs(TODAY, plots[0], kind="laid", depth_mm="50", material="arborist_leafy")] * 3,
        lambda: owner.add_landmark() and owner.client.get(owner.site),
        lambda: owner.client.delete(f"/api/v1/workspaces/{owner.workspace_id}/suppliers/{supplier}"),
        lambda: owner.client.get(f"{owner.site}/orders"),
    )
    assert set(statuses) <= {200, 201, 204, 412}, statuses


def test_what_is_sent_twice_at_once_is_one_success_twice(owner):
    entry = bed()
    statuses = at_once(*[lambda: owner.client.post(f"{owner.site}/plots", json=entry)] * 5)
    assert set(statuses) == {201}
    assert len(owner.client.get(owner.site).json()["plots"]) == 1


def test_a_receipt_that_was_taken_back_is_received_again(owner):
    load = {"id": str(uuid4()), "name": "Crew", "units": "metric", "material": "arborist_leafy", "likely_m3": "9 m3"}
    assert owner.client.post(f"{owner.site}/deliveries", json=load).status_code == 201
    receipt: dict[str, Any] = {
        "units": "metric",
        "received_on": TODAY.isoformat(),
        "material": "arborist_leafy",
        "measured": {"kind": "stated", "volume_m3": "6 m3"},
    }
    for volume in ("6 m3", "7 m3"):
        receipt["measured"]["volume_m3"] = volume
        (row,) = owner.reads("stock")["deliveries"]
        answer = owner.client.post(
            f"{owner.site}/deliveries/{load['id']}/receipt", json=receipt, headers={"If-Match": f'"{row["version"]}"'}
        )
        assert answer.status_code == 201, answer.text
        (pile,) = owner.reads("stock")["piles"]
        assert pile["stock_m3"] == pytest.approx(float(volume.split()[0]))
        last = next(line for line in owner.reads("stock")["lines"] if line["last"])
        assert owner.client.delete(f"{owner.site}/lines/{last['id']}").status_code == 204


def test_anothers_supplier_is_not_named_by_a_load(owner, new_person):
    other = new_person()
    other.add_site()
    supplier = other.add_supplier()["id"]
    load = {
        "id": str(uuid4()),
        "name": "Crew",
        "units": "metric",
        "material": "arborist_leafy",
        "likely_m3": "9 m3",
        "supplier_id": supplier,
    }
    answer = owner.client.post(f"{owner.site}/deliveries", json=load)
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, "supplier_id")


def test_quotes_kept_at_once_on_two_sites_have_numbers_of_their_own(owner):
    owner.add_supplier()
    addresses = []
    for name in ("North", "South"):
        owner.add_site(name=name)
        owner.add_plot()
        owner.buys()
        addresses.append(f"{owner.site}/quotes")
    keep = lambda address: owner.client.post(address, json={"id": str(uuid4()), "client": "Somebody"})  # noqa: E731
    assert at_once(*[lambda address=address: keep(address) for address in addresses * 3]) == [201] * 6
    numbers = [row["number"] for address in addresses for row in owner.client.get(address).json()["kept"]]
    assert sorted(numbers) == list(range(1, 7))


def refusing(gate):
    """Return an application that answers what the gate refuses."""

    async def app(scope, receive, send):
        try:
            await gate(scope, receive, send)
        except Problem as problem:
            refusal = answer(Request(scope), problem.status, problem.detail, headers=problem.headers)
            await refusal(scope, receive, send)

    return app


def test_beyond_a_few_requests_and_a_short_queue_people_are_told_at_once_to_come_again():
    """Behind the gate stands an application that answers when it is told to."""

    async def run() -> list[int]:
        running, answered = [], asyncio.Event()

        async def slow(scope, receive, send):
            running.append(scope["path"])
            await answered.wait()
            await PlainTextResponse("done")(scope, receive, send)

        gate = Gate(slow, Lane("entry", 2, most_waiting=3, patience_s=60))

        async def ask(client, path: str) -> int:
            answer = await client.get(path)
            assert answer.status_code == 200 or answer.headers["Retry-After"]
            return answer.status_code

        async with httpx2.AsyncClient(transport=httpx2.ASGITransport(refusing(gate)), base_url="http://gate") as client:
            people = [asyncio.create_task(ask(client, "/api/v1/session")) for _ in range(5)]
            while len(running) < 2 or gate.entry.waiting < 3:
                await asyncio.sleep(0)
            assert await ask(client, "/api/v1/session") == 503
            health = asyncio.create_task(ask(client, "/healthz"))
            while len(running) < 3:
                await asyncio.sleep(0)
            assert running == ["/api/v1/session"] * 2 + ["/healthz"]
            answered.set()
            return await asyncio.gather(*people, health)

    assert asyncio.run(run()) == [200] * 6


def test_who_waits_too_long_is_let_go_and_leaves_no_place_taken():
    async def run() -> list[int]:
        entered, answered = asyncio.Event(), asyncio.Event()

        async def slow(scope, receive, send):
            entered.set()
            await answered.wait()
            await PlainTextResponse("done")(scope, receive, send)

        gate = Gate(slow, Lane("entry", 1, most_waiting=5, patience_s=0.01))
        async with httpx2.AsyncClient(transport=httpx2.ASGITransport(refusing(gate)), base_url="http://gate") as client:
            first = asyncio.create_task(client.get("/api/v1/x"))
            await entered.wait()
            refused = [(await client.get("/api/v1/x")).status_code for _ in range(3)]
            answered.set()
            return [*refused, (await first).status_code, (await client.get("/api/v1/x")).status_code]

    assert asyncio.run(run()) == [503, 503, 503, 200, 200]


def test_a_large_answer_is_compressed_for_who_can_read_it(owner):
    for _ in range(4):
        owner.add_plot()
    with owner.client.stream("GET", owner.site, headers={"Accept-Encoding": "gzip"}) as answer:
        raw = b"".join(answer.iter_raw())
    plain = owner.client.get(owner.site, headers={"Accept-Encoding": "identity"})
    assert (answer.headers["content-encoding"], plain.headers.get("content-encoding")) == ("gzip", None)
    assert len(raw) * 3 < len(plain.content)


def test_attempts_are_counted_by_all_processes_together(database_url):
    address = (str(uuid4()), 50_000)
    clients = [
        TestClient(create_app(settings_for(database_url, attempts="5 per hour")), base_url=HOST, client=address)
        for _ in range(2)
    ]
    link = {"token": "no-such-token"}
    send = [
        lambda client=client: client.post("/api/v1/invitation", json=link, headers={"Origin": HOST})
        for client in clients
    ]
    assert at_once(*send * 9) == [404] * 15 + [429] * 3


def test_several_processes_serve_one_application(database_url):
    port = free_port()
    environment = {**os.environ, "PYTHONPATH": "src", "ULMATIC_DATABASE_URL": database_url}
    command = [sys.executable, "-m", "ulmatic", "serve", "--port", str(port), "--workers", "2"]
    with subprocess.Popen(command, env=environment, stderr=subprocess.DEVNULL) as process:
        try:
            wait_for_answer(f"http://127.0.0.1:{port}/readyz")
            assert httpx2.get(f"http://127.0.0.1:{port}/api/v1/session").status_code == 200
            children = Path(f"/proc/{process.pid}/task/{process.pid}/children").read_text().split()
            commands = [Path(f"/proc/{child}/cmdline").read_text() for child in children]
            assert sum("spawn_main" in words for words in commands) == 2
        finally:
            process.terminate()
