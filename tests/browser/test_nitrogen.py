"""Nitrogen in the browser: the same raw chips on top and dug in, the dose that follows, and what was paid in."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import step_into_demo


def open_account(page: Page, address: str, site: str, plot: str) -> None:
    step_into_demo(page, address, site)
    page.get_by_role("link", name="Nitrogen", exact=True).click()
    expect(page.get_by_test_id("account")).to_be_visible()
    plots = page.get_by_label("Plot", exact=True)
    if plots.evaluate("select => select.selectedOptions[0].text") != plot:
        with page.expect_response(re.compile(r"/plots/[0-9a-f-]+/nitrogen")):
            plots.select_option(label=plot)
    page.wait_for_load_state("networkidle")


def owed(page: Page) -> float:
    return float(page.get_by_test_id("verdict").inner_text().split()[0])


def test_the_same_raw_chips_on_top_and_dug_in_and_the_dose_that_follows(page: Page, address):
    open_account(page, address, "Quillet Holm", "Kitchen bed, north")
    todo = page.get_by_test_id("to-do")
    expect(todo).to_contain_text("Nothing to do: the nitrogen owed here has no effect.")
    expect(page.get_by_test_id("dose")).to_have_count(0)
    on_top = owed(page)
    slider = page.get_by_role("slider", name="Date of the nitrogen account")
    slider.press("Home")
    for _ in range(8):
        slider.press("PageUp")
    expect(slider).to_have_attribute("aria-valuetext", re.compile(r"g/m² (owed|paid back)"))
    page.get_by_role("button", name="Log nitrogen").click()
    page.get_by_label("Type", exact=True).select_option("dug_in")
    page.get_by_role("button", name="Save entry").click()
    dose = page.get_by_test_id("dose")
    expect(dose).to_contain_text("of the product each time")
    assert owed(page) > 5 * on_top
    expect(page.get_by_test_id("verdict")).to_contain_text("act")
    expect(page.get_by_test_id("schools")).to_contain_text("If dug into the soil (here)")
    each = float(re.search(r"([\d.]+) g/m²", dose.inner_text()).group(1))
    times = int(re.search(r"(\d+) times", dose.inner_text()).group(1))
    assert each * 0.21 <= 5.1, "as rounded on the screen"
    late = re.search(r"([\d.]+) g/m² of nitrogen more", dose.inner_text())
    assert abs(each * times * 0.21 + (float(late.group(1)) if late else 0.0) - owed(page)) < 1.5
    page.get_by_label("Nitrogen (N)").fill("lots")
    expect(page.get_by_text("A percentage from 1 to 60.")).to_be_visible()
    page.get_by_label("Nitrogen (N)").fill("10,5")
    page.get_by_label("Bag").fill("1")
    expect(dose).to_contain_text(re.compile(r"\d+ bags?"))
    doubled = float(re.search(r"([\d.]+) g/m²", dose.inner_text()).group(1))
    assert abs(doubled - 2 * each) <= 1.5
    page.get_by_test_id("entries").get_by_role("button", name="Delete").click()
    expect(page.get_by_test_id("dose")).to_have_count(0)
    assert owed(page) == on_top
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("dose")).to_be_visible()


@pytest.mark.long
def test_a_dressing_is_written_down_by_its_label_and_bad_figures_are_said_at_the_field(phone: Page, address):
    page = phone
    open_account(page, address, "Marrow Street Library", "Front bed, west")
    page.get_by_role("button", name="Log nitrogen").click()
    page.get_by_label("Product", exact=True).fill("Feather meal")
    page.get_by_label("Nitrogen (N)").fill("none")
    page.get_by_label("Product given").fill("8")
    page.get_by_role("button", name="Save entry").click()
    expect(page.get_by_text("“none” is not a percentage")).to_be_visible()
    expect(page.get_by_label("Product given")).to_have_value("8")
    page.get_by_label("Nitrogen (N)").fill("12.5")
    page.get_by_role("button", name="Save entry").click()
    expect(page.get_by_test_id("entries")).to_contain_text("Feather meal")
    # 8 lb on 1,000 sq ft, an eighth of it nitrogen.
    expect(page.get_by_test_id("entries")).to_contain_text("brings 1 lb/1,000 sq ft")


@pytest.mark.long
def test_the_plan_shows_who_owes_on_a_date(page: Page, address):
    open_account(page, address, "Quillet Holm", "Kitchen bed, north")
    plan = page.get_by_role("region", name="Ground plan")
    piece = plan.get_by_role("button", name="Quince row")
    slider = page.get_by_role("slider", name="Date of the nitrogen account")
    fills = set()
    slider.press("Home")
    for _ in range(16):
        slider.press("PageUp")
        fills |= {part.get_attribute("fill") for part in piece.locator("[fill^='url(#']").all()}
    assert any("owes" in texture for texture in fills)


@pytest.mark.long
def test_a_soil_test_goes_before_what_is_guessed_of_the_soil(page: Page, address):
    open_account(page, address, "Quillet Holm", "Woad bed")
    seasons = page.get_by_test_id("by-season")
    before = seasons.inner_text()
    page.get_by_role("link", name="Ground", exact=True).click()
    page.get_by_role("link", name="Woad bed").click()
    page.get_by_role("button", name=re.compile("Site conditions")).or_(
        page.get_by_text("Site conditions")
    ).first.click()
    field = page.get_by_label("Nitrogen supply by soil test, g/m² a year")
    field.fill("plenty")
    page.get_by_role("button", name=re.compile("^Save")).first.click()
    expect(page.get_by_text("Please type a number.")).to_be_visible()
    expect(field).to_have_value("plenty")
    field.fill("25")
    page.get_by_role("button", name=re.compile("^Save")).first.click()
    page.get_by_role("link", name="Nitrogen", exact=True).click()
    page.get_by_label("Plot", exact=True).select_option(label="Woad bed")
    expect(seasons).not_to_have_text(before)
    expect(seasons).to_contain_text("25")
