"""The ground as measured: shapes, their area and outline, what each plot is used for and what was found there."""

from ulmatic.core.survey.found import Cover, Found
from ulmatic.core.survey.ground import CARDBOARD_OVERLAP, CutOut, Ground, PlantGaps, ShapeCut, Slope, ground
from ulmatic.core.survey.location import Location, to_earth, to_plan
from ulmatic.core.survey.outline import Outline, arrange, footprint, outline
from ulmatic.core.survey.place import Place
from ulmatic.core.survey.plot import Name, Plot
from ulmatic.core.survey.shapes import (
    Dimension,
    Ellipse,
    Offsets,
    Path,
    Polygon,
    Rectangle,
    Ring,
    RingBlock,
    RingRow,
    Shape,
    Strip,
    Triangle,
    Walked,
)
from ulmatic.core.survey.uses import Use

__all__ = [
    "CARDBOARD_OVERLAP", "Cover", "CutOut", "Dimension", "Ellipse", "Found", "Ground",
    "Location", "Name", "Offsets", "Outline",
    "Path", "Place", "PlantGaps", "Plot", "Polygon", "Rectangle", "Ring", "RingBlock", "RingRow", "Shape", "ShapeCut",
    "Slope", "Strip", "Triangle", "Use", "Walked", "arrange", "footprint", "ground", "outline", "to_earth", "to_plan",
]  # fmt: skip
