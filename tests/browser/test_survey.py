import re

import pytest
from playwright.sync_api import FilePayload, Page, expect
from pyproj import Geod

from tests.app.test_files import TABLE, gpx, walked_ring
from tests.browser.conftest import from_menu, make_site, shape, sign_up, start_site, step_into_demo


def new_plot(page: Page, name: str, kind: str) -> None:
    # The form of the plot before may still be there for a moment, with the same fields.
    expect(page.get_by_role("button", name="Save plot")).to_be_visible()
    page.get_by_label("Plot name").fill(name)
    shape(page, kind)


@pytest.mark.long
def test_an_irregular_bed_by_offsets_in_feet_and_inches(page: Page, address):
    start_site(page, address, "Corner house", units="us", load="12 yards")
    new_plot(page, "Front curve", "offsets")
    page.get_by_label("Distance between offsets").fill("5")
    offsets = page.get_by_label("Offsets", exact=True)
    offsets.fill("2', 6'6\", 9 ft, 7'3\", 4")
    # Simpson: 5/3 x (2 + 4 x 6.5 + 2 x 9 + 4 x 7.25 + 4) sq ft
    expect(page.get_by_test_id("plot-area")).to_contain_text("132 sq ft")
    sketch = page.get_by_role("group", name="The plot with its measurements")
    expect(sketch.locator("[data-dimension]")).to_have_count(6)
    offsets.press("Home")
    expect(sketch.locator("[data-chosen=true]")).to_have_attribute("data-dimension", "offsets_m.0")
    offsets.press("End")
    expect(sketch.locator("[data-chosen=true]")).to_have_attribute("data-dimension", "offsets_m.4")
    sketch.locator("[data-dimension=spacing_m]").click()
    expect(page.get_by_label("Distance between offsets")).to_be_focused()
    page.get_by_test_id("plot-area").get_by_role("button", name=re.compile("^Area")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Simpson’s rule")
    expect(page.get_by_role("dialog")).to_contain_text("5 ft ÷ 3 × (2 ft + 4 × 6 ft 6 in")
    page.keyboard.press("Escape")
    offsets.fill("2', 6'6\", 9 ft, 7'3\"")
    expect(page.get_by_test_id("plot-area")).to_contain_text("101 sq ft")
    page.get_by_test_id("plot-area").get_by_role("button", name=re.compile("^Area")).click()
    expect(page.get_by_role("dialog")).to_contain_text("Trapezoidal rule")


@pytest.mark.long
def test_a_row_whose_rings_merge_when_the_canopy_grows(page: Page, address):
    start_site(page, address, "Orchard")
    new_plot(page, "Row 3", "ring_row")
    for label, text in {
        "Canopy spread": "3 m",
        "Trunk girth": "30 cm",
        "Trees in the row": "8",
        "Tree to tree": "4 m",
    }.items():
        page.get_by_label(label).fill(text)
    # 8 rings of 1.5 m less trunk and gap.
    expect(page.get_by_test_id("plot-area")).to_contain_text("56 m²")
    page.get_by_label("Canopy spread").fill("5 m")
    # 8 discs of 2.5 m less 7 lenses of 2.04 m² and 8 gaps.
    expect(page.get_by_test_id("plot-area")).to_contain_text("142 m²")
    page.get_by_test_id("plot-area").get_by_role("button", name=re.compile("^Area")).click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("The rings have grown into one strip")
    expect(sheet).to_contain_text("Overlap")
    page.keyboard.press("Escape")
    page.get_by_label("Tree to tree").fill("30 cm")
    expect(page.get_by_text("The trees stand so close that the gaps at their trunks touch")).to_be_visible()


@pytest.mark.long
def test_cut_outs_slope_and_readings_change_the_figures(page: Page, address):
    start_site(page, address, "Bank")
    new_plot(page, "Bank bed", "rectangle")
    page.get_by_label("Length").fill("10 x 4 m")
    expect(page.get_by_test_id("plot-area")).to_contain_text("40 m²")
    page.locator("summary", has_text="Cut-outs").click()
    page.get_by_role("button", name="Plants").click()
    page.get_by_label("Number").fill("10")
    page.get_by_label("Gap round each").fill("20 cm")
    expect(page.get_by_test_id("plot-area")).to_contain_text("39 m²")
    page.get_by_role("button", name="Circle or ellipse").click()
    page.get_by_label("Diameter", exact=True).fill("2 m")
    page.get_by_label("East of the middle").fill("-1 m")
    expect(page.get_by_test_id("plot-area")).to_contain_text("36 m²")
    page.locator("summary", has_text="Slope").click()
    page.get_by_label("Slope").fill("steep")
    expect(page.get_by_text("“steep” is not a slope. Type it like 15 %, 9° or 1:4")).to_be_visible()
    page.get_by_label("Slope").fill("1:2")
    page.get_by_label("Tape was held").select_option("plan")
    expect(page.get_by_test_id("plot-area")).to_contain_text("40 m²")
    page.locator("summary", has_text="Site conditions").click()
    page.get_by_label("Depth readings").fill("20, 40, 30 mm")
    page.get_by_label("Existing cover").select_option("running_grass")
    expect(page.get_by_text("30 mm = 1⅛ in")).to_be_visible()
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))
    page.reload()
    expect(page.get_by_test_id("plot-area")).to_contain_text("40 m²")
    page.locator("summary", has_text="Site conditions").click()
    expect(page.get_by_label("Depth readings")).to_have_value("20, 40, 30 mm")
    expect(page.get_by_label("Existing cover")).to_have_value("running_grass")
    page.locator("summary", has_text="Cut-outs").click()
    expect(page.get_by_label("East of the middle")).to_have_value("-1 m")


@pytest.mark.long
def test_plots_are_copied_reordered_and_changed_together(page: Page, address):
    start_site(page, address, "Many")
    new_plot(page, "Bed", "rectangle")
    page.get_by_label("Length").fill("6 x 2 m")
    page.get_by_role("button", name="Save plot").click()
    page.get_by_role("button", name="Copy").click()
    plots = page.get_by_role("list", name="Plots").get_by_role("listitem")
    expect(plots).to_have_count(2)
    expect(page.get_by_label("Plot name")).to_have_value("Bed, copy")
    page.get_by_role("button", name="Move Bed, copy up").click()
    expect(plots.first).to_contain_text("Bed, copy")
    page.get_by_label("Select Bed", exact=True).check()
    page.get_by_role("region", name="Ground plan").get_by_role("button", name="Bed, copy").click(modifiers=["Control"])
    expect(page.get_by_role("heading", name="2 plots selected")).to_be_visible()
    page.get_by_label("Target depth (settled)").fill("deep")
    page.get_by_role("button", name="Change all").click()
    expect(page.get_by_text("“deep” is not a depth that can be read")).to_be_visible()
    page.get_by_label("Target depth (settled)").fill("100 mm")
    page.get_by_label("Use").select_option("foot_path")
    page.get_by_role("button", name="Change all").click()
    expect(page.get_by_text("Foot path")).to_have_count(3)
    page.reload()
    expect(plots.first).to_contain_text("Bed, copy")
    expect(plots.first).to_contain_text("100 mm")


@pytest.mark.long
def test_the_plan_can_be_zoomed_and_moved(page: Page, address):
    start_site(page, address, "Wide")
    new_plot(page, "Bed", "rectangle")
    page.get_by_label("Length").fill("6 x 2 m")
    page.get_by_role("button", name="Save plot").click()
    plan = page.get_by_role("region", name="Ground plan")
    bar = plan.get_by_role("img", name=re.compile("Scale bar"))
    before, scale = plan.get_by_role("button", name="1 Bed").bounding_box(), bar.get_attribute("aria-label")
    for _ in range(3):
        page.get_by_role("button", name="Zoom in").click()
    expect(bar).not_to_have_attribute("aria-label", scale)
    assert plan.get_by_role("button", name="1 Bed").bounding_box()["width"] > 2 * before["width"]
    page.get_by_role("button", name="Show the whole site").click()
    expect(bar).to_have_attribute("aria-label", scale)


@pytest.mark.long
def test_a_walk_with_noise_and_a_table_with_three_bad_rows_come_in_from_files(page: Page, address):
    start_site(page, address, "From files")
    from_menu(page, "Files")
    chooser = page.get_by_label("File", exact=True)
    table = FilePayload(name="plots.csv", mimeType="text/csv", buffer=TABLE.encode())
    chooser.set_input_files([table])
    expect(page.get_by_text("Nothing was added: 3 entries need correction")).to_be_visible()
    expect(page.get_by_text("“wide” is not a length that can be read")).to_be_visible()
    walk = FilePayload(name="walk.gpx", mimeType="application/gpx+xml", buffer=gpx(walked_ring(noise=3)).encode())
    chooser.set_input_files([walk])
    expect(page.get_by_role("row", name=re.compile("Top field Walked boundary"))).to_be_visible()
    page.get_by_role("button", name="Add 1 plot").click()
    page.get_by_role("link", name=re.compile("Top field")).click()
    page.get_by_test_id("plot-area").get_by_role("button", name=re.compile("^Area")).click()
    expect(page.get_by_role("dialog")).to_contain_text("A point may be off by")
    page.keyboard.press("Escape")

    from_menu(page, "Files")
    with page.expect_download() as download:
        page.get_by_role("link", name="Download Archive", exact=True).click()
    page.get_by_role("link", name="Back to sites").click()
    page.get_by_label("Import an archive").set_input_files(download.value.path())
    expect(page.get_by_role("link", name=re.compile("Top field"))).to_be_visible()


@pytest.mark.long
def test_every_shape_can_be_measured_and_is_drawn(page: Page, address):
    start_site(page, address, "Shapes")
    walked, _ = Geod(ellps="WGS84").polygon_area_perimeter([-3.12, -3.12, -3.1185], [51.05, 51.0509, 51.0509])
    measured = {
        "triangle": ({"Side a": "3", "Side b": "4", "Side c": "5"}, "6 m²"),
        "ellipse": ({"Diameter": "4 m"}, "13 m²"),
        "polygon": ({"Corners": "0, 0\n6, 0\n6, 4\n0, 4"}, "24 m²"),
        "strip": ({"Length": "20", "Width": "2", "Trunk girth": "30", "Number of trees": "4"}, "40 m²"),
        "ring_block": (
            {
                "Canopy spread": "3",
                "Trunk girth": "30",
                "Trees in the row": "5",
                "Tree to tree": "4",
                "Rows": "3",
                "Row to row": "5",
            },
            "104 m²",
        ),
        "walked": (
            {"Points": "51.05, -3.12\n51.0509, -3.12\n51.0509, -3.1185"},
            f"{10 * round(abs(walked) / 10):,} m²",
        ),
    }
    for kind, (fields, area) in measured.items():
        page.get_by_label("Plot name").fill(kind)
        shape(page, kind)
        for label, text in fields.items():
            page.get_by_label(label, exact=True).fill(text)
        expect(page.get_by_test_id("plot-area")).to_contain_text(area)
        expect(page.get_by_role("group", name="The plot with its measurements")).to_be_visible()
        page.get_by_role("button", name="Save and add next").click()
        expect(page.get_by_role("link", name=re.compile(kind))).to_be_visible()
    expect(
        page.get_by_role("region", name="Ground plan").get_by_role("button", name=re.compile("^[1-6] "))
    ).to_have_count(6)


@pytest.mark.long
def test_what_was_typed_can_be_taken_back_and_plots_walked_through_by_keys(page: Page, address):
    step_into_demo(page, address, "Quillet Holm")
    page.get_by_role("link", name="Quince row").click()
    page.get_by_label("Tree to tree").fill("5 m")
    page.get_by_role("button", name="Discard changes").click()
    expect(page.get_by_label("Tree to tree")).to_have_value("3.6 m")
    page.get_by_test_id("season").click()
    page.keyboard.press("j")
    expect(page.get_by_label("Plot name")).to_have_value("Medlar row")
    page.keyboard.press("k")
    expect(page.get_by_label("Plot name")).to_have_value("Quince row")


def test_a_phone_measures_an_irregular_bed(phone: Page, address):
    step_into_demo(phone, address, "Marrow Street Library")
    phone.get_by_role("link", name="Plot", exact=True).tap()
    phone.get_by_label("Plot name").fill("By the steps")
    shape(phone, "offsets")
    phone.get_by_label("Distance between offsets").fill("3")
    phone.get_by_label("Offsets", exact=True).fill("2, 4, 5, 4, 2")
    expect(phone.get_by_test_id("plot-area")).to_contain_text("46 sq ft")
    assert phone.evaluate("document.documentElement.scrollWidth") == 390
    phone.get_by_role("button", name="Save plot").tap()
    phone.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))
    phone.get_by_role("link", name="Ground", exact=True).tap()
    phone.get_by_role("link", name=re.compile("By the steps")).tap()
    phone.get_by_role("button", name="Delete").tap()
    phone.get_by_role("button", name="Undo").wait_for()


@pytest.mark.long
def test_tips_and_ways_are_put_on_the_plan_and_give_each_plot_its_walk(page: Page, address):
    start_site(page, address, "Long garden")
    new_plot(page, "Far bed", "rectangle")
    page.get_by_label("Length").fill("6 x 2 m")
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}$"))
    expect(page.get_by_test_id("plot-access")).to_have_count(0)
    plan = page.get_by_role("region", name="Ground plan")
    plan.get_by_role("button", name="1 Far bed").press("Shift+ArrowRight")
    page.get_by_role("link", name="Tip", exact=True).click()
    expect(page.get_by_label("East on the plan")).to_be_visible()
    page.get_by_label("Name").fill("Drive")
    page.get_by_label("East on the plan").fill("-4")
    page.get_by_label("North on the plan").fill("0")
    expect(page.get_by_test_id("landmark-size")).to_contain_text("24 m²")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("link", name="Way", exact=True).click()
    expect(page.get_by_label("Narrowest width")).to_be_visible()
    page.get_by_label("Name").fill("Side path")
    page.get_by_label("Narrowest width").fill("wide")
    expect(page.get_by_text("“wide” is not a length that can be read")).to_be_visible()
    page.get_by_label("Narrowest width").fill("95 cm")
    svg = plan.get_by_role("group", name=re.compile("^Plan of"))
    for x, y in ((150, 420), (150, 200), (400, 200)):
        svg.click(position={"x": x, "y": y})
    expect(page.get_by_label("Points")).to_have_value(re.compile(r"^\S+ m, \S+ m\n\S+ m, \S+ m\n\S+ m, \S+ m$"))
    page.get_by_role("button", name="Remove the last point").click()
    expect(page.get_by_label("Points")).to_have_value(re.compile(r"^\S+ m, \S+ m\n\S+ m, \S+ m$"))
    page.reload()
    expect(page.get_by_label("Name")).to_have_value("Side path")
    page.get_by_label("Points").fill("-4, 0\n-4, 5\n8, 5")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("link", name=re.compile("Far bed")).click()
    reached = page.get_by_test_id("plot-access")
    expect(reached).to_contain_text("Walking distance from Drive")
    expect(reached).to_contain_text("narrowest 95 cm")
    expect(plan.get_by_test_id("walk")).to_be_visible()
    page.locator("summary", has_text="Site conditions").click()
    page.get_by_role("textbox", name="Walking distance from the tip").fill("80")
    expect(reached).to_contain_text("80 m")
    page.get_by_role("button", name="Discard changes").click()
    plan.get_by_role("button", name="Side path").press("Enter")
    page.get_by_role("button", name="Delete").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name=re.compile("Side path"))).to_be_visible()


@pytest.mark.long
def test_a_climate_is_typed_and_drawn(page: Page, address):
    step_into_demo(page, address, "Marrow Street Library")
    from_menu(page, "Settings")
    expect(page.get_by_label("Mean temperature by month")).to_have_value(re.compile("^20, 24, 35"))
    expect(page.get_by_role("img", name="Climate of the year")).to_be_visible()
    page.get_by_label("Rain by month").fill("wet")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("“wet” is not a rain that can be read")).to_be_visible()
    page.get_by_label("Climate", exact=True).select_option("hot_wet")
    expect(page.get_by_text("A generic climate for illustration")).to_be_visible()
    page.get_by_role("link", name="Back without saving").click()


@pytest.mark.long
def test_a_landscaper_who_thinks_in_spread_inches_gets_a_yard_for_108_square_feet(page: Page, address):
    sign_up(page, address)
    from_menu(page, "Practice")
    loose = page.get_by_role("radio", name=re.compile("Loose depth"))
    loose.click()
    expect(loose).to_be_checked()
    page.get_by_role("link", name="Sites", exact=True).click()
    make_site(page, "Front", units="us", load="12 cu yd")
    from_menu(page, "Settings")
    page.get_by_label("Spare").fill("0 %")
    page.get_by_role("button", name="Save").click()
    page.get_by_role("link", name="Plot", exact=True).click()
    new_plot(page, "Bed", "rectangle")
    page.get_by_label("Length").fill("12' x 9'")
    depth = page.get_by_label("Target depth (loose)")
    depth.fill("3 in")
    expect(page.get_by_text("3 in loose: 2¼ in settled")).to_be_visible()
    expect(page.get_by_test_id("plot-volume")).to_contain_text("1 yd³")


@pytest.mark.long
def test_somebody_elses_table_is_read_by_choosing_its_columns(page: Page, address):
    start_site(page, address, "Borrowed")
    from_menu(page, "Files")
    table = "Bed no.,Long (m),Wide (m),Mulch depth\nNorth,12.5,2,75 mm\nSouth,8,2.5,60 mm\n"
    page.get_by_label("File", exact=True).set_input_files(
        files=[FilePayload(name="beds.csv", mimeType="text/csv", buffer=table.encode())]
    )
    expect(page.get_by_label("Bed no. contains")).to_have_value("name")
    expect(page.get_by_label("Mulch depth contains")).to_have_value("target depth")
    page.get_by_role("button", name="Read the table").click()
    page.get_by_role("button", name="Add 2 plots").click()
    expect(page.get_by_role("list", name="Plots").get_by_role("listitem")).to_have_count(2)


@pytest.mark.long
def test_a_log_comes_in_from_a_table_and_wrong_rows_are_told(page: Page, address):
    start_site(page, address, "Logged")
    new_plot(page, "Bed", "rectangle")
    page.get_by_label("Length").fill("6 x 2 m")
    page.get_by_role("button", name="Save plot").click()
    page.wait_for_url(re.compile(r"/plots/[0-9a-f-]{36}"))
    page.goto(f"{page.url.split('/plots/')[0]}/files")
    field = page.get_by_label("Log", exact=True)
    table = "plot,day,what,depth,material\nBed,2026-03-01,laid,3 in,Shredded bark\nBed,2026-04-01,measured,deep,\n"
    field.set_input_files(files=[FilePayload(name="log.csv", mimeType="text/csv", buffer=table.encode())])
    expect(page.get_by_role("alert").last).to_contain_text("Row 3")
    mended = table.replace("deep", "60 mm")
    field.set_input_files(files=[FilePayload(name="log.csv", mimeType="text/csv", buffer=mended.encode())])
    page.get_by_role("button", name="Add 2 entries").click()
    page.wait_for_url(re.compile(r"/log"))
    expect(page.get_by_text(re.compile("laid 76 mm of shredded bark"))).to_be_visible()
