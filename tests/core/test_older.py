"""Archives of earlier versions: what they say is what is read, and a plan follows from it."""

import json
from datetime import date
from pathlib import Path

import pytest

from ulmatic.core.log import DugIn, Laid
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.schedule.rules import Every, Harvest, Keep, Once, Quarter, Rounds, Thin
from ulmatic.formats.archive import read_archive, write_archive

TODAY = date(2026, 11, 26)
FILES = sorted((Path(__file__).parent / "archives").glob("*.version_4.json"))


@pytest.fixture(params=FILES, ids=lambda path: path.stem)
def file(request) -> dict:
    return json.loads(request.param.read_text())


def read(data: dict, day=TODAY):
    return read_archive(json.dumps(data).encode(), day)


def test_every_plot_lies_as_deep_as_it_was_said_to_lie(file):
    archive = read(file)
    state = state_on(archive.to_site(), TODAY)
    assert [plot.name for plot in archive.plots] == [plot["name"] for plot in file["plots"]]
    for plot, before in zip(archive.plots, file["plots"], strict=True):
        assert state.depth(plot.id).middle == pytest.approx(before["existing_mm"], abs=0.01)


def test_a_plan_follows_and_reading_twice_is_the_same(file):
    archive = read(file)
    assert archive == read(file), "ids of plots and landmarks are those of the file"
    now = plan_on(archive.to_site(), TODAY, 2).now
    assert now.needed_m3 > 1
    assert now.to_order_m3 == pytest.approx(now.needed_m3), "nothing lies on piles in these files"
    assert now.currency == file["buying"]["currency"]


def test_written_again_it_is_of_the_version_of_today(file):
    archive = read(file)
    second = json.loads(write_archive(archive))
    assert second["version"] == 6
    assert read_archive(write_archive(archive), TODAY) == archive


@pytest.mark.parametrize(
    ("renewal", "rule"),
    [
        ({"kind": "hold"}, Keep()),
        ({"kind": "thin", "layer_mm": 50.0}, Thin(part=0.5)),
        ({"kind": "every", "years": 2, "month": 10}, Every(years=2, window="autumn")),
        ({"kind": "harvest", "years": 3, "month": 4}, Harvest(years=3, window="spring")),
        ({"kind": "quarter"}, Quarter(window="autumn")),
        ({"kind": "rounds", "rounds": 3, "months_apart": 6}, Rounds(rounds=3, months_apart=6)),
        ({"kind": "once"}, Once()),
    ],
)
def test_a_rule_by_months_becomes_one_by_seasons(file, renewal, rule):
    file["plots"][0] |= {"renewal": renewal, "wanted_mm": 100.0}
    assert read(file).plots[0].rule == rule


@pytest.mark.parametrize(("month", "window"), [(3, "spring"), (10, "autumn")])
def test_south_of_the_equator_the_same_month_is_the_other_window(file, month, window):
    rule = {"kind": "every", "years": 1, "month": month}
    file["plots"][0]["renewal"] = rule
    file["site"]["climate"] = {"kind": "class", "name": "cool_maritime"}
    assert read(file).plots[0].rule.window == window
    file["site"]["climate"]["southern"] = True
    assert read(file).plots[0].rule.window != window


def test_months_open_for_laying_become_windows(file):
    file["site"]["seasons"]["open_months"] = [10, 11, 3]
    windows = read(file).site.seasons.windows
    assert {key: (dates.opens.month, dates.closes.month, dates.closes.day) for key, dates in windows.items()} == {
        "autumn": (10, 11, 30),
        "spring": (3, 3, 31),
    }


def test_what_was_logged_falls_into_the_ledger(file):
    file["plots"][0]["events"] = [
        {
            "on": "2026-10-01",
            "written_at": "2026-10-01T09:00:00Z",
            "event": {"kind": "laid", "material": "arborist_leafy", "depth_mm": 40.0},
        },
        {"on": "2026-10-02", "written_at": "2026-10-02T09:00:00Z", "event": {"kind": "dug_in"}},
    ]
    archive = read(file)
    entries = [entry for entry in archive.ledger if entry.plot_id == archive.plots[0].id]
    assert [type(entry.entry) for entry in sorted(entries, key=lambda entry: entry.on)[:2]] == [Laid, DugIn]


def test_a_number_of_loads_that_was_chosen_is_kept_with_its_season(file):
    file["site"]["loads_chosen"] = 3
    archive = read(file)
    (choice,) = archive.site.chosen
    assert sum(line.loads for line in choice.lines) == 3
    now = plan_on(archive.to_site(), TODAY, 2).now
    assert (now.loads, now.decided) == (3, True)
