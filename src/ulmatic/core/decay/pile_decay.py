"""A pile through time: what is left of its volume, and the stage it has come to."""

from datetime import date, timedelta
from functools import lru_cache

import numpy as np

from ulmatic.core.decay.decay_clock import YEAR_DAYS, DecayClock, day_number
from ulmatic.core.decay.layers import LaidLayer, layers_of, through_time
from ulmatic.core.decay.stage import stage_at
from ulmatic.core.materials import Material, Stage
from ulmatic.core.tables import read_parameter

PILE_FASTER = read_parameter("decay.pile")
MOST_DAYS = 8 * 366
"""How far ahead it is asked when a pile comes to a stage."""


def pile_left(material: Material, born: date, clock: DecayClock, first_day: date, last_day: date) -> float:
    """Return what is left later of a m³ that lies in a pile then: chips and crumb.

    Parameters
    ----------
    material : Material
    born : date
        When it was chipped.
    clock : DecayClock
    first_day, last_day : date

    Returns
    -------
    float
        Between 0 and 1.
    """
    return _left(material, round(pile_time(clock, born, first_day), 6), round(pile_time(clock, born, last_day), 6))


def pile_time(clock: DecayClock, born: date, on: date) -> float:
    """Return the ξ-years that have passed in a pile since it was chipped, at a pile's own pace.

    Parameters
    ----------
    clock : DecayClock
    born : date
        The day on which it was chipped.
    on : date

    Returns
    -------
    float
    """
    passed = float(clock.time_at(day_number(max(on, born))) - clock.time_at(day_number(born)))
    return passed * PILE_FASTER.value


@lru_cache(maxsize=16384)
def _left(material: Material, first_time: float, last_time: float) -> float:
    layer = layers_of([LaidLayer(material=material, on=date(2000, 1, 1), loose_mm=1000.0, settling=0.0)])
    day = np.full(2, layer.laid_day[0])
    depths = through_time(layer, np.array([first_time, last_time]), np.zeros(1), day)
    depth_mm = (depths.chips_mm + depths.humus_mm)[0]
    return float(min(1.0, depth_mm[1] / depth_mm[0])) if depth_mm[0] > 0 else 0.0


def pile_stage(material: Material, born: date, clock: DecayClock, on: date) -> Stage:
    """Return the stage of a material in a pile on a day.

    Parameters
    ----------
    material : Material
    born : date
        The day on which it was chipped.
    clock : DecayClock
    on : date

    Returns
    -------
    Stage
    """
    return stage_at(material, (on - born).days, pile_time(clock, born, on))


def reaches(material: Material, born: date, clock: DecayClock, stages: frozenset[Stage], first: date) -> date | None:
    """Return the first day from `first` on, to a week, on which a pile is in one of some stages; None in eight years.

    Raises nothing: a pile that is past all of them is never in one again.

    Parameters
    ----------
    material : Material
    born : date
        The day on which it was chipped.
    clock : DecayClock
    stages : set of Stage
    first : date

    Returns
    -------
    date or None
    """
    for days in range(0, MOST_DAYS, 7):
        day = first + timedelta(days=days)
        if pile_stage(material, born, clock, day) in stages:
            return day
    return None


def yearly_pace(clock: DecayClock, on: date) -> float:
    """Return the ξ-years of the year after a day.

    Parameters
    ----------
    clock : DecayClock
    on : date

    Returns
    -------
    float
    """
    begin = day_number(on)
    return float(clock.time_at(begin + YEAR_DAYS) - clock.time_at(begin))
