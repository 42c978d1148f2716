"""The ground as measured: shapes, their area and outline, what each plot is used for."""

from ulmatic.core.survey.outline import Outline, Place, arrange, footprint, outline, piece
from ulmatic.core.survey.plot import Plot
from ulmatic.core.survey.shapes import Path, Rectangle, Ring, Shape
from ulmatic.core.survey.uses import Use

__all__ = [
    "Outline",
    "Path",
    "Place",
    "Plot",
    "Rectangle",
    "Ring",
    "Shape",
    "Use",
    "arrange",
    "footprint",
    "outline",
    "piece",
]
