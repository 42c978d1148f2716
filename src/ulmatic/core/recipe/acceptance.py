"""Which materials a plot accepts as mulch, and how far rotted: by its recipe, its use and practice."""

from collections.abc import Iterable

from ulmatic.core.materials import Material, Size, Stage
from ulmatic.core.recipe.advice import Severity
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import Freshness
from ulmatic.core.recipe.setting import Setting, advice_of, recipe_of
from ulmatic.core.survey.uses import Use
from ulmatic.core.value import Value

_AGAINST = (Severity.STOP, Severity.ACT)
ALIKE = (
    frozenset({"arborist_leafy", "arborist_much_leaf", "arborist_bare"}),
    frozenset({"conifer_needles", "conifer_bare"}),
    frozenset({"bark_shredded", "bark_conifer"}),
    frozenset({"clean_coarse", "heartwood"}),
    frozenset({"leaves_whole", "leaves_shredded"}),
)
"""Materials that are one kind to anybody who lays them: common practice, no source."""
TOO_COARSE = (Size.COARSE, Size.NUGGETS)
"""Not round vegetables: common practice, no source."""
EVERY_STAGE = frozenset(Stage)
AGED_STAGES = EVERY_STAGE - {Stage.FRESH}
"""What a practice takes that keeps fresh chips away, as its advice does."""


class Accepted(Value):
    """What may be laid on a plot: keys of materials, and the stages in which woody ones may be."""

    materials: frozenset[str]
    stages: frozenset[Stage] = EVERY_STAGE

    def fits(self, material: Material, stage: Stage) -> bool:
        """Say whether a material may be laid in a stage.

        Returns
        -------
        bool
        """
        return material.key in self.materials and (not material.woody or stage in self.stages)


def accepted(plot: PlannedPlot, setting: Setting, offered: Iterable[Material]) -> Accepted:
    """Return what may be laid on a plot as mulch.

    What was said for the plot goes first. A material that was chosen for it brings those that are one kind with it.
    Otherwise it is what the recipe proposes, and of what is offered every woody material that brings no grave advice
    which the proposed one does not; round vegetables nothing coarse.

    Parameters
    ----------
    plot : PlannedPlot
    setting : Setting
    offered : iterable of Material
        What lies here, is coming, or can be had.

    Returns
    -------
    Accepted
    """
    edits, planned = plot.recipe, recipe_of(plot, setting).material
    stages = _stages(plot, setting)
    if edits.accepts is not None:
        return Accepted(materials=frozenset(edits.accepts), stages=stages)
    kind = next((family for family in ALIKE if planned.key in family), frozenset({planned.key}))
    if setting.given_material is not None:
        return Accepted(materials=kind, stages=stages)
    grave = _grave(plot, setting)
    fit = {
        material.key
        for material in offered
        if material.woody
        and (plot.use is not Use.VEGETABLES or material.size not in TOO_COARSE)
        and _grave(plot, setting.model_copy(update={"given_material": material})) <= grave
    }
    return Accepted(materials=kind | fit, stages=stages)


def _stages(plot: PlannedPlot, setting: Setting) -> frozenset[Stage]:
    edits, freshness = plot.recipe, setting.practice.freshness
    if edits.accepts_stages is not None:
        return frozenset(edits.accepts_stages)
    if edits.stage is not None:
        order = list(Stage)
        return frozenset(order[order.index(edits.stage) :])
    aged = (freshness is Freshness.AGE_FIRST and plot.use.record.planted) or (
        freshness is Freshness.AGED_FOR_VEGETABLES and plot.use is Use.VEGETABLES
    )
    return AGED_STAGES if aged else EVERY_STAGE


def _grave(plot: PlannedPlot, setting: Setting) -> frozenset[str]:
    return frozenset(advice.rule for advice in advice_of(plot, setting) if advice.severity in _AGAINST)
