"""Everybody can use it: axe finds nothing serious, in light and dark, at both widths."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import from_menu, opened, step_into_demo

AXE = Path("web/node_modules/axe-core/axe.min.js").read_text()
SEEN = [(1280, "light"), (390, "dark")]
"""Each width and each scheme once: what both share is not looked at again."""
AT_THE_DESK = (
    "/order/quote",
    "/suppliers",
    "/seasons/years",
    "/settings",
    "/materials",
    "/practice",
    "/account",
    "view=month",
    "/machines",
)
"""Pages that nobody opens in a bed: they are looked at once, at the width of a desk."""


IN_THE_FIELD = ("view=agenda", "/today", "/field")


def looked_at(path: str, width: int) -> bool:
    parts = AT_THE_DESK if width <= 390 else IN_THE_FIELD
    return not any(part in path for part in parts)


RULES = "{type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']}"
RUN = f"async () => (await axe.run(document, {{resultTypes: ['violations'], runOnly: {RULES}}})).violations"


def go(page: Page, address: str) -> None:
    """Go to a page as the application's own links do, without loading it again; wait for what that page alone has."""
    page.evaluate(
        "address => { history.pushState({}, '', address); dispatchEvent(new PopStateEvent('popstate')) }", address
    )


def findings(page: Page) -> list:
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE)
    violations = page.evaluate(RUN)
    return [
        (violation["id"], [node["html"][:120] for node in violation["nodes"][:3]])
        for violation in violations
        if violation["impact"] in ("serious", "critical")
    ]


@pytest.mark.parametrize(("width", "scheme"), [pytest.param(*SEEN[0], marks=pytest.mark.long), SEEN[1]])
def test_axe_finds_nothing_serious(browser, address, scheme, width):
    for page in opened(browser, {"width": width, "height": 800}, color_scheme=scheme, reduced_motion="reduce"):
        page.goto(f"{address}/sign-in")
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        assert findings(page) == []
        step_into_demo(page, address, "Quillet Holm")
        expect(page.get_by_role("link", name="Quince row")).to_be_visible()
        assert findings(page) == []
        page.get_by_role("link", name="Quince row").click()
        page.get_by_test_id("plot-volume").get_by_role("button").first.click()
        expect(page.get_by_role("dialog")).to_be_visible()
        assert findings(page) == []
        workspace = page.url.split("/sites")[0]
        for path in (f"{address}/account", f"{workspace}/parameters", f"{workspace}/team", f"{workspace}/sites/new"):
            page.goto(path)
            expect(page.get_by_role("heading", level=1)).to_be_visible()
            assert findings(page) == []


@pytest.mark.long
@pytest.mark.parametrize(("width", "scheme"), SEEN)
def test_axe_finds_nothing_serious_in_supply(browser, address, scheme, width):
    for page in opened(browser, {"width": width, "height": 800}, color_scheme=scheme, reduced_motion="reduce"):
        step_into_demo(page, address, "Quillet Holm")
        site = page.url
        for path, ready in {
            f"{site}/order": "choice",
            f"{site}/order/offers": "offers",
            f"{site}/order/piles": "piles",
            f"{site}/work": "turns",
            f"{site}/work/tasks": "task-hours",
            f"{site}/work/calendar?view=month": "grid",
            f"{site}/work/calendar?view=agenda": "agenda",
            f"{site}/work/rows": "rows",
            f"{site}/work/machines": "machines",
            f"{site.split('/sites')[0]}/today": "today",
            f"{site}/order/quote": "quote",
            f"{site.split('/sites')[0]}/suppliers": "suppliers",
            f"{site}/seasons": "ribbon",
            f"{site}/seasons/years": "years",
            f"{site}/nitrogen": "account",
            f"{site}/log": "entries",
            f"{site}/log/learning": "learned",
            f"{site}/log/past": "plot-years",
            f"{site.split('/w/')[0]}/field": "field",
        }.items():
            if not looked_at(path, width):
                continue
            go(page, path)
            expect(page.get_by_test_id(ready)).to_be_attached()
            expect(page.get_by_text(re.compile("^Loading"))).to_have_count(0)
            assert findings(page) == [], path
        page.goto(f"{site}/order/piles")
        page.get_by_role("button", name="Receive a load").click()
        expect(page.get_by_role("form", name="Receive a load")).to_be_visible()
        assert findings(page) == []
        page.goto(f"{site.split('/sites')[0]}/suppliers/new")
        expect(page.get_by_role("heading", name="New supplier")).to_be_visible()
        assert findings(page) == []


@pytest.mark.long
@pytest.mark.parametrize(("width", "scheme"), SEEN)
def test_axe_finds_nothing_serious_in_recipes_materials_and_ways(browser, address, scheme, width):
    for page in opened(browser, {"width": width, "height": 800}, color_scheme=scheme, reduced_motion="reduce"):
        step_into_demo(page, address, "Quillet Holm")
        site = page.url
        workspace = site.split("/sites")[0]
        page.get_by_role("link", name="Medlar row").click()
        page.get_by_role("tab", name="Recipe").click()
        expect(page.get_by_test_id("layers")).to_be_visible()
        page.get_by_text("Practice on this plot").click()
        assert findings(page) == []
        page.get_by_role("link", name="Compare recipes side by side").click()
        expect(page.get_by_test_id("difference")).to_be_visible()
        assert findings(page) == []
        for path, ready in {
            f"{site}/access/way": "Way",
            f"{site}/files": "Files",
            f"{workspace}/sites": "Sites",
            f"{site}/settings": "Settings of the site",
            f"{workspace}/materials/straw": "Straw",
            f"{workspace}/materials/guess": "Identify the material",
            f"{workspace}/materials/pile": "Mix a pile",
            f"{workspace}/materials/own/new": "New material",
            f"{workspace}/practice": "Your practice",
        }.items():
            if not looked_at(path, width):
                continue
            go(page, path)
            expect(page.get_by_role("heading", name=ready, exact=True)).to_be_visible()
            expect(page.get_by_text(re.compile("^Loading"))).to_have_count(0)
            assert findings(page) == [], path


@pytest.mark.long
def test_each_picture_is_a_table_too_and_a_page_of_the_workspace_leads_back_to_the_site(page, address):
    step_into_demo(page, address, "Quillet Holm")
    site = page.url
    plan = page.get_by_role("table", name="Plots of the plan")
    expect(plan.get_by_role("rowheader", name="Quince row")).to_have_count(1)
    page.get_by_role("link", name="Quince row").click()
    page.get_by_role("tab", name="Recipe").click()
    cut = page.get_by_role("table", name="Layers of the cut, from the top down")
    expect(cut.get_by_role("rowheader").first).to_contain_text("chips")
    page.goto(f"{site}/seasons")
    expect(cut.get_by_role("columnheader", name="Depth left")).to_have_count(1)
    page.goto(f"{site}/order/piles")
    piles = page.get_by_role("table", name=re.compile("side"))
    expect(piles.get_by_role("columnheader", name="Height")).to_have_count(1)
    from_menu(page, "Practice")
    page.get_by_role("link", name="Back to Quillet Holm").click()
    expect(page).to_have_url(site)
