"""Trees grow: rings widen with the canopy, and rows close into strips."""

from ulmatic.core.parameters import Parameters
from ulmatic.core.survey.shapes import Ring, RingRow, Shape
from ulmatic.core.survey.uses import Use
from ulmatic.core.tables import read_parameter

YOUNG_M = read_parameter("schedule.growth_young")
ESTABLISHED_M = read_parameter("schedule.growth_established")
WIDEST = 2.0
"""A ring does not widen beyond twice the canopy it was measured with: a judgement, no source."""
PARAMETERS = (YOUNG_M, ESTABLISHED_M)
BY_USE = {Use.YOUNG_TREE: YOUNG_M, Use.ESTABLISHED_TREE: ESTABLISHED_M}


def growth_of(use: Use, noted_m: float | None, parameters: Parameters) -> float:
    """Return by how many metres a canopy widens in a year: as noted of the plot, else as is usual for its use.

    Parameters
    ----------
    use : Use
    noted_m : float or None
        m a year.
    parameters : Parameters

    Returns
    -------
    float
        m.
    """
    if noted_m is not None:
        return noted_m
    return parameters.of(BY_USE[use]).value if use in BY_USE else 0.0


def grown(shape: Shape, use: Use, years: float, noted_m: float | None, parameters: Parameters) -> Shape:
    """Return a shape as its trees will have it after so many years; others stay as they are.

    Parameters
    ----------
    shape : Shape
    use : Use
    years : float
    noted_m : float or None
        m a year.
    parameters : Parameters

    Returns
    -------
    Shape
    """
    if not isinstance(shape, Ring | RingRow) or years <= 0:
        return shape
    canopy = min(shape.canopy_m * WIDEST, shape.canopy_m + growth_of(use, noted_m, parameters) * years)
    return shape.model_copy(update={"canopy_m": canopy})


def closes_in(
    shape: Shape, use: Use, noted_m: float | None, parameters: Parameters, most_years: int = 40
) -> int | None:
    """Return after how many years the rings of a row touch; 0 where they do already, None where they never will.

    Parameters
    ----------
    shape : Shape
    use : Use
    noted_m : float or None
        m a year.
    parameters : Parameters
    most_years : int

    Returns
    -------
    int or None
        Years.
    """
    if not isinstance(shape, RingRow) or shape.trees < 2:
        return None
    for years in range(most_years + 1):
        ring = grown(shape, use, years, noted_m, parameters)
        if isinstance(ring, RingRow) and 2 * ring.outer_radius_m >= ring.spacing_m:
            return years
    return None
