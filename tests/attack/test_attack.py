"""The attack on a real server: killed while people write, flooded, dripped on, and fed what costs much."""

import asyncio
import json
import math
import socket
import threading
import time
import zipfile
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from io import BytesIO
from pathlib import Path
from uuid import uuid4

import httpx2
import pytest
from openpyxl import Workbook
from PIL import Image

from tests.attack.conftest import LONG, new_site
from tests.conftest import BINARY, bed

# One server is attacked by one test after the other.
WRITERS = 20
WRITES = 200 if LONG else 6
"""Of each writer."""
PAUSE_S = 0.05
"""Before somebody asks again."""
MOST_RESIDENT_KB = 500_000


class Writers:
    """People who write until all they have to write was acknowledged, whatever happens meanwhile."""

    def __init__(self, server) -> None:
        self.server = server
        self.acknowledged: list[str] = []
        self.statuses: Counter[int] = Counter()
        self.changed = threading.Condition()
        self.given_up = False

    def write(self, client: httpx2.Client, site: str) -> None:
        for _ in range(WRITES):
            entry = bed()
            status = 0
            while status != 201 and not self.given_up:
                try:
                    status = client.post(f"{site}/plots", json=entry).status_code
                except httpx2.HTTPError:
                    status = 0
                if status != 201:
                    time.sleep(PAUSE_S)
                with self.changed:
                    self.statuses[status] += 1
                    if status == 201:
                        self.acknowledged.append(entry["id"])
                    self.changed.notify_all()

    def wait_for(self, share: float) -> None:
        with self.changed:
            self.changed.wait_for(lambda: len(self.acknowledged) >= share * WRITERS * WRITES)


@pytest.mark.long
def test_nothing_acknowledged_is_lost_when_database_and_application_are_killed(server):
    people = [server.somebody() for _ in range(4)]
    sites = [new_site(client, address) for client, address in people]
    writers = Writers(server)
    with ThreadPoolExecutor(WRITERS) as pool:
        writing = [pool.submit(writers.write, people[number % 4][0], sites[number % 4]) for number in range(WRITERS)]
        try:
            writers.wait_for(0.2)
            server.kill_database()
            server.cluster.start()
            writers.wait_for(0.6)
            server.kill()
            server.start()
        except BaseException:
            writers.given_up = True
            raise
        for writer in writing:
            writer.result()
    waiting = Counter()
    for (client, _), site in zip(people, sites, strict=True):
        start, page = 0, {"plots_in_all": 1}
        while start < page["plots_in_all"]:
            page = client.get(site, params={"start": start}).json()
            waiting.update(plot["id"] for plot in page["plots"])
            start += len(page["plots"])
    assert set(writers.acknowledged) == set(waiting)
    assert set(waiting.values()) == {1}, "what was sent again is waiting once"
    assert set(writers.statuses) <= {0, 201, 503}, writers.statuses
    assert writers.statuses[0] + writers.statuses[503] > 0, "the faults were met"


def test_who_asks_for_little_is_answered_while_others_ask_for_much(server):
    """100 clients: whole sheets by 30 of them, and the session, health and unchanged sheets by the others."""
    client, sites = server.somebody()
    site = new_site(client, sites)
    for _ in range(120 if LONG else 40):
        assert client.post(f"{site}/plots", json=bed()).status_code == 201
    tag = client.get(site).headers["ETag"]
    cookies = dict(client.cookies)

    async def flood() -> dict[str, Counter]:
        statuses: dict[str, Counter] = {"sheet": Counter(), "little": Counter()}
        limits = httpx2.Limits(max_connections=220)
        async with httpx2.AsyncClient(base_url=server.address, cookies=cookies, timeout=60, limits=limits) as many:

            async def much() -> None:
                for _ in range(3 if LONG else 1):
                    statuses["sheet"][(await many.get(site)).status_code] += 1

            async def little(number: int) -> None:
                path = ("/api/v1/session", "/healthz", site)[number % 3]
                for _ in range(3):
                    answer = await many.get(path, headers={"If-None-Match": tag})
                    statuses["little"][answer.status_code] += 1

            await asyncio.gather(*[much() for _ in range(30)], *[little(number) for number in range(70)])
        return statuses

    statuses = asyncio.run(flood())
    assert set(statuses["little"]) == {200, 304}, statuses
    assert set(statuses["sheet"]) <= {200, 503}, statuses
    assert statuses["sheet"][200] > 0


def test_slow_and_nameless_bodies_hold_nobody_up(server):
    host, port = "127.0.0.1", server.port
    head = "POST /api/v1/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: "
    slow = []
    for _ in range(60):
        connection = socket.create_connection((host, port))
        connection.sendall(f"{head}900\r\n\r\n{{".encode())
        slow.append(connection)
    client, _ = server.somebody()
    assert client.get("/api/v1/session").status_code == 200
    with socket.create_connection((host, port), timeout=60) as stranger:
        stranger.sendall(f"{head}4000000\r\n\r\n".encode())
        assert b" 401 " in stranger.recv(100), "refused before anything of it was sent"
    for connection in slow:
        connection.close()


def ring(number: int, points: int = 39) -> dict:
    x, y = -3 + number % 25 * 5e-4, 51 + number // 25 * 5e-4
    angles = [2 * math.pi * index / points for index in range(points)]
    corners = [[x + 2e-4 * math.cos(angle), y + 2e-4 * math.sin(angle)] for angle in angles]
    geometry = {"type": "Polygon", "coordinates": [[*corners, corners[0]]]}
    return {"type": "Feature", "properties": {"name": f"Bed {number}"}, "geometry": geometry}


def wide_workbook() -> bytes:
    book = Workbook(write_only=True)
    sheet = book.create_sheet()
    for _ in range(10):
        sheet.append(["x"] * 16_000)
    out = BytesIO()
    book.save(out)
    return out.getvalue()


def bomb() -> bytes:
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as zipped:
        zipped.writestr("xl/workbook.xml", b" " * 400_000_000)
    return out.getvalue()


def large_picture() -> bytes:
    out = BytesIO()
    Image.new("L", (7_700, 7_700)).save(out, "PNG")
    return out.getvalue()


def finished(client: httpx2.Client, workspace: str, answer: httpx2.Response) -> dict:
    assert answer.status_code == 202, answer.text
    while (errand := client.get(f"{workspace}/errands/{answer.json()['id']}").json())["state"] in (
        "waiting",
        "running",
    ):
        time.sleep(PAUSE_S)
    return errand


@pytest.mark.long
def test_a_worker_stays_small_whatever_it_is_fed(server):
    client, sites = server.somebody()
    site, workspace = new_site(client, sites), sites.removesuffix("/sites")

    def brings(name: str, content: bytes) -> dict:
        params = {"name": name, "import_id": str(uuid4()), "keep": "true"}
        return finished(
            client, workspace, client.post(f"{site}/imports", params=params, content=content, headers=BINARY)
        )

    polygons = json.dumps({"type": "FeatureCollection", "features": [ring(number) for number in range(499)]}).encode()
    assert brings("a.geojson", polygons)["state"] == "done"
    for name, content in (
        ("a.xlsx", wide_workbook()),
        ("b.xlsx", bomb()),
        ("a.gpx", b"<gpx>" + b'<wpt lat="5" lon="3"/>' * 100_000),
        ("a.kml", b"<kml>" + b"<Placemark/>" * 20_000),
        ("a.csv", b"name\n" + b"x," * 700_000),
    ):
        errand = brings(name, content)
        assert errand["state"] == "done" or errand["problem"]["status"] in (413, 422), errand
    trees = {
        "kind": "ring_row",
        "trunk_m": "10 cm",
        "gap_m": "10 cm",
        "canopy_m": "1 m",
        "trees": 5_000,
        "spacing_m": "0.9 m",
    }
    assert client.post(f"{site}/plots", json=bed(use="young_tree", shape=trees)).status_code == 201
    load = {"id": str(uuid4()), "name": "Crew", "units": "metric", "material": "arborist_leafy", "likely_m3": "9 m3"}
    assert client.post(f"{site}/deliveries", json=load).status_code == 201
    picture = large_picture()
    with ThreadPoolExecutor(10) as pool:
        photo = lambda _: client.put(f"{site}/deliveries/{load['id']}/photos/{uuid4()}", content=picture).status_code  # noqa: E731
        assert set(pool.map(photo, range(10))) <= {204, 422, 503}
        sheets = lambda part: client.get(f"{site}{part}").status_code  # noqa: E731
        assert set(pool.map(sheets, ["", "/orders", "/moving", "/seasons", "/nitrogen"] * (4 if LONG else 2))) <= {
            200,
            503,
        }
    resident = [_most_resident_kb(pid) for pid in server.workers()]
    assert len(resident) == 2
    assert max(resident) < MOST_RESIDENT_KB, resident


def _most_resident_kb(pid: int) -> int:
    lines = Path(f"/proc/{pid}/status").read_text().splitlines()
    return next(int(line.split()[1]) for line in lines if line.startswith("VmHWM"))
