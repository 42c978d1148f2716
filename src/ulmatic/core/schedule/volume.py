"""Loose volume to order for a settled depth."""

from collections.abc import Callable

from ulmatic.core.figures import Figure, Mark, Parameter, Source, entered, formula, parameter
from ulmatic.core.materials import Material
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import DepthMeans
from ulmatic.core.recipe.setting import Setting, recipe_of
from ulmatic.core.survey.uses import Use

_PRACTICE = "Common practice, no published source"

TRODDEN = parameter(
    "schedule.settling.trodden",
    "Settling, trodden ground",
    0.35,
    "1",
    0.25,
    0.40,
    Mark.COMMON_PRACTICE,
    f"{_PRACTICE}: more under feet and wheels. The lower end is the least compression of loose-fill surfacing "
    "in US CPSC Publication 325 (from memory); the upper end is a judgement.",
)
"""Loose-to-settled loss under feet and wheels; elsewhere it is the material's own."""

SPARE = parameter(
    "schedule.spare",
    "Spare",
    0.10,
    "1",
    0.05,
    0.15,
    Mark.COMMON_PRACTICE,
    f"{_PRACTICE}: edges, spills and soft ground take some.",
)

LOOSE = Source(
    mark=Mark.COMMON_PRACTICE,
    text="Order by loose volume, judge by settled depth: common practice, no published source.",
)


def settling_for(use: Use, material: Material) -> Parameter:
    """Return the loose-to-settled loss of a material on ground of this use: under feet and wheels at least theirs.

    Parameters
    ----------
    use : Use
    material : Material
    """
    own = material.settling
    return TRODDEN if use.trodden and own.value < TRODDEN.value else own


def settling_on(use: Use) -> Callable[[Material], float]:
    """Return what tells the settling of any material on ground of this use.

    Parameters
    ----------
    use : Use
    """

    def settling(material: Material) -> float:
        return settling_for(use, material).value

    return settling


def settled_depth(typed_mm: float, means: DepthMeans, use: Use, material: Material) -> float:
    """Return the settled depth of what was typed in the words of a school.

    Parameters
    ----------
    typed_mm : float
    means : DepthMeans
        As spread, or as settled.
    use : Use
    material : Material
    """
    return typed_mm * (1 - settling_for(use, material).value) if means is DepthMeans.SPREAD else typed_mm


def as_settled(plot: PlannedPlot, setting: Setting) -> PlannedPlot:
    """Return a plot whose target was typed in the words of its practice, with the target settled.

    Parameters
    ----------
    plot : PlannedPlot
    setting : Setting
    """
    if setting.practice.depth is DepthMeans.SETTLED:
        return plot
    material = recipe_of(plot, setting).material
    settled = settled_depth(plot.wanted_mm, setting.practice.depth, plot.use, material)
    return plot.model_copy(update={"wanted_mm": settled})


def spread_depth(settled_mm: float, use: Use, material: Material) -> float:
    """Return how deep a settled depth is spread.

    Parameters
    ----------
    settled_mm : float
    use : Use
    material : Material
    """
    return settled_mm / (1 - settling_for(use, material).value)


def layer_volume(material: Material, settled_mm: float, area: Figure, spare: float) -> Figure:
    """Return the loose m³ of a layer beneath the mulch, `settled_mm` deep on `area` (m²).

    Parameters
    ----------
    material : Material
    settled_mm : float
    area : Figure
        m².
    spare : float
        Share, 0 to 1.
    """
    terms = {
        "A": area,
        "d": entered("Settled depth", settled_mm, "mm"),
        "s": material.settling,
        "w": entered("Spare", spare, "1"),
    }
    return formula("A * d / (1 - s) * (1 + w)").work("Loose volume", "m3", terms, source=LOOSE)


def loose_volume(area: Figure, wanted: Figure, existing: Figure, settling: Figure, spare: Figure) -> Figure:
    """Loose volume that brings ground from its existing to its wanted settled depth.

    Parameters
    ----------
    area : Figure
        m².
    wanted, existing : Figure
        Settled depths, mm.
    settling, spare : Figure
        Shares of one; settling below 1.

    Returns
    -------
    Figure
        m³, with the range that follows from the settling; never negative.
    """
    return formula("A * max(0, d - d0) / (1 - s) * (1 + w)").work(
        "Loose volume",
        "m3",
        {"A": area, "d": wanted, "d0": existing, "s": settling, "w": spare.brief()},
        source=LOOSE,
        note="What lies there already covers the wanted depth." if existing.value >= wanted.value > 0 else "",
    )
