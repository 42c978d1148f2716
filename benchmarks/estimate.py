"""Round trip of the estimate while typing, on a site of 200 plots, beside the emptiest request, in one run.

Run: PYTHONPATH=src:. .venv/bin/python benchmarks/estimate.py
"""

import json
import statistics
import sys
import time
from http.client import HTTPConnection
from uuid import uuid4

from server import served
from tests.conftest import PASSWORD, bed, typed_bed

PLOTS, ROUNDS = 200, 100


def main() -> None:
    """Measure and print."""
    with served() as address:
        measure(address)


def measure(address: str) -> None:
    """Fill a site and time the two requests alternately over one kept connection."""
    host = address.removeprefix("http://")
    connection = HTTPConnection(host)
    headers = {"Origin": address, "Content-Type": "application/json"}

    def call(method: str, path: str, body: object = None) -> tuple[dict, bytes]:
        connection.request(method, path, json.dumps(body) if body is not None else None, headers)
        answer = connection.getresponse()
        content = answer.read()
        if answer.status >= 400:
            raise SystemExit(f"{method} {path}: {answer.status} {content[:300]!r}")
        if cookie := answer.getheader("set-cookie"):
            headers["Cookie"] = cookie.split(";")[0]
        return (json.loads(content) if content.startswith(b"{") else {}), content

    who = {"name": "Bench", "email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    workspace = call("POST", "/api/v1/accounts", who)[0]["workspaces"][0]["id"]
    site = f"/api/v1/workspaces/{workspace}/sites"
    entry = {"id": str(uuid4()), "name": "Bench", "units": "metric", "load_m3": "10", "barrow_m3": "80 L"}
    site = f"{site}/{call('POST', site, entry)[0]['id']}"
    for number in range(PLOTS):
        shape = {"kind": "rectangle", "length_m": f"{4 + number / 10} m", "width_m": "2 m"}
        call("POST", f"{site}/plots", bed(shape=shape))
    times: dict[str, list[float]] = {"estimate": [], "healthz": []}
    size = 0
    for round_ in range(ROUNDS):
        typed = {"plot_id": None, "plot": typed_bed(wanted_mm=f"{50 + round_} mm")}
        started = time.perf_counter()
        size = len(call("POST", f"{site}/estimate", typed)[1])
        times["estimate"].append(time.perf_counter() - started)
        started = time.perf_counter()
        call("GET", "/healthz")
        times["healthz"].append(time.perf_counter() - started)
    for name, some in times.items():
        ordered = sorted(some)
        middle, high = statistics.median(some) * 1e3, ordered[int(0.95 * len(ordered))] * 1e3
        sys.stdout.write(f"{name:10} median {middle:6.1f} ms, 95th percentile {high:6.1f} ms\n")
    sys.stdout.write(f"answer {size / 1e3:.0f} kB, {PLOTS} plots, {ROUNDS} rounds\n")


if __name__ == "__main__":
    main()
