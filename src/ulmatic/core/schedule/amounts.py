"""What a laying takes beside its mulch, and the ground it covers."""

from collections.abc import Sequence
from functools import lru_cache

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.materials import Stage
from ulmatic.core.parameters import Parameters
from ulmatic.core.recipe import COLLAR, HoldBack, LayerRole, PlannedPlot, Recipe
from ulmatic.core.schedule.growth import grown
from ulmatic.core.schedule.volume import layer_volume, loose_volume, settling_for
from ulmatic.core.survey.ground import Ground, ground
from ulmatic.core.survey.shapes import trees_of
from ulmatic.core.value import Value

GUARD = "trunk_guard"
"""Stands for a guard where materials are named."""


class LayerAmount(Value):
    """What is laid of one layer: loose m³, m² of a sheet with its overlaps, or guards by the tree."""

    role: LayerRole
    material: str
    name: str
    settled_mm: float
    stage: Stage
    amount: Figure


class PlotGround(Value):
    """The ground of a plot, what of it is laid, and the rows of that with growing plants, m²."""

    ground: Ground
    laid: Figure
    growing_m2: float


def laid_area(area: Figure, share: float, hold_backs: Sequence[HoldBack]) -> Figure:
    """Return the m² that are laid: a share of the ground, without the places kept bare for good.

    Parameters
    ----------
    area : Figure
        m².
    share : float
        0 to 1.
    hold_backs : sequence of HoldBack

    Returns
    -------
    Figure
    """
    bare = [hold_back for hold_back in hold_backs if hold_back.for_good]
    if share >= 1 and not bare:
        return area
    terms: dict[str, Figure] = {"A": area, "f": entered("Share that is laid", share, "1")}
    text = "A * f"
    for number, hold_back in enumerate(bare, 1):
        terms |= {
            f"n{number}": entered(f"{hold_back.name}, rows", hold_back.rows, "number"),
            f"l{number}": entered(f"{hold_back.name}, length", hold_back.length_m, "m"),
            f"b{number}": entered(f"{hold_back.name}, width", hold_back.width_m, "m"),
        }
        text += f" - n{number} * l{number} * b{number}"
    return formula(f"max(0, {text})").work("Ground laid", "m2", terms)


@lru_cache(maxsize=8192)
def plot_ground(plot: PlannedPlot, laid_share: float, parameters: Parameters, years: int = 0) -> PlotGround:
    """Return the ground of a plot after so many years of growth, with the share of it that is laid.

    Parameters
    ----------
    plot : PlannedPlot
    laid_share : float
        0 to 1.
    parameters : Parameters
    years : int

    Returns
    -------
    PlotGround
    """
    shape = grown(plot.shape, plot.use, years, plot.site_conditions.growth_m, parameters)
    area = ground(shape, plot.cut_outs, plot.slope, parameters)
    laid = laid_area(area.area, laid_share, plot.recipe.hold_backs)
    rows = [row for row in plot.recipe.hold_backs if not row.for_good]
    growing = sum(row.rows * row.length_m * row.width_m for row in rows)
    return PlotGround(ground=area, laid=laid, growing_m2=min(growing, laid.value))


def mulch_depth(plot: PlannedPlot, recipe: Recipe, parameters: Parameters, opened_m2: float = 0.0) -> Figure:
    """Return the settled depth of mulch that is wanted, in mm, on the mean over the ground that is laid.

    That is the target, but in rows with growing plants, and where char lies beneath it in the collars round trunks:
    there the target is that of char and chips together.

    Parameters
    ----------
    plot : PlannedPlot
    recipe : Recipe
    parameters : Parameters
    opened_m2 : float
        Rows that are open, or with plants growing in them, by the log.

    Returns
    -------
    Figure
    """
    target = entered("Target depth, settled", recipe.target_mm, "mm")
    ground = plot_ground(plot, recipe.laid_share, parameters)
    terms: dict[str, Figure] = {"d": target, "A": ground.laid.certain()}
    text = "A * d"
    growing_m2 = min(ground.growing_m2 + opened_m2, ground.laid.value)
    if growing_m2 > 0 and recipe.growing_mm < recipe.target_mm:
        terms["R"] = entered("Rows with growing plants", growing_m2, "m2")
        terms["g"] = entered("Depth round growing plants, settled", recipe.growing_mm, "mm")
        text += " - R * (d - g)"
    char = next((layer for layer in recipe.layers if layer.role is LayerRole.BIOCHAR), None)
    if char is not None:
        terms["C"] = _collars(plot, ground.laid, parameters).certain()
        terms["b"] = entered("Char beneath", char.settled_mm, "mm")
        text += " - min(A, C) * min(b, d)"
    if len(terms) == 2 or ground.laid.value <= 0:
        return target
    return formula(f"max(0, {text}) / A").work("Target depth, settled, on the mean", "mm", terms)


def beneath(plot: PlannedPlot, recipe: Recipe, spare: Figure, parameters: Parameters) -> tuple[LayerAmount, ...]:
    """Return what goes with the mulch of a plot: sheets, compost and char beneath it, guards round trunks.

    Parameters
    ----------
    plot : PlannedPlot
    recipe : Recipe
    spare : Figure
        Share, 0 to 1.
    parameters : Parameters

    Returns
    -------
    tuple of LayerAmount
    """
    ground = plot_ground(plot, recipe.laid_share, parameters)
    amounts = []
    for layer in recipe.layers:
        match layer.role:
            case LayerRole.SHEET:
                amount = ground.ground.cardboard
            case LayerRole.COMPOST:
                amount = layer_volume(layer.material, layer.settled_mm, ground.laid, spare)
            case LayerRole.BIOCHAR:
                amount = layer_volume(layer.material, layer.settled_mm, _collars(plot, ground.laid, parameters), spare)
            case _:
                continue
        amounts.append(
            LayerAmount(
                role=layer.role,
                material=layer.material.key,
                name=layer.material.name,
                settled_mm=layer.settled_mm,
                stage=layer.stage,
                amount=amount.model_copy(update={"name": layer.material.name}),
            )
        )
    if recipe.guards:
        trees = entered("Trunk guards", recipe.guards, "trees")
        amounts.append(
            LayerAmount(
                role=LayerRole.GUARD,
                material=GUARD,
                name="Trunk guards",
                settled_mm=0.0,
                stage=Stage.FRESH,
                amount=trees,
            )
        )
    return tuple(amounts)


def to_target(
    plot: PlannedPlot, recipe: Recipe, existing: Figure, spare: Figure, parameters: Parameters, opened_m2: float = 0.0
) -> Figure:
    """Return the loose m³ that bring a plot to its target today, with spare.

    Parameters
    ----------
    plot : PlannedPlot
    recipe : Recipe
    existing : Figure
        Settled depth, mm.
    spare : Figure
        Share, 0 to 1.
    parameters : Parameters
    opened_m2 : float
        Rows that are open, or with plants growing in them, by the log.

    Returns
    -------
    Figure
    """
    return loose_volume(
        plot_ground(plot, recipe.laid_share, parameters).laid,
        target=mulch_depth(plot, recipe, parameters, opened_m2),
        existing=existing,
        settling=settling_for(plot.use, recipe.material, parameters),
        spare=spare,
    )


def _collars(plot: PlannedPlot, area: Figure, parameters: Parameters) -> Figure:
    """Ground of the collars round all trunks; without trunks all that is laid.

    Returns
    -------
    Figure
    """
    trees = trees_of(plot.shape)
    if not trees:
        return area
    inner = float(getattr(plot.shape, "inner_radius_m", 0.0))
    terms = {
        "n": entered("Trees", trees, "trees"),
        "r": entered("Trunk and gap", inner, "m"),
        "c": parameters.of(COLLAR),
    }
    return formula("n * pi * ((r + c)**2 - r**2)").work("Collars", "m2", terms)
