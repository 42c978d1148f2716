"""Whether there is still time: days of growth counted against frost, seed amounts, succession, and lanes."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from math import floor

import numpy as np
import scipy
from numpy.typing import NDArray

from ulmatic.core.climate import Normals
from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.parameters import Parameters
from ulmatic.core.schedule import PlaceYear, RowsDrawn
from ulmatic.core.schedule.place_year import crossing, curve_of
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value
from ulmatic.core.work.crops import Crop, Hardiness

Array = NDArray[np.float64]
REFERENCE_C = read_parameter("work.crop_reference")
FASTEST = read_parameter("work.crop_fastest")
LIGHT_FROSTS = read_parameter("work.light_frosts")
PARAMETERS = (REFERENCE_C, FASTEST, LIGHT_FROSTS)
SURE = 0.8
"""So sure at least, and there is time."""
QUANTILES, YEAR = 40, 365
MOST_AGAIN = 8


class TimeLeft(Value):
    """Whether a crop that is sown or planted on a day is ready in time.

    Attributes
    ----------
    ready_early, ready, ready_late : date
        10th percentile, median and 90th; by the months of the place.
    sure : float
        How sure it is that it is ready before frost, or winter, ends its growth: 0 to 1.
    ends_on : date or None
        When frost, or cold, ends its growth in half of the years.
    too_early : bool
        Whether it is the frost before growth that is in the way: it would kill the seedlings.
    last_on : date or None
        The last day to start, in the time that runs or the next, with which there is time.
    first_on : date or None
        From when on there is time, where there is none now.
    again_on : tuple of date
        When to sow again for a harvest that goes on.
    """

    crop: str
    on: date
    ready_early: date
    ready: date
    ready_late: date
    sure: float
    ends_on: date | None
    too_early: bool
    last_on: date | None
    first_on: date | None
    again_on: tuple[date, ...]

    @property
    def in_time(self) -> bool:
        """Whether there is time."""
        return self.sure >= SURE


def triangular(least: float, likely: float, most: float, shares: Array) -> Array:
    """Return quantiles of a triangular distribution.

    Parameters
    ----------
    least, likely, most : float
    shares : ndarray
        0 to 1.

    Returns
    -------
    ndarray, of the shape of `shares`

    Examples
    --------
    >>> triangular(7.0, 10.0, 13.0, np.array([0.0, 0.5, 1.0])).tolist()
    [7.0, 10.0, 13.0]
    """
    if most <= least:
        return np.full(shares.shape, likely)
    peak = (likely - least) / (most - least)
    rising = least + np.sqrt(shares * (most - least) * (likely - least))
    falling = most - np.sqrt((1 - shares) * (most - least) * (most - likely))
    return np.where(shares < peak, rising, falling)


@dataclass(frozen=True)
class GrowingYear:
    """The growing weather of a place.

    Attributes
    ----------
    normals : Normals
    place : PlaceYear
        With frost dates.
    """

    normals: Normals
    place: PlaceYear
    parameters: Parameters

    @cached_property
    def _curve(self) -> Array:
        return curve_of(self.normals)

    def _grown(self, crop: Crop) -> Array:
        """Return days of good growing weather from the first of a year on, over four years; it begins with 0.

        Returns
        -------
        ndarray
            Days, one value at the beginning of each day.
        """
        reference, fastest = self.parameters.of(REFERENCE_C).value, self.parameters.of(FASTEST).value
        rate = np.clip((self._curve - crop.least_c) / (reference - crop.least_c), 0.0, fastest)
        return np.concatenate([[0.0], np.cumsum(np.tile(rate, 4))])

    def time_left(self, crop: Crop, on: date) -> TimeLeft:
        """Return whether a crop that is started on a day is ready in time.

        Parameters
        ----------
        crop : Crop
        on : date

        Returns
        -------
        TimeLeft
        """
        first = min(YEAR, on.timetuple().tm_yday) - 1
        starts = first + np.arange(YEAR)
        grown = self._grown(crop)
        shares = (np.arange(QUANTILES) + 0.5) / QUANTILES
        needed = triangular(crop.days_least, crop.days, crop.days_most, shares)
        ready = np.searchsorted(grown, grown[starts][:, None] + needed[None, :])
        ends, certainty = self._sure(crop, starts.astype(float), ready.astype(float))
        there_is = certainty >= SURE
        day = date(on.year, 1, 1)

        def on_day(number: float) -> date:
            return day + timedelta(days=int(number))

        ready_days = np.percentile(ready[0], [10, 50, 90])
        begins = 0 if there_is[0] else int(np.argmax(there_is)) if there_is.any() else None
        last = None
        if begins is not None:
            after = np.flatnonzero(~there_is[begins:])
            last = None if not after.size else on_day(starts[begins + int(after[0]) - 1])
        sowings: list[date] = []
        if crop.again_days and there_is[0]:
            steps = range(crop.again_days, (last - on).days + 1 if last else YEAR, crop.again_days)
            sowings = [on + timedelta(days=step) for step in steps][:MOST_AGAIN]
        return TimeLeft(
            crop=crop.key,
            on=on,
            ready_early=on_day(ready_days[0]),
            ready=on_day(ready_days[1]),
            ready_late=on_day(ready_days[2]),
            sure=float(certainty[0]),
            ends_on=None if ends is None else on_day(ends[0]),
            last_on=last,
            too_early=bool(not there_is[0] and ends is not None and np.median(ready[0]) < ends[0]),
            first_on=None if begins in (None, 0) else on_day(starts[begins]),
            again_on=tuple(sowings),
        )

    def _sure(self, crop: Crop, starts: Array, ready: Array) -> tuple[Array | None, Array]:
        """Return when growth ends after each start, and how sure it is that the crop is ready by then.

        Frost dates are taken as normally distributed from year to year, days to maturity as triangular.

        Returns
        -------
        (ndarray or None, ndarray)
            Days from the first of the first year, None where growth never ends; shares between 0 and 1.
        """
        spread = self.place.frost_spread_days
        if crop.hardiness is Hardiness.HARDY:
            stops = crossing(self._curve, crop.least_c, rising=False)
            if stops is None:
                return None, np.mean(ready - starts[:, None] <= YEAR, axis=1)
            ends = _next(starts, stops - 1)
            return ends, np.mean(scipy.special.ndtr((ends[:, None] - ready) / spread), axis=1)
        bears = self.parameters.of(LIGHT_FROSTS).value if crop.hardiness is Hardiness.HALF_HARDY else 0.0
        first, last = self.place.first_frost, self.place.last_frost
        if first is None or last is None:
            return None, np.mean(ready - starts[:, None] <= YEAR, axis=1)
        ends = _next(starts, first - 1) + bears
        before = ends - bears - (first - last) % YEAR
        emergence = starts + crop.emerges_days
        up_in_time = scipy.special.ndtr((emergence + bears - before) / spread)
        return ends, np.mean(scipy.special.ndtr((ends[:, None] - ready) / spread), axis=1) * up_in_time

    def mean_c(self, on: date) -> float:
        """Return the usual mean temperature of a day, °C.

        Returns
        -------
        float
        """
        return float(self._curve[min(YEAR, on.timetuple().tm_yday) - 1])

    def up_on(self, crop: Crop, on: date) -> date:
        """Return when a crop that was sown on a day is up.

        Parameters
        ----------
        crop : Crop
        on : date

        Returns
        -------
        date
        """
        first = min(YEAR, on.timetuple().tm_yday) - 1
        grown = self._grown(crop)
        emergence = int(np.searchsorted(grown, grown[first] + crop.emerges_days))
        return date(on.year, 1, 1) + timedelta(days=min(emergence, first + YEAR))

    def in_time(self, crops: Iterable[Crop], on: date) -> list[TimeLeft]:
        """Return of some crops those for which there is time, the quickest first.

        Parameters
        ----------
        crops : iterable of Crop
        on : date

        Returns
        -------
        list of TimeLeft
        """
        left = [self.time_left(crop, on) for crop in crops]
        return sorted((crop for crop in left if crop.in_time), key=lambda crop: (crop.ready, crop.crop))


def _next(starts: Array, day: int) -> Array:
    """Return the next time that a day of the year comes after each start, in days from the first of the first year.

    Returns
    -------
    ndarray
        Of the shape of `starts`.
    """
    return np.asarray(day + YEAR * np.ceil((starts + 1 - day) / YEAR), dtype=np.float64)


def seed_for_rows(crop: Crop, length_m: float) -> Figure:
    """Return the seed for rows, kg.

    Parameters
    ----------
    crop : Crop
    length_m : float
        Of all rows together.

    Returns
    -------
    Figure
    """
    terms = {"l": entered("Length of rows", length_m, "m"), "g": entered("Seed, g a metre", crop.seed_g_m, "number")}
    return formula("l * g / 1000").work("Seed", "kg", terms, source=crop.source)


def seed_for_ground(crop: Crop, area_m2: float) -> Figure:
    """Return the seed that is sown broadcast, kg.

    Parameters
    ----------
    crop : Crop
    area_m2 : float

    Returns
    -------
    Figure
    """
    terms = {"A": entered("Ground sown", area_m2, "m2"), "g": entered("Seed", crop.seed_g_m2, "g_m2")}
    return formula("A * g / 1000").work("Seed", "kg", terms, source=crop.source)


def seed_of(crop: Crop, ground: RowsDrawn, *, in_rows: bool) -> Figure | None:
    """Return the seed for opened ground, kg; None where plants are put in.

    Parameters
    ----------
    crop : Crop
    ground : RowsDrawn
    in_rows : bool
        Whether it is sown in rows, not broadcast.

    Returns
    -------
    Figure or None
    """
    if crop.seed_g_m <= 0:
        return None
    return seed_for_rows(crop, ground.length_m) if in_rows else seed_for_ground(crop, ground.area_m2)


class Lanes(Value):
    """Lanes opened in large ground for a cover crop; `seed` in kg, `seeds` by number where it is sown in places."""

    count: int
    length_m: float
    width_m: float
    area: Figure
    seed: Figure
    places: int


def lanes(crop: Crop, length_m: float, width_m: float, apart_m: float, lane_m: float) -> Lanes:
    """Return how many lanes a block takes, and what is sown in them.

    Parameters
    ----------
    crop : Crop
    length_m, width_m : float
        Of the block; lanes run along its length.
    apart_m : float
        From the middle of one lane to that of the next.
    lane_m : float
        Width of a lane.

    Returns
    -------
    Lanes
    """
    count = max(1, floor(width_m / apart_m + 1e-9))
    terms = {
        "n": entered("Lanes", count, "number"),
        "l": entered("Length of a lane", length_m, "m"),
        "b": entered("Width of a lane", lane_m, "m"),
    }
    area = formula("n * l * b").work("Ground opened", "m2", terms)
    places = count * (floor(length_m / (crop.apart_mm / 1000) + 1e-9) + 1) if crop.apart_mm > 0 else 0
    return Lanes(
        count=count, length_m=length_m, width_m=lane_m, area=area, seed=seed_for_ground(crop, area.value), places=places
    )


def instead(year: GrowingYear, crops: Sequence[Crop], on: date) -> list[TimeLeft]:
    """Return what can be sown instead on a day on which there is no time for a crop: what is quick, or covers.

    Parameters
    ----------
    year : GrowingYear
    crops : sequence of Crop
    on : date

    Returns
    -------
    list of TimeLeft
    """
    return year.in_time([crop for crop in crops if crop.start == "sow"], on)
