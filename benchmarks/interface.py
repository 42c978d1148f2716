"""How fast the pages answer to hands, beside an empty page, and how much JavaScript each page fetches, in one run.

Run: PYTHONPATH=src:. .venv/bin/python benchmarks/interface.py
Durations are those of the browser's Event Timing: from the press or key to the next paint, to the nearest 8 ms.
"""

import sys

from playwright.sync_api import Page, sync_playwright
from server import served
from tests.browser.conftest import CHROMIUM, FLAGS, step_into_demo

WATCH = """() => { window.events_ = [];
  new PerformanceObserver(list => { for (const entry of list.getEntries())
    if (entry.interactionId) window.events_.push([entry.interactionId, entry.duration]); })
    .observe({type: "event", durationThreshold: 16, buffered: false}); }"""
READ = "() => new Promise(done => setTimeout(() => done(window.events_), 300))"
SCRIPTS = """() => performance.getEntriesByType("resource").filter(entry => entry.name.endsWith(".js"))
  .map(entry => [entry.name.split("/").pop(), entry.encodedBodySize])"""
EMPTY = """<!doctype html><input aria-label="Field"><button onclick="this.textContent += '.'">Press</button>"""
PARTS = (
    "order",
    "order/offers",
    "order/piles",
    "order/quote",
    "work",
    "seasons",
    "seasons/years",
    "nitrogen",
    "log",
    "files",
    "settings",
)


def say(text: str) -> None:
    sys.stdout.write(text + "\n")


def watched(page: Page, act) -> list[float]:
    """Return how long each interaction took to its next paint; those under 16 ms count as 16."""
    page.evaluate(WATCH)
    count = act()
    longest: dict[int, float] = {}
    for interaction, duration in page.evaluate(READ):
        longest[interaction] = max(longest.get(interaction, 0), duration)
    return [*longest.values(), *[16.0] * max(0, count - len(longest))]


def percentiles(durations: list[float]) -> str:
    ordered = sorted(durations)
    middle, high = ordered[len(ordered) // 2], ordered[int(0.95 * (len(ordered) - 1))]
    return f"median {middle:.0f} ms, 95th percentile {high:.0f} ms"


def typed(page: Page, label: str, text: str) -> int:
    page.get_by_label(label, exact=True).first.click()
    page.keyboard.type(text, delay=90)
    return len(text) + 1


def in_the_demo(page: Page) -> int:
    """Measure a bed, look at its recipe, and walk through the parts of the site."""
    count = 0
    page.get_by_role("link", name="Plot", exact=True).click()
    page.get_by_label("Plot name").wait_for()
    count += 1 + typed(page, "Length", "12.5 m") + typed(page, "Width", "2.4 m") + typed(page, "Plot name", "Long bed")
    for tab in ("Recipe", "Ground"):
        page.get_by_role("tab", name=tab).click()
        count += 1
    for part in ("Order", "Work", "Seasons", "Nitrogen", "Log", "Ground"):
        page.get_by_role("link", name=part, exact=True).first.click()
        page.wait_for_load_state("networkidle")
        count += 1
    for plot in ("Quince row", "Cart track", "Woad bed"):
        page.get_by_role("link", name=plot).first.click()
        page.get_by_test_id("plot-volume").wait_for()
        count += 1
    return count


def main() -> None:
    """Measure and print."""
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        empty = browser.new_page(viewport={"width": 1280, "height": 800})
        empty.set_content(EMPTY)

        def on_the_empty_page() -> int:
            for _ in range(10):
                empty.get_by_role("button").click()
            return 10 + typed(empty, "Field", "a text of some twenty letters")

        say(f"an empty page: {percentiles(watched(empty, on_the_empty_page))}")
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/sign-in")
        page.wait_for_load_state("networkidle")
        fetched = dict(page.evaluate(SCRIPTS))
        say(f"sign-in page: {sum(fetched.values()) / 1000:.0f} kB of JavaScript, compressed")
        step_into_demo(page, address, "Quillet Holm")
        page.wait_for_load_state("networkidle")
        # What comes from the cache is told without a size.
        fetched = dict(page.evaluate(SCRIPTS)) | fetched
        say(f"site page: {sum(fetched.values()) / 1000:.0f} kB in all")
        site = page.url
        for part in PARTS:
            page.goto(f"{site}/{part}")
            page.wait_for_load_state("networkidle")
            fresh = {name: size for name, size in page.evaluate(SCRIPTS) if name not in fetched}
            say(f"  {part}: {sum(fresh.values()) / 1000:.1f} kB more")
            fetched |= fresh
        page.goto(site)
        page.get_by_role("link", name="Quince row").wait_for()
        say(f"the demo: {percentiles(watched(page, lambda: in_the_demo(page)))}")
        browser.close()


if __name__ == "__main__":
    main()
