"""What each plot gets: usual depths, practices, the proposal, the recipe and advice on it."""

from ulmatic.core.recipe.acceptance import ALIKE, EVERY_STAGE, Accepted, accepted
from ulmatic.core.recipe.advice import RULES, Advice, Case, Severity, advice_table, advise
from ulmatic.core.recipe.planned import HoldBack, PlannedPlot, RecipeEdits
from ulmatic.core.recipe.practice import QUESTIONS, Practice, PracticeChoices, practice_of
from ulmatic.core.recipe.proposal import (
    BUILDING,
    COLLAR,
    COMPOST,
    FINE,
    HUMUS_TO_PLANT,
    LEAST,
    LEAST_PLAY,
    LEAST_VEHICLE,
    OVER_RUNNERS,
    THIN,
    Layer,
    LayerRole,
    Recipe,
    least_depth,
    propose,
    recipe,
)
from ulmatic.core.recipe.setting import Setting, advice_of, recipe_of
from ulmatic.core.recipe.usual_depths import GROWING, USUAL_DEPTH

OTHER_DEPTHS = (
    COMPOST,
    THIN,
    BUILDING,
    OVER_RUNNERS,
    FINE,
    GROWING,
    LEAST,
    LEAST_PLAY,
    LEAST_VEHICLE,
    HUMUS_TO_PLANT,
    COLLAR,
)
"""Shipped figures of recipes beside the usual depths."""
