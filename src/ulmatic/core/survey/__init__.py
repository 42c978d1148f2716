"""The ground as measured: shapes, their area and outline, what each plot is used for and what was found there."""

from ulmatic.core.survey.access import Access, Landmark, PilePlace, Route, Tip, Way, access, routes
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
from ulmatic.core.survey.site_conditions import ExistingCover, SiteConditions
from ulmatic.core.survey.uses import Use
