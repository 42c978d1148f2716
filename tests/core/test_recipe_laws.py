"""What must hold of every recipe, whatever the plot, the material and the practice."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.figures import entered
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.parameters import SHIPPED
from ulmatic.core.recipe import (
    QUESTIONS,
    LayerRole,
    PlannedPlot,
    Practice,
    RecipeEdits,
    Setting,
    advice_of,
    recipe_of,
)
from ulmatic.core.schedule.amounts import beneath, plot_ground, to_target
from ulmatic.core.survey import Rectangle, Ring, SiteConditions, Slope, Use

choices = st.fixed_dictionaries(
    {question.field: st.sampled_from([school.value for school in question.schools]) for question in QUESTIONS}
)
practices = choices.map(lambda chosen: Practice(**chosen))
materials = st.sampled_from([question for question in CATALOGUE.values() if question.key != "cardboard"])
shapes = st.builds(Rectangle, length_m=st.floats(0.5, 50), width_m=st.floats(0.5, 50)) | st.builds(
    Ring, canopy_m=st.floats(2, 20), trunk_m=st.floats(0.1, 2), gap_m=st.floats(0, 0.5), trees=st.integers(1, 9)
)
conditions = st.builds(
    SiteConditions,
    cover=st.sampled_from([None, "bare", "annual_weeds", "running_grass", "lawn", "old_fabric", "old_mulch"]),
    soil=st.sampled_from([None, "sand", "loam", "clay"]),
    compacted=st.sampled_from([None, True, False]),
    pets=st.sampled_from([None, True, False]),
    to_building_m=st.sampled_from([None, 0.1, 1.0, 20.0]),
    to_water_m=st.sampled_from([None, 3.0, 50.0]),
)
edits = st.builds(
    RecipeEdits,
    stage=st.sampled_from([None, "fresh", "ageing", "aged", "decomposed"]),
    cardboard=st.sampled_from([None, True, False]),
    compost_mm=st.sampled_from([None, 0.0, 25.0]),
    biochar_mm=st.sampled_from([None, 10.0]),
    laid_share=st.sampled_from([None, 0.25, 0.75, 1.0]),
    dug_in=st.booleans(),
)
plots = st.builds(
    PlannedPlot,
    name=st.just("plot"),
    use=st.sampled_from(Use),
    shape=shapes,
    slope=st.sampled_from([None, Slope(angle_deg=5), Slope(angle_deg=18), Slope(angle_deg=30)]),
    found=conditions,
    wanted_mm=st.sampled_from([0.0, 12.0, 40.0, 75.0, 150.0, 300.0]),
    recipe=edits,
)
settings_ = st.builds(
    Setting, practice=practices, usual=materials, own=st.none() | materials, fire_district=st.booleans()
)


depths = st.sampled_from([0.0, 20.0, 90.0])


@given(plots, settings_, depths)
def test_a_recipe_never_lays_more_than_is_wanted_nor_less_than_nothing(plot, setting, existing):
    recipe = recipe_of(plot, setting, existing)
    mulch = [layer.settled_mm for layer in recipe.layers if layer.role is LayerRole.MULCH]
    assert sum(mulch) == pytest.approx(max(0.0, plot.wanted_mm - existing))
    assert [layer.role for layer in recipe.layers] == sorted(
        (layer.role for layer in recipe.layers), key=list(LayerRole).index
    ), "from the soil up"
    assert recipe.proposal.reasons
    assert 0 <= recipe.least_mm <= max(recipe.target_mm, 0.6 * recipe.target_mm)
    assert (recipe.gap_m is None) == isinstance(plot.shape, Rectangle)


@given(plots, settings_, st.floats(0, 0.5), depths)
def test_every_amount_is_finite_positive_and_within_its_range(plot, setting, spare, existing):
    recipe = recipe_of(plot, setting, existing)
    more, ground = entered("Spare", spare, "1"), plot_ground(plot, recipe.laid_share, SHIPPED)
    assert 0 <= ground.laid.value <= ground.ground.area.value + 1e-9
    mulch = to_target(plot, recipe, entered("Existing depth (settled)", existing, "mm"), more, SHIPPED)
    layers = [(layer.role, layer.amount) for layer in beneath(plot, recipe, more, SHIPPED)]
    for role, figure in [*layers, (LayerRole.MULCH, mulch)]:
        assert math.isfinite(figure.value)
        assert figure.value >= 0
        if figure.low is not None:
            assert figure.low - 1e-9 <= figure.value <= figure.high + 1e-9
        assert figure.unit == {LayerRole.SHEET: "m2", LayerRole.GUARD: "trees"}.get(role, "m3")


@given(plots, settings_, depths)
def test_advice_never_fails_never_repeats_itself_and_is_the_same_again(plot, setting, existing):
    given_once = [advice.rule for advice in advice_of(plot, setting, existing)]
    assert len(set(given_once)) == len(given_once)
    advice_of.cache_clear()
    assert [advice.rule for advice in advice_of(plot, setting, existing)] == given_once


@given(plots, settings_)
def test_taking_the_proposal_leaves_nothing_overridden(plot, setting):
    proposal = recipe_of(plot, setting).proposal
    accepted = plot.model_copy(update={"wanted_mm": proposal.depth.value, "recipe": RecipeEdits()})
    second = recipe_of(accepted, setting.model_copy(update={"given_material": None}))
    assert second.overridden == ()
