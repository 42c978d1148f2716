"""Which materials a plot accepts, by its recipe and by advice."""

from collections.abc import Sequence

from ulmatic.core.materials import Material
from ulmatic.core.recipe import PlannedPlot, Setting, Severity, advice_of, recipe_of

_AGAINST = (Severity.STOP, Severity.ACT)


def accepted(plot: PlannedPlot, setting: Setting, offered: Sequence[Material]) -> frozenset[str]:
    """Return the keys of materials that may be laid as mulch on a plot.

    What was chosen for the plot by hand is the only one. Otherwise it is what the recipe proposes, and of what is
    offered every woody material that brings no grave advice which the proposed one does not.
    """
    if setting.own is not None:
        return frozenset([setting.own.key])
    proposed = recipe_of(plot, setting).proposal.material
    grave = _grave(plot, setting)
    fits = [
        one.key
        for one in offered
        if one.key != proposed.key and one.woody and _grave(plot, setting.model_copy(update={"own": one})) <= grave
    ]
    return frozenset([proposed.key, *fits])


def _grave(plot: PlannedPlot, setting: Setting) -> frozenset[str]:
    return frozenset(one.rule for one in advice_of(plot, setting) if one.severity in _AGAINST)
