"""How long the pages of a 500-plot site take, beside its plan in the core, and a list of 50 sites.

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
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.schedule.rules import Every, Keep, Thin
from ulmatic.core.site import Site, SitePlot, Terms
from ulmatic.core.survey import Rectangle
from ulmatic.core.units import UnitSystem
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
    """Make the plan of a site whose plots differ in ground and rule."""
    rules = (Keep(), Thin(part=0.5), Every(years=2))
    plots = tuple(
        SitePlot(
            id=uuid4(), surveyed_on=date(2026, 1, 1), rule=rules[at % 3],
            plot=PlannedPlot(
                name=f"Plot {at}", use="perennials", shape=Rectangle(length_m=2 + at % 9, width_m=2), wanted_mm=75
            ),
        )
        for at in range(PLOTS)
    )  # fmt: skip
    site = Site(
        name="S", units=UnitSystem.METRIC, terms=Terms(spare=0.1, load_m3=10, barrow_m3=0.1), plots=plots,
        climate=GenericClimate(name=ClimateClass.COOL_MARITIME),
    )  # fmt: skip
    for years in (2, 10):
        layings = len(site.on(date(2026, 11, 25)).plan(years).wanted.layings)
        taken = ms(lambda years=years: site.on(date(2026, 11, 25)).plan(years).now)
        say(f"plan in the core, {PLOTS} plots, {years} years, {layings} layings: {taken}")


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
    for path in ("", "/orders", "/moving", "/seasons?years=1", "/seasons?years=5"):
        client.get(f"{sites}/{site}{path}")
        size = len(client.get(f"{sites}/{site}{path}").content)
        taken = ms(lambda path=path: client.get(f"{sites}/{site}{path}"))
        say(f"{PLOTS} plots, GET site{path}: {taken}, {size / 1e3:.0f} kB")
    crew = {"kind": "arborist", "material": "arborist_leafy", "least_m3": "7 m3", "likely_m3": "10 m3",
            "most_m3": "13 m3", "chance": 0.5}  # fmt: skip
    supplier = {"id": str(uuid4()), "name": "Crew", "units": "metric", "currency": "EUR", "source": crew}
    client.post(f"/api/v1/workspaces/{workspace}/suppliers", json=supplier)
    sheet = client.get(f"{sites}/{site}/seasons?years=5").json()
    late = sum(one["wanted_on"] < one["on"] for plot in sheet["plots"] for one in plot["layings"])
    taken = ms(lambda: client.get(f"{sites}/{site}/seasons?years=5"))
    say(f"the same with a crew that is waited for ({late} layings late): {taken}")
    bed = {"name": "Bed", "use": "perennials", "units": "metric", "wanted_mm": "75", "existing_mm": "0",
           "shape": {"kind": "rectangle", "length_m": "6", "width_m": "2"}}  # fmt: skip
    taken = ms(lambda: client.post(f"{sites}/{site}/plots", json={**bed, "id": str(uuid4())}))
    say(f"a plot saved there: {taken}")
    for number in range(50):
        other = client.post(sites, json={**entry, "id": str(uuid4()), "name": f"Site {number}"}).json()["id"]
        for _ in range(4):
            client.post(f"{sites}/{other}/plots", json={**bed, "id": str(uuid4())})
    started = time.perf_counter()
    client.get(sites)
    say(
        f"list of 51 sites, for the first time: {(time.perf_counter() - started) * 1e3:.0f} ms; then {ms(lambda: client.get(sites))}"
    )
    cluster.stop()
    shutil.rmtree(cluster.folder)


if __name__ == "__main__":
    main()
