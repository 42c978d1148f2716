"""A depth as people say it: as spread or as settled, by practice; what is kept is settled."""

import pytest

from tests.conftest import TODAY, bed

FOOT = 0.3048
YARD3 = 0.764554857984
BED = {"kind": "rectangle", "length_m": "12 ft", "width_m": "9 ft"}


def says(owner, answer: str) -> None:
    practice = {"depth": answer}
    assert owner.client.put(f"/api/v1/workspaces/{owner.workspace_id}/practice", json=practice).status_code == 200


@pytest.fixture
def landscaper(owner):
    """Somebody who thinks in inches as they are spread, without spare."""
    owner.add_site(
        name="Front", units="us", spare="0", load_m3="12 cu yd", climate={"kind": "class", "name": "cool_maritime"}
    )
    says(owner, "spread")
    return owner


def typed(owner, **changes) -> dict:
    return owner.add_plot(**(bed(units="us", shape=BED, wanted_mm="3 in", existing_mm="0", use="perennials") | changes))


def test_a_cubic_yard_covers_108_square_feet_at_three_inches_as_spread(landscaper):
    plot = typed(landscaper)
    assert plot["plot"]["area_m2"] == pytest.approx(108 * FOOT**2)
    assert plot["figures"]["to_target"]["value"] == pytest.approx(YARD3)
    assert landscaper.now()["needed_m3"] == pytest.approx(YARD3)
    assert plot["plot"]["spread_mm"] == pytest.approx(76.2)
    assert plot["plot"]["wanted_mm"] == pytest.approx(76.2 * (1 - 0.22))


def test_the_estimate_says_both_while_it_is_typed(landscaper):
    entry = {key: value for key, value in bed(units="us", shape=BED, wanted_mm="3 in").items() if key != "id"}
    estimate = landscaper.client.post(f"{landscaper.site}/estimate", json={"plot_id": None, "plot": entry}).json()
    assert estimate["depth_means"] == "spread"
    assert (estimate["spread_mm"], estimate["wanted_mm"]) == (pytest.approx(76.2), pytest.approx(59.436))


def test_another_practice_changes_no_value_that_is_kept(landscaper):
    before = typed(landscaper)["plot"]
    says(landscaper, "settled")
    (after,) = landscaper.client.get(landscaper.site).json()["plots"]
    assert after["wanted_mm"] == before["wanted_mm"]
    assert after["depth_means"] == "settled"
    assert after["typed"]["wanted_as"] == "spread", "so that the text is not read as something else"


def test_a_plot_can_have_a_practice_of_its_own(landscaper):
    settled_plot = typed(landscaper, recipe={"practice": {"depth": "settled"}})["plot"]
    assert settled_plot["wanted_mm"] == pytest.approx(76.2)
    assert settled_plot["depth_means"] == "settled"


def test_what_was_laid_is_read_in_the_same_words_and_a_ruler_never(landscaper):
    plot = typed(landscaper)["plot"]["id"]
    laid = {"kind": "laid", "material": "arborist_leafy", "depth_mm": "3 in"}
    assert landscaper.logs(TODAY, plot, **laid).status_code == 201
    (read,) = landscaper.client.get(landscaper.site).json()["plots"]
    assert read["depth"]["middle"] == pytest.approx(59.436, abs=0.01)
    assert landscaper.logs(TODAY, plot, kind="measured", depth_mm="2 in", settled=True).status_code == 201
    (read,) = landscaper.client.get(landscaper.site).json()["plots"]
    assert read["depth"]["middle"] == pytest.approx(50.8, abs=0.01)


def test_several_plots_are_changed_in_the_same_words(landscaper):
    plots = [typed(landscaper, name=name)["plot"]["id"] for name in ("One", "Two")]
    change = {"plots": plots, "units": "us", "wanted_mm": "4 in"}
    assert landscaper.client.post(f"{landscaper.site}/changes", json=change).status_code == 204
    assert [plot["spread_mm"] for plot in landscaper.client.get(landscaper.site).json()["plots"]] == [
        pytest.approx(101.6)
    ] * 2


def test_trodden_ground_settles_more_and_a_laying_is_told_as_it_is_spread(landscaper):
    plot = typed(landscaper, use="foot_path", wanted_mm="6 in")["plot"]
    assert plot["wanted_mm"] == pytest.approx(152.4 * (1 - 0.35))
    laying = plot["laying"]
    assert laying["spread_mm"] == pytest.approx(laying["settled_mm"] / (1 - 0.35))


def test_an_archive_keeps_what_was_meant(landscaper, new_person):
    typed(landscaper)
    content = landscaper.client.get(f"{landscaper.site}/file.json").content
    other = new_person()
    other.site_id = "6f1d2a52-6a44-4d2f-9c2b-6a4b6f1f0a11"
    assert other.restores(other.site_id, content).status_code == 200
    (read,) = other.client.get(other.site).json()["plots"]
    assert read["depth_means"] == "spread"
    assert read["spread_mm"] == pytest.approx(76.2)
