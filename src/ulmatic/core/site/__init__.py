"""A site as it is known, what its entries teach, and what is there on a day: values, each made from the one before."""

from ulmatic.core.site.areas import LaidAreas, years_later
from ulmatic.core.site.assumed import Assumed, LearnedFigure
from ulmatic.core.site.climate import SiteClimate
from ulmatic.core.site.ground_plan import GroundPlan
from ulmatic.core.site.site import Site, SiteLandmark, SitePlot, Terms, material_of
from ulmatic.core.site.state import ForecastDepth, PlotRecipe, SiteState
