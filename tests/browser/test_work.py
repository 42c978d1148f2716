"""Work: a crew ticks a task off on a phone, and log, order and forecast follow; a client looks in by a link."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import opened, step_into_demo


def test_a_crew_ticks_off_a_plot_and_log_and_order_follow(phone: Page, address):
    step_into_demo(phone, address, "Quillet Holm")
    site = phone.url
    phone.goto(f"{site}/work/tasks")
    hours = phone.get_by_test_id("task-hours")
    before = float(re.search(r"[\d.]+", hours.inner_text()).group())
    expect(phone.get_by_test_id("cautions")).to_contain_text("Machines.")
    bank = phone.get_by_role("listitem").filter(has=phone.get_by_role("heading", name="Hazel bank")).first
    bank.get_by_role("button", name="Done").first.click()
    phone.get_by_role("form", name="Done: Clear sticks and debris").get_by_role("button", name="Save as done").click()
    expect(bank.get_by_text("Clear sticks and debris")).to_have_count(0)
    bank.get_by_role("listitem").filter(has_text="Lay chips").get_by_role("button", name="Done").click()
    form = phone.get_by_role("form", name="Done: Lay chips and rake level")
    form.get_by_label("Person-hours").fill("3")
    form.get_by_role("button", name="Save as done").click()
    expect(phone.get_by_test_id("said")).to_contain_text("Hazel bank: the next laying moves from")
    expect(hours).not_to_contain_text(f"{before:.0f} h")
    phone.goto(f"{site}/log")
    phone.get_by_label("All plots").check()
    entries = phone.get_by_test_id("entries")
    expect(entries).to_contain_text("task done: chips")
    expect(entries).to_contain_text("Hazel bank: laid")


def test_what_is_typed_wrong_stays_with_its_sentence(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/tasks")
    page.get_by_role("button", name="Done").nth(1).click()
    form = page.get_by_role("form")
    form.get_by_label("Share done").fill("most of it")
    form.get_by_role("button", name="Save as done").click()
    expect(form.get_by_role("alert")).to_contain_text("percentage")
    expect(form.get_by_label("Share done")).to_have_value("most of it")


def test_the_days_come_with_a_work_order_and_a_calendar(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/days")
    with page.expect_download() as order:
        page.get_by_role("link", name="Work order").first.click()
    assert order.value.suggested_filename.endswith(".pdf")
    page.get_by_role("button", name="Make a link to subscribe to").click()
    feed = page.get_by_test_id("links-calendar").get_by_role("link").get_attribute("href")
    assert "BEGIN:VCALENDAR" in page.request.get(feed).text()
    page.get_by_role("button", name="Revoke").click()
    expect(page.get_by_test_id("links-calendar").get_by_role("button", name="Revoke")).to_have_count(0)
    assert page.request.get(feed).status == 404


def test_a_stranger_accepts_the_quote_by_its_link_and_sees_nothing_else(browser, page: Page, address):
    step_into_demo(page, address, "Marrow Street Library")
    page.goto(f"{page.url}/order/quote")
    page.get_by_label("Client", exact=True).fill("Ida Quill")
    page.get_by_role("button", name="Save quote").click()
    expect(page.get_by_test_id("kept")).to_contain_text("Ida Quill")
    page.get_by_role("button", name="Make a link for the client").click()
    link = page.get_by_test_id("links-client").get_by_role("link").get_attribute("href")
    for stranger in opened(browser, {"width": 390, "height": 844}):
        stranger.goto(link)
        expect(stranger.get_by_role("heading", name="Marrow Street Library")).to_be_visible()
        expect(stranger.get_by_test_id("quote-total")).to_be_visible()
        stranger.get_by_role("button", name="Accept the quote").click()
        expect(stranger.get_by_text("This is needed.")).to_be_visible()
        stranger.get_by_label("Your name").fill("Ida Quill")
        stranger.get_by_role("button", name="Accept the quote").click()
        expect(stranger.get_by_role("status")).to_contain_text("Accepted by Ida Quill")
        stranger.goto(page.url)
        expect(stranger.get_by_role("heading", name="Sign in")).to_be_visible()
    page.reload()
    expect(page.get_by_test_id("kept")).to_contain_text("Accepted by Ida Quill")
