"""Seasons, layings and the years ahead."""

from ulmatic.core.schedule.amounts import GUARD, LayerAmount, PlotGround, beneath, mulch_depth, plot_ground, to_target
from ulmatic.core.schedule.closures import Closure, closed_days
from ulmatic.core.schedule.decisions import Decision
from ulmatic.core.schedule.growth import PARAMETERS as GROWTH
from ulmatic.core.schedule.growth import closes_in, grown
from ulmatic.core.schedule.laying import LEAST_LAYER_MM, Laying, ScheduledPlot
from ulmatic.core.schedule.opened_ground import RowsDrawn, drawn_rows, pulled_aside, put_back
from ulmatic.core.schedule.overrides import Overrides
from ulmatic.core.schedule.place_year import PARAMETERS as PLACE
from ulmatic.core.schedule.place_year import PlaceYear, observed_normals, place_year, zone_of
from ulmatic.core.schedule.rules import (
    RULE_WORDS,
    Every,
    Harvest,
    Keep,
    Once,
    Quarter,
    Rounds,
    Rule,
    Thin,
    proposed_rule,
)
from ulmatic.core.schedule.schedule import Schedule
from ulmatic.core.schedule.seasons import PARAMETERS as WINDOWS
from ulmatic.core.schedule.seasons import (
    DayOfYear,
    Season,
    Window,
    WindowDates,
    WindowKey,
    overridden,
    seasons_between,
    windows_of,
    windows_used,
)
from ulmatic.core.schedule.volume import SPARE, TRODDEN, settling_for, settling_on

PARAMETERS = (*GROWTH, *PLACE, *WINDOWS, SPARE, TRODDEN)
