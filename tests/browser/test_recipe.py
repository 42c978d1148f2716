"""Materials, practices, recipes, advice and the cut, in the browser."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import choose, from_menu, make_site, sign_up, start_site, step_into_demo
from tests.browser.test_survey import new_plot


def recipe(page: Page) -> None:
    page.get_by_role("tab", name="Recipe").click()


def cut(page: Page):
    return page.get_by_test_id("cut").locator("visible=true")


def rule(page: Page, key: str):
    return page.locator(f"[data-rule={key}]").locator("visible=true")


def test_a_lawn_is_converted(page: Page, address):
    start_site(page, address, "Front")
    new_plot(page, "Old lawn", "rectangle")
    page.get_by_label("Use").select_option("lawn_to_convert")
    page.get_by_label("Length").fill("10 x 4 m")
    recipe(page)
    expect(page.get_by_test_id("reasons")).to_contain_text("Cardboard over existing growth")
    expect(page.get_by_test_id("layers")).to_contain_text("48 m²")
    expect(cut(page)).to_have_attribute(
        "aria-label", re.compile("Cardboard, plain; Arborist chips, leafy, fresh, 150 mm")
    )
    page.get_by_text("Layers beneath, gaps and bare parts").click()
    page.get_by_label("Cardboard beneath").select_option("no")
    expect(rule(page, "lawn_uncovered")).to_be_visible()
    expect(page.get_by_text("Your recipe differs from the proposal in: cardboard.")).to_be_visible()
    page.get_by_role("button", name="Lay cardboard first").click()
    expect(page.get_by_label("Cardboard beneath")).to_have_value("yes")
    expect(rule(page, "lawn_uncovered")).to_have_count(0)
    page.get_by_label("Target depth (settled)").locator("visible=true").fill("60 mm")
    expect(rule(page, "lawn_thin")).to_be_visible()
    page.get_by_role("button", name="Use the proposal").click()
    expect(page.get_by_label("Target depth (settled)").locator("visible=true")).to_have_value("150 mm")
    page.get_by_role("tab", name="Ground").click()
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))
    page.goto(page.url.split("/plots/")[0])
    expect(page.get_by_test_id("also")).to_contain_text("cardboard, plain")


@pytest.mark.long
def test_a_mature_linden_keeps_its_flare_clear(page: Page, address):
    step_into_demo(page, address, "Marrow Street Library")
    page.get_by_role("link", name="Linden rings").click()
    recipe(page)
    expect(cut(page)).to_have_attribute("aria-label", re.compile("Existing depth, 2½ in; .*target 6 in"))
    expect(cut(page)).to_contain_text("gap 12 in")
    page.get_by_text("Layers beneath, gaps and bare parts").click()
    gap = page.get_by_label("Gap at the trunk").locator("visible=true")
    gap.fill("2 in")
    expect(rule(page, "trunk_gap")).to_contain_text("Keep at least 4 in clear")
    expect(cut(page)).to_contain_text("needed")
    gap.fill("6 in")
    expect(rule(page, "fresh_near_trunk")).to_be_visible()
    page.get_by_label("Stage", exact=True).select_option("aged")
    expect(rule(page, "fresh_near_trunk")).to_have_count(0)
    page.get_by_label("Share of the ring mulched").locator("visible=true").fill("75 %")
    expect(page.get_by_test_id("layers")).to_contain_text("of the whole area")
    expect(cut(page)).to_contain_text("part stays green")
    page.get_by_role("button", name="Discard changes").click()
    expect(cut(page)).to_contain_text("gap 12 in")


def add_rows(page: Page, name: str, rows: str, length: str, width: str) -> None:
    page.get_by_role("button", name="Rows of plants, or bare rows").click()
    page.get_by_label("Rows of").last.fill(name)
    page.get_by_label("Rows", exact=True).locator("visible=true").last.fill(rows)
    page.get_by_label("Length").locator("visible=true").last.fill(length)
    page.get_by_label("Width").locator("visible=true").last.fill(width)


@pytest.mark.long
def test_a_kitchen_bed_with_garlic_lettuces_and_sown_rows(page: Page, address):
    """7.2 m²: garlic bare for good on 2.4, lettuces and sown carrots at 75 mm on 1.8, 100 mm on the other 3."""
    start_site(page, address, "Kitchen")
    new_plot(page, "Bed", "rectangle")
    page.get_by_label("Use").select_option("vegetables")
    page.get_by_label("Length").fill("6 x 1.2 m")
    expect(page.get_by_label("Target depth between crops (settled)")).to_have_value("100 mm")
    recipe(page)
    expect(rule(page, "fresh_on_vegetables")).to_be_visible()
    page.get_by_role("button", name="Use aged chips").click()
    expect(rule(page, "fresh_on_vegetables")).to_have_count(0)
    page.get_by_text("Layers beneath, gaps and bare parts").click()
    add_rows(page, "Garlic", "2", "long", "20 cm")
    expect(page.get_by_text("“long” is not a length that can be read")).to_be_visible()
    page.get_by_label("Length").locator("visible=true").fill("6 m")
    # What is beneath moves up once the sentence is gone.
    expect(page.get_by_text("“long” is not a length that can be read")).to_have_count(0)
    page.get_by_label("Always bare").check()
    expect(page.get_by_test_id("layers")).to_contain_text("4.8 m²")
    add_rows(page, "Lettuces", "2", "6 m", "10 cm")
    add_rows(page, "Carrots, sown", "1", "6 m", "10 cm")
    expect(page.get_by_text(re.compile("75 mm settled: 95 mm loose"))).to_be_visible()
    # (3.0 · 100 + 1.8 · 75) mm on 4.8 m², settling 22 %, spare 10 %
    expect(page.get_by_test_id("layers")).to_contain_text("0.6 m³")
    page.get_by_label("Depth round growing plants, settled").fill("120 mm")
    expect(rule(page, "deep_round_annuals")).to_have_count(0)
    page.get_by_label("Target depth between crops (settled)").locator("visible=true").fill("140 mm")
    expect(rule(page, "deep_round_annuals")).to_be_visible()
    page.get_by_role("button", name="Lay 75 mm round plants").click()
    expect(rule(page, "deep_round_annuals")).to_have_count(0)
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}"))
    page.reload()
    recipe(page)
    page.get_by_text("Layers beneath, gaps and bare parts").click()
    expect(page.get_by_label("Rows of").first).to_have_value("Garlic")
    expect(page.get_by_label("Depth round growing plants, settled")).to_have_value("75 mm")
    page.get_by_text("Practice on this plot").click()
    page.get_by_role("radio", name="Straw instead").check()
    expect(page.get_by_test_id("reasons")).to_contain_text("Your practice lays straw round vegetables")
    expect(cut(page)).to_have_attribute("aria-label", re.compile("Straw"))


@pytest.mark.long
def test_a_steep_bank_and_a_dog_with_cocoa_shell(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Hazel bank").click()
    recipe(page)
    expect(page.get_by_test_id("reasons")).to_contain_text("On this slope shredded bark holds")
    choose(page, "Material", "Bark nuggets")
    expect(rule(page, "slope_slides")).to_contain_text("float and roll downhill")
    page.get_by_role("button", name="Use shredded bark").click()
    expect(rule(page, "slope_slides")).to_have_count(0)
    choose(page, "Material", "Cocoa shell")
    expect(rule(page, "cocoa_ask")).to_be_visible()
    page.get_by_role("tab", name="Ground").click()
    page.locator("summary", has_text="Site conditions").click()
    page.get_by_label("Dogs or other pets").select_option("yes")
    recipe(page)
    expect(rule(page, "cocoa_dogs")).to_contain_text("Poisonous to dogs")
    page.get_by_role("button", name="Discard changes").click()
    expect(rule(page, "cocoa_dogs")).to_have_count(0)


@pytest.mark.long
def test_recipes_are_compared_and_one_is_taken(page: Page, address):
    start_site(page, address, "Shrubs")
    new_plot(page, "Border", "rectangle")
    page.get_by_label("Length").fill("10 x 2 m")
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))
    recipe(page)
    page.get_by_role("link", name="Compare recipes side by side").click()
    other = page.get_by_role("region", name="Second recipe", exact=True)
    expect(other.get_by_test_id("difference")).to_contain_text("1 m³ less than the current recipe")
    page.get_by_role("button", name="Third recipe").click()
    third = page.get_by_role("region", name="Third recipe")
    choose(third, "Material", "Sawdust")
    expect(third.locator("[data-rule=fine_too_deep]")).to_be_visible()
    choose(other, "Material", "Shredded bark")
    expect(other.get_by_role("img", name=re.compile("Shredded bark"))).to_be_visible()
    other.get_by_role("button", name="Use this recipe").click()
    expect(page.get_by_role("tab", name="Recipe")).to_be_visible()
    expect(page.get_by_role("combobox", name="Material")).to_have_value("Shredded bark")


@pytest.mark.long
def test_a_free_load_on_the_drive_gets_a_name(page: Page, address):
    sign_up(page, address)
    page.get_by_role("link", name="Materials", exact=True).click()
    page.get_by_role("link", name="Identify the material").click()
    page.get_by_text("Twigs, bits of leaf and wood together").click()
    guess = page.get_by_test_id("guess")
    expect(guess).to_contain_text("it may also be")
    page.get_by_text("Needles", exact=True).click()
    page.get_by_text("Musty, it smokes with spores").click()
    expect(guess).to_contain_text("Conifer chips with needles")
    expect(guess).to_contain_text("Mould spores")
    guess.get_by_label("Save as").fill("From the hedge")
    guess.get_by_role("button", name="Save material").click()
    expect(page.get_by_role("article", name="From the hedge")).to_contain_text("the range is that of all")
    page.get_by_role("link", name="Copy as own material").click()
    page.get_by_label("Name").fill("From the hedge, aged")
    page.get_by_label("Carbon to nitrogen").fill("many")
    page.get_by_role("button", name="Save material").click()
    expect(page.get_by_text("“many” is not a number")).to_be_visible()
    page.get_by_label("Carbon to nitrogen").fill("90")
    page.get_by_role("button", name="A mix").click()
    choose(page, "Part 1", "Branch-wood chips")
    page.get_by_role("button", name="Save material").click()
    opened = page.get_by_role("article", name="From the hedge, aged")
    expect(opened).to_contain_text("90 : 1")
    expect(opened).to_contain_text("Entered.")
    opened.get_by_role("button", name="Delete").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name=re.compile("From the hedge, aged"))).to_be_visible()


@pytest.mark.long
def test_a_pile_says_what_is_missing(page: Page, address):
    sign_up(page, address)
    page.get_by_role("link", name="Materials", exact=True).click()
    page.get_by_role("link", name="Mix a pile").click()
    page.get_by_role("button", name="weight").click()
    page.get_by_label("Amount", exact=True).first.fill("10")
    page.get_by_label("Amount", exact=True).nth(1).fill("0")
    pile = page.get_by_test_id("pile-mix")
    expect(pile).to_contain_text("17 : 1")
    choose(page, "Material to add", "Leaves, shredded")
    # 10 kg of grass clippings (77 %, 45 % C, C:N 17) with shredded leaves (40 %, 50 % C, C:N 54) to 30:1.
    expect(page.get_by_test_id("for-ratio")).to_contain_text("(5.94 kg)")
    page.get_by_label("Amount", exact=True).first.fill("piles")
    expect(page.get_by_text("“piles” is not a mass that can be read")).to_be_visible()


@pytest.mark.long
def test_the_practice_of_the_workspace_changes_what_is_proposed(page: Page, address):
    sign_up(page, address)
    from_menu(page, "Practice")
    page.get_by_role("radio", name="Thin and often").check()
    expect(page.get_by_role("button", name="Use the default")).to_be_visible()
    page.get_by_role("link", name="Sites", exact=True).click()
    make_site(page, "Thin")
    new_plot(page, "Border", "rectangle")
    page.get_by_label("Length").fill("10 x 2 m")
    recipe(page)
    expect(page.get_by_test_id("reasons")).to_contain_text("Thin and often")
    expect(page.get_by_test_id("reasons")).to_contain_text("40 mm")


def test_a_phone_shows_the_cut(phone: Page, address):
    step_into_demo(phone, address, "Quillet Holm")
    phone.get_by_role("link", name="Kitchen bed, south").tap()
    phone.get_by_role("tab", name="Recipe").tap()
    expect(cut(phone)).to_be_visible()
    expect(cut(phone)).to_contain_text("Arborist chips, leafy, aged, 75 mm")
    assert phone.evaluate("document.documentElement.scrollWidth") == 390


@pytest.mark.long
def test_an_order_says_how_sure_it_is_where_it_stands_and_who_carries_it(page: Page, address):
    # On a day of its own, on which the demo's order has a load more to choose.
    step_into_demo(page, address, "Marrow Street Library", on="2026-11-10")
    loads = page.get_by_test_id("loads").inner_text()
    page.get_by_role("button", name="One load more").click()
    expect(page.get_by_test_id("loads")).not_to_have_text(loads)
    page.get_by_role("button", name="Use the proposal").click()
    expect(page.get_by_test_id("loads")).to_have_text(loads)
    page.get_by_test_id("hours").get_by_role("button").click()
    expect(page.get_by_role("dialog")).to_contain_text("The sum of the hours of all tasks")
    page.keyboard.press("Escape")
    from_menu(page, "Settings")
    page.get_by_label("Smallest load").fill("20 cu yd")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("The smallest load cannot be larger than the usual load.")).to_be_visible()
    page.get_by_role("link", name="Back without saving").click()
