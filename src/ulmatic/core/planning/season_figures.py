"""What is said of a season: the same on every page, in every file and on the command line."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from decimal import Decimal
from itertools import chain
from uuid import UUID

from pydantic import ConfigDict, Field

from ulmatic.core.materials import Stage
from ulmatic.core.money import cost
from ulmatic.core.planning.season_order import bought_of, rates_of
from ulmatic.core.recipe import LayerRole
from ulmatic.core.schedule import LayerAmount, Season
from ulmatic.core.site import Site, years_later
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.value import Value


class OrderFigures(Value):
    """A line of the order: who, of what, how many loads or m³, and its price where it is known.

    `source` is None where nobody is named; `stage` says how far rotted it has to come, where not fresh. `exact` sources
    bring any amount. `booked_loads` and `booked_m3` of it are booked for the season already, and not in this line.
    """

    source: str | None
    key: str
    kind: str
    material: str
    material_key: str
    stage: Stage | None
    loads: int
    volume_m3: float
    exact: bool
    booked_loads: int
    booked_m3: float
    cost: Decimal | None


class BesideFigures(Value):
    """What goes with the mulch: sheets in m², compost and char in loose m³, guards by the tree."""

    role: LayerRole
    material: str
    material_key: str
    amount: float
    unit: str


class SeasonFigures(Value):
    """A season in numbers; volumes in loose m³ of mulch with spare, hours by one person.

    Hours are those of all tasks that are still to do: preparing, moving, laying and finishing.

    Attributes
    ----------
    season, key : str
        Its name, and what it is called in requests.
    opens, closes : date
        Of its window, both included; `from` and `until` in JSON.
    to_order_m3 : float
        Needed, less on hand, less coming; never below zero.
    loads : int
        Of the order, without bags.
    cost : Decimal or None
        Order and hours with delivery, markup and disposal, before tax; None where a price is not known.
    enough : float
        Probability that what is coming and ordered is enough.
    decided : bool
        Whether the loads are the user's own choice.
    binding : str or None
        Why the order does not cover what is needed.
    """

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True)
    season: str
    key: str
    opens: date = Field(alias="from")
    closes: date = Field(alias="until")
    needed_m3: float
    on_hand_m3: float
    coming_m3: float
    to_order_m3: float
    ordered_m3: float
    loads: int
    left_over_m3: float
    short_m3: float
    unused_m3: float
    trips: int
    hours: float
    cost: Decimal | None
    currency: str
    sure: int
    enough: float
    decided: bool
    binding: str | None
    order: tuple[OrderFigures, ...]
    also: tuple[BesideFigures, ...]


class NextSeason(Value):
    """The next season within a year that needs something, where the running one needs nothing."""

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True)
    season: str
    key: str
    opens: date = Field(alias="from")
    closes: date = Field(alias="until")
    needed_m3: float


class Now(SeasonFigures):
    """The season whose account is running."""

    next: NextSeason | None = None


def season_figures(
    site: Site,
    season: Season,
    order: SeasonOrder,
    beneath: Mapping[UUID, Sequence[LayerAmount]],
    trips: int,
    hours: float,
) -> SeasonFigures:
    """Return a season in numbers.

    Parameters
    ----------
    site : Site
    season : Season
    order : SeasonOrder
    beneath : mapping of plot id to sequence of LayerAmount
        What is laid beneath the mulch.
    trips : int
    hours : float
        Person-hours of all tasks.

    Returns
    -------
    SeasonFigures
    """
    buying, bought = site.buying, bought_of(order)
    proposed = order.best if order.decided is None else None
    return SeasonFigures(
        season=season.name,
        key=season.key,
        opens=season.opens,
        closes=season.closes,
        needed_m3=order.needed_m3,
        on_hand_m3=order.on_hand_m3,
        coming_m3=order.coming_m3,
        to_order_m3=order.to_order_m3,
        ordered_m3=order.ordered_m3,
        loads=order.loads,
        left_over_m3=order.left_over_m3,
        short_m3=order.short_m3,
        unused_m3=order.unused_m3,
        trips=trips,
        hours=hours,
        cost=None if bought is None else cost(buying.currency, bought, hours, rates_of(site)),
        currency=buying.currency,
        sure=buying.sure,
        enough=order.enough,
        decided=order.decided is not None,
        binding=proposed.binding if proposed and not proposed.choices else None,
        also=_beside(beneath.values()),
        order=tuple(
            OrderFigures(
                source=line.name or None,
                key=line.source,
                kind=line.kind,
                material=line.material_name,
                material_key=line.material,
                stage=line.stage,
                loads=line.loads,
                volume_m3=line.volume_m3,
                exact=line.exact,
                booked_loads=order.booked_of(line.source)[0],
                booked_m3=order.booked_of(line.source)[1],
                cost=line.price,
            )
            for line in order.lines
        ),
    )


def _beside(layers: Iterable[Sequence[LayerAmount]]) -> tuple[BesideFigures, ...]:
    figures: dict[tuple[str, str], BesideFigures] = {}
    for layer in chain.from_iterable(layers):
        key = (layer.role, layer.material)
        before = figures[key].amount if key in figures else 0.0
        figures[key] = BesideFigures(
            role=layer.role,
            material=layer.name,
            material_key=layer.material,
            amount=before + layer.amount.value,
            unit=layer.amount.unit,
        )
    return tuple(figures[key] for key in sorted(figures))


def next_season(today: date, seasons: Sequence[Season], needed_m3: Sequence[float]) -> NextSeason | None:
    """Return the next season within a year that needs something, where the running one needs nothing.

    Parameters
    ----------
    today : date
    seasons : sequence of Season
        The running one first.
    needed_m3 : sequence of float
        Of each of them.

    Returns
    -------
    NextSeason or None
    """
    if needed_m3[0] > SPECK_M3:
        return None
    year_end = years_later(today, 1)
    for season, needed in zip(seasons[1:], needed_m3[1:], strict=True):
        if season.opens <= year_end and needed > 0:
            return NextSeason(
                season=season.name, key=season.key, opens=season.opens, closes=season.closes, needed_m3=needed
            )
    return None
