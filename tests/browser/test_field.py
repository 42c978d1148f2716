"""Field mode on a phone: written down without signal, sent once and only once when it is back."""

import io
import re
from uuid import uuid4

import pytest
from PIL import Image
from playwright.sync_api import FilePayload, Page, expect

from tests.browser.conftest import make_site, opened, sign_up, step_into_demo
from tests.conftest import TODAY, in_autumn


def picture() -> FilePayload:
    out = io.BytesIO()
    Image.new("RGB", (640, 480), "tan").save(out, "JPEG")
    return FilePayload(name="spot.jpg", mimeType="image/jpeg", buffer=out.getvalue())


def in_field(page: Page, address: str) -> None:
    """Open the field mode, ready to work without signal."""
    page.goto(f"{address}/field")
    expect(page.get_by_test_id("field")).to_have_attribute("data-signal", "online")
    page.evaluate("async () => { await navigator.serviceWorker.ready }")
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")


def reads(page: Page, plot: str, digits: str) -> None:
    """Write down a depth by keys."""
    page.get_by_role("button", name=re.compile(f"^{plot}")).click()
    for digit in digits:
        page.get_by_role("button", name=digit, exact=True).last.click()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("heading", name=plot)).to_have_count(0)


def logged(page: Page, address: str) -> list[dict]:
    """The log of the person's first site, as the server has it."""
    [workspace] = page.request.get(f"{address}/api/v1/session").json()["workspaces"]
    sites = page.request.get(f"{address}/api/v1/workspaces/{workspace['id']}/sites").json()
    site = next(entry["site"] for entry in sites if entry["site"]["name"] in ("Quillet Holm", "Back garden"))
    log = page.request.get(f"{address}/api/v1/workspaces/{workspace['id']}/sites/{site['id']}/log").json()
    return [entry for entry in log if entry["entry"]["kind"] == "measured"]


def depths(page: Page, address: str) -> list[float]:
    return sorted(entry["entry"]["depth_mm"] for entry in logged(page, address))


@pytest.fixture
def demo(phone, address) -> Page:
    step_into_demo(phone, address, "Quillet Holm")
    in_field(phone, address)
    phone.get_by_label("Site").select_option(label="Quillet Holm")
    return phone


@pytest.mark.long
def test_a_depth_takes_three_taps(demo, address):
    before = len(logged(demo, address))
    demo.get_by_role("button", name=re.compile("^Medlar row")).click()
    demo.get_by_role("button", name="60", exact=True).click()
    with demo.expect_response(lambda answer: answer.url.endswith("/log") and answer.request.method == "POST"):
        demo.get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_test_id("waiting")).to_have_count(0)
    expect(demo.get_by_role("button").filter(has_text="mm").first).to_contain_text("Medlar row")
    assert len(logged(demo, address)) == before + 1


def test_five_readings_and_a_photo_without_signal_are_sent_once_when_it_is_back(demo, address):
    before = len(logged(demo, address))
    demo.context.set_offline(True)
    demo.reload()
    expect(demo.get_by_test_id("field")).to_have_attribute("data-signal", "offline")
    demo.get_by_label("Site").select_option(label="Quillet Holm")
    for plot, depth in (("Quince row", "21"), ("Medlar row", "52"), ("Woad bed", "13"), ("Hazel bank", "34")):
        reads(demo, plot, depth)
    demo.get_by_role("button", name=re.compile("^Quince row")).click()
    demo.locator("input[type=file]").set_input_files(picture())
    expect(demo.get_by_text("1 photo")).to_be_visible()
    for digit in "22":
        demo.get_by_role("button", name=digit, exact=True).last.click()
    demo.get_by_role("button", name="Save", exact=True).click()
    expect(demo.get_by_test_id("waiting")).to_have_text("5 waiting")
    second = demo.context.new_page()
    demo.close()
    second.goto(f"{address}/field")
    expect(second.get_by_test_id("waiting")).to_have_text("5 waiting")
    second.context.set_offline(False)
    second.evaluate("() => window.dispatchEvent(new Event('online'))")
    expect(second.get_by_test_id("field")).to_have_attribute("data-signal", "online")
    expect(second.get_by_test_id("waiting")).to_have_count(0)
    log = logged(second, address)
    assert len(log) == before + 5
    assert sorted(
        entry["entry"]["depth_mm"] for entry in log if entry["entry"]["depth_mm"] in (21, 52, 13, 34, 22)
    ) == [
        13,
        21,
        22,
        34,
        52,
    ]
    assert [len(entry["photos"]) for entry in log if entry["entry"]["depth_mm"] == 22] == [1]


@pytest.mark.long
@in_autumn
def test_a_task_is_ticked_off_without_signal_and_sent_when_it_is_back(demo, address):
    demo.context.set_offline(True)
    demo.reload()
    expect(demo.get_by_test_id("field")).to_have_attribute("data-signal", "offline")
    demo.get_by_label("Site").select_option(label="Quillet Holm")
    demo.get_by_role("button", name=re.compile("^Medlar row")).click()
    tasks = demo.get_by_test_id("field-tasks")
    tasks.get_by_text("tasks here").click()
    strim = tasks.get_by_role("button", name="Strim or mow short: done")
    expect(strim).to_be_disabled()
    tasks.get_by_label(re.compile("^I have read the cautions")).check()
    strim.click()
    expect(strim).to_have_count(0)
    expect(demo.get_by_test_id("waiting")).to_have_text("1 waiting")
    demo.get_by_test_id("waiting").click()
    expect(demo.get_by_test_id("waiting-list")).to_contain_text("Strim or mow short: done")
    demo.context.set_offline(False)
    demo.evaluate("() => window.dispatchEvent(new Event('online'))")
    expect(demo.get_by_test_id("waiting")).to_have_count(0)
    [workspace] = demo.request.get(f"{address}/api/v1/session").json()["workspaces"]
    sites = demo.request.get(f"{address}/api/v1/workspaces/{workspace['id']}/sites").json()
    site = next(entry["site"]["id"] for entry in sites if entry["site"]["name"] == "Quillet Holm")
    log = demo.request.get(f"{address}/api/v1/workspaces/{workspace['id']}/sites/{site}/log").json()
    [entry] = [entry["entry"] for entry in log if entry["entry"]["kind"] == "task"]
    assert (entry["task"], entry["share"], entry["cautions_read"]) == ("strim", 1.0, True)


OF_0_1_0 = """
entry => new Promise((done, failed) => {
  const opening = indexedDB.open("ulmatic.field", 1);
  opening.onupgradeneeded = () => {
    const database = opening.result;
    database.createObjectStore("sites", { keyPath: "key" }).createIndex("user", "user");
    database.createObjectStore("waiting", { keyPath: "id" }).createIndex("user", "user");
    database.createObjectStore("used");
  };
  opening.onerror = failed;
  opening.onsuccess = () => {
    const changes = opening.result.transaction(["sites", "waiting"], "readwrite");
    changes.objectStore("sites").put({ key: "old", user: entry.user, plots: [{ depth_mm: 40 }] });
    changes.objectStore("waiting").put(entry);
    changes.oncomplete = () => { opening.result.close(); done(); };
  };
})
"""
"""Keeps a site and an entry on the phone as release 0.1.0 did."""


@pytest.mark.long
def test_what_waits_since_the_first_release_is_sent_and_its_sites_are_seen_again(phone, address):
    step_into_demo(phone, address, "Quillet Holm")
    before = depths(phone, address)
    session = phone.request.get(f"{address}/api/v1/session").json()
    sheet = phone.request.get(phone.url.replace("/w/", "/api/v1/workspaces/")).json()
    plot = sheet["plots"][0]
    entry = {
        "id": str(uuid4()),
        "user": session["user"]["id"],
        "workspaceId": session["workspaces"][0]["id"],
        "siteId": sheet["site"]["id"],
        "plotId": plot["id"],
        "pileId": None,
        "name": plot["name"],
        "on": TODAY.isoformat(),
        "units": "metric",
        "entry": {"kind": "measured", "depth_mm": "80 mm"},
        "note": "",
        "photos": [],
        "typedAt": phone.evaluate("() => Date.now()"),
    }
    phone.evaluate(OF_0_1_0, entry)
    in_field(phone, address)
    expect(phone.get_by_test_id("waiting")).to_have_count(0)
    assert depths(phone, address) == sorted([*before, 80])
    phone.get_by_label("Site").select_option(label="Quillet Holm")
    expect(phone.get_by_role("button", name=re.compile(f"^{plot['name']}"))).to_contain_text("80 mm")


@pytest.mark.long
def test_two_phones_at_once_lose_neither(browser, demo, address):
    before = len(logged(demo, address))
    state = demo.context.storage_state()
    for other in opened(browser, {"width": 390, "height": 844}, has_touch=True, storage_state=state):
        in_field(other, address)
        other.get_by_label("Site").select_option(label="Quillet Holm")
        for phone in (demo, other):
            phone.context.set_offline(True)
        reads(demo, "Quince row", "23")
        reads(other, "Quince row", "26")
        for phone in (demo, other):
            phone.context.set_offline(False)
            phone.get_by_role("button", name="Fetch and send now").click()
        for phone in (demo, other):
            expect(phone.get_by_test_id("waiting")).to_have_count(0)
        assert len(logged(demo, address)) == before + 2
        assert {23, 26} <= set(depths(demo, address))


@pytest.mark.long
def test_a_phone_whose_clock_is_days_ahead_writes_down_today(browser, address):
    ahead = "const real = Date.now; Date.now = () => real() + 3 * 864e5;"
    for page in opened(browser, {"width": 390, "height": 844}, has_touch=True):
        page.add_init_script(ahead)
        step_into_demo(page, address, "Quillet Holm")
        in_field(page, address)
        page.get_by_label("Site").select_option(label="Quillet Holm")
        today = max(entry["on"] for entry in logged(page, address))
        with page.expect_response(lambda answer: answer.url.endswith("/log") and answer.request.method == "POST"):
            reads(page, "Medlar row", "46")
        expect(page.get_by_test_id("waiting")).to_have_count(0)
        [entry] = [entry for entry in logged(page, address) if entry["entry"]["depth_mm"] == 46]
        assert entry["on"] == today


def test_it_can_be_installed(demo, address):
    link = demo.locator("link[rel=manifest]").get_attribute("href")
    manifest = demo.request.get(f"{address}{link}").json()
    assert (manifest["start_url"], manifest["display"]) == ("/field", "standalone")
    assert demo.request.get(f"{address}{manifest['icons'][0]['src']}").ok


def test_an_answer_that_is_lost_or_a_connection_that_dies_sends_nothing_twice(demo, address):
    before = len(logged(demo, address))
    fates = iter(["lost", "dead"])

    def handle(route):
        fate = next(fates, None) if route.request.method == "POST" else None
        if fate == "lost":
            route.fetch()
        if fate is None:
            route.continue_()
        else:
            route.abort("connectionreset")

    demo.route(re.compile("/log$"), handle)
    with demo.expect_event("requestfailed"):
        reads(demo, "Quince row", "27")
    expect(demo.get_by_test_id("waiting")).to_have_text("1 waiting")
    with demo.expect_event("requestfailed"):
        demo.get_by_role("button", name="Fetch and send now").click()
    demo.get_by_role("button", name="Fetch and send now").click()
    expect(demo.get_by_test_id("waiting")).to_have_count(0)
    assert len(logged(demo, address)) == before + 1
    assert [entry["entry"]["depth_mm"] for entry in logged(demo, address)].count(27) == 1


@pytest.mark.long
@pytest.mark.usefixtures("address")
def test_what_the_server_refuses_is_kept_with_its_sentence(demo):
    demo.context.set_offline(True)
    reads(demo, "Quince row", "5000")
    demo.context.set_offline(False)
    demo.get_by_role("button", name="Fetch and send now").click()
    demo.get_by_test_id("waiting").click()
    expect(demo.get_by_test_id("waiting-list").get_by_role("alert")).to_contain_text("(1,000 mm)")
    demo.get_by_role("button", name="Delete").click()
    expect(demo.get_by_test_id("waiting")).to_have_count(0)


def test_another_person_on_the_same_phone_sees_nothing(browser, address):
    for page in opened(browser, {"width": 390, "height": 844}, has_touch=True):
        sign_up(page, address)
        email = page.request.get(f"{address}/api/v1/session").json()["user"]["email"]
        make_site(page, "Back garden")
        in_field(page, address)
        [workspace] = page.request.get(f"{address}/api/v1/session").json()["workspaces"]
        [site] = page.request.get(f"{address}/api/v1/workspaces/{workspace['id']}/sites").json()
        bed = {"kind": "rectangle", "length_m": "4 m", "width_m": "2 m"}
        plot = {
            "id": "0c6ccf2e-5f0b-4f57-9d4b-0a7b7c1b2a11",
            "name": "Rose bed",
            "use": "perennials",
            "units": "metric",
            "shape": bed,
            "existing_mm": "40",
            "wanted_mm": "75",
        }
        site_address = f"{address}/api/v1/workspaces/{workspace['id']}/sites/{site['site']['id']}"
        assert page.request.post(f"{site_address}/plots", data=plot, headers={"Origin": address}).ok
        page.get_by_role("button", name="Fetch and send now").click()
        expect(page.get_by_role("button", name=re.compile("^Rose bed"))).to_be_visible()
        page.context.set_offline(True)
        reads(page, "Rose bed", "33")
        expect(page.get_by_test_id("waiting")).to_have_text("1 waiting")
        # Signed out first: with the signal back, the entry would be sent at once.
        page.request.delete(f"{address}/api/v1/session", headers={"Origin": address})
        page.context.set_offline(False)
        page.goto(f"{address}/field")
        expect(page.get_by_text("1 entry waits on this phone")).to_be_visible()
        sign_up(page, address)
        page.goto(f"{address}/field")
        expect(page.get_by_test_id("field")).to_have_attribute("data-signal", "online")
        expect(page.get_by_test_id("waiting")).to_have_count(0)
        expect(page.get_by_text("Rose bed")).to_have_count(0)
        page.request.delete(f"{address}/api/v1/session", headers={"Origin": address})
        page.goto(f"{address}/sign-in?next=/field")
        page.get_by_label("E-mail").fill(email)
        page.get_by_label("Password").fill("four ordinary words here")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_test_id("field")).to_have_attribute("data-signal", "online")
        assert depths(page, address).count(33) == 1
