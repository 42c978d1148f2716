"""Everybody can use it: axe finds nothing serious, in light and dark, at both widths."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import opened, step_into_demo

AXE = Path("web/node_modules/axe-core/axe.min.js").read_text()
RUN = "async () => (await axe.run(document, {resultTypes: ['violations']})).violations"


def findings(page: Page) -> list:
    page.evaluate(AXE)
    found = page.evaluate(RUN)
    return [
        (one["id"], [node["html"][:120] for node in one["nodes"][:3]])
        for one in found
        if one["impact"] in ("serious", "critical")
    ]


@pytest.mark.parametrize("scheme", ["light", "dark"])
@pytest.mark.parametrize("width", [1280, 390])
def test_axe_finds_nothing_serious(browser, address, scheme, width):
    for page in opened(browser, {"width": width, "height": 800}, color_scheme=scheme, reduced_motion="reduce"):
        page.goto(f"{address}/sign-in")
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        assert findings(page) == []
        step_into_demo(page, address, "Quillet Holm")
        expect(page.get_by_role("link", name="Quince row")).to_be_visible()
        assert findings(page) == []
        page.get_by_role("link", name="Quince row").click()
        page.get_by_test_id("plot-volume").get_by_role("button").click()
        expect(page.get_by_role("dialog")).to_be_visible()
        assert findings(page) == []
        for path in ("/account", "/parameters"):
            page.goto(address + path)
            expect(page.get_by_role("heading", level=1)).to_be_visible()
            assert findings(page) == []
