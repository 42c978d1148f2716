"""Loose volume to order for a settled depth."""

from collections.abc import Callable
from typing import NamedTuple

from ulmatic.core.figures import Figure, Mark, Parameter, Source, entered, formula
from ulmatic.core.log import Laid
from ulmatic.core.materials import Material
from ulmatic.core.parameters import Parameters
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import DepthMeans
from ulmatic.core.recipe.setting import Setting, recipe_of
from ulmatic.core.survey.uses import Use
from ulmatic.core.tables import read_parameter

TRODDEN = read_parameter("schedule.settling.trodden")
"""Loose-to-settled loss under feet and wheels; elsewhere it is the material's own."""

SPARE = read_parameter("schedule.spare")

LOOSE = Source(
    mark=Mark.COMMON_PRACTICE,
    text="Order by loose volume, judge by settled depth: common practice, no published source.",
)


def settling_for(use: Use, material: Material, parameters: Parameters) -> Parameter:
    """Return the loose-to-settled loss of a material on ground of this use: under feet and wheels at least theirs.

    Parameters
    ----------
    use : Use
    material : Material
    parameters : Parameters

    Returns
    -------
    Parameter
        Between 0 and 1.
    """
    loose_settling, trodden = material.settling, parameters.of(TRODDEN)
    return trodden if use.trodden and loose_settling.value < trodden.value else loose_settling


def settling_on(use: Use, parameters: Parameters) -> Callable[[Material], float]:
    """Return what tells the settling of any material on ground of this use.

    Parameters
    ----------
    use : Use
    parameters : Parameters

    Returns
    -------
    callable
        Shares between 0 and 1, by material.
    """

    def settling(material: Material) -> float:
        return settling_for(use, material, parameters).value

    return settling


def settled_depth(typed_mm: float, setting: Setting, use: Use, material: Material) -> float:
    """Return the settled depth of what was typed in the words of a school.

    Parameters
    ----------
    typed_mm : float
    setting : Setting
        Whose practice says whether depths are typed as spread or as settled.
    use : Use
    material : Material

    Returns
    -------
    float
        mm.
    """
    if setting.practice.depth is DepthMeans.SETTLED:
        return typed_mm
    return typed_mm * (1 - settling_for(use, material, setting.parameters).value)


def typed_depth(settled_mm: float, setting: Setting, use: Use, material: Material) -> float:
    """Return a settled depth in the words of a school, as it would be typed.

    Parameters
    ----------
    settled_mm : float
    setting : Setting
        Whose practice says whether depths are typed as spread or as settled.
    use : Use
    material : Material

    Returns
    -------
    float
        mm.
    """
    if setting.practice.depth is DepthMeans.SETTLED:
        return settled_mm
    return spread_depth(settled_mm, use, material, setting.parameters)


def as_settled(plot: PlannedPlot, setting: Setting) -> PlannedPlot:
    """Return a plot whose depths were typed in the words of its practice, with its mulch depths settled.

    Parameters
    ----------
    plot : PlannedPlot
    setting : Setting

    Returns
    -------
    PlannedPlot
    """
    if setting.practice.depth is DepthMeans.SETTLED:
        return plot
    material = recipe_of(plot, setting).material
    growing_mm = plot.recipe.growing_mm
    growing = None if growing_mm is None else settled_depth(growing_mm, setting, plot.use, material)
    return plot.model_copy(
        update={
            "wanted_mm": settled_depth(plot.wanted_mm, setting, plot.use, material),
            "recipe": plot.recipe.model_copy(update={"growing_mm": growing}),
        }
    )


def spread_depth(settled_mm: float, use: Use, material: Material, parameters: Parameters) -> float:
    """Return how deep a settled depth is spread.

    Parameters
    ----------
    settled_mm : float
    use : Use
    material : Material
    parameters : Parameters

    Returns
    -------
    float
        Loose mm.
    """
    return settled_mm / (1 - settling_for(use, material, parameters).value)


class LaidDepths(NamedTuple):
    """How deep mulch lies that is being laid, settled and as it is spread (mm), and how much that is, loose (m³)."""

    settled_mm: float
    spread_mm: float
    volume_m3: float


def laid_depths(laying: Laid, area_m2: float, setting: Setting, use: Use, material: Material) -> LaidDepths | None:
    """Return what mulch that is being laid comes to; None where neither depth nor volume is told.

    Parameters
    ----------
    laying : Laid
        Its depth in the words of the school.
    area_m2 : float
        Of the whole ground.
    setting : Setting
    use : Use
    material : Material

    Returns
    -------
    LaidDepths or None
    """
    depth_mm = None if laying.depth_mm is None else settled_depth(laying.depth_mm, setting, use, material)
    settling = settling_for(use, material, setting.parameters).value
    loose_mm = laying.model_copy(update={"depth_mm": depth_mm}).loose_mm(area_m2, settling)
    if loose_mm is None:
        return None
    return LaidDepths(loose_mm * (1 - settling), loose_mm, loose_mm / 1000 * area_m2 * laying.share)


def layer_volume(material: Material, settled_mm: float, area: Figure, spare: Figure) -> Figure:
    """Return the loose m³ of a layer beneath the mulch, `settled_mm` deep on `area` (m²).

    Parameters
    ----------
    material : Material
    settled_mm : float
    area : Figure
        m².
    spare : Figure
        Share, 0 to 1.

    Returns
    -------
    Figure
    """
    terms = {
        "A": area,
        "d": entered("Settled depth", settled_mm, "mm"),
        "s": material.settling,
        "w": spare.certain(),
    }
    return formula("A * d / (1 - s) * (1 + w)").work("Loose volume", "m3", terms, source=LOOSE)


def loose_volume(area: Figure, target: Figure, existing: Figure, settling: Figure, spare: Figure) -> Figure:
    """Loose volume that brings ground from its existing to its wanted settled depth.

    Parameters
    ----------
    area : Figure
        m².
    target, existing : Figure
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
        {"A": area, "d": target, "d0": existing, "s": settling, "w": spare.certain()},
        source=LOOSE,
        note="The existing depth reaches the target depth." if existing.value >= target.value > 0 else "",
    )
