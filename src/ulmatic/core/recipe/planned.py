"""What was decided for one plot beyond its measurements: material, layers, gaps, and the practice there."""

from datetime import date
from typing import Annotated, Any

from pydantic import BeforeValidator, ConfigDict, Field

from ulmatic.core.materials import Stage
from ulmatic.core.recipe.practice import PracticeChoices
from ulmatic.core.survey.plot import Name, Plot
from ulmatic.core.units import Depth, Length, Share
from ulmatic.core.value import Value


class HoldBack(Value):
    """Rows of so long and so wide: bare `for_good`, or pulled back and covered round plants once they are up."""

    model_config = ConfigDict(extra="forbid")
    name: Name = "Sown rows"
    rows: int = Field(default=1, ge=1, le=1_000)
    length_m: Length
    width_m: Length
    for_good: bool = False


class RecipeEdits(Value):
    """What differs from the proposal; None keeps it.

    Attributes
    ----------
    material : str or None
        Key of the catalogue or id of an own material.
    stage : Stage or None
        How far it has rotted when it is laid; `chipped_on` goes before it.
    growing_mm : float or None
        Settled depth round growing plants, on vegetable beds.
    laid_share : float or None
        Share of a tree's ground that is laid; the rest stays living.
    dug_in : bool
        The first layer is mixed into the soil; later ones lie on top.
    accepts : tuple of str or None
        Keys of the materials that may be laid as mulch, where that was said; None leaves it to recipe and practice.
    accepts_stages : tuple of Stage or None
        How far rotted they may be.
    """

    model_config = ConfigDict(extra="forbid")
    material: Annotated[str, Field(max_length=80)] | None = None
    stage: Stage | None = None
    chipped_on: date | None = None
    cardboard: bool | None = None
    compost_mm: Depth | None = None
    biochar_mm: Depth | None = None
    growing_mm: Depth | None = None
    laid_share: Share | None = None
    hold_backs: Annotated[tuple[HoldBack, ...], Field(max_length=20)] = ()
    dug_in: bool = False
    accepts: Annotated[tuple[Annotated[str, Field(max_length=80)], ...], Field(max_length=60)] | None = None
    accepts_stages: Annotated[tuple[Stage, ...], Field(max_length=4)] | None = None
    practice: PracticeChoices = PracticeChoices()


def _nothing_is_empty(value: Any) -> Any:
    return {} if value is None else value


class PlannedPlot(Plot):
    """A plot as measured, with what was decided for it; `wanted_mm` is the target depth of its mulch, settled."""

    model_config = ConfigDict(frozen=True)
    recipe: Annotated[RecipeEdits, BeforeValidator(_nothing_is_empty)] = RecipeEdits()
