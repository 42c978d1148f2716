import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import DESK, from_menu, opened, start_site, step_into_demo
from tests.browser.test_survey import new_plot


def test_two_people_in_one_plot_are_told_of_each_other(page: Page, browser, address):
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Woad bed").click()
    page.get_by_label("Existing depth (settled)").fill("5 mm")
    for other in opened(browser, DESK, storage_state=page.context.storage_state()):
        other.goto(page.url)
        other.get_by_label("Target depth between crops (settled)").fill("85 mm")
        other.get_by_role("button", name="Save", exact=True).click()
        expect(other.get_by_test_id("plot-volume")).not_to_be_visible()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Somebody else has changed this")).to_be_visible()
    expect(page.get_by_label("Existing depth (settled)")).to_have_value("5 mm")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_test_id("strip")).to_be_visible()


@pytest.mark.long
def test_what_one_load_holds_can_be_changed_and_bad_entries_are_said_at_the_field(page: Page, address):
    start_site(page, address, "Yard", units="us", load="12 yards")
    page.get_by_label("Plot name").fill("Bed")
    page.get_by_label("Length").fill("108 x 10")
    expect(page.get_by_test_id("plot-area")).to_contain_text("1,080 sq ft")
    page.get_by_role("button", name="Save plot").click()
    expect(page.get_by_test_id("loads")).to_contain_text("2 loads")
    from_menu(page, "Settings")
    expect(page.get_by_label("Usual load", exact=True)).to_have_value("12 yards")
    page.get_by_label("Usual load", exact=True).fill("some")
    page.get_by_label("Spare", exact=True).fill("400 %")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("“some” is not a volume that can be read")).to_be_visible()
    expect(page.get_by_text("400 % is more than can be planned")).to_be_visible()
    expect(page.get_by_label("Usual load", exact=True)).to_have_value("some")
    page.get_by_label("Usual load", exact=True).fill("20 cu yd")
    page.get_by_label("Spare", exact=True).fill("0")
    page.get_by_role("button", name="Save").click()
    # 1,080 sq ft at 3 in are 10 yd³ settled, 12.8 yd³ loose.
    expect(page.get_by_test_id("need")).to_contain_text("13 yd³")
    expect(page.get_by_test_id("loads")).to_contain_text("1 load")


def test_a_site_deleted_can_be_had_back(page: Page, address):
    start_site(page, address, "Gone")
    page.goto(page.url.replace("plots/new", "settings"))
    page.get_by_role("button", name="Delete site").click()
    expect(page.get_by_role("heading", name="No sites yet")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name=re.compile("Gone"))).to_be_visible()


@pytest.mark.long
def test_the_theme_is_kept_and_the_readers_own_is_the_default(browser, address):
    for page in opened(browser, {"width": 1280, "height": 800}, color_scheme="dark"):
        step_into_demo(page, address, "Quillet Holm")
        dark = "getComputedStyle(document.body).colorScheme + getComputedStyle(document.documentElement).colorScheme"
        assert "dark" in page.evaluate(dark)
        from_menu(page, "Light theme")
        page.reload()
        assert "light" in page.evaluate(dark)


def test_a_plot_is_measured_by_keyboard_alone(page: Page, address):
    step_into_demo(page, address, "Marrow Street Library")
    expect(page.get_by_role("link", name="Play corner")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Plot name")).to_be_focused()
    page.keyboard.type("Ramp side")
    for text in ("", "", "9 ft", "4'8\""):
        page.keyboard.press("Tab")
        page.keyboard.type(text)
    expect(page.get_by_test_id("plot-area")).to_contain_text("42 sq ft")
    page.keyboard.press("Enter")
    link = page.get_by_role("link", name="Ramp side")
    expect(link).to_have_attribute("aria-current", "true")
    plan = page.get_by_role("region", name="Ground plan").get_by_role("button", name="Ramp side")
    plan.focus()
    with page.expect_response("**/places"):
        page.keyboard.press("ArrowRight")
    page.get_by_role("button", name="Delete").click()
    expect(link).not_to_be_visible()


@pytest.mark.long
def test_a_parameter_is_set_marked_in_a_working_and_reset(page: Page, address):
    start_site(page, address, "Own figures")
    new_plot(page, "Path", "rectangle")
    page.get_by_label("Use").select_option("foot_path")
    page.get_by_label("Length").fill("10 x 1 m")
    expect(page.get_by_test_id("plot-volume")).to_contain_text("1.7 m³")
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}"))
    plot = page.url
    page.goto(f"{page.url.split('/sites')[0]}/parameters")
    page.get_by_label("Search").fill("trodden")
    expect(page.get_by_text("25 to 40 %")).to_be_visible()
    expect(page.get_by_text("Common practice.").first).to_be_visible()
    page.get_by_role("button", name="Set Settling, trodden ground").click()
    figure = page.get_by_label("Settling, trodden ground, your value")
    figure.fill("a lot")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("“a lot” is not a percentage")).to_be_visible()
    figure.fill("50 %")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_test_id("own-parameters")).to_contain_text("1 figure set by you")
    page.goto(plot)
    expect(page.get_by_test_id("plot-volume")).to_contain_text("2.2 m³")
    page.get_by_test_id("plot-to-target").get_by_role("button").click()
    expect(page.get_by_role("dialog")).to_contain_text("Set by your workspace; shipped is 0.35")
    page.goto(f"{page.url.split('/sites')[0]}/parameters")
    page.get_by_role("button", name="Reset all").click()
    expect(page.get_by_test_id("own-parameters")).to_have_count(0)
