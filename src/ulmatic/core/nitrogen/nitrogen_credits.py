"""What else is paid in and out: compost, manures, dressings, clippings, legumes, cover crops, leaves."""

from datetime import date

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ulmatic.core.decay import DecayClock, day_number
from ulmatic.core.log import Credit, Fed, Grown, Spread
from ulmatic.core.materials import Kind, Material
from ulmatic.core.parameters import Parameters
from ulmatic.core.tables import read_parameter

Array = NDArray[np.float64]

MINERALISES = {
    Kind.COMPOST: read_parameter("nitrogen.compost"),
    Kind.MANURE: read_parameter("nitrogen.manure"),
    Kind.GRASS: read_parameter("nitrogen.grass"),
    Kind.LEAVES: read_parameter("nitrogen.leaves"),
}
LEGUME = read_parameter("nitrogen.legume")
COVER_CROP = read_parameter("nitrogen.cover_crop")
GREEN_RATE = 1.2
"""Cut green matter gives up its nitrogen at this rate a year of ξ = 1: a judgement, no source."""
LEACHES = read_parameter("nitrogen.leaching")
SOIL_LEACHES = {"sand": 2.0, "loam": 1.0, "clay": 0.5, "dead": 1.0, None: 1.0}
SOLUBLE_DAYS = 60.0
"""A soluble dressing is taken up or washed out within about two months: a judgement, no source."""
PARAMETERS = (*MINERALISES.values(), LEGUME, COVER_CROP, LEACHES)


def nitrogen_of(entry: Credit, material: Material | None, parameters: Parameters) -> float:
    """Return the nitrogen that an entry brings, g/m².

    Parameters
    ----------
    entry : Credit
    material : Material or None
    parameters : Parameters

    Returns
    -------
    float
        g N/m².
    """
    match entry:
        case Fed():
            return entry.grams_m2 * entry.n
        case Spread():
            if material is None:
                return 0.0
            return entry.depth_mm / 1000 * material.density.value * 1000 * material.carbon.value / material.cn.value
        case Grown():
            usual = parameters.of(LEGUME if entry.crop == "legume" else COVER_CROP)
            return usual.value if entry.grams_n_m2 is None else entry.grams_n_m2


def range_of(entry: Credit, material: Material | None, parameters: Parameters) -> tuple[float, float]:
    """Return the range of what an entry brings, g N/m²: by C:N of what was spread, by kind of a crop not measured.

    Parameters
    ----------
    entry : Credit
    material : Material or None
    parameters : Parameters

    Returns
    -------
    (float, float)
        Low and high.
    """
    most = nitrogen_of(entry, material, parameters)
    if isinstance(entry, Grown) and entry.grams_n_m2 is None:
        usual = parameters.of(LEGUME if entry.crop == "legume" else COVER_CROP)
        return usual.low or most, usual.high or most
    if isinstance(entry, Spread) and material is not None:
        cn = material.cn
        return most * cn.value / (cn.high or cn.value), most * cn.value / (cn.low or cn.value)
    return most, most


def paid_in(
    entry: Credit,
    material: Material | None,
    on: date,
    clock: DecayClock,
    days: ArrayLike,
    excess_mm: ArrayLike,
    soil: str | None,
    parameters: Parameters,
) -> tuple[Array, Array]:
    """Return what an entry has given up to the soil, and what of it was washed out, g N/m² up to each date.

    Organic matter gives up its nitrogen in proportion to decay time. A soluble dressing is there at once; of what is
    not yet taken up rain beyond what plants use washes out a share.

    Parameters
    ----------
    entry, material, on, clock
        The material of a `Spread`.
    days : array_like, shape (t,)
        Since 1970.
    excess_mm : array_like, shape (t,)
        Rain beyond what plants use, added up from the first date.
    soil : {"sand", "loam", "clay", "dead"} or None
    parameters : Parameters

    Returns
    -------
    (ndarray, ndarray)
        Each of the shape of `days`.
    """
    when = np.asarray(days, dtype=float)
    total, born = nitrogen_of(entry, material, parameters), day_number(on)
    released = when >= born
    if isinstance(entry, Fed) and entry.soluble:
        rained = np.asarray(excess_mm, dtype=float)
        since = np.interp(np.minimum(when, born + SOLUBLE_DAYS), when, rained) - np.interp(born, when, rained)
        rate = parameters.of(LEACHES).value * SOIL_LEACHES.get(soil, 1.0) / 100
        # Half of it, on the mean, is still to be washed out while it is being taken up.
        lost = total * (1 - np.exp(-rate * np.maximum(0.0, since) / 2))
        return np.where(released, total, 0.0), np.where(released, lost, 0.0)
    rate = GREEN_RATE
    if isinstance(entry, Spread) and material is not None:
        rate = parameters.of(MINERALISES[material.kind]).value if material.kind in MINERALISES else 0.05
    if isinstance(entry, Fed):
        rate = 1.0
    released_g_m2 = total * -np.expm1(-rate * np.maximum(0.0, clock.time_at(when) - clock.time_at(born)))
    return np.where(released, released_g_m2, 0.0), np.zeros(when.size)
