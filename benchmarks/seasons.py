"""How long a 500-plot site takes through its seasons, beside its plain sheet; and ten years of renewal in the core.

Run: PYTHONPATH=src:. .venv/bin/python benchmarks/seasons.py
"""

import gc
import logging
import shutil
import statistics
import sys
import tempfile
import time
from datetime import date
from pathlib import Path
from uuid import uuid4

import structlog
from starlette.testclient import TestClient

from ulmatic.accounts import service as accounts
from ulmatic.accounts.models import Membership
from ulmatic.accounts.scope import Scope
from ulmatic.app import create_app
from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import clock
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.renewal import Ground, Hold, renew
from ulmatic.migrations import upgrade
from ulmatic.platform.cluster import Cluster
from ulmatic.platform.settings import Settings
from ulmatic.survey import service
from ulmatic.survey.schemas import NewPlot

PLOTS, RUNS = 500, 25
HOST = "http://127.0.0.1"


def say(text: str) -> None:
    sys.stdout.write(text + "\n")


def ms(work) -> str:
    """Median and quickest of some runs: on a machine shared with others the two lie far apart."""
    taken = []
    for _ in range(RUNS):
        started = time.perf_counter()
        work()
        taken.append((time.perf_counter() - started) * 1e3)
    return f"{statistics.median(taken):.0f} ms, at best {min(taken):.0f} ms"


def bare() -> None:
    """How fast the machine is just now: a million additions in plain Python."""

    def additions() -> None:
        total = 0
        for one in range(1_000_000):
            total += one

    say(f"a million additions in plain Python: {ms(additions)}")


def core() -> None:
    normals = GenericClimate(name=ClimateClass.COOL_MARITIME).normals()
    ticking = clock(normals, date(2025, 1, 1), date(2038, 1, 1))
    grounds = [
        Ground(rule=Hold(least_mm=50, to_mm=75), material=CATALOGUE["arborist_leafy"], settling=0.22, layers=(),
               areas_m2=(float(at + 1),), open_months=(11, 12))
        for at in range(PLOTS)
    ]  # fmt: skip
    found = renew(grounds, [ticking], date(2026, 11, 25), 520)
    taken = ms(lambda: renew(grounds, [ticking], date(2026, 11, 25), 520))
    say(f"renewal in the core, {PLOTS} plots, 10 years, {len(found.top_ups)} top-ups: {taken}")


def main() -> None:
    structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.ERROR))
    bare()
    core()
    cluster = Cluster(Path(tempfile.mkdtemp(prefix="ulmatic-bench-")), throwaway=True)
    url = cluster.start()
    upgrade(url)
    app = create_app(Settings(database_url=url, allowed_hosts=["127.0.0.1"], attempts="1000 per minute"))
    client = TestClient(app, base_url=HOST, headers={"Origin": HOST})
    account = {"name": "B", "email": "b@example.org", "password": "four ordinary words here", "workspace": "W"}
    workspace = client.post("/api/v1/accounts", json=account).json()["workspaces"][0]["id"]
    sites = f"/api/v1/workspaces/{workspace}/sites"
    entry = {"id": str(uuid4()), "name": "S", "units": "metric", "load_m3": "10 m3",
             "climate": {"kind": "class", "name": "cool_maritime"}}  # fmt: skip
    site = client.post(sites, json=entry).json()["id"]
    with app.state.sessions() as session:
        user = accounts.find_user(session, "b@example.org")
        scope = Scope(session, session.get(Membership, (workspace, user.id)))
        service.add_plots(scope, site, [
            NewPlot.model_validate({
                "id": uuid4(), "name": f"Plot {at}", "use": "perennials", "units": "metric",
                "existing_mm": str(20 + at % 50), "wanted_mm": "75",
                "shape": {"kind": "rectangle", "length_m": str(2 + at % 9), "width_m": "2"},
            })
            for at in range(PLOTS)
        ])  # fmt: skip
        session.commit()
    # As `serve` does: what is loaded is not looked through again and again.
    gc.collect()
    gc.freeze()
    for path in ("", "/seasons?years=1", "/seasons?years=5", "/plan"):
        client.get(f"{sites}/{site}{path}")
        size = len(client.get(f"{sites}/{site}{path}").content)
        taken = ms(lambda path=path: client.get(f"{sites}/{site}{path}"))
        say(f"{PLOTS} plots, GET site{path}: {taken}, {size / 1e3:.0f} kB")
    crew = {"kind": "arborist", "material": "arborist_leafy", "least_m3": "7 m3", "likely_m3": "10 m3",
            "most_m3": "13 m3", "chance": 0.5}  # fmt: skip
    supplier = {"id": str(uuid4()), "name": "Crew", "units": "metric", "currency": "EUR", "source": crew}
    client.post(f"/api/v1/workspaces/{workspace}/suppliers", json=supplier)
    sheet = client.get(f"{sites}/{site}/seasons?years=5").json()
    late = sum(one["wanted"] < one["on"] for plot in sheet["plots"] for one in plot["top_ups"])
    taken = ms(lambda: client.get(f"{sites}/{site}/seasons?years=5"))
    say(f"the same with a crew that is waited for ({late} layers late): {taken}")
    cluster.stop()
    shutil.rmtree(cluster.folder)


if __name__ == "__main__":
    main()
