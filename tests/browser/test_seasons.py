"""Seasons in the browser: one handle for three pictures, another rule, what coming years take."""

import re

import pytest
from playwright.sync_api import FilePayload, Page, expect

from tests.browser.conftest import start_site, step_into_demo
from tests.browser.test_supply import add_plot, add_supplier


def open_seasons(page: Page, address: str, site: str = "Quillet Holm") -> None:
    step_into_demo(page, address, site)
    page.get_by_role("link", name="Seasons", exact=True).click()
    expect(page.get_by_role("slider")).to_be_visible()
    expect(page.get_by_test_id("cut-at")).to_be_visible()


def texture(page: Page, name: str) -> str:
    piece = page.get_by_role("region", name="Ground plan").get_by_role("button", name=name)
    return piece.locator("[fill^='url(#depth']").first.get_attribute("fill")


def test_the_handle_goes_from_last_autumn_to_in_five_years_and_everything_follows(page: Page, address):
    open_seasons(page, address)
    slider = page.get_by_role("slider")
    page.wait_for_load_state("networkidle")
    requests = []
    page.on("request", lambda request: requests.append(request.url))
    box = slider.bounding_box()
    middle = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + 60, middle)
    page.mouse.down()
    views = set()
    for step in range(40):
        page.mouse.move(box["x"] + 60 + (box["width"] - 75) * step / 39, middle)
        views.add(
            (
                page.get_by_test_id("date").inner_text(),
                page.get_by_test_id("held").inner_text(),
                page.get_by_test_id("cut-at").get_attribute("aria-label"),
                texture(page, "Quince row"),
            )
        )
    page.mouse.up()
    assert requests == [], "the server is not asked while the handle moves"
    dates, depths, cuts, textures = (set(column) for column in zip(*views, strict=True))
    assert len(dates) > 35
    assert len(depths) > 8
    assert len(cuts) > 25
    assert len(textures) >= 3
    years = sorted({int(date.split()[-1]) for date in dates})
    assert years[-1] - years[0] in (5, 6), "on New Year the sixth begins where the handle ends"
    slider.press("Home")
    expect(page.get_by_text("logged", exact=True)).to_be_visible()
    slider.press("t")
    expect(page.get_by_text("today", exact=True).first).to_be_visible()
    before = page.get_by_test_id("date").inner_text()
    slider.press("ArrowRight")
    expect(page.get_by_test_id("date")).not_to_have_text(before)
    expect(slider).to_have_attribute("aria-valuetext", re.compile("forecast"))


@pytest.mark.long
def test_another_rule_changes_what_coming_years_take(page: Page, address):
    start_site(page, address, "Long walk", load="6 m3")
    add_plot(page, "Border", "40 x 3 m")
    page.get_by_role("link", name="Back to sites").click()
    page.get_by_role("link", name=re.compile("Long walk")).click()
    page.get_by_role("link", name="Seasons", exact=True).click()
    expect(page.get_by_test_id("next-step")).to_contain_text("mm")
    page.get_by_role("link", name="Coming years", exact=True).click()
    years = page.get_by_test_id("years")
    expect(years.get_by_role("listitem")).to_have_count(5)
    before = years.inner_text()
    expect(page.get_by_test_id("breaks")).to_contain_text("more is needed than is likely to come")
    page.get_by_role("link", name="Seasons", exact=True).click()
    page.get_by_role("button", name="Rule").click()
    expect(page.get_by_test_id("compared")).to_contain_text("in spring and autumn")
    page.get_by_role("combobox", name="Rule", exact=True).select_option("every")
    page.get_by_label("Interval, years").fill("none")
    page.get_by_role("button", name="Save rule").click()
    expect(page.get_by_text("Please type a whole number.")).to_be_visible()
    page.get_by_label("Interval, years").fill("3")
    page.get_by_role("button", name="Save rule").click()
    expect(page.get_by_test_id("cut-at")).to_be_visible()
    page.get_by_role("link", name="Coming years", exact=True).click()
    expect(years).not_to_have_text(before)
    expect(page.get_by_test_id("steps")).to_contain_text("mm")


@pytest.mark.long
def test_a_reading_is_logged_and_seen_on_the_ribbon_on_a_phone(phone: Page, address):
    page = phone
    open_seasons(page, address, "Marrow Street Library")
    page.get_by_role("link", name="Log", exact=True).click()
    page.get_by_label("Depth", exact=True).fill("2 1/4 in")
    page.get_by_role("button", name="Save entry").click()
    entries = page.get_by_test_id("entries")
    expect(entries).to_contain_text("measured 2¼ in")
    entries.get_by_role("listitem").filter(has_text="measured 2¼ in").first.get_by_role("button", name="Delete").click()
    expect(entries).not_to_contain_text("measured 2¼ in")
    page.get_by_role("button", name="Undo").click()
    expect(entries).to_contain_text("measured 2¼ in")
    page.get_by_role("link", name="Seasons", exact=True).click()
    page.get_by_text("Legend and table").click()
    expect(page.get_by_role("row").nth(3)).to_contain_text("in")


@pytest.mark.long
def test_the_weather_service_is_asked_and_says_it_is_simulated(page: Page, address):
    open_seasons(page, address)
    expect(page.get_by_test_id("weather")).to_contain_text("climate means are used for the past")
    page.get_by_role("button", name="Update weather").click()
    expect(page.get_by_test_id("weather")).to_contain_text("simulated")
    expect(page.get_by_test_id("weather")).to_contain_text("Weather observed to")
    bad = FilePayload(name="w.csv", mimeType="text/csv", buffer=b"date,tmax,tmin,rain\n2026-03-01,warm,1,0")
    page.locator("input[type=file]").set_input_files([bad])
    expect(page.get_by_text("Line 2: “warm” is not a number.")).to_be_visible()


@pytest.mark.long
def test_the_seasons_of_the_place_are_overridden(page: Page, address):
    open_seasons(page, address, "Marrow Street Library")
    page.get_by_role("link", name="Coming years", exact=True).click()
    windows = page.get_by_test_id("windows")
    windows.get_by_label("Last frost").fill("soon")
    windows.get_by_role("button", name="Save").click()
    expect(windows).to_contain_text("Type a day like 15 Apr.")
    windows.get_by_label("Last frost").fill("10 May")
    with page.expect_request(lambda request: request.method == "PUT") as request_info:
        windows.get_by_role("button", name="Save").click()
    entry = {key: value for key, value in request_info.value.post_data_json.items() if value is not None}
    assert entry == {"last_frost": 130, "windows": {}}, "what was not touched goes on following the weather"
    expect(windows).to_contain_text("As you set.")
    windows.get_by_role("button", name="Use calculated dates").click()
    expect(windows).not_to_contain_text("As you set.")
    soil = page.get_by_test_id("soil")
    expect(soil.get_by_role("row")).to_have_count(6)
    expect(soil.get_by_role("row").last).to_contain_text(re.compile(r"5 years.*in.*lb/sq ft.*\(.* to .*\).*lb"))
    holding = page.get_by_test_id("held-by")
    expect(holding).to_contain_text(re.compile(r"maintains .* in and more on all plots kept at depth"))
    holding.get_by_label("Per year").fill("10")
    expect(holding).to_contain_text(re.compile(r"maintains .* in on all plots kept at depth"))


def choose_rule(page: Page, plot: str, kind: str, **fields: str) -> None:
    page.get_by_label("Plot", exact=True).select_option(label=plot)
    page.get_by_role("button", name="Rule", exact=True).click()
    page.get_by_role("combobox", name="Rule", exact=True).select_option(kind)
    for label, value in fields.items():
        page.get_by_label(label.replace("_", " ")).fill(value)
    page.get_by_role("button", name="Save rule").click()
    expect(page.get_by_test_id("cut-at")).to_be_visible()


def hover(page: Page, share: float):
    """Hover over the ribbon, so far along its width."""
    box = page.get_by_role("slider").bounding_box()
    page.mouse.move(box["x"] + 58 + (box["width"] - 72) * share, box["y"] + box["height"] / 2)
    return page.get_by_test_id("hovered")


@pytest.mark.long
def test_hovering_gives_the_numbers_without_moving_the_date(page: Page, address):
    open_seasons(page, address)
    date = page.get_by_test_id("date").inner_text()
    words = hover(page, 0.5)
    expect(words).to_contain_text(re.compile(r"\d+ \w+ 20\d\d"))
    expect(words).to_contain_text(re.compile(r"\d+ mm of chips, 80 % range \d+ mm to \d+ mm"))
    first = words.inner_text()
    assert hover(page, 0.8).inner_text() != first
    assert page.get_by_test_id("date").inner_text() == date
    page.mouse.move(5, 5)
    expect(words).to_have_count(0)


@pytest.mark.long
def test_a_ring_is_laid_by_quarters_and_a_path_yields_its_humus(page: Page, address):
    open_seasons(page, address)
    choose_rule(page, "Quince row", "quarter")
    page.get_by_role("slider").press("End")
    expect(page.get_by_test_id("cut-at")).to_have_attribute("aria-label", re.compile("Quarter 4, "))
    choose_rule(page, "Cart track", "harvest", **{"Interval, years": "2"})
    sentences = [hover(page, index / 80).inner_text() for index in range(20, 80)]
    yields = [text for text in sentences if "of humus" in text and "humus dug out first" in text]
    assert yields, "what is humus dug out first it is refilled is said where it happens"
    page.get_by_role("link", name="Coming years", exact=True).click()
    expect(page.get_by_role("columnheader", name="Humus dug out")).to_be_visible()
    page.get_by_role("link", name="Seasons", exact=True).click()
    page.get_by_label("Plot", exact=True).select_option(label="Cart track")
    page.get_by_role("button", name="Rule", exact=True).click()
    page.get_by_role("button", name="Use the proposed rule").click()
    page.get_by_role("link", name="Coming years", exact=True).click()
    expect(page.get_by_role("columnheader", name="Humus dug out")).to_have_count(0)


@pytest.mark.long
def test_what_is_short_waits_for_the_crew_and_is_bought_when_that_is_said(page: Page, address):
    start_site(page, address, "Slope", load="6 m3")
    add_plot(page, "Upper bank", "30 x 6 m")
    page.get_by_role("link", name="Plot", exact=True).click()
    add_plot(page, "Lower bank", "30 x 6 m")
    add_supplier(page, "Two Saws", "arborist", Chance_in_a_month="30 %")
    page.get_by_role("link", name="Sites", exact=True).click()
    expect(page.get_by_test_id("all-breaks")).to_contain_text("all sites together need more")
    expect(page.get_by_test_id("all-seasons").get_by_role("row").nth(1)).to_contain_text("price unknown")
    page.get_by_role("link", name=re.compile("Slope")).first.click()
    page.get_by_role("link", name="Seasons", exact=True).click()
    page.get_by_role("link", name="Coming years", exact=True).click()
    expect(page.get_by_test_id("breaks")).to_contain_text("The rest waits")
    expect(page.get_by_test_id("steps")).to_contain_text("chips are short")
    expect(page.get_by_test_id("years")).to_contain_text("nothing is laid before it comes")
    page.get_by_label("When chips are short").select_option("false")
    page.get_by_test_id("windows").get_by_role("button", name="Save").click()
    expect(page.get_by_test_id("breaks")).to_contain_text("The rest must be bought")
    expect(page.get_by_test_id("steps")).not_to_contain_text("chips are short")
