import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import shape, start_site, step_into_demo


def at_rest(piece) -> None:
    """Wait until something on the plan has stayed where it is for ten frames."""
    piece.evaluate(
        """node => new Promise(done => {
            let before = "", still = 0;
            const look = () => {
                const now = JSON.stringify(node.getBoundingClientRect());
                still = now === before ? still + 1 : 0;
                before = now;
                still >= 10 ? done() : requestAnimationFrame(look);
            };
            look();
        })"""
    )


def test_a_newcomer_measures_three_plots_in_mixed_units_and_finds_the_total_again(page: Page, address):
    start_site(page, address, "Lane cottage")

    page.get_by_label("Plot name").fill("Long bed")
    page.get_by_label("Length").fill("12'6\" x 1.2m")
    expect(page.get_by_text("3.81 m = 12 ft 6 in")).to_be_visible()
    page.get_by_label("Target depth (settled)").fill("3 in")
    expect(page.get_by_test_id("plot-area")).to_contain_text("4.6 m²")
    expect(page.get_by_test_id("loads")).to_contain_text("1 load")
    page.get_by_role("button", name="Save and add next").click()
    expect(page.get_by_role("list", name="Plots").get_by_role("listitem")).to_have_count(1)

    page.get_by_label("Plot name").fill("Path")
    page.get_by_label("Use").select_option("foot_path")
    shape(page, "path")
    page.get_by_label("Legs").fill("12 + 8 + 3.5 m")
    page.get_by_label("Width").fill("120 cm")
    expect(page.get_by_test_id("plot-area")).to_contain_text("28 m²")
    page.get_by_role("button", name="Save and add next").click()
    expect(page.get_by_role("list", name="Plots").get_by_role("listitem")).to_have_count(2)

    page.get_by_label("Plot name").fill("Apple")
    page.get_by_label("Use").select_option("young_tree")
    shape(page, "ring")
    page.get_by_label("Canopy spread").fill("4 m")
    page.get_by_label("Trunk girth").fill("16 in")
    expect(page.get_by_test_id("plot-area")).to_contain_text("12 m²")
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))

    # 4.572 m² at 76.2 mm in a bed, 28 m² at 100 mm trodden, 12.43 m² at 100 mm in a ring, 10 % spare.
    expected = 1.1 * (4.572 * 0.0762 / 0.78 + 28.2 * 0.1 / 0.65 + 12.428 * 0.1 / 0.78)
    need = page.get_by_test_id("need")
    expect(need).to_contain_text(f"{expected:.2g} m³")
    page.reload()
    expect(need).to_contain_text(f"{expected:.2g} m³")
    expect(page.get_by_label("Trunk girth")).to_have_value("16 in")


def test_a_wrong_entry_says_what_would_be_understood_and_keeps_what_was_typed(page: Page, address):
    start_site(page, address, "Trial")
    page.get_by_label("Plot name").fill("Bed")
    page.get_by_label("Length").fill("about twelve")
    page.get_by_label("Width").fill("2 m")
    expect(page.get_by_text("“about twelve” is not a length that can be read. Type it like")).to_be_visible()
    page.get_by_role("button", name="Save plot").click()
    expect(page.get_by_label("Length")).to_have_value("about twelve")
    page.reload()
    expect(page.get_by_label("Length")).to_have_value("about twelve")
    page.get_by_label("Length").fill("12 m")
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))
    expect(page.get_by_test_id("plot-area")).to_contain_text("24 m²")


@pytest.mark.long
def test_every_figure_opens_its_working(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Quince row").click()
    page.get_by_test_id("plot-volume").get_by_role("button").last.click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("A × max(0, d − d0) ÷ (1 − s) × (1 + w)")
    expect(sheet).to_contain_text("Common practice")
    sheet.get_by_text("Its own calculation").first.click()
    expect(sheet).to_contain_text("Outer radius")
    page.keyboard.press("Escape")
    expect(sheet).not_to_be_visible()
    page.get_by_test_id("need").get_by_role("button").click()
    expect(sheet).to_contain_text("Quince row")
    page.keyboard.press("Escape")
    page.get_by_test_id("hours").get_by_role("button").click()
    expect(sheet).to_contain_text("Lay chips and rake level")


@pytest.mark.long
def test_list_and_plan_choose_together_and_a_dragged_plot_stays(page: Page, address):
    start_site(page, address, "Plan")
    for name in ("One", "Two"):
        page.get_by_label("Plot name").fill(name)
        page.get_by_label("Length").fill("6 x 3 m")
        page.get_by_role("button", name="Save and add next").click()
        expect(page.get_by_role("link", name=name)).to_be_visible()
    plan = page.get_by_role("region", name="Ground plan")
    two = plan.get_by_role("button", name="Two")
    two.click()
    expect(page.get_by_role("link", name="Two")).to_have_attribute("aria-current", "true")
    expect(page.get_by_label("Plot name")).to_have_value("Two")
    page.get_by_role("link", name="One").click()
    expect(plan.get_by_role("button", name="One")).to_have_attribute("aria-pressed", "true")

    # The plan makes room for the cut before anything is taken hold of.
    expect(page.get_by_test_id("cut").locator("visible=true")).to_be_visible()
    at_rest(two)
    with page.expect_response("**/places"):
        box = two.bounding_box()
        page.mouse.move(box["x"] + 20, box["y"] + 10)
        page.mouse.down()
        page.mouse.move(box["x"] + 80, box["y"] + 90, steps=6)
        page.mouse.up()
    with page.expect_response("**/places"):
        two.focus()
        page.keyboard.press("]")
    page.reload()
    transform = plan.get_by_role("button", name="Two").locator("> g").first.get_attribute("transform")
    assert transform == "rotate(15)"


def test_deleting_offers_to_take_it_back_and_keys_work(page: Page, address):
    start_site(page, address, "Undo")
    page.get_by_label("Plot name").fill("Bed")
    page.get_by_label("Length").fill("6 x 3 m")
    page.get_by_role("button", name="Save plot").click()
    page.get_by_role("button", name="Delete").click()
    expect(page.get_by_text("“Bed” was deleted.")).to_be_visible()
    expect(page.get_by_role("heading", name="No plots yet")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_role("link", name="Bed")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("Measure a new plot")
    page.keyboard.press("Escape")
    page.keyboard.press("n")
    page.wait_for_url("**/plots/new")
    expect(page.get_by_label("Plot name")).to_be_focused()


@pytest.mark.long
def test_choosing_fewer_loads_says_what_is_short(page: Page, address):
    start_site(page, address, "Loads")
    page.get_by_label("Plot name").fill("Field")
    page.get_by_label("Length").fill("20 x 10 m")
    page.get_by_role("button", name="Save plot").click()
    expect(page.get_by_test_id("loads")).to_contain_text("5 loads")
    page.get_by_role("button", name="One load fewer").click()
    expect(page.get_by_test_id("loads")).to_contain_text("4 loads")
    expect(page.get_by_test_id("strip")).to_contain_text("Short")
    page.reload()
    expect(page.get_by_test_id("loads")).to_contain_text("4 loads")
    page.get_by_role("link", name="Order", exact=True).click()
    expect(page.get_by_test_id("order-lines")).to_contain_text("4 loads")
    page.get_by_role("button", name="One load more").first.click()
    expect(page.get_by_test_id("order-lines")).to_contain_text("5 loads")
    page.get_by_role("link", name="Ground", exact=True).click()
    expect(page.get_by_test_id("loads")).to_contain_text("5 loads")
    page.get_by_role("button", name="Use the proposal").click()
    expect(page.get_by_role("button", name="Use the proposal")).to_have_count(0)
    expect(page.get_by_test_id("strip")).to_contain_text("Left over")


def test_a_bed_that_was_laid_leaves_the_order_the_work_and_the_quote(page: Page, address):
    start_site(page, address, "Laid")
    page.get_by_label("Plot name").fill("Field")
    page.get_by_label("Length").fill("20 x 10 m")
    page.get_by_role("button", name="Save plot").click()
    expect(page.get_by_test_id("loads")).to_contain_text("5 loads")
    page.get_by_role("link", name="Work", exact=True).click()
    expect(page.get_by_test_id("turns")).to_contain_text("Field")
    page.get_by_role("link", name="Ground", exact=True).click()
    page.get_by_role("link", name="Field").click()
    page.get_by_role("button", name="Log as laid").click()
    page.get_by_label("Depth laid (settled)").fill("75 mm")
    page.get_by_role("button", name="Save entry").press("Enter")
    expect(page.get_by_test_id("nothing-due")).to_be_visible()
    page.get_by_role("link", name="Work", exact=True).click()
    expect(page.get_by_text("Nothing to move in")).to_be_visible()
    page.get_by_role("link", name="Order", exact=True).click()
    expect(page.get_by_text(re.compile("^Nothing is due in")).last).to_be_visible()
    page.get_by_role("link", name="Quote", exact=True).click()
    expect(page.get_by_test_id("quote")).to_have_count(0)


def test_the_phone_goes_from_list_to_plot_and_back(phone: Page, address):
    step_into_demo(phone, address, "Marrow Street Library")
    expect(phone.get_by_test_id("strip")).to_contain_text("loads")
    assert phone.evaluate("document.documentElement.scrollWidth") == 390
    phone.get_by_role("link", name="Linden rings").tap()
    expect(phone.get_by_role("button", name="Save", exact=True)).to_be_in_viewport()
    expect(phone.get_by_test_id("plot-volume")).to_be_in_viewport()
    small = phone.evaluate(
        "[...document.querySelectorAll('main button, main a, main input, main select')]"
        ".filter(e => e.offsetParent && e.closest('.input,.btn,li,header') && e.tagName !== 'INPUT')"
        ".map(e => [e.textContent, e.getBoundingClientRect().height]).filter(([, h]) => h < 44)"
    )
    assert small == []
    phone.get_by_role("link", name="Ground", exact=True).tap()
    expect(phone.get_by_role("list", name="Plots")).to_be_visible()
