"""Recipes against the depths usual in the trade (job.md §3), and what each school changes."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.figures import entered
from ulmatic.core.materials import CATALOGUE, Stage
from ulmatic.core.parameters import SHIPPED
from ulmatic.core.recipe import (
    QUESTIONS,
    USUAL_DEPTH,
    HoldBack,
    LayerRole,
    PlannedPlot,
    Practice,
    PracticeChoices,
    RecipeEdits,
    Setting,
    accepted,
    practice_of,
    propose,
    recipe_of,
)
from ulmatic.core.schedule.amounts import beneath, plot_ground, to_target
from ulmatic.core.survey import Rectangle, Ring, RingRow, SiteConditions, Slope, Use

CHIPS = CATALOGUE["arborist_leafy"]
BED, TREE = Rectangle(length_m=10, width_m=2), Ring(canopy_m=6, trunk_m=0.8, gap_m=0.3)
TRADE = {
    Use.VEGETABLES: (75, 150),
    Use.PERENNIALS: (50, 75),
    Use.YOUNG_TREE: (50, 150),
    Use.ESTABLISHED_TREE: (150, 300),
    Use.FOOT_PATH: (75, 150),
    Use.VEHICLE_PATH: (150, 300),
    Use.LAWN_TO_CONVERT: (125, 200),
    Use.SEEDBED: (0, 0),
    Use.BULBS: (0, 0),
    Use.PILE_GROUND: (0, 0),
}


def plot(use=Use.PERENNIALS, shape=BED, wanted_mm=75.0, edits=None, slope=None, **conditions) -> PlannedPlot:
    return PlannedPlot(
        name="plot",
        use=use,
        shape=shape,
        wanted_mm=wanted_mm,
        slope=slope,
        found=SiteConditions(**conditions),
        recipe=edits or RecipeEdits(),
    )


def proposed(practice=None, **changes):
    return propose(plot(**changes), practice or Practice(), CHIPS)


@pytest.mark.parametrize(("use", "range_mm"), TRADE.items())
def test_the_proposal_lies_in_the_trades_range(use, range_mm):
    depth = proposed(use=use).depth
    assert range_mm[0] <= depth.value <= range_mm[1]
    assert (depth.low, depth.high) == range_mm
    assert proposed(use=use).reasons


@pytest.mark.parametrize("use", Use)
@pytest.mark.parametrize(
    ("field", "value"), [(question.field, school.value) for question in QUESTIONS for school in question.schools]
)
def test_every_school_gives_a_recipe_for_every_use(use, field, value):
    shape = TREE if "tree" in use else BED
    planned = plot(use=use, shape=shape, wanted_mm=USUAL_DEPTH[use].proposed.value)
    recipe = recipe_of(planned, Setting(practice=Practice(**{field: value})))
    assert 0 <= recipe.least_mm <= max(50, recipe.target_mm)
    assert 0 < recipe.laid_share <= 1


def test_thin_and_often_lays_less_on_beds_alone():
    thin = Practice(rhythm="thin_often")
    assert proposed(thin).depth.value == 40
    assert proposed(thin, use=Use.FOOT_PATH).depth.value == proposed(use=Use.FOOT_PATH).depth.value


def test_a_green_part_is_for_trees_alone():
    quarter, green = Practice(rhythm="quarter"), Practice(living="keep_green")
    assert proposed(quarter, use=Use.ESTABLISHED_TREE, shape=TREE).laid_share == 1, "each autumn another quarter"
    assert proposed(green, use=Use.YOUNG_TREE, shape=TREE).laid_share == 0.75
    assert proposed(green).laid_share == 1
    half = TREE.model_copy(update={"part": 0.5})
    assert proposed(green, use=Use.YOUNG_TREE, shape=half).laid_share == 1, "the part is measured already"


def test_cautious_people_get_compost_beneath_beds():
    cautious = Practice(nitrogen="cautious")
    assert proposed(cautious).compost_mm == 25
    assert proposed(cautious, use=Use.FOOT_PATH).compost_mm == 0
    assert proposed().compost_mm == 0


def test_cardboard_lies_over_what_grows_unless_depth_alone_is_trusted():
    assert proposed(use=Use.LAWN_TO_CONVERT).cardboard
    assert proposed(cover="running_grass").cardboard
    assert not proposed(cover="annual_weeds").cardboard
    assert not proposed(Practice(cover="depth_alone"), use=Use.LAWN_TO_CONVERT).cardboard


def test_ground_decides_depth_and_material():
    assert proposed(use=Use.ESTABLISHED_TREE, shape=TREE, cover="running_grass").depth.value == 200
    assert proposed(soil="clay", compacted=True).depth.value == 125
    assert proposed(soil="clay").depth.value == 75
    assert proposed(use=Use.BANK, slope=Slope(angle_deg="1:3")).material.key == "bark_shredded"
    assert proposed(use=Use.BANK, slope=Slope(angle_deg="1:10")).material.key == "arborist_leafy"
    assert proposed(Practice(vegetables="straw"), use=Use.VEGETABLES).material.key == "straw"
    assert proposed(Practice(vegetables="paths_only"), use=Use.VEGETABLES).depth.value == 0
    assert propose(plot(), Practice(), CATALOGUE["sawdust"]).depth.value == 12


def test_the_narrowest_choice_goes_first():
    wide, quarterly = PracticeChoices(rhythm="thin_often", cover="depth_alone"), PracticeChoices(rhythm="quarter")
    practice = practice_of([wide, quarterly, PracticeChoices()])
    assert (practice.rhythm, practice.cover, practice.nitrogen) == ("quarter", "depth_alone", "where_it_touches")


def test_what_differs_from_the_proposal_is_said_and_layers_stand_from_the_soil_up():
    edits = RecipeEdits(material="bark_shredded", compost_mm=25, cardboard=True, biochar_mm=10, stage="aged")
    recipe = recipe_of(plot(wanted_mm=100, edits=edits), Setting(given_material=CATALOGUE["bark_shredded"]))
    assert set(recipe.overridden) == {"material", "wanted_mm", "cardboard", "compost_mm"}
    roles = [layer.role for layer in recipe.layers]
    assert roles == [LayerRole.SHEET, LayerRole.COMPOST, LayerRole.BIOCHAR, LayerRole.MULCH]
    assert recipe.layers[-1].stage is Stage.AGED
    assert recipe_of(plot(), Setting()).overridden == ()


def test_fresh_wood_wants_a_wider_gap():
    fresh, aged = (
        recipe_of(plot(Use.YOUNG_TREE, TREE, edits=RecipeEdits(stage=stage)), Setting()) for stage in ("fresh", "aged")
    )
    assert (fresh.gap_least_m, aged.gap_least_m) == (0.3, 0.1)
    assert recipe_of(plot(), Setting()).gap_least_m is None


def ordered(planned: PlannedPlot, spare: float, practice=None):
    """Return what lies beneath and what the mulch takes, by role."""
    recipe, more = recipe_of(planned, Setting(practice=practice or Practice())), entered("Spare", spare, "1")
    amounts = {layer.role: layer.amount for layer in beneath(planned, recipe, more, SHIPPED)}
    bare = entered("Existing depth (settled)", 0, "mm")
    amounts[LayerRole.MULCH] = to_target(planned, recipe, bare, more, SHIPPED)
    return amounts


def test_every_layer_is_ordered():
    amounts = ordered(plot(edits=RecipeEdits(compost_mm=25, cardboard=True, biochar_mm=10)), 0.1)
    assert amounts[LayerRole.MULCH].value == pytest.approx(20 * 0.065 / 0.78 * 1.1), "the target is of char and chips"
    assert amounts[LayerRole.COMPOST].value == pytest.approx(20 * 0.025 / 0.8 * 1.1)
    assert amounts[LayerRole.BIOCHAR].value == pytest.approx(20 * 0.010 / 0.85 * 1.1)
    assert (amounts[LayerRole.SHEET].value, amounts[LayerRole.SHEET].unit) == (pytest.approx(24), "m2")


def test_collars_lie_round_trunks():
    row = RingRow(canopy_m=3, trunk_m=0.3, trunk_as="diameter", gap_m=0.15, trees=10, spacing_m=4)
    amounts = ordered(plot(Use.YOUNG_TREE, row, edits=RecipeEdits(biochar_mm=10)), 0.0)
    ground = 10 * math.pi * (0.6**2 - 0.3**2)
    assert amounts[LayerRole.BIOCHAR].value == pytest.approx(ground * 0.01 / 0.85)
    rings = 10 * math.pi * (1.5**2 - 0.3**2)
    assert amounts[LayerRole.MULCH].value == pytest.approx((rings * 0.075 - ground * 0.010) / 0.78, rel=1e-3)


def test_a_vegetable_bed_has_two_depths():
    rows = (
        HoldBack(name="Garlic", rows=2, length_m=4, width_m=0.3, for_good=True),
        HoldBack(name="Lettuces", rows=3, length_m=4, width_m=0.25),
    )
    bed = plot(Use.VEGETABLES, wanted_mm=120, edits=RecipeEdits(hold_backs=rows))
    between_mm, round_plants = 20 - 2 * 4 * 0.3 - 3 * 4 * 0.25, 3 * 4 * 0.25
    ordered_mm = ordered(bed, 0.0)[LayerRole.MULCH]
    assert ordered_mm.value == pytest.approx((between_mm * 0.120 + round_plants * 0.075) / 0.78)
    symbols = {term.symbol for term in ordered_mm.working.terms[1].figure.working.terms}
    assert {"R", "g"} <= symbols, "the working names the rows and their depth"
    deeper = bed.model_copy(update={"recipe": RecipeEdits(hold_backs=rows, growing_mm=90)})
    assert ordered(deeper, 0.0)[LayerRole.MULCH].value == pytest.approx(
        (between_mm * 0.120 + round_plants * 0.090) / 0.78
    )
    assert recipe_of(bed, Setting()).least_mm == pytest.approx(45), "the least depth goes by that round growing plants"
    assert recipe_of(plot(Use.PERENNIALS, wanted_mm=120), Setting()).growing_mm == 120


def test_young_trees_get_guards_where_that_is_the_practice_and_none_twice():
    row = RingRow(canopy_m=3, trunk_m=0.3, gap_m=0.15, trees=12, spacing_m=4)
    guarded = Practice(trunks="hand_and_guard")
    guards = ordered(plot(Use.YOUNG_TREE, row), 0.0, guarded)[LayerRole.GUARD]
    assert (guards.value, guards.unit) == (12, "trees")
    assert LayerRole.GUARD not in ordered(plot(Use.YOUNG_TREE, row, guarded=True), 0.0, guarded)
    assert LayerRole.GUARD not in ordered(plot(Use.ESTABLISHED_TREE, row), 0.0, guarded)
    assert LayerRole.GUARD not in ordered(plot(Use.YOUNG_TREE, row), 0.0)


@given(st.floats(0.05, 1), st.integers(1, 50), st.floats(0.1, 5), st.floats(0.05, 1))
def test_parts_left_green_and_rows_kept_bare_for_good_need_nothing(share, rows, length, width):
    for_good = HoldBack(rows=rows, length_m=length, width_m=width, for_good=True)
    for_now = for_good.model_copy(update={"for_good": False})
    ground = plot_ground(
        plot(Use.YOUNG_TREE, edits=RecipeEdits(laid_share=share, hold_backs=(for_good,))), share, SHIPPED
    )
    assert ground.laid.value == pytest.approx(max(0, 20 * share - rows * length * width))
    assert plot_ground(plot(edits=RecipeEdits(hold_backs=(for_now,))), 1.0, SHIPPED).laid.value == 20


def test_what_a_plot_takes_follows_from_recipe_and_practice_unless_it_is_said():
    offered = list(CATALOGUE.values())
    vegetables = accepted(plot(Use.VEGETABLES), Setting(), offered)
    assert {"arborist_leafy", "arborist_bare"} <= vegetables.materials
    assert vegetables.stages == {Stage.AGEING, Stage.AGED, Stage.DECOMPOSED}, "as the advice on fresh chips has it"
    assert "cocoa_shell" not in vegetables.materials
    as_it_comes = accepted(plot(Use.VEGETABLES), Setting(practice=Practice(freshness="as_it_comes")), offered)
    assert as_it_comes.stages == set(Stage)
    edits = RecipeEdits(accepts=("ramial", "straw"), accepts_stages=(Stage.FRESH,))
    chosen = accepted(plot(Use.VEGETABLES, edits=edits), Setting(), offered)
    assert (chosen.materials, chosen.stages) == ({"ramial", "straw"}, {Stage.FRESH})
    assert chosen.fits(CATALOGUE["ramial"], Stage.FRESH)
    assert not chosen.fits(CATALOGUE["ramial"], Stage.AGED)
    assert chosen.fits(CATALOGUE["straw"], Stage.AGED), "stages are told apart of wood alone"
