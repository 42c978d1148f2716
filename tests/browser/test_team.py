import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import from_menu, opened, sign_up, step_into_demo


def test_a_viewer_joins_by_a_link_and_cannot_change_anything(page: Page, browser, address):
    sign_up(page, address)
    from_menu(page, "Team")
    page.get_by_label("Role of the new member").select_option("viewer")
    page.get_by_role("button", name="Create invitation link").click()
    link = page.get_by_label("Invitation link").input_value()
    for guest in opened(browser, {"width": 1280, "height": 800}):
        sign_up(guest, address)
        guest.goto(link)
        guest.get_by_role("button", name="Join as Robin").click()
        guest.wait_for_url("**/sites")
        expect(guest.get_by_role("heading", name="No sites yet")).to_be_visible()
        expect(guest.get_by_role("link", name="New site")).not_to_be_visible()
        guest.goto(link)
        expect(guest.get_by_text("This invitation was already used")).to_be_visible()


def test_anothers_address_shows_nothing(page: Page, browser, address):
    step_into_demo(page, address, "Quillet Holm")
    expect(page.get_by_role("link", name="Quince row")).to_be_visible()
    for guest in opened(browser, {"width": 1280, "height": 800}):
        guest.goto(page.url)
        guest.wait_for_url("**/sign-in?next=*")
        sign_up(guest, address)
        guest.goto(page.url)
        expect(guest.get_by_role("heading", name="There is nothing at this address")).to_be_visible()
        assert "Quince" not in guest.content()


def test_signing_out_ends_it(page: Page, address):
    sign_up(page, address)
    from_menu(page, "Sign out")
    expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
    page.go_back()
    expect(page.get_by_role("heading", name="Sign in")).to_be_visible()


@pytest.mark.long
def test_units_follow_the_person(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    from_menu(page, "Account and units")
    page.get_by_label("Show figures in").select_option("us")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Saved.")).to_be_visible()
    page.get_by_role("link", name="Sites", exact=True).click()
    page.get_by_role("link", name="Quillet Holm").click()
    expect(page.get_by_test_id("need")).to_contain_text("yd³")
    page.goto(f"{address}/account")
    page.get_by_label("Show figures in").select_option("")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Saved.")).to_be_visible()
