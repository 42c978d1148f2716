"""What follows for a site: functions that make one value from another, and the plan on top of them."""

from ulmatic.core.planning.assumption import assume, assume_each
from ulmatic.core.planning.inventory import state_of, state_on, state_with_plot
from ulmatic.core.planning.plan import SitePlan, plan_of, plan_on
from ulmatic.core.planning.report import PlanReport, report, table
from ulmatic.core.planning.season_figures import BesideFigures, NextSeason, Now, OrderFigures, SeasonFigures
