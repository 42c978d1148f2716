"""Requests a second and how long they take, with 20, 80, 150 and 300 clients at once, in one run.

Run: PYTHONPATH=src:. .venv/bin/python benchmarks/load.py
The clients run on the same cores as the server, so these are lower bounds.
"""

import asyncio
import statistics
import sys
import time
from collections import Counter
from uuid import uuid4

import httpx2
from server import served
from tests.conftest import PASSWORD, bed

CLIENTS, SECONDS, PLOTS = (20, 80, 150, 300), 8.0, 200


def main() -> None:
    """Measure and print."""
    with served() as address:
        measure(address)


def measure(address: str) -> None:
    """Fill a site and ask for the session and for its whole sheet."""
    person = httpx2.Client(base_url=address, headers={"Origin": address}, timeout=60)
    entry = {"email": "load@example.org", "password": PASSWORD, "name": "Load", "workspace": "Load"}
    person.post("/api/v1/accounts", json=entry).raise_for_status()
    workspace = person.get("/api/v1/session").json()["workspaces"][0]["id"]
    sites = f"/api/v1/workspaces/{workspace}/sites"
    site = {"id": str(uuid4()), "name": "Load", "units": "metric", "load_m3": "10", "barrow_m3": "80 L"}
    person.post(sites, json=site).raise_for_status()
    for number in range(PLOTS):
        person.post(f"{sites}/{site['id']}/plots", json=bed(name=f"Plot {number}")).raise_for_status()
    cookie = "; ".join(f"{name}={value}" for name, value in person.cookies.items())
    for name, path in (("session", "/api/v1/session"), (f"sheet of {PLOTS} plots", f"{sites}/{site['id']}")):
        for clients in CLIENTS:
            asyncio.run(_load(address, name, path, cookie, clients))


async def _load(address: str, name: str, path: str, cookie: str, clients: int) -> None:
    host, port = address.removeprefix("http://").split(":")
    request = f"GET {path} HTTP/1.1\r\nHost: {host}\r\nCookie: {cookie}\r\nAccept-Encoding: gzip\r\n\r\n".encode()
    statuses: Counter[int] = Counter()
    waits: list[float] = []
    end = time.perf_counter() + SECONDS

    async def client() -> None:
        reader, writer = await asyncio.open_connection(host, int(port))
        while time.perf_counter() < end:
            started = time.perf_counter()
            writer.write(request)
            head = (await reader.readuntil(b"\r\n\r\n")).decode().lower()
            length = int(head.split("content-length:")[1].split("\r\n")[0])
            await reader.readexactly(length)
            status = int(head.split()[1])
            statuses[status] += 1
            if status == 200:
                waits.append(time.perf_counter() - started)
            else:
                await asyncio.sleep(0.5)
        writer.close()

    started = time.perf_counter()
    await asyncio.gather(*[client() for _ in range(clients)])
    took = time.perf_counter() - started
    cuts = [1e3 * cut for cut in statistics.quantiles(waits, n=100)] if len(waits) > 1 else [0.0] * 99
    print(  # noqa: T201
        f"{name:20} {clients:4} clients  {statuses[200] / took:7.1f} a second  "
        f"p50 {cuts[49]:6.0f} ms  p95 {cuts[94]:6.0f} ms  p99 {cuts[98]:6.0f} ms  {dict(statuses)}",
        flush=True,
    )


if __name__ == "__main__":
    sys.exit(main())
