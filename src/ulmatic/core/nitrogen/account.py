"""The account: owed below zero, paid back above; its rating by season; what to do, and doses."""

from collections.abc import Sequence
from datetime import date, timedelta
from enum import StrEnum
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.figures import Figure, Mark, ceil, entered, formula, make_parameter
from ulmatic.core.parameters import Parameters
from ulmatic.core.survey.uses import USES, Use
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value

Array = NDArray[np.float64]
_JUDGED = "A judgement, no published source: "
WATCH_FROM, ACT_FROM = 1.0, 4.0
"""g N/m² owed: below it is negligible, then to be watched, then to be acted on; as science.md has it."""
MOST_AT_ONCE = read_parameter("nitrogen.dose")
MOST_IN_A_YEAR = read_parameter("nitrogen.doses")
WEEKS_APART = 5
LAST_MONTHS_FREE = 2
"""Nothing is given as growth ends, when rain would have it: common practice, no source."""
SUPPLY = {soil: read_parameter(f"nitrogen.supply_{soil}") for soil in ("sand", "loam", "clay", "dead")}
BY_ORGANIC = read_parameter("nitrogen.organic")
NEED = {
    use: make_parameter(
        f"nitrogen.need_{use}",
        f"Plants take in a year, {record.label.lower()}",
        record.nitrogen_g_m2[0],
        "g_m2",
        record.nitrogen_g_m2[1],
        record.nitrogen_g_m2[2],
        Mark.COMMON_PRACTICE,
        f"{_JUDGED}g N/m².",
    )
    for use, record in USES.items()
    if record.nitrogen_g_m2 is not None
}
PARAMETERS = (MOST_AT_ONCE, MOST_IN_A_YEAR, BY_ORGANIC, *SUPPLY.values(), *NEED.values())
TOO_MUCH = 10.0
"""g N/m² a year that comes beyond what plants take, from which it is called too much: a judgement, no source."""


class Rating(StrEnum):
    """How much is owed."""

    NEGLIGIBLE = "negligible"
    WATCH = "watch"
    ACT = "act"


def rating(owed_g_m2: float) -> Rating:
    """Return the rating of what is owed, g N/m².

    Parameters
    ----------
    owed_g_m2 : float
        g N/m².

    Returns
    -------
    Rating

    Examples
    --------
    >>> rating(0.5).value, rating(4.5).value
    ('negligible', 'act')
    """
    if owed_g_m2 < WATCH_FROM:
        return Rating.NEGLIGIBLE
    return Rating.WATCH if owed_g_m2 <= ACT_FROM else Rating.ACT


class Amount(NamedTuple):
    """g N/m² a year, with its range."""

    value: float
    low: float
    high: float


def soil_supply(soil: str | None, organic: float | None, tested: float | None, parameters: Parameters) -> Amount:
    """Return what soil gives in a year, by a test, else by its organic matter (a share by weight), else by its type.

    Parameters
    ----------
    soil : str or None
        Sand, loam or clay.
    organic : float or None
        Share by weight.
    tested : float or None
        g N/m² in a year.
    parameters : Parameters

    Returns
    -------
    Amount
    """
    if tested is not None:
        return Amount(tested, tested, tested)
    shipped, times = (SUPPLY[soil or "loam"], 1.0) if organic is None else (BY_ORGANIC, organic * 100)
    by = parameters.of(shipped)
    return Amount(*(times * (rate or by.value) for rate in (by.value, by.low, by.high)))


def plant_need(use: Use, parameters: Parameters) -> Amount:
    """Return what plants of a use take in a year; nothing where none grow.

    Parameters
    ----------
    use : Use
    parameters : Parameters

    Returns
    -------
    Amount
    """
    if use not in NEED:
        return Amount(0.0, 0.0, 0.0)
    by = parameters.of(NEED[use])
    return Amount(*(rate or by.value for rate in (by.value, by.low, by.high)))


class GrowingSeason(Value):
    """A growing season, from the close of the one before: what is drawn in it, what soil gives and plants take.

    Attributes
    ----------
    owed, paid : float
        g N/m² that the account falls in it at most, and that it has risen at its close. What was drawn in earlier
        seasons was missing then.
    spare : float
        What soil gives beyond what plants take; below 0 they hunger without any chips.
    wanting : float
        What is missing once the soil's spare has gone in.
    over : float
        What comes in the year, of the soil and of the account, beyond what plants take.
    """

    year: int
    owed: float
    paid: float
    rating: Rating
    soil: float
    soil_range: tuple[float, float]
    plants: float
    plants_range: tuple[float, float]
    spare: float
    wanting: float
    over: float
    felt: bool
    words: str


def seasons(
    dates: Sequence[date], balance: Array, use: Use, supply: Amount, growing: Sequence[int], parameters: Parameters
) -> list[GrowingSeason]:
    """Return the account's growing seasons.

    Parameters
    ----------
    dates : sequence of date
    balance : ndarray, shape (t,)
        Below 0 owed, g N/m².
    use : Use
    supply : Amount
        What the soil gives in a year.
    growing : sequence of int
        Months (1 to 12) in which plants take it up.
    parameters : Parameters

    Returns
    -------
    list of GrowingSeason
        In the order of time.
    """
    accounts: list[GrowingSeason] = []
    begins = 0
    for year in sorted({day.year for day in dates}):
        growing_days = np.flatnonzero([day.year == year and day.month in growing for day in dates])
        if not growing_days.size:
            continue
        closes = int(growing_days[-1])
        before, lowest = float(balance[begins]), float(balance[begins : closes + 1].min())
        takes = plant_need(use, parameters)
        owed, spare = max(0.0, before - lowest), supply.value - takes.value
        paid, begins = max(0.0, float(balance[closes]) - before), closes
        days_of_year = np.flatnonzero([day.year == year for day in dates])
        comes = float(balance[days_of_year[-1]] - balance[max(0, days_of_year[0] - 1)])
        surplus = max(0.0, spare + comes)
        felt = use in NEED and (use.record.shallow or owed > spare)
        wanting = max(0.0, owed - max(0.0, spare)) if felt else 0.0
        accounts.append(
            GrowingSeason(
                year=year,
                owed=owed,
                paid=paid,
                rating=rating(owed),
                soil=supply.value,
                soil_range=supply[1:],
                plants=takes.value,
                plants_range=takes[1:],
                spare=spare,
                wanting=wanting,
                over=surplus,
                felt=felt and owed >= WATCH_FROM,
                words=_words(owed, wanting, comes, surplus, use, felt=felt),
            )
        )
    return accounts


def _words(owed: float, wanting: float, comes: float, surplus: float, use: Use, *, felt: bool) -> str:
    if use not in NEED:
        return "No plants grow here, so this has no effect."
    if surplus > TOO_MUCH and comes > ACT_FROM:
        return "More nitrogen comes than plants take up; the rest leaches. Give less."
    if owed < WATCH_FROM:
        return "Too little to have an effect."
    if not felt:
        return "The soil supplies enough for the plants as well: no effect."
    if wanting <= ACT_FROM:
        return "Shallow-rooted plants and seedlings may be pale for some weeks; the soil makes up for it."
    return "Plants will be pale and slow unless nitrogen is added."


class Dose(Value):
    """What to give: product for each dose, with dates, and in all in whole bags.

    `too_late_g_m2` of what is wanting is not given: by then the chips draw no more. `surplus_n_kg` is the nitrogen
    that would have nowhere to go but the water if twice as much were given.
    """

    product: str
    grams_m2: Figure
    doses: int
    each_grams_m2: float
    on: tuple[date, ...]
    total_kg: float
    bags: int | None
    too_late_g_m2: float
    surplus_n_kg: float


def dose(
    wanted_g_m2: float,
    product: str,
    n_share: float,
    area_m2: float,
    bag_kg: float | None,
    first: date,
    growing: Sequence[int],
    *,
    soluble: bool = True,
    last: date | None = None,
) -> Dose:
    """Work out a dressing: never more than what is wanting, in doses that are safe, in growing months.

    Parameters
    ----------
    wanted_g_m2 : float
        Nitrogen that is wanting.
    product : str
    n_share : float
        Nitrogen of the product by its label, above 0.
    area_m2 : float
    bag_kg : float or None
        What a bag holds.
    first : date
        Not before.
    growing : sequence of int
        Months (1 to 12); nothing is given on frozen ground, to sleeping plants or as growth ends.
    soluble : bool
        A slow product is given at once.
    last : date or None
        When most is owed; a dose after it would feed nobody but the water.

    Returns
    -------
    Dose
    """
    needed = max(1, ceil(wanted_g_m2 / MOST_AT_ONCE.value)) if soluble else 1
    days = _days(needed, first, last, growing)
    given_g_m2 = wanted_g_m2 if len(days) == needed else len(days) * MOST_AT_ONCE.value
    terms = {"N": entered("Nitrogen given", given_g_m2, "g_m2"), "n": entered("Nitrogen of the product", n_share, "1")}
    grams = formula("N / n").work("Product on the ground", "g_m2", terms)
    total = grams.value * area_m2 / 1000
    return Dose(
        product=product,
        grams_m2=grams,
        doses=len(days),
        each_grams_m2=grams.value / len(days),
        on=days,
        total_kg=total,
        bags=None if bag_kg is None else ceil(total / bag_kg),
        too_late_g_m2=wanted_g_m2 - given_g_m2,
        surplus_n_kg=given_g_m2 * area_m2 / 1000,
    )


def _days(season: int, first: date, last: date | None, growing: Sequence[int]) -> tuple[date, ...]:
    """Return up to `wanted` days to give something on, at least one.

    Returns
    -------
    tuple of date
    """
    months = list(growing)[:-LAST_MONTHS_FREE] if len(growing) > LAST_MONTHS_FREE else list(growing)
    days: list[date] = []
    day = first
    while len(days) < season:
        if days and last is not None and day > last:
            break
        full = sum(other.year == day.year for other in days) >= MOST_IN_A_YEAR.value
        if full or day.month not in months:
            day += timedelta(days=1)
            continue
        days.append(day)
        day += timedelta(weeks=WEEKS_APART)
    return tuple(days)


LEAST_TIMES = 2.0
"""Below it, and where it is not known, no number is told."""
Step = Literal["nothing", "keep_on_top", "wait", "compost", "dress", "legume"]


class Advised(Value):
    """One thing that can be done about what is owed, in words."""

    step: Step
    words: str


def advised(
    season: GrowingSeason | None, use: Use, *, dug_in: bool, free_in: int | None = None, times_if_dug_in: float = 0.0
) -> list[Advised]:
    """Return what to do about a season, the first to be tried first.

    Parameters
    ----------
    season : GrowingSeason or None
    use : Use
    dug_in : bool
    free_in : int or None
        The first year from which so little is owed that nobody notices; None where the account does not reach it.
    times_if_dug_in : float
        How many times as much the material here would borrow if it were dug in; 0 where that is not known.

    Returns
    -------
    list of Advised
    """
    if season is None or use not in NEED or season.rating is Rating.NEGLIGIBLE or not season.felt:
        steps = [Advised(step="nothing", words="Nothing to do: the nitrogen owed here has no effect.")]
        if not dug_in:
            much = f"about {times_if_dug_in:.0f} times as much" if times_if_dug_in >= LEAST_TIMES else "more"
            steps.append(Advised(step="keep_on_top", words=f"Keep chips on the surface; dug in, these borrow {much}."))
        return steps
    steps = []
    steps.append(
        Advised(step="compost", words="Lay {25 mm} of ripe compost beneath the chips: it feeds the contact zone.")
    )
    if season.wanting >= WATCH_FROM:
        steps.append(Advised(step="dress", words="Give the missing nitrogen as a dressing, in safe doses."))
    steps.append(Advised(step="legume", words="Grow a legume first and leave its roots in the soil."))
    if dug_in and free_in is not None:
        words = f"Or plant after {free_in}: from then on too little is owed to have an effect."
        steps.append(Advised(step="wait", words=words))
    return steps
