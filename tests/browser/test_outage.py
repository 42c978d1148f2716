import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import start_site


def test_with_the_database_stopped_nothing_typed_is_lost_and_saving_goes_on_by_itself(page: Page, stoppable):
    address, cluster, port = stoppable
    start_site(page, address, "Steady")
    page.get_by_label("Plot name").fill("Bed")
    cluster.stop()
    page.get_by_label("Length").fill("6 x 3 m")
    expect(page.get_by_text("Ulmatic cannot be reached")).to_be_visible()
    page.get_by_role("button", name="Save plot").click()
    expect(page.get_by_role("button", name="Saving")).to_be_visible()
    expect(page.get_by_label("Length")).to_have_value("6 x 3 m")
    cluster.start(port)
    expect(page.get_by_role("link", name="Bed")).to_be_visible(timeout=30_000)
    expect(page.get_by_text("Ulmatic cannot be reached")).not_to_be_visible()


@pytest.mark.long
def test_offline_is_said_and_recovers(page: Page, stoppable):
    address, *_ = stoppable
    start_site(page, address, "Far field")
    expect(page.get_by_label("Length")).to_be_visible()
    page.context.set_offline(True)
    page.get_by_label("Length").fill("6 x 3 m")
    expect(page.get_by_text("Ulmatic cannot be reached")).to_be_visible()
    page.context.set_offline(False)
    expect(page.get_by_test_id("plot-area")).to_contain_text("18 m²", timeout=30_000)
