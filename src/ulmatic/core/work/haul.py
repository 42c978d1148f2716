"""Moving it: barrow trips, metres walked and hours, plot by plot."""

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Figure, Mark, Source, Term, Working, ceil, entered, formula, parameter
from ulmatic.core.survey.access import Access
from ulmatic.core.work.carriers import CARRIERS, CarrierKind

_JUDGED = "A judgement, no published source: "
SCOOP = parameter(
    "supply.scoop", "Filling, from a hard tip", 10.0, "min_m3", 7.0, 15.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}scooped with a grain shovel, about a minute for a barrow of 0.1 m³.",
)  # fmt: skip
FORK = parameter(
    "supply.fork", "Filling, from a soft tip", 20.0, "min_m3", 14.0, 30.0, Mark.COMMON_PRACTICE,
    "Common practice, no published source: on grass it takes a fork, and twice as long as scooping.",
)  # fmt: skip
PACE = parameter(
    "supply.pace", "Walking with a barrow", 50.0, "m_min", 35.0, 60.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}loaded there and empty back, on the level.",
)  # fmt: skip
UPHILL = parameter(
    "supply.uphill", "Walking metres that a metre of climb costs", 10.0, "1", 8.0, 12.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}a walker’s rule, with a load.",
)  # fmt: skip
SPREAD = parameter(
    "supply.spread", "Tipping and raking out", 12.0, "min_m3", 8.0, 18.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}small heaps raked out with short strokes.",
)  # fmt: skip
UNKNOWN_WALK_M = 25.0
"""Taken where a plot's walk is not known."""

BARROW_WAY = CARRIERS[CarrierKind.BARROW].width
PARAMETERS = (SCOOP, FORK, PACE, UPHILL, SPREAD)


HOURS = formula("(V * (f + s) + n * (2 * d + u * k) / p) / 60")


class Haul(BaseModel):
    """What it takes to bring a plot its chips.

    Attributes
    ----------
    trips, hours : Figure
    walked : Figure
        m, there and back.
    fits : bool or None
        Whether a barrow passes the narrowest way; None where that is not known.
    """

    model_config = ConfigDict(frozen=True)
    trips: Figure
    walked: Figure
    hours: Figure
    fits: bool | None


def haul(volume: Figure, barrow_m3: float, way_in: Access, surface: Literal["hard", "soft"]) -> Haul:
    """Work out the haul to one plot, by one person.

    Parameters
    ----------
    volume : Figure
        m³ to be moved, loose.
    barrow_m3 : float
    way_in : Access
        Walk, climb and narrowest way, as far as known.
    surface : {"hard", "soft"}
        Of the tip.
    """
    amount = volume.brief().certain()
    trips = formula("ceil(V / b)").work(
        "Barrow trips", "trips", {"V": amount, "b": entered("Barrow, heaped", barrow_m3, "m3")}
    )
    known = way_in.walk is not None
    walk = way_in.walk or entered("Walk, taken as usual", UNKNOWN_WALK_M, "m")
    climb = way_in.climb or entered("Climb", 0.0, "m")
    n, once = trips.brief(), walk.brief().certain()
    walked = formula("2 * n * d").work("Walked, there and back", "m", {"n": n, "d": once})
    terms = {
        "V": amount, "f": SCOOP if surface == "hard" else FORK, "s": SPREAD, "n": n, "d": once,
        "u": climb.brief().certain(), "k": UPHILL, "p": PACE,
    }  # fmt: skip
    note = "" if known else "The walk to this plot is not known; draw the ways, or note it."
    hours = HOURS.work("Hours by one person", "h", terms, note=note)
    width = way_in.width.value if way_in.width else None
    return Haul(trips=trips, walked=walked, hours=hours, fits=None if width is None else width >= BARROW_WAY.value)


_SYMBOLS = (("f", SCOOP), ("s", SPREAD), ("k", UPHILL), ("p", PACE))
_SUM = Source(mark=Mark.COMPUTED, text="The sum of its plots.")


class SiteHaul(BaseModel):
    """What it takes to bring all plots their chips, by one person."""

    model_config = ConfigDict(frozen=True)
    trips: int
    walked_m: float
    hours: Figure
    unknown_walks: int
    too_narrow: tuple[str, ...]


def site_haul(loads: Sequence[tuple[str, float, Access, Literal["hard", "soft"]]], barrow_m3: float) -> SiteHaul:
    """Add up the hauls to plots, each given with its name, m³, way in and the surface of its tip."""
    trips, walked, unknown, narrow = 0, 0.0, 0, []
    ends = {"low": 0.0, "value": 0.0, "high": 0.0}
    for name, volume, way_in, surface in loads:
        if volume <= 0:
            continue
        count = ceil(volume / barrow_m3)
        walk = way_in.walk.value if way_in.walk else UNKNOWN_WALK_M
        climb = way_in.climb.value if way_in.climb else 0.0
        unknown += way_in.walk is None
        if way_in.width is not None and way_in.width.value < BARROW_WAY.value:
            narrow.append(name)
        trips, walked = trips + count, walked + 2 * count * walk
        fill = SCOOP if surface == "hard" else FORK
        for end in ends:
            pace = {"low": "high", "high": "low"}.get(end, "value")
            ends[end] += HOURS(
                V=volume, n=count, d=walk, u=climb, f=getattr(fill, end), s=getattr(SPREAD, end),
                k=getattr(UPHILL, end), p=getattr(PACE, pace),
            )  # fmt: skip
    note = "By one person; two together take half as long. Walks that are not known are taken as usual."
    return SiteHaul(
        trips=trips, walked_m=walked, unknown_walks=unknown, too_narrow=tuple(narrow),
        hours=Figure(
            name="Hours of hauling and raking", value=ends["value"], low=ends["low"], high=ends["high"], unit="h",
            source=_SUM, working=Working(formula=HOURS.pieces, terms=_rates(), note=note),
        ),
    )  # fmt: skip


def _rates() -> tuple[Term, ...]:
    return tuple(Term(symbol=symbol, figure=figure) for symbol, figure in _SYMBOLS)
