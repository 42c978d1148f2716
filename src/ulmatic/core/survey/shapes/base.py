"""What all shapes share: their geometry, trunks and the dimensions drawn beside them."""

import math
from collections.abc import Sequence

import numpy as np
import shapely
from pydantic import ConfigDict
from pydantic_core import PydanticCustomError
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from ulmatic.core.figures import Figure, Mark, Source, entered
from ulmatic.core.value import Value

GEOMETRY = Source(mark=Mark.DEFINITION, text="Plane geometry.")
DRAWN_SEGMENTS, MEASURED_SEGMENTS = 16, 64
"""Straight pieces in a quarter circle, for drawing and for measuring."""

XY = tuple[float, float]


class Dimension(Value):
    """A dimension line of the drawing.

    Attributes
    ----------
    field : str
        The measured field it shows, with the index in a list: ``length_m``, ``legs_m.1``.
    value_m : float
        What it says, in metres.
    points : tuple of (x, y)
        From end to end, in metres.
    outward : float
        How far beside its points the line is drawn, in line spacings; positive is to the left of the direction.
    """

    field: str
    value_m: float
    points: tuple[XY, XY]
    outward: float = 1.0


def wrong(sentence: str, field: str) -> PydanticCustomError:
    """Return the error that says `sentence` at `field`.

    Parameters
    ----------
    sentence, field : str

    Returns
    -------
    PydanticCustomError
    """
    return PydanticCustomError("measure", "{sentence}", {"sentence": sentence, "field": field})


def disc(radius: float, segments: int, x: float = 0.0, y: float = 0.0) -> Polygon:
    """Return a disc whose polygon has the area of the circle; flat towards its neighbours, which it never crosses.

    Parameters
    ----------
    radius : float
    segments : int
        Of a quarter.
    x, y : float

    Returns
    -------
    Polygon
    """
    corner = 2 * math.pi / (4 * segments)
    equal_m = radius * math.sqrt(corner / math.sin(corner))
    turns = (np.arange(4 * segments) + 0.5) * corner
    return Polygon(np.column_stack([x + equal_m * np.cos(turns), y + equal_m * np.sin(turns)]))


def repeated(piece: Polygon, places: Sequence[XY]) -> MultiPolygon:
    """Return copies of a polygon that do not overlap.

    Parameters
    ----------
    piece : Polygon
    places : sequence of (x, y)
        By which each copy is moved.

    Returns
    -------
    MultiPolygon
    """
    moves = np.array(places, dtype=float)[:, None, :]
    shells = shapely.linearrings(np.array(piece.exterior.coords)[None] + moves)
    holes = [shapely.linearrings(np.array(hole.coords)[None] + moves) for hole in piece.interiors]
    return MultiPolygon(list(shapely.polygons(shells, holes=np.stack(holes, axis=1) if holes else None)))


class BaseShape(Value):
    """A shape: frozen, in metres, its middle wherever it is easiest to draw."""

    model_config = ConfigDict(extra="forbid")

    @property
    def taped(self) -> bool:
        """Whether its lengths come from a tape, which may have lain along a slope."""
        return True

    def area(self) -> Figure:
        """Area in m² with its working."""
        raise NotImplementedError

    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the whole ground as Shapely geometry in metres."""
        raise NotImplementedError

    def pieces(self) -> tuple[BaseGeometry, tuple[XY, ...]]:
        """Return what is drawn, and where it is repeated.

        Returns
        -------
        (BaseGeometry, tuple of XY)
            One piece in metres, and the middle of each of its places.
        """
        return self.geometry(DRAWN_SEGMENTS), ((0.0, 0.0),)

    def dimensions(self) -> tuple[Dimension, ...]:
        """Return the dimension lines.

        Returns
        -------
        tuple of Dimension
            In metres about the middle.
        """
        return ()

    def trunks(self) -> tuple[XY, ...]:
        """Return where trunks stand within one piece.

        Returns
        -------
        tuple of XY
            Metres about the middle of the piece.
        """
        return ()


def metres(name: str, value: float) -> Figure:
    """Return an entered length.

    Parameters
    ----------
    name : str
        As it is shown.
    value : float

    Returns
    -------
    Figure
        m.
    """
    return entered(name, value, "m")
