"""`ulmatic plan`: the plan of an archive on a terminal, without server and database."""

import json
import os
import subprocess
from pathlib import Path

import pytest
from typer.testing import CliRunner

from tests.conftest import TODAY
from ulmatic.cli import cli

PROJECT = Path(__file__).parents[2]
NOW = {
    "season",
    "from",
    "until",
    "needed_m3",
    "on_hand_m3",
    "coming_m3",
    "to_order_m3",
    "loads",
    "left_over_m3",
    "trips",
    "hours",
    "cost",
    "currency",
}
PLOT = {"name", "area_m2", "target_mm", "least_mm", "depth_mm", "below_least_from", "layings"}
LAYING = {"on", "season", "settled_mm", "loose_m3", "ordered_m3", "material", "reason"}


@pytest.fixture
def archive(owner, tmp_path) -> Path:
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot()
    owner.add_plot(name="Path", use="foot_path", existing_mm="40 mm", wanted_mm="100 mm")
    file = tmp_path / "site.json"
    file.write_bytes(owner.client.get(f"{owner.site}/file.json").content)
    return file


def run(*words: object):
    return CliRunner().invoke(cli, ["plan", *map(str, words)])


def test_the_plan_is_printed_as_json_and_as_a_table(archive, owner):
    answer = run(archive, "--json", "--on", TODAY, "--years", 3)
    assert answer.exit_code == 0, answer.output
    plan = json.loads(answer.stdout)
    assert plan["on"] == TODAY.isoformat()
    assert set(plan["now"]) >= NOW
    for plot in plan["plots"]:
        assert set(plot) >= PLOT
        assert set(plot["depth_mm"]) == {"low", "middle", "high"}
        assert all(set(laying) >= LAYING for laying in plot["layings"])
    assert all(
        set(season) >= {"name", "from", "until", "needed_m3", "loads", "hours", "cost"} for season in plan["seasons"]
    )
    assert plan["now"]["needed_m3"] == pytest.approx(owner.now()["needed_m3"])
    table = run(archive, "--on", TODAY)
    assert table.exit_code == 0
    for words in ("Rose bed", "Path", plan["now"]["season"]):
        assert words in table.stdout
    schema = run(archive, "--schema")
    assert json.loads(schema.stdout)["title"] == "Ulmatic plan"


@pytest.mark.parametrize(
    ("words", "sentence"),
    [(["--years", "0"], "1 to 10"), (["--on", "soon"], "is not a date"), (["--on", "0900-01-01"], "from 1990")],
)
def test_a_wrong_word_gets_a_sentence_and_two(archive, words, sentence):
    answer = run(archive, *words)
    assert (answer.exit_code, sentence in answer.stderr) == (2, True)


@pytest.mark.parametrize("content", [b"", b"{}", b"\xff", b'{"format": "ulmatic-site", "version": 99}', None])
def test_a_file_that_is_no_archive_gets_a_sentence_and_two(tmp_path, content):
    file = tmp_path / "bad.json"
    if content is not None:
        file.write_bytes(content)
    answer = run(file)
    assert answer.exit_code == 2
    assert answer.stdout == ""
    assert answer.stderr.strip().endswith(".")
    assert "Traceback" not in answer.stderr


def test_it_runs_from_the_shell_with_no_database(archive):
    environment = {**os.environ, "ULMATIC_DATABASE_URL": "postgresql+psycopg://nobody@127.0.0.1:9/none"}
    process = subprocess.run(
        [PROJECT / "scripts" / "ulmatic", "plan", archive, "--json"],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert process.returncode == 0, process.stderr
    assert json.loads(process.stdout)["site"] == "Back garden"
