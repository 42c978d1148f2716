"""What a plot's recipe depends on besides the plot, and the recipe and advice that follow, remembered."""

from functools import lru_cache

from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Hazard, Material, Stage
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.recipe.advice import Advice, Case, advise
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import Practice
from ulmatic.core.recipe.proposal import Recipe, recipe
from ulmatic.core.value import Value


class Setting(Value):
    """Around a plot.

    Attributes
    ----------
    practice : Practice
        That holds for the plot.
    usual, given_material : Material
        What the site lays, and what was chosen for the plot, if anything.
    stage : Stage or None
        Where it follows from the day it was chipped.
    fire_district : bool
    parameters : Parameters
        That hold for the site.
    """

    practice: Practice = Practice()
    usual: Material = CATALOGUE[USUAL_MATERIAL]
    given_material: Material | None = None
    stage: Stage | None = None
    fire_district: bool = False
    parameters: Parameters = SHIPPED


@lru_cache(maxsize=8192)
def recipe_of(plot: PlannedPlot, setting: Setting, existing_mm: float = 0.0) -> Recipe:
    """Return the recipe of a plot on which mulch lies `existing_mm` deep, settled.

    Parameters
    ----------
    plot : PlannedPlot
    setting : Setting
    existing_mm : float

    Returns
    -------
    Recipe
    """
    return recipe(
        plot,
        setting.practice,
        setting.usual,
        setting.given_material,
        setting.stage,
        existing_mm,
        parameters=setting.parameters,
    )


@lru_cache(maxsize=8192)
def advice_of(
    plot: PlannedPlot, setting: Setting, existing_mm: float = 0.0, worries: frozenset[Hazard] = frozenset()
) -> tuple[Advice, ...]:
    """Return the advice on a plot's recipe, the gravest first.

    Parameters
    ----------
    plot : PlannedPlot
    setting : Setting
    existing_mm : float
    worries : frozenset of Hazard
        What is feared of the loads that lie there.

    Returns
    -------
    tuple of Advice
    """
    planned = recipe_of(plot, setting, existing_mm)
    case = Case(
        plot=plot,
        recipe=planned,
        material=planned.material,
        stage=setting.stage or plot.recipe.stage or Stage.FRESH,
        existing_mm=existing_mm,
        fire_district=setting.fire_district,
        worries=worries,
    )
    return advise(case)
