"""How long the pages of a 500-plot site take, beside its plan in the core, and a list of 50 sites.

Run: PYTHONPATH=src:. .venv/bin/python benchmarks/seasons.py
"""

import gc
import itertools
import logging
import resource
import shutil
import statistics
import sys
import tempfile
import time
from collections.abc import Iterator
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
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.schedule.rules import Every, Keep, Thin
from ulmatic.core.site import Site, SitePlot, Terms
from ulmatic.core.survey import Rectangle
from ulmatic.core.units import UnitSystem
from ulmatic.migrations import upgrade
from ulmatic.platform.cluster import Cluster
from ulmatic.platform.settings import Settings
from ulmatic.site import ledger as log
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
            id=uuid4(),
            surveyed_on=date(2026, 1, 1),
            rule=rules[at % 3],
            plot=PlannedPlot(
                name=f"Plot {at}", use="perennials", shape=Rectangle(length_m=2 + at % 9, width_m=2), wanted_mm=75
            ),
        )
        for at in range(PLOTS)
    )
    site = Site(
        name="S",
        units=UnitSystem.METRIC,
        terms=Terms(spare=0.1, load_m3=10, barrow_m3=0.1),
        plots=plots,
        climate=GenericClimate(name=ClimateClass.COOL_MARITIME),
    )
    for years in (2, 10):
        layings = len(plan_on(site, date(2026, 11, 25), years).by_rules.layings)
        taken = ms(lambda years=years: plan_on(site, date(2026, 11, 25), years).now)
        say(f"plan in the core, {PLOTS} plots, {years} years, {layings} layings: {taken}")


PAGES = ("", "/orders", "/moving", "/quotes", "/stock", "/seasons?years=1", "/seasons?years=5", "/years", "/nitrogen")
COOL = {"kind": "class", "name": "cool_maritime"}
CREW = {
    "kind": "arborist",
    "material": "arborist_leafy",
    "least_m3": "7 m3",
    "likely_m3": "10 m3",
    "most_m3": "13 m3",
    "chance": "50 %",
}
BED = {
    "name": "Bed",
    "use": "perennials",
    "units": "metric",
    "wanted_mm": "75",
    "existing_mm": "0",
    "shape": {"kind": "rectangle", "length_m": "6", "width_m": "2"},
}


class Server:
    """The application on a database of its own, and somebody signed in."""

    def __init__(self) -> None:
        self.cluster = Cluster(Path(tempfile.mkdtemp(prefix="ulmatic-bench-")), throwaway=True)
        url = self.cluster.start()
        upgrade(url)
        self.app = create_app(Settings(database_url=url, allowed_hosts=["127.0.0.1"], attempts="1000 per minute"))
        self.client = TestClient(self.app, base_url=HOST, headers={"Origin": HOST})
        account = {"name": "B", "email": "b@example.org", "password": "four ordinary words here", "workspace": "W"}
        self.workspace = self.client.post("/api/v1/accounts", json=account).json()["workspaces"][0]["id"]
        self.sites = f"/api/v1/workspaces/{self.workspace}/sites"

    def add_site(self, plots: int) -> str:
        """Add a site with so many plots; return its address."""
        entry = {"id": str(uuid4()), "name": f"Site of {plots}", "units": "metric", "load_m3": "10 m3", "climate": COOL}
        site = self.client.post(self.sites, json=entry).json()["id"]
        new = [
            NewPlot.model_validate(
                {
                    **BED,
                    "id": uuid4(),
                    "name": f"Plot {at}",
                    "existing_mm": str(20 + at % 50),
                    "shape": {"kind": "rectangle", "length_m": str(2 + at % 9), "width_m": "2"},
                }
            )
            for at in range(plots)
        ]
        with self.app.state.sessions() as session:
            user = accounts.find_user(session, "b@example.org")
            scope = Scope(session, session.get(Membership, (self.workspace, user.id)))
            service.add_plots(scope, site, new)
            log.measure_plots(scope, site, [(plot.id, plot) for plot in new])
            session.commit()
        return f"{self.sites}/{site}"

    def decisions(self, site: str) -> Iterator[None]:
        """Decide something about a plot, and take it back, so that the plan is another each time."""
        plot = self.client.get(site).json()["plots"][0]["id"]
        season = self.client.get(f"{site}/seasons?years=1").json()["seasons"][0]["key"]
        for decision in itertools.cycle(({"kind": "skip"}, None)):
            entry = {"season": season, "decision": decision}
            self.done(self.client.put(f"{site}/plots/{plot}/decision", json=entry))
            yield

    @staticmethod
    def done(answer) -> None:
        """Stop where something was refused."""
        if answer.status_code >= 400:
            raise SystemExit(answer.text)

    def stop(self) -> None:
        """Clear everything away."""
        self.cluster.stop()
        shutil.rmtree(self.cluster.folder)


def once(work) -> float:
    started = time.perf_counter()
    work()
    return (time.perf_counter() - started) * 1e3


def pages(server: Server, sizes) -> None:
    """Every page of sites of growing size: as it is read again, and for the first time after a change."""
    table: dict[str, list[str]] = {path: [] for path in PAGES}
    for size in sizes:
        site = server.add_site(size)
        decisions = server.decisions(site)
        for path in PAGES:
            address = f"{site}{path}"
            server.done(server.client.get(address))
            again = statistics.median(once(lambda address=address: server.client.get(address)) for _ in range(5))
            changed = []
            for _ in range(3):
                next(decisions)
                changed.append(once(lambda address=address: server.client.get(address)))
            table[path].append(f"{again:.0f} / {statistics.median(changed):.0f}")
    say("page | " + " | ".join(f"{size} plots" for size in sizes) + " (ms: read again / first after a change)")
    for path, figures in table.items():
        say(f"{path or 'site'} | " + " | ".join(figures))


def main() -> None:
    structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.ERROR))
    bare()
    core()
    server = Server()
    client = server.client
    # As `serve` does: what is loaded is not looked through again and again.
    gc.collect()
    gc.freeze()
    site = server.add_site(PLOTS)
    say(f"a plot saved among {PLOTS}: {ms(lambda: client.post(f'{site}/plots', json={**BED, 'id': str(uuid4())}))}")
    for _ in range(50):
        server.add_site(4)
    cold = once(lambda: client.get(server.sites))
    say(f"list of 51 sites, for the first time: {cold:.0f} ms; then {ms(lambda: client.get(server.sites))}")
    supplier = {"id": str(uuid4()), "name": "Crew", "units": "metric", "currency": "EUR", "source": CREW}
    pages(server, (10, 100, 500, 2000))
    server.done(client.post(f"/api/v1/workspaces/{server.workspace}/suppliers", json=supplier))
    say("with a crew that is waited for:")
    pages(server, (500,))
    say(f"peak memory of the process: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MiB")
    server.stop()


if __name__ == "__main__":
    main()
