"""Requests a second and how long they take, by clients, with one process and with two, in one run.

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

CLIENTS, SECONDS, PLOTS = (20, 80, 200, 300), 5.0, 200
WORKERS = (1, 2)


def main() -> None:
    """Measure and print."""
    for workers in WORKERS:
        with served(workers) as address:
            print(f"{workers} process{'es' if workers > 1 else ''}", flush=True)  # noqa: T201
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
    tag = person.get(f"{sites}/{site['id']}").headers["ETag"]
    for name, path, known in (
        ("health", "/healthz", ""),
        ("session", "/api/v1/session", ""),
        ("unchanged sheet", f"{sites}/{site['id']}", tag),
        (f"sheet of {PLOTS} plots", f"{sites}/{site['id']}", ""),
    ):
        for clients in CLIENTS:
            asyncio.run(_load(address, name, path, cookie, known, clients))


async def _load(address: str, name: str, path: str, cookie: str, tag: str, clients: int) -> None:
    host, port = address.removeprefix("http://").split(":")
    headers = {"Host": host, "Cookie": cookie, "Accept-Encoding": "gzip", **({"If-None-Match": tag} if tag else {})}
    lines = [f"GET {path} HTTP/1.1", *(f"{header}: {value}" for header, value in headers.items())]
    request = ("\r\n".join(lines) + "\r\n\r\n").encode()
    statuses: Counter[int] = Counter()
    waits: list[float] = []
    end = time.perf_counter() + SECONDS

    async def client() -> None:
        reader, writer = await asyncio.open_connection(host, int(port))
        while time.perf_counter() < end:
            started = time.perf_counter()
            writer.write(request)
            head = (await reader.readuntil(b"\r\n\r\n")).decode().lower()
            length = head.partition("content-length:")[2].split("\r\n")[0].strip()
            await reader.readexactly(int(length or 0))
            status = int(head.split()[1])
            if time.perf_counter() > end:
                break
            statuses[status] += 1
            if status in (200, 304):
                waits.append(time.perf_counter() - started)
            else:
                await asyncio.sleep(float(head.partition("retry-after:")[2].split("\r\n")[0]))
        writer.close()

    await asyncio.gather(*[client() for _ in range(clients)])
    cuts = [1e3 * cut for cut in statistics.quantiles(waits, n=100)] if len(waits) > 1 else [0.0] * 99
    print(  # noqa: T201
        f"{name:20} {clients:4} clients  {(statuses[200] + statuses[304]) / SECONDS:7.1f} a second  "
        f"p50 {cuts[49]:6.0f} ms  p95 {cuts[94]:6.0f} ms  p99 {cuts[98]:6.0f} ms  {dict(statuses)}",
        flush=True,
    )


if __name__ == "__main__":
    sys.exit(main())
