"""Every rule fires where it should and is silent where it should be: pairs that differ in one thing."""

from pathlib import Path
from typing import Any

import pytest

from ulmatic.core.materials import CATALOGUE
from ulmatic.core.recipe import RULES, PlannedPlot, Practice, RecipeEdits, Setting, advice_of, advice_table
from ulmatic.core.survey import Rectangle, Ring, RingRow, SiteConditions, Slope

BED = Rectangle(length_m=10, width_m=2)
TREE = {"use": "established_tree", "shape": Ring(canopy_m=6, trunk_m=0.8, gap_m=0.3), "wanted_mm": 150}
ROW = {
    "use": "young_tree",
    "shape": RingRow(canopy_m=3, trunk_m=0.3, gap_m=0.3, trees=5, spacing_m=4),
    "wanted_mm": 100,
}


def rules(
    use="perennials",
    shape=BED,
    wanted_mm=75,
    material=None,
    slope=None,
    practice=None,
    fire=False,
    old=0,
    feared=(),
    **more,
):
    """Return the keys of the rules that fire; `about` is what was found, and `edits_…` what was edited."""
    edits = {key.removeprefix("edits_"): more.pop(key) for key in list(more) if key.startswith("edits_")}
    plot = PlannedPlot(
        name="plot",
        use=use,
        shape=shape,
        wanted_mm=wanted_mm,
        found=SiteConditions(**more),
        slope=Slope(angle_deg=slope) if slope else None,
        recipe=RecipeEdits(material=material, **edits),
    )
    laid = CATALOGUE[material] if material else None
    setting = Setting(practice=Practice(**(practice or {})), given_material=laid, fire_district=fire)
    return [advice.rule for advice in advice_of(plot, setting, old, frozenset(feared))]


def with_gap(gap):
    return Ring(canopy_m=6, trunk_m=0.8, gap_m=gap)


PAIRS: dict[str, tuple[dict[str, Any], dict[str, Any]]] = {
    "slope_slides": ({"slope": 18, "material": "bark_nuggets"}, {"slope": 18, "material": "bark_shredded"}),
    "slope_edging": ({"slope": 18}, {"slope": 8}),
    "slope_too_steep": ({"slope": 30}, {"slope": 25}),
    "fine_too_deep": ({"material": "sawdust", "wanted_mm": 50}, {"material": "sawdust", "wanted_mm": 12}),
    "mats": ({"material": "grass_clippings"}, {"material": "grass_clippings", "wanted_mm": 20}),
    "manure_as_mulch": ({"material": "manure_cattle"}, {"material": "manure_cattle", "wanted_mm": 25}),
    "path_too_fine": ({"use": "foot_path", "material": "straw"}, {"use": "foot_path", "material": "clean_coarse"}),
    "path_coarse_lasts": ({"use": "foot_path", "wanted_mm": 100}, {"use": "foot_path", "material": "clean_coarse"}),
    "path_thin": ({"use": "vehicle_path", "wanted_mm": 100}, {"use": "vehicle_path", "wanted_mm": 200}),
    "dug_in": ({"edits_dug_in": True}, {"edits_dug_in": True, "edits_stage": "decomposed"}),
    "not_ripe_to_plant": (
        {"practice": {"planting": "once_decomposed"}},
        {"practice": {"planting": "once_decomposed"}, "edits_stage": "decomposed"},
    ),
    "children_here": ({"children": True}, {"children": False}),
    "soak_first": ({"sun": "full"}, {"sun": "full", "irrigated": True}),
    "poor_ground": ({"soil": "sand", "build_up": True}, {"soil": "sand", "build_up": True, "wanted_mm": 125}),
    "blows": ({"material": "straw"}, {"material": "arborist_leafy"}),
    "dye_fades": ({"material": "dyed"}, {"material": "clean_coarse"}),
    "trunk_gap": ({**TREE, "shape": with_gap(0.05)}, {**TREE, "shape": with_gap(0.1)}),
    "fresh_near_trunk": ({**TREE, "shape": with_gap(0.15)}, {**TREE, "shape": with_gap(0.15), "edits_stage": "aged"}),
    "deep_round_annuals": (
        {"use": "vegetables", "wanted_mm": 150, "edits_growing_mm": 120},
        {"use": "vegetables", "wanted_mm": 150},
    ),
    "deep_between_crops": ({"use": "vegetables", "wanted_mm": 170}, {"use": "vegetables", "wanted_mm": 150}),
    "poor_ground_ask": ({"soil": "clay"}, {"soil": "clay", "build_up": False}),
    "load_disease": ({"feared": ["disease"]}, {"feared": ["herbicide"]}),
    "load_herbicide": ({"feared": ["herbicide"]}, {"feared": ["herbicide"], "use": "foot_path"}),
    "load_weed_seed": ({"feared": ["weed_seed"]}, {}),
    "deep_on_perennials": ({"wanted_mm": 150}, {"wanted_mm": 150, "soil": "clay", "compacted": True}),
    "crowns_clear": ({}, {"use": "foot_path"}),
    "bark_disease": (TREE, {**TREE, "material": "bark_shredded"}),
    "seedbed_covered": ({"use": "seedbed"}, {"use": "seedbed", "wanted_mm": 0}),
    "bulbs_covered": ({"use": "bulbs"}, {"use": "bulbs", "wanted_mm": 0}),
    "fresh_on_vegetables": ({"use": "vegetables"}, {"use": "vegetables", "practice": {"freshness": "as_it_comes"}}),
    "fresh_at_all": ({"practice": {"freshness": "age_first"}}, {"practice": {"freshness": "as_it_comes"}}),
    "plant_in_soil": ({"use": "vegetables"}, {"use": "vegetables", "practice": {"planting": "once_decomposed"}}),
    "herbicide": ({"use": "vegetables", "material": "straw"}, {"use": "foot_path", "material": "straw"}),
    "weed_seed": ({"material": "hay"}, {"material": "leaves_shredded"}),
    "raw_manure_on_food": ({"use": "vegetables", "material": "litter_broiler"}, {"material": "litter_broiler"}),
    "walnut_seedlings": ({"use": "vegetables", "material": "walnut"}, {**TREE, "material": "walnut"}),
    "walnut_elsewhere": ({**TREE, "material": "walnut"}, {"use": "vegetables", "material": "walnut"}),
    "eucalyptus_seedlings": ({"material": "eucalyptus"}, {**TREE, "material": "eucalyptus"}),
    "nitrogen_cautious": (
        {"practice": {"nitrogen": "cautious"}, "edits_compost_mm": 0},
        {"practice": {"nitrogen": "cautious"}},
    ),
    "nitrogen_touch": ({}, {"practice": {"nitrogen": "relaxed"}}),
    "biochar_raw": ({"edits_biochar_mm": 10}, {"edits_biochar_mm": 10, "edits_compost_mm": 25}),
    "feed_near_water": ({"edits_compost_mm": 25, "to_water_m": 5}, {"edits_compost_mm": 25, "to_water_m": 50}),
    "runners_thin": ({"cover": "running_grass"}, {"cover": "running_grass", "wanted_mm": 200}),
    "runners_uncovered": ({"cover": "running_grass", "edits_cardboard": False}, {"cover": "running_grass"}),
    "runners_rounds": ({"cover": "running_grass"}, {"cover": "bare"}),
    "lawn_uncovered": ({"cover": "lawn", "edits_cardboard": False}, {"cover": "lawn"}),
    "lawn_thin": ({"cover": "lawn"}, {"cover": "lawn", "wanted_mm": 150}),
    "cardboard_how": ({"cover": "lawn"}, {}),
    "fabric_below": ({"cover": "old_fabric"}, {"cover": "old_mulch"}),
    "weeds_through": ({"cover": "annual_weeds", "wanted_mm": 40}, {"cover": "annual_weeds", "wanted_mm": 75}),
    "enough_there": ({"old": 90}, {"old": 30}),
    "all_brown": (
        {**TREE, "practice": {"living": "keep_green"}, "edits_laid_share": 1.0},
        {**TREE, "practice": {"living": "keep_green"}},
    ),
    "join_rings": ({**ROW, "practice": {"living": "continuous_strip"}}, ROW),
    "cocoa_dogs": ({"material": "cocoa_shell", "pets": True}, {"material": "cocoa_shell", "pets": False}),
    "cocoa_ask": ({"material": "cocoa_shell"}, {"material": "cocoa_shell", "pets": False}),
    "play_surface": ({"use": "play", "wanted_mm": 225}, {"use": "foot_path"}),
    "against_walls": ({"to_building_m": 0.1}, {"to_building_m": 0.5}),
    "fire_near_building": ({"fire": True, "to_building_m": 1}, {"fire": True, "to_building_m": 3}),
    "fire_unknown": ({"fire": True}, {"fire": True, "to_building_m": 3}),
    "spores": ({"edits_stage": "aged"}, {"edits_stage": "fresh"}),
    "myth_acid": ({"material": "bark_conifer"}, {"material": "bark_shredded"}),
    "myth_conifers": ({"material": "conifer_bare"}, {"material": "arborist_bare"}),
}


def test_there_are_pairs_for_all_rules():
    assert {rule.key for rule in RULES} == set(PAIRS)
    assert len(RULES) >= 30


@pytest.mark.parametrize("key", PAIRS)
def test_a_rule_fires_and_stays_silent(key):
    fires, silent = PAIRS[key]
    assert key in rules(**fires)
    assert key not in rules(**silent)


def test_nothing_is_said_of_ground_where_nothing_is_laid():
    assert rules(use="seedbed", wanted_mm=0, material="cocoa_shell", pets=True) == []


def test_the_gravest_comes_first_and_a_fix_answers_its_rule():
    changes = {"material": "cocoa_shell", "pets": True, "cover": "running_grass", "edits_cardboard": False}
    plot = PlannedPlot(
        name="x",
        use="perennials",
        shape=BED,
        wanted_mm=75,
        found=SiteConditions(cover="running_grass", pets=True),
        recipe=RecipeEdits(material="cocoa_shell", cardboard=False),
    )
    findings = advice_of(plot, Setting(given_material=CATALOGUE["cocoa_shell"]))
    weights = ["stop", "act", "watch", "note"]
    assert [weights.index(advice.severity) for advice in findings] == sorted(
        weights.index(advice.severity) for advice in findings
    )
    assert "runners_uncovered" in rules(**changes)
    assert "runners_uncovered" not in rules(**changes | {"edits_cardboard": True})
    assert "cocoa_dogs" not in rules(**changes | {"material": "arborist_leafy"})


def test_every_rule_has_reason_remedy_and_source_and_stands_in_the_docs():
    for rule in RULES:
        assert rule.says.endswith((".", "?")), rule.key
        assert rule.because, rule.key
        assert rule.change, rule.key
        assert rule.source.text, rule.key
    docs = (Path(__file__).parents[2] / "docs" / "advice.md").read_text()
    assert advice_table() in docs, "run: ulmatic advice-table"


def test_old_walnut_harms_nobody():
    seedlings = {"use": "vegetables", "material": "walnut"}
    assert "walnut_seedlings" in rules(**seedlings)
    assert {"walnut_seedlings", "walnut_elsewhere"}.isdisjoint(rules(**seedlings, edits_stage="decomposed"))


@pytest.mark.parametrize(
    ("school", "fits", "too_near"),
    [("couple_of_inches", 0.05, 0.03), ("hand_and_guard", 0.10, 0.05), ("foot_while_fresh", 0.30, 0.05)],
)
def test_the_gap_at_a_trunk_is_that_of_the_school(school, fits, too_near):
    practice = {"trunks": school}
    assert {"trunk_gap", "fresh_near_trunk"}.isdisjoint(rules(**{**TREE, "shape": with_gap(fits)}, practice=practice))
    assert "trunk_gap" in rules(**{**TREE, "shape": with_gap(too_near)}, practice=practice)


def test_char_is_charged_first_or_not_by_school():
    char = {"edits_biochar_mm": 10}
    assert "biochar_raw" in rules(**char)
    assert "biochar_raw" not in rules(**char, practice={"char": "bare"})


@pytest.mark.parametrize(
    "ground", [{"soil": "dead"}, {"soil": "sand", "build_up": True}, {"soil": "clay", "build_up": True}]
)
def test_poor_ground_is_built_up_and_what_is_deep_there_is_not_too_deep(ground):
    assert "poor_ground" in rules(**ground)
    assert {"poor_ground", "deep_on_perennials"}.isdisjoint(rules(**ground, wanted_mm=150))
