"""Frame times while the plan is dragged about, with 10 plots, 500 plots and a block of 2,000 trees, in one run.

Run: PYTHONPATH=src:. .venv/bin/python benchmarks/plan.py
Headless Chromium without a graphics card draws in software, so these are upper bounds.
"""

import sys
import time
from collections.abc import Sequence
from uuid import uuid4

from playwright.sync_api import Page, sync_playwright
from server import served
from tests.browser.conftest import CHROMIUM, FLAGS, sign_up
from tests.conftest import bed

FRAMES = """() => { window.frames_ = []; let last = performance.now();
  const tick = now => { window.frames_.push(now - last); last = now; window.ticking = requestAnimationFrame(tick); };
  window.ticking = requestAnimationFrame(tick); }"""
BARE = """() => { for (let y = 210; y < 700; y += 3) for (let x = 880; x > 320; x -= 3)
  if (!document.elementFromPoint(x, y).closest("[role=button], button")) return [x, y]; }"""
BLOCK = {
    "kind": "ring_block",
    "canopy_m": "3 m",
    "trunk_m": "30 cm",
    "gap_m": "20 cm",
    "trees": 50,
    "spacing_m": "4 m",
    "rows": 40,
    "row_spacing_m": "5 m",
}


def shapes(count: int) -> list[dict]:
    """Return `count` plots: beds, rows and irregular beds by turns."""
    some = [
        {"kind": "rectangle", "length_m": "9 m", "width_m": "2 m"},
        {"kind": "ring_row", "canopy_m": "3 m", "trunk_m": "30 cm", "gap_m": "20 cm", "trees": 8, "spacing_m": "2.5 m"},
        {"kind": "offsets", "spacing_m": "1 m", "offsets_m": "1, 2, 2.5, 2.2, 1.8, 2, 1.5"},
    ]
    return [bed(name=f"Plot {number}", shape=some[number % 3]) for number in range(count)]


def ways(count: int) -> list[dict]:
    """Return a tip and `count` ways of 200 m, crossed by one."""
    tip = {"kind": "tip", "place": {"x_m": -8, "y_m": 0}, "length_m": "8 m", "width_m": "5 m"}
    lines = [f"0, {8 * row}\n200, {8 * row}" for row in range(count - 1)] + [f"0, 0\n0, {8 * count}"]
    marks = [tip, *({"kind": "way", "points_m": line, "width_m": "1.5 m"} for line in lines)]
    return [{"id": str(uuid4()), "name": f"Way {n}", "units": "metric", "landmark": m} for n, m in enumerate(marks)]


def measure(page: Page, address: str, name: str, plots: list[dict], landmarks: Sequence[dict] = ()) -> None:
    """Make a site of `plots`, open it, drag and zoom its plan, and print frame times."""
    workspace = page.request.get(f"{address}/api/v1/session").json()["workspaces"][0]["id"]
    sites, headers = f"{address}/api/v1/workspaces/{workspace}/sites", {"Origin": address}
    entry = {"id": str(uuid4()), "name": name, "units": "metric", "load_m3": "10", "barrow_m3": "80 L"}
    site = page.request.post(sites, data=entry, headers=headers).json()["id"]
    for plot in plots:
        page.request.post(f"{sites}/{site}/plots", data=plot, headers=headers)
    if landmarks:
        places = {
            plot["id"]: {"x_m": 10 + number % 20 * 10, "y_m": 4 + number // 20 * 8} for number, plot in enumerate(plots)
        }
        page.request.put(f"{sites}/{site}/places", data={"places": places}, headers=headers)
        for one in landmarks:
            page.request.post(f"{sites}/{site}/landmarks", data=one, headers=headers)
    started = time.perf_counter()
    page.goto(f"{address}/w/{workspace}/sites/{site}")
    page.get_by_role("img", name="North").wait_for()
    opened = time.perf_counter() - started
    page.evaluate(FRAMES)
    x, y = page.evaluate(BARE)
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(60):
        page.mouse.move(x - 4 * step, y + 3 * step)
    page.mouse.up()
    for _ in range(10):
        page.mouse.wheel(0, -120)
        page.wait_for_timeout(30)
    frames = sorted(page.evaluate("() => { cancelAnimationFrame(window.ticking); return window.frames_ }"))
    middle, high = frames[len(frames) // 2], frames[int(0.95 * len(frames))]
    sys.stdout.write(
        f"{name:14} opened in {opened:4.1f} s; frame median {middle:5.1f} ms, 95th percentile {high:6.1f} ms\n"
    )


def main() -> None:
    """Measure and print."""
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        sign_up(page, address)
        measure(page, address, "10 plots", shapes(10))
        measure(page, address, "500 plots", shapes(500))
        measure(page, address, "500, 25 ways", shapes(500), ways(25))
        measure(page, address, "2,000 trees", [bed(name="Block", shape=BLOCK)])


if __name__ == "__main__":
    main()
