"""The real server on the real database, and Debian's Chromium to drive it."""

import json
import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from playwright.sync_api import Browser, Locator, Page, ViewportSize, expect, sync_playwright

from tests.conftest import PASSWORD, wait_for_answer
from tests.sharing import make_once
from ulmatic.migrations import upgrade
from ulmatic.platform.cluster import free_port

CHROMIUM = "/usr/bin/chromium-headless-shell"
"""Debian's, without the frame of a window that nobody sees: a tenth less work for every page."""
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    # Of this switch the last holds, so what Playwright turns off stands here too.
    "--disable-features=AvoidUnnecessaryBeforeUnloadCheckSync,DestroyProfileOnBrowserClose,HttpsUpgrades,"
    "HttpsFirstBalancedModeAutoEnable,LensOverlay,MediaRouter,PaintHolding,ThirdPartyStoragePartitioning,"
    "AvoidCorsURLLoaderRestartOnRedirect,OptimizationHints,NetworkTimeServiceQuerying,AimEnabled,PreconnectToSearch",
]
# A machine that is busy elsewhere is slow, not wrong.
expect.set_options(timeout=30_000)


def start_server(url: str, *, stand_ins: bool = True, **more: str) -> tuple[str, list[subprocess.Popen]]:
    """Start a server, and what stands in for chips and weather; return its address and all processes."""
    port, chips, sky = free_port(), free_port(), free_port()
    environment = {
        **os.environ,
        "PYTHONPATH": "src",
        "ULMATIC_DATABASE_URL": url,
        "ULMATIC_DEMO": "1",
        "ULMATIC_ATTEMPTS": "1000 per minute",
        **({"ULMATIC_CHIPS_URL": f"http://127.0.0.1:{chips}"} if stand_ins else {}),
        **({"ULMATIC_WEATHER_URL": f"http://127.0.0.1:{sky}"} if stand_ins else {}),
        **more,
    }
    commands = [["serve", "--port", str(port)]]
    if stand_ins:
        commands.append(["stand-in-chips", "--port", str(chips), "--trouble", "0.2"])
        commands.append(["stand-in-weather", "--port", str(sky)])
    processes = [
        subprocess.Popen(
            [sys.executable, "-m", "ulmatic", *words],
            env=environment,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
        )
        for words in commands
    ]
    address = f"http://127.0.0.1:{port}"
    wait_for_answer(f"{address}/healthz")
    return address, processes


def serve(url: str, *, stand_ins: bool = True, **more: str) -> Iterator[str]:
    """Serve until a test is done with it."""
    address, processes = start_server(url, stand_ins=stand_ins, **more)
    yield address
    for process in processes:
        process.terminate()
        process.wait()


@pytest.fixture(scope="session")
def address(new_database) -> str:
    """A server for all workers on a database of its own: its background takes up nobody else's errands."""

    def start(folder: Path) -> str:
        address, processes = start_server(new_database())
        (folder / "server.processes").write_text(json.dumps([process.pid for process in processes]))
        return address

    return make_once("server", start)


@pytest.fixture(scope="module")
def stoppable(new_cluster) -> Iterator[tuple]:
    """A server on a cluster of its own, which a test may stop and start."""
    cluster = new_cluster()
    url = cluster.start()
    upgrade(url)
    for server in serve(url, stand_ins=False):
        yield server, cluster, int(url.rsplit(":", 1)[1].split("/")[0])


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def page(browser) -> Iterator[Page]:
    yield from opened(browser, DESK)


@pytest.fixture
def phone(browser) -> Iterator[Page]:
    yield from opened(browser, PHONE, has_touch=True)


DESK, PHONE = ViewportSize(width=1280, height=800), ViewportSize(width=390, height=844)
_failures: dict[Page, list[str]] = {}


def failures_of(page: Page) -> list[str]:
    """Return the errors that no code of a page has caught; there must be none when its test ends."""
    return _failures[page]


def opened(browser: Browser, viewport: ViewportSize, **options: Any) -> Iterator[Page]:
    context = browser.new_context(viewport=viewport, locale="en-GB", **options)
    page = context.new_page()
    page.set_default_timeout(60_000)
    failures = _failures[page] = []
    page.on("pageerror", lambda error: failures.append(str(error)))
    # A part that fails while it is drawn is caught by the router, which shows a sentence in its place and says so here.
    page.on("console", lambda line: failures.append(line.text) if "caught the following error" in line.text else None)
    yield page
    context.close()
    assert _failures.pop(page) == []


def make_account(page: Page, address: str) -> str:
    """Make an account and sign it in, without a page; how somebody does that by hand is in `test_first_minutes`."""
    account = {"name": "Robin", "email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    answer = page.request.post(f"{address}/api/v1/accounts", data=account, headers={"Origin": address})
    assert answer.status == 201, answer.text()
    return answer.json()["workspaces"][0]["id"]


def sign_up(page: Page, address: str) -> None:
    """Make an account, and open its sites."""
    workspace = make_account(page, address)
    page.goto(f"{address}/w/{workspace}/sites")


def start_site(page: Page, address: str, name: str, units: str = "metric", load: str = "5 m3") -> None:
    """Make an account and a site with loads of its own size, and open its first plot."""
    open_new_site(page, address, make_account(page, address), name, units, load)


def make_site(page: Page, name: str, units: str = "metric", load: str = "5 m3") -> None:
    """Make a site in the workspace that is open, and open its first plot."""
    address, path = page.url.split("/w/")
    open_new_site(page, address, path.split("/")[0], name, units, load)


def open_new_site(page: Page, address: str, workspace: str, name: str, units: str, load: str) -> None:
    site = {
        "id": str(uuid4()),
        "name": name,
        "units": units,
        "load_m3": load,
        "climate": {"kind": "class", "name": "cool_maritime"},
    }
    sites = f"{address}/api/v1/workspaces/{workspace}/sites"
    answer = page.request.post(sites, data=site, headers={"Origin": address})
    assert answer.status == 201, answer.text()
    page.goto(f"{address}/w/{workspace}/sites/{site['id']}/plots/new")


def from_menu(page: Page, item: str) -> None:
    """Open a page, or do what else stands in the menu."""
    page.get_by_role("button", name=re.compile("^Menu")).click()
    page.get_by_role("menuitem", name=item).click()


def choose(page: Page | Locator, label: str, choice: str) -> None:
    """Choose in a box that is searched by typing."""
    page.get_by_role("combobox", name=label).click()
    page.get_by_role("combobox", name=label).fill(choice)
    getattr(page, "page", page).get_by_role("option", name=choice).first.click()


SHAPES = {
    "rectangle": "Rectangle",
    "triangle": "Triangle",
    "ellipse": "Circle or ellipse",
    "offsets": "Curved bed, by offsets",
    "polygon": "Polygon",
    "path": "Path",
    "ring": "Tree ring",
    "ring_row": "Row of rings",
    "ring_block": "Block of rows",
    "strip": "Strip along a row",
    "walked": "Walked boundary",
}


def shape(page: Page, kind: str) -> None:
    """Choose a shape by its drawing."""
    page.get_by_role("radio", name=SHAPES[kind], exact=True).locator("xpath=..").click()


def step_into_demo(page: Page, address: str, site: str, on: str | None = None) -> None:
    """Step into the demo as it stands today, or on another day."""
    if on is not None:
        page.request.post(f"{address}/api/v1/session/demo", params={"on": on}, headers={"Origin": address})
    page.goto(address)
    if on is None:
        page.get_by_role("button", name="Try the demo").click()
    page.get_by_role("link", name=site).click()
    page.get_by_role("button", name="Not now").click()
