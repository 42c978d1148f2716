"""The shapes ground is measured as, each with its area and the working behind it.

Every shape is a frozen value in metres. Its measured fields also take typed text, read in the units of
`ulmatic.core.units.bare_numbers_in`.
"""

from typing import Annotated

from pydantic import Field

from ulmatic.core.survey.shapes.base import BaseShape, Dimension, disc
from ulmatic.core.survey.shapes.lines import Offsets, Path
from ulmatic.core.survey.shapes.plain import Ellipse, Polygon, Rectangle, Triangle
from ulmatic.core.survey.shapes.trees import Ring, RingBlock, RingRow, Strip
from ulmatic.core.survey.shapes.walked import Walked

Shape = Annotated[
    Rectangle | Triangle | Ellipse | Polygon | Offsets | Path | Ring | RingRow | RingBlock | Strip | Walked,
    Field(discriminator="kind"),
]


def trees_of(shape: Shape) -> int:
    """Return how many trees stand on a shape; 0 where it is not of trees.

    Parameters
    ----------
    shape : Shape

    Returns
    -------
    int
    """
    if isinstance(shape, RingBlock):
        return shape.rows * shape.trees
    return shape.trees if isinstance(shape, Ring | RingRow | Strip) else 0
