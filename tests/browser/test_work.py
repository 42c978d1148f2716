"""Work: days are planned and ticked off on a phone, rows are opened and closed, a client looks in by a link."""

import re
from datetime import date, timedelta

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import PHONE, opened, step_into_demo
from tests.conftest import TODAY


@pytest.mark.long
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
    expect(form.get_by_role("alert")).to_contain_text("Read the cautions first")
    form.get_by_label(re.compile("^The cautions were read")).check()
    form.get_by_role("button", name="Save as done").click()
    expect(phone.get_by_test_id("notices")).to_contain_text("Hazel bank: the next laying moves from")
    expect(hours).not_to_contain_text(f"{before:.0f} h")
    phone.goto(f"{site}/log")
    phone.get_by_label("All plots").check()
    entries = phone.get_by_test_id("entries")
    expect(entries).to_contain_text("chips laid and raked level, for")
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


def first_day_of_work(page: Page) -> date:
    """The first day on which work is planned at the site that is open, whatever the season."""
    calendar = page.url.replace("/w/", "/api/v1/workspaces/") + "/calendar"
    span: dict[str, str | float | bool] = {
        "first": TODAY.isoformat(),
        "last": (TODAY + timedelta(days=366)).isoformat(),
    }
    occasions = page.request.get(calendar, params=span).json()["occasions"]
    return date.fromisoformat(min(occasion["on"] for occasion in occasions if occasion["kind"] == "work"))


@pytest.mark.long
def test_a_landscaper_plans_a_week(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    site, on = page.url, first_day_of_work(page)
    page.goto(f"{site}/work/calendar?view=week")
    grid = page.get_by_test_id("grid")
    expect(grid.locator("[data-day]")).to_have_count(7)
    page.get_by_role("button", name="Later", exact=True).click()
    expect(page).to_have_url(re.compile("on="))
    page.goto(f"{site}/work/calendar?view=month&on={on}")
    source, target = grid.locator(f"[data-day='{on}']"), grid.locator(f"[data-day='{on + timedelta(days=1)}']")
    work = source.locator("[data-occasion=work]").first
    name = work.inner_text()
    target.scroll_into_view_if_needed()
    work.drag_to(target, steps=8)
    # Nothing is broken by that, or it is said and done all the same.
    anyway, moved = page.get_by_role("button", name="Move anyway"), source.filter(has_not_text=name)
    expect(anyway.or_(moved).first).to_be_visible()
    if anyway.count():
        anyway.click()
    expect(moved).to_be_visible()
    expect(target).to_contain_text(name)
    page.reload()
    expect(target).to_contain_text(name)
    target.get_by_role("button").click()
    day = page.get_by_test_id("day")
    day.get_by_role("button", name="Assign a crew").first.click()
    day.get_by_label("Crew", exact=True).fill("Ida’s crew")
    day.get_by_role("button", name="Set", exact=True).first.click()
    with page.expect_download() as order:
        day.get_by_role("link", name="Work order, Ida’s crew").click()
    assert order.value.suggested_filename.endswith(".pdf")


def test_a_crew_ticks_off_the_day_on_a_phone(browser, page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    site = page.url
    # By the code on the order.
    plot = page.request.get(site.replace("/w/", "/api/v1/workspaces/")).json()["plots"]
    bank = next(entry["id"] for entry in plot if entry["name"] == "Hazel bank")
    before = page.request.get(f"{site.replace('/w/', '/api/v1/workspaces/')}/moving").json()
    for phone in opened(browser, PHONE, storage_state=page.context.storage_state()):
        phone.goto(f"{address}/field?site={site.split('/')[-1]}&of={bank}")
        tasks = phone.get_by_test_id("field-tasks")
        tasks.get_by_text("tasks here").click()
        lay = tasks.get_by_role("button", name="Lay chips and rake level: done")
        expect(lay).to_be_disabled()
        tasks.get_by_label(re.compile("^I have read the cautions")).check()
        tasks.get_by_role("button", name="Clear sticks and debris: done").click()
        expect(tasks.get_by_role("button", name="Clear sticks and debris: done")).to_have_count(0)
        lay.click()
        expect(lay).to_have_count(0)
        expect(phone.get_by_test_id("field")).to_have_attribute("data-signal", "online")
        expect(phone.get_by_test_id("waiting")).to_have_count(0)
    page.goto(f"{site}/log")
    page.get_by_label("All plots").check()
    expect(page.get_by_test_id("entries")).to_contain_text("chips laid and raked level, for")
    expect(page.get_by_test_id("entries")).to_contain_text("Hazel bank: laid")
    after = page.request.get(f"{site.replace('/w/', '/api/v1/workspaces/')}/moving").json()
    assert after["now"]["needed_m3"] < before["now"]["needed_m3"]
    page.goto(f"{site}/work/calendar?view=agenda")
    expect(page.get_by_test_id("agenda")).to_be_visible()
    expect(
        page.get_by_test_id("agenda").get_by_text("Clear sticks and debris · Cut or pull weeds · Lay chips")
    ).to_have_count(0)


@pytest.mark.long
def test_days_of_a_month_are_reached_with_the_arrow_keys(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/calendar?view=month&on=2027-02-15")
    day = page.get_by_test_id("grid").locator("[data-day='2027-02-01']").get_by_role("button")
    day.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowDown")
    reached = page.locator("[data-day='2027-02-09']")
    expect(reached.get_by_role("button")).to_be_focused()
    page.keyboard.press("Enter")
    expect(reached).to_have_attribute("aria-selected", "true")
    expect(page.get_by_test_id("day")).to_contain_text("9 February")
    # The month turns with them, and back.
    page.keyboard.press("PageDown")
    expect(page.get_by_test_id("span")).to_have_text("March 2027")
    expect(page.locator("[data-day='2027-03-09']").get_by_role("button")).to_be_focused()
    for _ in range(2):
        page.keyboard.press("ArrowUp")
    expect(page.get_by_test_id("span")).to_have_text("February 2027")
    expect(page.locator("[data-day='2027-02-23']").get_by_role("button")).to_be_focused()


@pytest.mark.long
def test_a_move_to_a_closed_day_says_what_it_breaks(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    on = first_day_of_work(page)
    closed = (on + timedelta(days=1)).isoformat()
    page.goto(f"{page.url}/work/calendar?view=week&on={on}")
    cells = page.get_by_test_id("grid").locator("[data-day]")
    expect(cells).to_have_count(7)
    closures = page.get_by_test_id("closures")
    closures.get_by_role("button", name="Add", exact=True).click()
    expect(closures.get_by_role("alert").first).to_contain_text("Type the reason.")
    closures.get_by_label("Reason").fill("Village fair")
    closures.get_by_label("From", exact=True).fill(closed)
    closures.get_by_role("button", name="Add", exact=True).click()
    expect(closures).to_contain_text("Village fair")
    page.locator(f"[data-day='{on}']").get_by_role("button").click()
    panel = page.get_by_test_id("day")
    panel.get_by_role("button", name="Move to another day").first.click()
    panel.get_by_label("Move to", exact=True).fill(closed)
    panel.get_by_role("button", name="Move", exact=True).click()
    question = page.get_by_role("alertdialog")
    expect(question).to_contain_text("No work on this day: Village fair.")
    question.get_by_role("button", name="Do not move").click()
    expect(question).to_have_count(0)
    expect(page.locator(f"[data-day='{closed}'] [data-occasion=work]")).to_have_count(0)


@pytest.mark.long
def test_the_calendar_can_be_subscribed_to_until_the_link_is_revoked(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/calendar")
    page.get_by_role("button", name="Make a link to subscribe to").click()
    feed = page.get_by_test_id("links-calendar").get_by_role("link").get_attribute("href")
    assert "BEGIN:VCALENDAR" in page.request.get(feed).text()
    page.get_by_role("button", name="Revoke").click()
    expect(page.get_by_test_id("links-calendar").get_by_role("button", name="Revoke")).to_have_count(0)
    assert page.request.get(feed).status == 404


@pytest.mark.long
def test_who_has_several_sites_begins_with_today(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(address)
    today = page.get_by_test_id("today")
    expect(today.get_by_role("heading", name="Marrow Street Library")).to_be_visible()
    expect(today).to_contain_text("to do today")
    today.get_by_role("link", name="Calendar").last.click()
    expect(page.get_by_test_id("calendar")).to_be_visible()


@pytest.mark.long
def test_tasks_are_changed_and_added_by_hand(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/tasks")
    page.get_by_role("button", name="Add a task of your own").click()
    form = page.get_by_role("form", name="Add a task of your own")
    form.get_by_role("button", name="Save task").click()
    expect(form.get_by_role("alert").first).to_be_visible()
    form.get_by_label("What is to be done").fill("Ring the neighbours")
    form.get_by_label("Person-hours").fill("half")
    form.get_by_role("button", name="Save task").click()
    expect(form.get_by_label("What is to be done")).to_have_value("Ring the neighbours")
    form.get_by_label("Person-hours").fill("0.5")
    form.get_by_role("button", name="Save task").click()
    expect(page.get_by_test_id("tasks")).to_contain_text("Ring the neighbours")
    row = page.get_by_role("listitem").filter(has_text="Ring the neighbours").last
    row.get_by_role("button", name="Change: Ring the neighbours").click()
    page.get_by_role("button", name="Delete the task").click()
    expect(page.get_by_test_id("tasks")).not_to_contain_text("Ring the neighbours")


@pytest.mark.long
def test_a_gardener_opens_a_row_in_august_and_closes_it_in_september(page: Page, address):
    """Told what still ripens, the gardener sows that, and puts the chips back when it is up."""
    year = TODAY.year if TODAY.isoformat()[5:] > "09-20" else TODAY.year - 1
    step_into_demo(page, address, "Quillet Holm")
    site = page.url
    page.goto(f"{site}/work/rows")
    rows = page.get_by_test_id("rows")
    rows.get_by_role("button", name="Open rows").click()
    form = page.get_by_role("form", name="Open rows")
    form.get_by_label("Plot", exact=True).select_option(label="Kitchen bed, north")
    form.get_by_label("On", exact=True).fill(f"{year}-08-11")
    form.get_by_label("Crop", exact=True).select_option(label="Bush bean")
    time = page.get_by_test_id("time-left")
    expect(time).to_contain_text("There is not enough time.")
    expect(time).to_contain_text("What still ripens:")
    time.get_by_role("button", name=re.compile("^Radish")).click()
    expect(time).to_contain_text("There is time.")
    form.get_by_label("Length", exact=True).fill("quite long")
    expect(form.get_by_role("alert").first).to_be_visible()
    form.get_by_label("Length", exact=True).fill("4 m")
    tried = page.get_by_test_id("tried")
    expect(tried).to_contain_text("1 m²")
    expect(tried).to_contain_text("4.0 g")
    expect(page.get_by_test_id("rows-drawn")).to_have_attribute("d", re.compile("^M"))
    form.get_by_label("Name", exact=True).fill("late salad")
    form.get_by_role("button", name="Save as opened").click()
    expect(form).to_have_count(0)
    row = page.get_by_test_id("row").filter(has_text="late salad")
    expect(row).to_contain_text("Pulled back")
    for button, on, state in (
        ("Sown", "08-12", "Sown"),
        ("It is up", "08-19", "Up"),
        ("Chips put back", "09-02", "Closed round the plants"),
    ):
        row.get_by_role("button", name=button, exact=True).click()
        step = row.get_by_role("form")
        step.get_by_label("On", exact=True).fill(f"{year}-{on}")
        step.get_by_role("button", name="Save", exact=True).click()
        expect(step).to_have_count(0)
        expect(row.locator("strong").first).to_have_text(state)
    page.goto(f"{site}/log")
    page.get_by_label("All plots").check()
    expect(page.get_by_test_id("entries")).to_contain_text("chips put back round the plants")


@pytest.mark.long
def test_a_cover_crop_is_sown_in_lanes(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.goto(f"{page.url}/work/rows")
    lanes = page.get_by_test_id("lanes")
    lanes.get_by_role("button", name="Work it out").click()
    expect(page.get_by_test_id("lanes-answer")).to_contain_text("5 lanes")
    expect(page.get_by_test_id("lanes-answer")).to_contain_text("720 g of seed")
    lanes.get_by_label("Width of a lane").fill("9 m")
    lanes.get_by_role("button", name="Work it out").click()
    expect(lanes.get_by_role("alert")).to_contain_text("cannot be wider")


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
