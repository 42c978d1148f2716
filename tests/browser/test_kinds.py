"""A kind of log entry and a kind of task are one file each and their words: made-up ones go through the whole house.

The product's tree is copied, the two records are put in, and the application that is built already serves them.
"""

import csv
import io
import json
import shutil
import subprocess
import sys
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path
from uuid import uuid4

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.browser.conftest import serve, start_site
from tests.conftest import TODAY, bed
from ulmatic.platform.settings import PROJECT, Settings

AUGERED = '''"""A core of chips, lifted with an auger."""

from typing import Literal

from ulmatic.core.log.kinds.depths import DepthFound
from ulmatic.core.units import Depth


class Augered(DepthFound):
    """So long was the core."""

    form_place = 15
    form_fields = ("core_mm", "threads")
    needed = ("core_mm",)
    followed = True
    kind: Literal["augered"] = "augered"
    core_mm: Depth
    threads: Literal["white", "none"] | None = None

    @property
    def read_mm(self) -> float:
        return self.core_mm

    @property
    def settled_already(self) -> bool:
        return True
'''
WORDS = {
    "augered": "Core augered",
    "augered.table": "augered",
    "augered.core_mm": "Length of the core",
    "augered.threads": "Fungal threads",
    "augered.threads.white": "White ones",
    "augered.threads.none": "None",
    "column.core_mm": "core",
    "column.threads": "threads",
}
ANT_HILLS = '''"""Ant hills, before anything is laid."""

from ulmatic.core.work.task_kinds.task_record import TaskGround, TaskAmount, TaskRecord, working_rate

LEVEL = working_rate("ant_hills", "Levelling ant hills", "min_m2", (0.5, 0.2, 1.0))


def _level(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.area_m2, "m2")


TaskRecord(
    "ant_hills", 25, "Level ant hills", "ant hills levelled", ("rake",), "weeding", LEVEL, prepares=_level
)
'''


@pytest.fixture(scope="module")
def tree(tmp_path_factory) -> Path:
    """The product's tree with two more kinds, and nothing else changed."""
    tree = tmp_path_factory.mktemp("house")
    package = tree / "ulmatic"
    shutil.copytree(PROJECT / "src" / "ulmatic", package, ignore=shutil.ignore_patterns("__pycache__"))
    (package / "core" / "log" / "kinds" / "augered.py").write_text(AUGERED)
    (package / "core" / "work" / "task_kinds" / "ant_hills.py").write_text(ANT_HILLS)
    words = package / "texts" / "en" / "log_kinds.json"
    words.write_text(json.dumps(json.loads(words.read_text()) | WORDS))
    return tree


@pytest.fixture(scope="module")
def house(new_database, tree) -> Iterator[str]:
    yield from serve(new_database(), PYTHONPATH=str(tree), ULMATIC_WEB_DIST=str(Settings().web_dist))


@pytest.mark.long
def test_made_up_kinds_go_through_form_archive_tables_work_order_and_learning(page: Page, house, tree, tmp_path):
    start_site(page, house, "Ant meadow")
    site = page.url.split("/plots")[0].replace("/w/", "/api/v1/workspaces/")
    plot = bed() | {"name": "Meadow bed"}
    headers = {"Origin": house}
    assert page.request.post(f"{site}/plots", data=plot, headers=headers).status == 201
    laid = {
        "id": str(uuid4()),
        "plot_id": plot["id"],
        "on": (TODAY - timedelta(days=400)).isoformat(),
        "units": "metric",
        "entry": {"kind": "laid", "material": "arborist_leafy", "depth_mm": "110 mm"},
    }
    assert page.request.post(f"{site}/log", data=laid, headers=headers).status == 201

    # The form asks for it, and says what is wrong at its field.
    page.goto(f"{page.url.split('/plots')[0]}/log")
    form = page.get_by_role("form", name="Log")
    form.get_by_label("What happened").select_option("Core augered")
    form.get_by_role("button", name="Save entry").click()
    expect(form.get_by_role("alert")).to_be_visible()
    form.get_by_label("Length of the core").fill("30")
    form.get_by_label("Fungal threads").select_option("White ones")
    form.get_by_role("button", name="Save entry").click()
    sentence = "Core augered. Length of the core: 30 mm; Fungal threads: White ones"
    expect(page.get_by_test_id("entries")).to_contain_text(sentence)
    page.goto(f"{page.url.split('/log')[0]}/log/past")
    expect(page.get_by_test_id("past")).to_contain_text("Core augered")

    # It is a reading like any other: today's depth is the core, and it teaches how fast chips go.
    [sheet] = page.request.get(site).json()["plots"]
    assert sheet["depth"]["middle"] == pytest.approx(30)
    learning = page.request.get(f"{site}/log/learning").json()
    assert 30 in [compared["depth_mm"] for compared in learning["compared"]]

    # Tables and archives hold it, and read it again.
    content = page.request.get(f"{site}/log.csv").body()
    [row] = [row for row in csv.DictReader(io.StringIO(content.decode("utf-8-sig"))) if row["what"] == "augered"]
    assert (row["core"], row["threads"]) == ("30", "white")
    read = page.request.post(
        f"{site}/log/imports?name=log.csv",
        data=content,
        headers={**headers, "Content-Type": "application/octet-stream"},
    ).json()
    assert (read["errors"], read["there"], read["entries"]) == ([], 3, []), "with the depth that was found at first"
    archive = tmp_path / "meadow.json"
    archive.write_bytes(page.request.get(f"{site}/file.json").body())
    planned = subprocess.run(
        [sys.executable, "-m", "ulmatic", "plan", str(archive), "--json", "--on", TODAY.isoformat()],
        env={"PYTHONPATH": str(tree)},
        cwd=tree,
        check=True,
        capture_output=True,
    )
    assert json.loads(planned.stdout)

    # The made-up task is planned, printed, and done with hours of its own.
    tasks = page.request.get(f"{site}/tasks").json()
    [task] = [task for plot in tasks["plots"] for task in plot["tasks"] if task["kind"] == "ant_hills"]
    assert task["hours"]["value"] == pytest.approx(12 * 0.5 / 60)
    span = f"first={TODAY}&last={TODAY + timedelta(days=100)}"
    days = page.request.get(f"{site}/calendar?{span}").json()["occasions"]
    day = min(occasion["on"] for occasion in days if occasion["kind"] == "work")
    order = PdfReader(io.BytesIO(page.request.get(f"{site}/work-order.pdf?on={day}").body()))
    assert "Level ant hills" in " ".join(paper.extract_text() for paper in order.pages)
    report = {"id": str(uuid4()), "plot_id": plot["id"], "task": "ant_hills", "season": tasks["season_key"]}
    report |= {"on": TODAY.isoformat(), "units": "metric", "share": "100 %", "hours": 0.5, "cautions_read": True}
    answer = page.request.post(f"{site}/tasks", data=report, headers=headers)
    assert answer.status == 201, answer.text()
    page.goto(f"{page.url.split('/log')[0]}/log")
    expect(page.get_by_test_id("entries")).to_contain_text("ant hills levelled, for")
    upkeep = page.request.get(f"{site}/log/learning").json()["upkeep"]
    assert [line["task"] for line in upkeep] == ["weeding"]
