"""What a laying takes beside its mulch, and the ground it covers."""

from collections.abc import Sequence
from functools import lru_cache

from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.materials import Stage
from ulmatic.core.recipe import COLLAR, HoldBack, LayerRole, PlannedPlot, Recipe, trees_of
from ulmatic.core.schedule.growth import grown
from ulmatic.core.schedule.volume import layer_volume, loose_volume, settling_for
from ulmatic.core.survey.ground import Ground, ground


class LayerAmount(BaseModel):
    """One layer's share of what is laid: loose m³, or m² of a sheet with its overlaps."""

    model_config = ConfigDict(frozen=True)
    role: LayerRole
    material: str
    name: str
    settled_mm: float
    stage: Stage
    amount: Figure


class PlotGround(BaseModel):
    """The ground of a plot, and what of it is laid."""

    model_config = ConfigDict(frozen=True)
    ground: Ground
    laid: Figure


def laid_area(area: Figure, share: float, held: Sequence[HoldBack]) -> Figure:
    """Return the m² that are laid: a share of the ground, without the places kept bare for good.

    Parameters
    ----------
    area : Figure
        m².
    share : float
        0 to 1.
    held : sequence of HoldBack
    """
    bare = [hold_back for hold_back in held if hold_back.for_good]
    if share >= 1 and not bare:
        return area
    terms: dict[str, Figure] = {"A": area, "f": entered("Share that is laid", share, "1")}
    text = "A * f"
    for number, hold_back in enumerate(bare, 1):
        terms |= {
            f"n{number}": entered(f"{hold_back.name}, rows", hold_back.rows, "1"),
            f"l{number}": entered(f"{hold_back.name}, length", hold_back.length_m, "m"),
            f"b{number}": entered(f"{hold_back.name}, width", hold_back.width_m, "m"),
        }
        text += f" - n{number} * l{number} * b{number}"
    return formula(f"max(0, {text})").work("Ground laid", "m2", terms)


@lru_cache(maxsize=8192)
def plot_ground(plot: PlannedPlot, laid_share: float, years: int = 0) -> PlotGround:
    """Return the ground of a plot after so many years of growth, with the share of it that is laid.

    Parameters
    ----------
    plot : PlannedPlot
    laid_share : float
        0 to 1.
    years : int
    """
    shape = grown(plot.shape, plot.use, years, plot.found.growth_m)
    whole = ground(shape, plot.cut_outs, plot.slope)
    return PlotGround(ground=whole, laid=laid_area(whole.area, laid_share, plot.recipe.hold_backs))


def beneath(plot: PlannedPlot, recipe: Recipe, spare: float) -> tuple[LayerAmount, ...]:
    """Return what is laid beneath the mulch of a plot: sheets, compost and char.

    Parameters
    ----------
    plot : PlannedPlot
    recipe : Recipe
    spare : float
        Share, 0 to 1.
    """
    ground = plot_ground(plot, recipe.laid_share)
    amounts = []
    for layer in recipe.layers:
        match layer.role:
            case LayerRole.SHEET:
                amount = ground.ground.cardboard
            case LayerRole.COMPOST:
                amount = layer_volume(layer.material, layer.settled_mm, ground.laid, spare)
            case LayerRole.BIOCHAR:
                amount = layer_volume(layer.material, layer.settled_mm, _collars(plot, ground.laid), spare)
            case LayerRole.MULCH:
                continue
        amounts.append(
            LayerAmount(
                role=layer.role, material=layer.material.key, name=layer.material.name, settled_mm=layer.settled_mm,
                stage=layer.stage, amount=amount.model_copy(update={"name": layer.material.name}),
            )
        )  # fmt: skip
    return tuple(amounts)


def to_target(plot: PlannedPlot, recipe: Recipe, existing: Figure, spare: float) -> Figure:
    """Return the loose m³ that bring a plot to its target today, with spare.

    Parameters
    ----------
    plot : PlannedPlot
    recipe : Recipe
    existing : Figure
        Settled depth, mm.
    spare : float
        Share, 0 to 1.
    """
    return loose_volume(
        plot_ground(plot, recipe.laid_share).laid,
        wanted=entered("Target depth, settled", plot.wanted_mm, "mm"),
        existing=existing,
        settling=settling_for(plot.use, recipe.material),
        spare=entered("Spare", spare, "1"),
    )


def _collars(plot: PlannedPlot, laid: Figure) -> Figure:
    """Ground of the collars round all trunks; without trunks all that is laid."""
    trees = trees_of(plot)
    if not trees:
        return laid
    inner = float(getattr(plot.shape, "inner_radius_m", 0.0))
    terms = {"n": entered("Trees", trees, "trees"), "r": entered("Trunk and gap", inner, "m"), "c": COLLAR}
    return formula("n * pi * ((r + c)**2 - r**2)").work("Collars", "m2", terms)
