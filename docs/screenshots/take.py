"""Takes the pictures in this folder: each view once, from demo data, on a throw-away database."""

import base64
import io
import re
import shutil
import sys
import tempfile
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path

from playwright.sync_api import Page, sync_playwright
from pypdfium2 import PdfDocument
from tests.browser.conftest import CHROMIUM, FLAGS, from_menu, serve, step_into_demo
from tests.conftest import TODAY

from ulmatic.migrations import upgrade
from ulmatic.platform.cluster import Cluster

FOLDER = Path(__file__).parent
OFFICE, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
View = tuple[dict[str, int], str, Callable[[Page, str], object]]


def plot(page: Page, address: str, site: str, name: str) -> None:
    """Open a plot of the demo."""
    step_into_demo(page, address, site)
    page.get_by_role("link", name=name).click()
    page.get_by_test_id("plot-volume").wait_for()


def working(page: Page, address: str) -> None:
    """Open the working of a plot's volume."""
    plot(page, address, "Quillet Holm", "Medlar row")
    page.get_by_test_id("plot-volume").get_by_role("button").last.click()


def recipe(page: Page, address: str, site: str, name: str) -> None:
    """Open a plot's recipe."""
    plot(page, address, site, name)
    page.get_by_role("tab", name="Recipe").click()
    page.get_by_test_id("layers").wait_for()


def shelf(page: Page, address: str) -> None:
    """Open a material on the shelf."""
    step_into_demo(page, address, "Quillet Holm")
    from_menu(page, "Materials")
    page.get_by_role("link", name="Branch-wood chips").click()


def supply(page: Page, address: str, site: str, part: str) -> None:
    """Open a part of a site's order."""
    step_into_demo(page, address, site)
    page.get_by_role("link", name="Order", exact=True).click()
    page.get_by_role("link", name=part, exact=True).click()
    page.wait_for_load_state("networkidle")


def work(page: Page, address: str) -> None:
    """Show the order of laying with its hours."""
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Work", exact=True).click()
    page.get_by_test_id("turns").wait_for()


def seasons(page: Page, address: str) -> None:
    """Move the date to the summer after next."""
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Seasons", exact=True).click()
    page.get_by_test_id("cut-at").wait_for()
    page.get_by_role("slider").focus()
    for _ in range(6):
        page.keyboard.press("PageUp")


def coming_years(page: Page, address: str) -> None:
    """Show what years ahead take."""
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Seasons", exact=True).click()
    page.get_by_role("link", name="Coming years").click()
    page.get_by_test_id("held-by").get_by_text("maintains").wait_for()


def nitrogen(page: Page, address: str) -> None:
    """Show what a bed owes once its chips were dug in, and the dose that follows."""
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Nitrogen", exact=True).click()
    page.get_by_label("Plot", exact=True).select_option(label="Kitchen bed, north")
    page.get_by_role("button", name="Log nitrogen").click()
    page.get_by_label("Type", exact=True).select_option("dug_in")
    page.get_by_role("button", name="Save entry").click()
    page.get_by_test_id("dose").wait_for()


def log_page(page: Page, address: str, part: str) -> None:
    """Show a page of the log."""
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Log", exact=True).click()
    page.get_by_role("link", name=part, exact=True).click()
    page.get_by_text(re.compile("^Loading")).first.wait_for(state="hidden")


def field(page: Page, address: str) -> None:
    """Read a depth in field mode."""
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{address}/field")
    page.get_by_label("Site").select_option(label="Quillet Holm")
    page.get_by_role("button", name=re.compile("^Medlar row")).click()
    page.get_by_role("button", name="60", exact=True).click()


def part_of_work(page: Page, address: str, part: str, ready: str) -> None:
    """Show a page of work."""
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/{part}")
    page.get_by_test_id(ready).wait_for()


def rows(page: Page, address: str) -> None:
    """Open rows for a crop."""
    part_of_work(page, address, "rows", "rows")
    page.get_by_role("button", name="Open rows").click()
    form = page.get_by_role("form", name="Open rows")
    form.get_by_label("Plot", exact=True).select_option(label="Kitchen bed, north")
    form.get_by_label("Crop", exact=True).select_option(label="Broad bean")
    form.get_by_label("Length", exact=True).fill("5 m")
    form.get_by_label("How many").fill("2")
    page.get_by_test_id("tried").wait_for()
    page.get_by_test_id("time-left").wait_for()


def today_page(page: Page, address: str) -> None:
    """Show what falls on today at all sites."""
    step_into_demo(page, address, "Quillet Holm")
    page.goto(address)
    page.get_by_test_id("today").wait_for()


def work_order(page: Page, address: str) -> None:
    """Show the first page of a work order, as it is printed."""
    step_into_demo(page, address, "Marrow Street Library")
    site = page.url.replace("/w/", "/api/v1/workspaces/")
    last = (TODAY + timedelta(days=365)).isoformat()
    sheet = page.request.get(f"{site}/calendar?first={TODAY}&last={last}").json()
    on = next(occasion["on"] for occasion in sheet["occasions"] if occasion["kind"] == "work")
    document = PdfDocument(page.request.get(f"{site}/work-order.pdf?on={on}").body())
    out = io.BytesIO()
    document[0].render(scale=1.3).to_pil().save(out, "PNG")
    document.close()
    picture = base64.b64encode(out.getvalue()).decode()
    page.set_content(f"<body style='margin:0'><img src='data:image/png;base64,{picture}'></body>")


VIEWS: dict[str, View] = {
    "site": (OFFICE, "light", lambda page, address: step_into_demo(page, address, "Quillet Holm")),
    "plot": (OFFICE, "light", lambda page, address: plot(page, address, "Marrow Street Library", "Linden rings")),
    "working": (OFFICE, "dark", working),
    "recipe": (OFFICE, "light", lambda page, address: recipe(page, address, "Quillet Holm", "Hazel bank")),
    "materials": (OFFICE, "light", shelf),
    "order": (OFFICE, "light", lambda page, address: supply(page, address, "Quillet Holm", "Loads")),
    "piles": (OFFICE, "dark", lambda page, address: supply(page, address, "Quillet Holm", "Piles and deliveries")),
    "work": (OFFICE, "light", work),
    "calendar": (OFFICE, "light", lambda page, address: part_of_work(page, address, "calendar", "grid")),
    "rows": (OFFICE, "light", rows),
    "work-order": ({"width": 810, "height": 1000}, "light", work_order),
    "phone-today": (PHONE, "dark", today_page),
    "quote": (OFFICE, "light", lambda page, address: supply(page, address, "Marrow Street Library", "Quote")),
    "seasons": (OFFICE, "light", seasons),
    "years": (OFFICE, "light", coming_years),
    "log": (OFFICE, "light", lambda page, address: log_page(page, address, "Entries")),
    "learning": (OFFICE, "light", lambda page, address: log_page(page, address, "Learning")),
    "phone-field": (PHONE, "light", field),
    "nitrogen": (OFFICE, "light", nitrogen),
}


def main(wanted: list[str]) -> None:
    """Take the pictures named, or all."""
    cluster = Cluster(Path(tempfile.mkdtemp(prefix="ulmatic-shots-")), throwaway=True)
    url = cluster.start()
    upgrade(url)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for address in serve(url):
            for name in wanted or VIEWS:
                viewport, scheme, show = VIEWS[name]
                context = browser.new_context(viewport=viewport, color_scheme=scheme, locale="en-GB")
                page = context.new_page()
                show(page, address)
                page.wait_for_load_state("networkidle")
                page.get_by_text(re.compile("^Loading ")).first.wait_for(state="hidden")
                page.wait_for_timeout(500)
                page.screenshot(path=FOLDER / f"{name}.png")
                context.close()
    cluster.stop()
    shutil.rmtree(cluster.folder)


if __name__ == "__main__":
    main(sys.argv[1:])
