"""The nitrogen account of a plot: from the same layers and layings as everything else."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.climate import Normals
from ulmatic.core.decay import DecayClock, LaidLayer, StackLayer, day_number
from ulmatic.core.log import Credit, DugIn, Fed, Grown, LedgerEntry, Spread
from ulmatic.core.materials import Material
from ulmatic.core.nitrogen import (
    CONTACT_MM,
    Advised,
    Dose,
    GrowingSeason,
    Mixed,
    Rating,
    advised,
    brought,
    dose,
    nitrogen_draw,
    nitrogen_of,
    paid_in,
    peak_draw,
    range_of,
    seasons,
    soil_supply,
)
from ulmatic.core.parameters import Parameters
from ulmatic.core.planning.weeks import Weeks
from ulmatic.core.recipe import LayerRole
from ulmatic.core.schedule import Laying, ScheduledPlot
from ulmatic.core.site import SitePlot, SiteState
from ulmatic.core.value import Value

Array = NDArray[np.float64]
GROWING_FROM_C = 7.0
USES_MM = {True: 75.0, False: 25.0}
"""Rain that plants and the air use in a month, growing or not: a judgement, no source."""
WANTING = 1.0
AGED_YEARS = 0.5
"""How long aged chips are taken to have lain in a pile: a judgement, no source."""


def growing_months(normals: Normals) -> list[int]:
    """Return the months in which plants take up nitrogen.

    Parameters
    ----------
    normals : Normals

    Returns
    -------
    list of int
        1 to 12.
    """
    months = [month for month in range(1, 13) if normals.temperatures_c[month - 1] >= GROWING_FROM_C]
    return months or [6, 7]


class AccountMark(Value):
    """Something on the account: when, what in words, and the nitrogen it brings with its range, g/m².

    `entry_id` is that of the log, where it was logged.
    """

    entry_id: UUID | None
    on: date
    kind: str
    words: str
    grams_m2: float
    low: float
    high: float


class SchoolSays(Value):
    """What a school or another way of laying says of this very plot: the most owed, g N/m², and why it believes so."""

    key: str
    words: str
    why: str
    most_owed: float
    carbon_left: float
    here: bool


@dataclass(frozen=True)
class PaidIn:
    """Something that was paid in, with its material where it has one; `entry_id` where it was logged."""

    on: date
    entry: Credit
    material: Material | None
    words: str
    entry_id: UUID | None = None


@dataclass(frozen=True)
class HeldLayer:
    """A layer as the account sees it: from and until when it lies there, and how much of it.

    Attributes
    ----------
    shares : tuple of (since, until, share)
        What of it lies there between two days (days since 1970), as it was measured or taken off.
    dug_in_day : float or None
        When it was mixed into the soil.
    """

    layer: LaidLayer
    planned: bool
    shares: tuple[tuple[float, float, float], ...]
    dug_in_day: float | None = None

    def share_on(self, days: Array) -> Array:
        """Return what of it lies there at dates.

        Returns
        -------
        ndarray
            Between 0 and 1, of the shape of `days`.
        """
        shares = np.zeros(days.size)
        for since, until, share in self.shares:
            shares[(days >= since) & (days < until)] = share
        return shares


@dataclass(frozen=True)
class PlotAccount:
    """The nitrogen account of one plot through the weeks of a plan.

    Attributes
    ----------
    by_rules, by_supply : sequence of Laying
        Of the plot: as rules want, and as chips come.
    """

    state: SiteState
    weeks: Weeks
    plot: SitePlot
    scheduled: ScheduledPlot
    by_rules: Sequence[Laying]
    by_supply: Sequence[Laying]

    @property
    def parameters(self) -> Parameters:
        """The parameters of its site."""
        return self.state.parameters

    @property
    def days(self) -> Array:
        """The weeks, as days since 1970."""
        return self.weeks.days

    @cached_property
    def growing(self) -> list[int]:
        """Months in which plants take up nitrogen."""
        return growing_months(self.state.climate.normals)

    @cached_property
    def excess(self) -> Array:
        """Rain beyond what is used, mm added up by week, from the normals."""
        rain = self.state.climate.normals.rain_mm
        by_month = [max(0.0, rain[month - 1] - USES_MM[month in self.growing]) * 12 / 52 for month in range(1, 13)]
        return np.cumsum([by_month[day.month - 1] for day in self.weeks.dates])

    @cached_property
    def contact_mm(self) -> float:
        """How much of a layer touches the soil, by the practice here."""
        return CONTACT_MM[self.state.practice(self.plot).nitrogen.value]

    @cached_property
    def layers(self) -> list[HeldLayer]:
        """What was laid, dug in or not, and what will be laid."""
        stack = self.state.stacks[self.plot.id]
        layers = [_held(versions) for versions in _by_origin(stack.layers)]
        scheduled = self.scheduled
        for laying in self.by_supply:
            layer = LaidLayer(
                material=scheduled.material,
                on=laying.on,
                settling=scheduled.settling,
                loose_mm=laying.settled_mm / (1 - scheduled.settling),
            )
            day, share = float(day_number(laying.on)), 1.0 / scheduled.rows
            layers.append(
                HeldLayer(
                    layer, planned=True, shares=((day, np.inf, share),), dug_in_day=day if laying.dug_in else None
                )
            )
        return layers

    @property
    def dug_in(self) -> bool:
        """Whether anything that lies here was mixed in, or will be."""
        return any(layer.dug_in_day is not None for layer in self.layers)

    def draw(self, layers: Sequence[LaidLayer] | None = None) -> Array:
        """Return what layers hold beyond what they brought, each (layers, weeks).

        Returns
        -------
        ndarray
            g N/m².
        """
        if not self.layers:
            return np.zeros((0, self.days.size))
        mixed = [Mixed(self.contact_mm, layer.dug_in_day) for layer in self.layers]
        draws = nitrogen_draw(layers or [layer.layer for layer in self.layers], mixed, self._clock, self.days)
        shares: Array = draws * np.array([layer.share_on(self.days) for layer in self.layers])
        return shares

    @property
    def _clock(self) -> DecayClock:
        return self.state.climate.clocks[self.plot.irrigated]

    @cached_property
    def credits(self) -> list[PaidIn]:
        """What was paid in, and the compost that comes with the next laying."""
        state, credits = self.state, []
        for entry in state.ledger[self.plot.id]:
            if isinstance(entry.entry, Fed | Spread | Grown):
                material = (
                    state.assumed.materials.get(entry.entry.material) if isinstance(entry.entry, Spread) else None
                )
                credits.append(PaidIn(entry.on, entry.entry, material, _named(entry.entry, material), entry.id))
        for laying in self.by_rules:
            if laying.first:
                laid = state.stacks[self.plot.id].beneath
                for layer in state.recipe(self.plot).layers:
                    if layer.role is LayerRole.COMPOST and layer.settled_mm > 0 and layer.material.key not in laid:
                        spread = Spread(material=layer.material.key, depth_mm=layer.settled_mm)
                        words = f"{layer.material.name}, by the recipe"
                        credits.append(PaidIn(laying.on, spread, layer.material, words))
                break
        return credits

    @cached_property
    def paid(self) -> tuple[Array, Array]:
        """What credits have given, and what of it was washed out, by week."""
        soil = self.plot.plot.site_conditions.soil
        release, lost = np.zeros(self.days.size), np.zeros(self.days.size)
        for paid in self.credits:
            gives, loses = paid_in(
                paid.entry, paid.material, paid.on, self._clock, self.days, self.excess, soil, self.parameters
            )
            release, lost = release + gives, lost + loses
        return release, lost

    @cached_property
    def draws(self) -> Array:
        """What each layer holds."""
        return self.draw()

    @cached_property
    def balance(self) -> Array:
        """The account by week, g N/m²: below zero owed, above paid back."""
        release, lost = self.paid
        return np.asarray(release - lost - self.draws.sum(axis=0))

    @cached_property
    def band(self) -> tuple[Array, Array]:
        """The account's range by week, that of the layers' C:N."""
        release, lost = self.paid
        ends = [release - lost - self.draw(self._at_cn(end)).sum(axis=0) for end in ("low", "high")]
        return np.minimum.reduce([self.balance, *ends]), np.maximum.reduce([self.balance, *ends])

    def _at_cn(self, end: str) -> list[LaidLayer]:
        """Return the layers with their C:N at the low or high end of its range.

        Returns
        -------
        list of LaidLayer
        """
        layers = []
        for part in self.layers:
            cn = part.layer.material.cn
            value = getattr(cn, end) or cn.value
            material = part.layer.material.model_copy(update={"cn": cn.model_copy(update={"value": value})})
            layers.append(part.layer.model_copy(update={"material": material}))
        return layers

    @cached_property
    def seasons(self) -> list[GrowingSeason]:
        """The growing seasons ahead."""
        ground = self.plot.plot.site_conditions
        supply = soil_supply(ground.soil, ground.organic_matter, ground.soil_gives_n, self.parameters)
        ahead = slice(self.weeks.today_index, None)
        dates, balance = self.weeks.dates[ahead], self.balance[ahead]
        return seasons(dates, balance, self.plot.plot.use, supply, self.growing, self.parameters)

    @property
    def worst(self) -> GrowingSeason | None:
        """The season in which most is wanting."""
        return max(self.seasons, key=lambda season: season.wanting, default=None)

    @property
    def advised(self) -> list[Advised]:
        """What to do."""
        return advised(
            self.worst,
            self.plot.plot.use,
            dug_in=self.dug_in,
            free_in=self.free_in,
            times_if_dug_in=self._times_if_dug_in,
        )

    @cached_property
    def _deepest(self) -> LaidLayer | None:
        """The deepest layer here, as fresh as it came."""
        if not self.layers:
            return None
        layer = max((part.layer for part in self.layers), key=lambda candidate: candidate.loose_mm)
        return layer.model_copy(update={"age_decay_time": 0.0})

    @property
    def _times_if_dug_in(self) -> float:
        """How many times as much a layer like the deepest would borrow if it were dug in."""
        if self._deepest is None:
            return 0.0
        on_top, _ = peak_draw(self._deepest, self.contact_mm, dug_in=False)
        mixed, _ = peak_draw(self._deepest, self.contact_mm, dug_in=True)
        return mixed / on_top if on_top > 0 else 0.0

    @property
    def free_in(self) -> int | None:
        """The first year from which on too little is owed to notice; None where the account does not reach it."""
        owing = [season.year for season in self.seasons if season.rating is not Rating.NEGLIGIBLE]
        later_years = [season.year for season in self.seasons if season.year > max(owing, default=0)]
        return min(later_years, default=None)

    def dose(self, product: str, n_share: float, bag_kg: float | None, *, soluble: bool) -> Dose | None:
        """Return the dose of a product that makes up for what is wanting; None where nothing is.

        Returns
        -------
        Dose or None
        """
        worst = self.worst
        if worst is None or worst.wanting < WANTING:
            return None
        first = max(self.state.day, date(worst.year, self.growing[0], 1))
        season = [week for week, day in enumerate(self.weeks.dates) if day >= self.state.day and day.year == worst.year]
        hungriest = self.weeks.dates[min(season, key=lambda week: float(self.balance[week]))]
        area = self.state.laid_m2(self.plot, self.state.day)
        return dose(worst.wanting, product, n_share, area, bag_kg, first, self.growing, soluble=soluble, last=hungriest)

    def marks(self) -> list[AccountMark]:
        """Return what was paid in and dug in, by day.

        Returns
        -------
        list of AccountMark
        """
        marks = []
        for paid in self.credits:
            low, high = range_of(paid.entry, paid.material, self.parameters)
            marks.append(
                AccountMark(
                    entry_id=paid.entry_id,
                    on=paid.on,
                    kind=paid.entry.kind,
                    words=paid.words,
                    grams_m2=nitrogen_of(paid.entry, paid.material, self.parameters),
                    low=low,
                    high=high,
                )
            )
        dug: list[LedgerEntry] = [entry for entry in self.state.ledger[self.plot.id] if isinstance(entry.entry, DugIn)]
        marks += [
            AccountMark(entry_id=entry.id, on=entry.on, kind="dug_in", words="Dug in", grams_m2=0.0, low=0.0, high=0.0)
            for entry in dug
        ]
        return sorted(marks, key=lambda mark: mark.on)

    def overdone(self) -> str:
        """Say what becomes of what is given beyond what is wanting.

        Returns
        -------
        str
        """
        fed = sum(
            nitrogen_of(paid.entry, None, self.parameters) for paid in self.credits if isinstance(paid.entry, Fed)
        )
        if fed <= 0:
            return "Nitrogen beyond the need leaches, costs money and harms water."
        return (
            f"Of {{{fed:.1f} g_m2}} of nitrogen given as dressings "
            f"about {{{self.paid[1][-1]:.1f} g_m2}} are washed out; "
            "what is given beyond what is wanting goes the same way."
        )

    def schools(self) -> list[SchoolSays]:
        """Return what each school says of a layer like the deepest one here, and other ways of laying it.

        Returns
        -------
        list of SchoolSays
        """
        fresh = self._deepest
        if fresh is None:
            return []
        schools = []
        for key, contact in CONTACT_MM.items():
            owed, left = peak_draw(fresh, contact, dug_in=False)
            words, why = _SCHOOLS[key]
            schools.append(
                SchoolSays(
                    key=key,
                    words=f"{words}: {{{contact:.0f} mm}} in contact takes",
                    why=why,
                    most_owed=owed,
                    carbon_left=left,
                    here=contact == self.contact_mm and not self.dug_in,
                )
            )
        owed, left = peak_draw(fresh, self.contact_mm, dug_in=True)
        schools.append(
            SchoolSays(
                key="dug_in",
                words="If dug into the soil",
                most_owed=owed,
                carbon_left=left,
                here=self.dug_in,
                why="All of it touches the soil, and decomposers in soil use more nitrogen.",
            )
        )
        start = self.state.day
        days = day_number(start) + 7.0 * np.arange(200)
        aged = fresh.model_copy(update={"on": start, "age_decay_time": AGED_YEARS})
        most = float(nitrogen_draw([aged], [Mixed(self.contact_mm)], self.state.climate.clocks[0], days).max())
        schools.append(
            SchoolSays(
                key="aged",
                words="Aged for months first, on top",
                most_owed=max(0.0, most),
                carbon_left=left,
                here=False,
                why="It has already borrowed, in the pile.",
            )
        )
        return schools

    def layer_figures(self) -> list[tuple[HeldLayer, float, float]]:
        """Return each layer with the nitrogen it brought and the most it borrows, g/m².

        Returns
        -------
        list of (HeldLayer, float, float)
        """
        return [
            (part, brought(part.layer), float(max(0.0, self.draws[index].max(initial=0.0))))
            for index, part in enumerate(self.layers)
        ]


_SCHOOLS = {
    "relaxed": (
        "No effect seen",
        "Only a few millimetres touch the soil. This school sees no effect, and is right where roots are deep.",
    ),
    "where_it_touches": (
        "Only where they touch the soil",
        "The contact zone borrows nitrogen; seedlings in the top centimetre may be affected.",
    ),
    "cautious": (
        "Chips take nitrogen",
        "Rain and worms carry chips into the soil. Some growers report yellow plants in shallow soil.",
    ),
}


def _named(entry: Credit, material: Material | None) -> str:
    match entry:
        case Fed():
            return entry.product
        case Spread():
            return material.name if material else entry.material
        case Grown():
            return "Legume" if entry.crop == "legume" else "Cover crop"


def _by_origin(layers: Sequence[StackLayer]) -> list[list[StackLayer]]:
    versions: dict[int, list[StackLayer]] = {}
    for layer in layers:
        versions.setdefault(layer.origin, []).append(layer)
    return list(versions.values())


def _held(versions: Sequence[StackLayer]) -> HeldLayer:
    """Return a layer with what was measured of it since.

    Returns
    -------
    HeldLayer
    """
    first = versions[0]
    shares, dug = [], None
    for version in versions:
        share = version.weight * version.layer.loose_mm / first.layer.loose_mm if first.layer.loose_mm > 0 else 0.0
        since = -np.inf if version is first else float(day_number(version.from_day))
        ends = version.until is not None and version.fate != "dug_in"
        until = float(day_number(version.until)) if ends and version.until is not None else np.inf
        if version.fate == "dug_in" and version.until is not None:
            dug = float(day_number(version.until))
        shares.append((since, until, share))
    return HeldLayer(first.layer, planned=False, shares=tuple(shares), dug_in_day=dug)
