"""Tasks of a season through the API: what is to do, what is done goes into the log, and paper for the pocket."""

import io
from uuid import uuid4

import pytest
from pypdf import PdfReader
from pypdfium2 import PdfDocument

from tests.app.test_days import work
from tests.app.test_links import days_of_work
from tests.conftest import TODAY


@pytest.fixture
def yard(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="Rose bed")
    owner.buys(people=2)
    return owner


def report(site, task: str, **more):
    season = site.reads("tasks")["season_key"]
    line = {
        "id": str(uuid4()),
        "plot_id": site.plot_ids[-1],
        "task": task,
        "season": season,
        "on": TODAY.isoformat(),
        "units": "metric",
        "cautions_read": True,
    } | more
    return site.client.post(f"{site.site}/tasks", json=line), line


def left(person) -> dict[str, float]:
    return {task["kind"]: task["amount"] for plot in person.reads("tasks")["plots"] for task in plot["tasks"]}


def test_hours_of_all_tasks_are_the_sum(yard):
    sheet = yard.reads("tasks")
    tasks = [task for plot in sheet["plots"] for task in plot["tasks"]]
    assert sheet["hours"]["value"] == pytest.approx(sum(task["hours"]["value"] for task in tasks))
    [chips] = [task for task in tasks if task["kind"] == "chips"]
    moving = yard.reads("moving")
    assert chips["hours"]["value"] == pytest.approx(moving["hours"]["value"]), "the work page says the same"


@pytest.mark.parametrize(
    ("task", "counts_as"),
    [
        ("edge", "preparing"),
        ("crisp", "preparing"),
        ("weed", "weeding"),
        ("water_in", "watering"),
        ("pull_back", "laying"),
        ("compost", "laying"),
    ],
)
def test_hours_of_a_task_count_as_the_work_it_is(yard, task, counts_as):
    report(yard, task, hours=1.5, person="Ida")
    [hours] = [entry["entry"] for entry in yard.reads("log") if entry["entry"]["kind"] == "hours"]
    assert (hours["task"], hours["hours"], hours["volume_m3"]) == (counts_as, 1.5, None)
    assert yard.reads("log/learning")["taught"] == [], "without a volume it says nothing of the pace"


def test_a_task_is_done_in_part_and_then_wholly(yard):
    hours = left(yard)["edge"]
    answer, _ = report(yard, "edge", share="25 %")
    assert answer.status_code == 201, answer.text
    assert left(yard)["edge"] == pytest.approx(hours * 0.75)
    report(yard, "edge", share="75 %")
    assert "edge" not in left(yard)


def test_chips_that_were_laid_go_into_the_log_with_their_hours_once(yard):
    needed = left(yard)["chips"]
    answer, line = report(yard, "chips", volume_m3=f"{needed} m3", hours=2.5, person="Ida")
    assert answer.status_code == 201, answer.text
    assert yard.client.post(f"{yard.site}/tasks", json=line).status_code == 201
    kinds = sorted(entry["entry"]["kind"] for entry in yard.reads("log"))
    assert kinds == ["hours", "laid", "measured", "task"]
    assert "chips" not in left(yard)
    assert {"crisp", "water_in"} <= set(left(yard)), "still to be finished"
    assert any("nothing needs to be laid" in sentence or "moves" in sentence for sentence in answer.json()["said"])
    assert yard.now()["needed_m3"] == pytest.approx(0, abs=0.15)


def test_what_lies_beneath_is_logged_as_laid_once_all_of_it_lies_there(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="New bed", use="lawn_to_convert", recipe={"cardboard": True, "compost_mm": 25})
    assert {"sheet", "compost"} <= set(left(owner))
    report(owner, "sheet")
    report(owner, "compost", share="50 %")
    laid = [entry["entry"] for entry in owner.reads("log") if entry["entry"]["kind"] == "laid"]
    assert [(entry["material"], entry["volume_m3"]) for entry in laid] == [("cardboard", None)]
    hours = left(owner)["compost"] * 2
    answer, line = report(owner, "compost", share="50 %")
    owner.client.post(f"{owner.site}/tasks", json=line)
    assert answer.status_code == 201, answer.text
    laid = [entry["entry"] for entry in owner.reads("log") if entry["entry"]["kind"] == "laid"]
    assert sorted(entry["volume_m3"] or 0 for entry in laid) == [0, pytest.approx(hours / 1.1)]
    assert not {"sheet", "compost"} & set(left(owner))
    assert "chips" in left(owner)


def test_chips_from_a_pile_are_drawn_from_its_book(yard):
    pile = yard.receives("6 m3")
    report(yard, "chips", volume_m3="0.5 m3", pile_id=pile["id"])
    [laid] = [entry for entry in yard.reads("log") if entry["entry"]["kind"] == "laid"]
    assert laid["in_book"]
    assert yard.reads("stock")["piles"][0]["stock_m3"] == pytest.approx(5.5)


@pytest.mark.parametrize(
    ("more", "field"), [({"share": "much"}, "share"), ({"hours": 0}, "hours"), ({"volume_m3": "lots"}, "volume_m3")]
)
def test_bad_reports_get_a_sentence_at_the_field(yard, more, field):
    answer, _ = report(yard, "chips", **more)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == field


def test_cautions_are_read_before_work_that_raises_them_is_done(yard):
    answer, line = report(yard, "edge", cautions_read=False)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == "cautions_read"
    assert "buried services" in answer.json()["detail"]
    assert "edge" in left(yard), "nothing was written"
    assert yard.client.post(f"{yard.site}/tasks", json=line | {"cautions_read": True}).status_code == 201
    [entry] = [entry["entry"] for entry in yard.reads("log") if entry["entry"]["kind"] == "task"]
    assert entry["cautions_read"] is True
    assert report(yard, "crisp", cautions_read=False)[0].status_code == 201, "it raises none"


def test_a_task_of_no_kind_is_refused_at_its_field(yard):
    answer = yard.logs(TODAY, kind="task", task="dance", season="autumn 2026")
    assert answer.status_code == 422
    assert [(error["field"], error["detail"]) for error in answer.json()["errors"]] == [
        ("entry.task", "There is no such kind of task.")
    ]


def test_a_work_order_is_drawn_with_ground_cuts_and_ways(yard):
    """Looked at as a picture: ink where the ground and the cuts are."""
    yard.add_landmark(name="Gate tip")
    document = PdfDocument(yard.client.get(f"{yard.site}/work-order.pdf", params={"on": days_of_work(yard)[0]}).content)
    page = document[0].render(scale=1, grayscale=True).to_numpy()
    top, left_half = page.shape[0] // 3, page.shape[1] // 2
    assert (page[top // 3 : top, :left_half] < 250).mean() > 0.01, "the ground is drawn"
    text = document[0].get_textpage().get_text_range()
    document.close()
    for words in ("Gate tip", "From what is tipped at", "Cautions: read and sign", "Read by"):
        assert words in text


def test_a_work_order_fits_the_pocket(yard):
    first = days_of_work(yard)[0]
    answer = yard.client.get(f"{yard.site}/work-order.pdf", params={"on": first})
    assert answer.headers["content-type"] == "application/pdf"
    pages = PdfReader(io.BytesIO(answer.content)).pages
    assert len(pages) <= 2
    text = "".join(page.extract_text() for page in pages)
    for words in ("Rose bed", "Lay chips and rake level", "barrows", "Depths", "person-hours"):
        assert words in text
    assert yard.client.get(f"{yard.site}/work-order.pdf", params={"on": "2030-01-01"}).status_code == 404


def test_each_crew_has_a_work_order_of_its_own(yard):
    yard.add_plot(name="Far bed")
    sheet = yard.reads("tasks")
    far_bed = next(plot for plot in sheet["plots"] if plot["plot"] == "Far bed")
    wishes = [
        {"season": sheet["season_key"], "plot_id": far_bed["plot_id"], "task": task["kind"], "crew": " Ida’s crew "}
        for task in far_bed["tasks"]
    ]
    assert yard.client.put(f"{yard.site}/task-changes", json={"changes": wishes}).status_code == 200
    by_words = {occasion["words"]: occasion for occasion in reversed(work(yard))}
    assert by_words["Far bed"]["crews"] == ["Ida’s crew"]
    assert by_words["Rose bed"]["crews"] == []

    def order(**more):
        return yard.client.get(f"{yard.site}/work-order.pdf", params={"on": by_words["Far bed"]["on"], **more})

    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(order(crew="Ida’s crew").content)).pages)
    assert "Ida’s crew" in text
    assert "1. Far bed" in text
    assert "Rose bed" not in text
    assert order().status_code == 200
    assert order(crew="Nobody").status_code == 404
    without_crew = [wish | {"crew": ""} for wish in wishes]
    yard.client.put(f"{yard.site}/task-changes", json={"changes": without_crew})
    assert all(occasion["crews"] == [] for occasion in work(yard))


def test_a_work_order_is_in_the_units_of_its_site(owner):
    owner.add_site(units="us", climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="Rose bed")
    first = days_of_work(owner)[0]
    pages = PdfReader(io.BytesIO(owner.client.get(f"{owner.site}/work-order.pdf", params={"on": first}).content)).pages
    text = "".join(page.extract_text() for page in pages)
    for words in ("yd³", "sq ft", " in settled"):
        assert words in text
    assert " mm" not in text
    assert "m²" not in text


def test_the_hours_teach_how_fast_these_people_work(yard):
    usual = yard.now()["hours"]
    needed = left(yard)["chips"]
    report(yard, "chips", volume_m3=f"{needed / 3} m3", hours=9)
    [pace] = [figure for figure in yard.reads("log/learning")["taught"] if figure["what"] == "pace"]
    assert pace["figure"]["value"] > 1
    assert yard.now()["hours"] > usual * 2 / 3, "slower, for what is left"
