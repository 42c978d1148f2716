"""One site, one plan."""

from ulmatic.core.site.figures import BesideFigures, NextSeason, Now, OrderFigures, SeasonFigures
from ulmatic.core.site.plan import SitePlan
from ulmatic.core.site.report import PlanReport, report, table
from ulmatic.core.site.site import Site, SiteLandmark, SitePlot, Terms
from ulmatic.core.site.state import DepthRange, SiteState

__all__ = [
    "BesideFigures",
    "DepthRange",
    "NextSeason",
    "Now",
    "OrderFigures",
    "PlanReport",
    "SeasonFigures",
    "Site",
    "SiteLandmark",
    "SitePlan",
    "SitePlot",
    "SiteState",
    "Terms",
    "report",
    "table",
]
