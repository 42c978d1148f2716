"""The weather of a site: its months, frost, laying windows, seasons, and the clocks by which things rot."""

from collections.abc import Sequence
from dataclasses import dataclass

from ulmatic.core.climate import Normals
from ulmatic.core.decay import DecayClock
from ulmatic.core.schedule import PlaceYear, Season, Window


@dataclass(frozen=True)
class SiteClimate:
    """What follows for a site on a day from where it lies; weather that was observed later is not known.

    Attributes
    ----------
    normals : Normals
        The months of the place.
    assumed : bool
        Whether no climate was named.
    place_year : PlaceYear
        Frost dates, hardiness and the rest of the place's year, as overridden.
    windows : tuple of Window
        As overridden.
    seasons : sequence of Season
        The running season and those ahead.
    clocks : (DecayClock, DecayClock)
        Decay time without and with irrigation.
    """

    normals: Normals
    assumed: bool
    place_year: PlaceYear
    windows: tuple[Window, ...]
    seasons: Sequence[Season]
    clocks: tuple[DecayClock, DecayClock]
