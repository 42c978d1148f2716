"""The nitrogen account of a plot: its layers, what was paid in, its seasons, and what to do."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.accounts.scope import Scope
from ulmatic.core.climate.normals import Normals
from ulmatic.core.decay import LaidLayer, day_number
from ulmatic.core.events import LaidEvent, ReadEvent
from ulmatic.core.materials import Material
from ulmatic.core.nitrogen import (
    CONTACT_MM,
    Credit,
    Fed,
    Grown,
    Mixed,
    MixedIn,
    Spread,
    advised,
    brought,
    dose,
    drawn,
    nitrogen_of,
    paid_in,
    peak_draw,
    range_of,
    seasons,
    soil_supply,
)
from ulmatic.core.recipe import LayerRole, recipe_of
from ulmatic.nitrogen.schemas import AccountMark, HeldLayer, NitrogenSheet, PlotBalance, SchoolSays, SiteNitrogen
from ulmatic.platform.problems import Problem
from ulmatic.platform.series import packed
from ulmatic.schedule.coming import BACK_WEEKS, Coming, coming
from ulmatic.schedule.forecast import layers_with_planned
from ulmatic.survey.models import PlotRow

Array = NDArray[np.float64]
YEARS = 3
GROWING_FROM_C = 7.0
USES_MM = {True: 75.0, False: 25.0}
"""Rain that plants and the air use in a month, growing or not: a judgement, no source."""
WANTING = 1.0


def _hundredths(values: Array) -> str:
    return packed(values, 100, -327.68)


def growing_months(normals: Normals) -> list[int]:
    """Return the months in which plants take up nitrogen."""
    months = [month for month in range(1, 13) if normals.temperatures_c[month - 1] >= GROWING_FROM_C]
    return months or [6, 7]


def _excess(one: Coming, growing: list[int]) -> Array:
    """Return rain beyond what is used, mm added up by week, from the normals."""
    rain = one.has.around.normals.rain_mm
    by_month = [max(0.0, rain[month - 1] - USES_MM[month in growing]) * 12 / 52 for month in range(1, 13)]
    dates = [one.first + timedelta(weeks=week) for week in range(one.days.size)]
    return np.cumsum([by_month[when.month - 1] for when in dates])


@dataclass(frozen=True)
class PaidIn:
    """Something that was paid in, with its material where it has one; `event_id` where it was logged."""

    on: date
    entry: Credit
    material: Material | None
    words: str
    event_id: UUID | None = None


@dataclass(frozen=True)
class Account:
    """A plot's layers and entries, with the series that follow."""

    one: Coming
    row: PlotRow
    layers: list[LaidLayer]
    planned: int
    credits: list[PaidIn]
    growing: list[int]
    excess: Array
    contact_mm: float

    @property
    def dug_in(self) -> bool:
        """Whether what lies there was mixed in, or the recipe says that it is."""
        return self.row.id in self.one.dug_in or self.one.has.plots[self.row.id].recipe.dug_in

    def mixed(self, contact_mm: float) -> list[Mixed]:
        """Return how each layer touches the soil."""
        made = []
        there = len(self.layers) - self.planned
        for at, layer in enumerate(self.layers):
            day = None
            if self.one.has.plots[self.row.id].recipe.dug_in:
                day = float(day_number(layer.on))
            elif at < there and (dug := self.one.dug_in_on(self.row.id, layer)):
                day = float(day_number(dug))
            made.append(Mixed(contact_mm, day))
        return made

    def draw(self, layers: list[LaidLayer] | None = None) -> Array:
        """Return what layers hold beyond what they brought, each (layers, weeks)."""
        if not self.layers:
            return np.zeros((0, self.one.days.size))
        ticking = self.one.clocks[self.one.irrigated(self.row.id)]
        return drawn(layers or self.layers, self.mixed(self.contact_mm), ticking, self.one.days)

    def paid(self) -> tuple[Array, Array]:
        """Return what entries have given, and what of it was washed out, by week."""
        ticking = self.one.clocks[self.one.irrigated(self.row.id)]
        soil = self.one.has.plots[self.row.id].found.soil
        given, lost = np.zeros(self.one.days.size), np.zeros(self.one.days.size)
        for paid in self.credits:
            gives, loses = paid_in(paid.entry, paid.material, paid.on, ticking, self.one.days, self.excess, soil)
            given, lost = given + gives, lost + loses
        return given, lost

    def at_cn(self, end: str) -> list[LaidLayer]:
        """Return the layers with their C:N at the low or high end of its range."""
        made = []
        for layer in self.layers:
            cn = layer.material.cn
            value = getattr(cn, end) or cn.value
            material = layer.material.model_copy(update={"cn": cn.model_copy(update={"value": value})})
            made.append(layer.model_copy(update={"material": material}))
        return made


def _accounts(one: Coming, rows: Sequence[PlotRow]) -> list[Account]:
    around = one.has.around
    growing = growing_months(around.normals)
    excess = _excess(one, growing)
    found: dict[UUID, list[PaidIn]] = {row.id: [] for row in rows}
    for logged in one.logged:
        event = logged.event
        if logged.plot_id in found and not isinstance(event, LaidEvent | ReadEvent | MixedIn):
            material = around.shelf.get(event.material) if isinstance(event, Spread) else None
            found[logged.plot_id].append(PaidIn(logged.on, event, material, _named(event, material), logged.id))
    made = []
    laid = layers_with_planned(one, rows)
    for row in rows:
        plot = one.has.plots[row.id]
        setting = around.setting(plot)
        for layer in recipe_of(plot, setting).layers:
            if layer.role is LayerRole.COMPOST and layer.settled_mm > 0:
                entry = Spread(material=layer.material.key, depth_mm=layer.settled_mm)
                words = f"{layer.material.name}, by the recipe"
                found[row.id].append(PaidIn(one.today, entry, layer.material, words))
        layers, planned = laid[row.id]
        made.append(
            Account(
                one=one, row=row, layers=layers, planned=planned, credits=found[row.id], growing=growing,
                excess=excess, contact_mm=CONTACT_MM[setting.practice.nitrogen.value],
            )
        )  # fmt: skip
    return made


def _named(entry: Credit, material: Material | None) -> str:
    match entry:
        case Fed():
            return entry.product
        case Spread():
            return material.name if material else entry.material
        case Grown():
            return "Legume" if entry.crop == "legume" else "Cover crop"


def nitrogen_sheet(
    scope: Scope, site_id: UUID, plot_id: UUID, product: str, n_share: float, bag_kg: float | None, *, soluble: bool
) -> NitrogenSheet:
    """Return the account of a plot, with the dose of a product that would make up for what is wanting."""
    one = coming(scope, site_id, YEARS)
    row = next((row for row in one.has.rows if row.id == plot_id), None)
    if row is None:
        raise Problem(404, "There is no such plot here.")
    (account,) = _accounts(one, [row])
    plot, need = one.has.plots[plot_id], one.has.needs[plot_id]
    draws = account.draw()
    given, lost = account.paid()
    balance = given - lost - draws.sum(axis=0)
    ends = [given - lost - account.draw(account.at_cn(end)).sum(axis=0) for end in ("low", "high")]
    low, high = np.minimum.reduce([balance, *ends]), np.maximum.reduce([balance, *ends])
    dates = [one.first + timedelta(weeks=week) for week in range(one.days.size)]
    ahead = slice(BACK_WEEKS, None)
    supply = soil_supply(plot.found.soil, plot.found.organic_matter, plot.found.soil_gives_n)
    found = seasons(dates[ahead], balance[ahead], plot.use, supply, account.growing)
    worst = max(found, key=lambda season: season.wanting, default=None)
    wanting = worst.wanting if worst else 0.0
    made = None
    if wanting >= WANTING and worst is not None:
        first = max(one.today, date(one.today.year, account.growing[0], 1))
        hungriest = dates[ahead][int(balance[ahead].argmin())]
        made = dose(
            wanting, product, n_share, need.laid.value, bag_kg, first, account.growing, soluble=soluble, last=hungriest
        )
    return NitrogenSheet(
        plot_id=plot_id, first=one.first, today=one.today, weeks=one.days.size, balance=_hundredths(balance),
        low=_hundredths(low), high=_hundredths(high), paid_in=_hundredths(given), washed_out_g_m2=float(lost[-1]),
        growing=account.growing,
        contact_mm=account.contact_mm, dug_in=account.dug_in, marks=_marks(account),
        layers=[
            HeldLayer(
                name=layer.material.name, on=layer.on, planned=at >= len(account.layers) - account.planned,
                brought=brought(layer), most_owed=float(max(0.0, draws[at].max(initial=0.0))),
                cn=layer.material.cn.value,
            )
            for at, layer in enumerate(account.layers)
        ],
        seasons=found, advised=advised(worst, plot.use, dug_in=account.dug_in), dose=made,
        overdone=_overdone(account, lost),
        schools=_schools(account), area_m2=need.laid.value, to_water_m=plot.found.to_water_m,
    )  # fmt: skip


def _marks(account: Account) -> list[AccountMark]:
    made = []
    for paid in account.credits:
        low, high = range_of(paid.entry, paid.material)
        made.append(
            AccountMark(
                event_id=paid.event_id, on=paid.on, kind=paid.entry.kind, words=paid.words,
                grams_m2=nitrogen_of(paid.entry, paid.material), low=low, high=high,
            )
        )  # fmt: skip
    for logged in account.one.logged:
        if logged.plot_id == account.row.id and isinstance(logged.event, MixedIn):
            made.append(
                AccountMark(
                    event_id=logged.id, on=logged.on, kind="mixed", words="Dug in", grams_m2=0.0, low=0.0, high=0.0
                )
            )
    return sorted(made, key=lambda mark: mark.on)


def _overdone(account: Account, lost: Array) -> str:
    fed = sum(nitrogen_of(paid.entry, None) for paid in account.credits if isinstance(paid.entry, Fed))
    if fed <= 0:
        return "What is given beyond what is wanting is washed out, costs money and harms water."
    return (
        f"Of {{{fed:.1f} g_m2}} of nitrogen given as dressings about {{{lost[-1]:.1f} g_m2}} are washed out; "
        "what is given beyond what is wanting goes the same way."
    )


def _schools(account: Account) -> list[SchoolSays]:
    """Return what each school says of a layer like the deepest one here, and other ways of laying it."""
    if not account.layers:
        return []
    layer = max(account.layers, key=lambda one: one.loose_mm)
    fresh = layer.model_copy(update={"age_decay_time": 0.0})
    why = {
        "relaxed": "Only a few millimetres touch: it never sees anything, and is right where roots are deep.",
        "where_it_touches": "The zone that touches borrows; seedlings in the top centimetre may feel it.",
        "cautious": "Rain and worms carry the chips down: it has seen shallow beds go yellow.",
    }
    words = {"relaxed": "Never seen it", "where_it_touches": "Only where it touches", "cautious": "It robs the bed"}
    made = []
    for key, contact in CONTACT_MM.items():
        owed, left = peak_draw(fresh, contact, dug_in=False)
        made.append(SchoolSays(key=key, words=f"{words[key]}: {{{contact:.0f} mm}} draws", why=why[key], most_owed=owed,
                           carbon_left=left, here=contact == account.contact_mm and not account.dug_in))  # fmt: skip
    owed, left = peak_draw(fresh, account.contact_mm, dug_in=True)
    made.append(
        SchoolSays(
            key="dug_in", words="The same, dug in", most_owed=owed, carbon_left=left, here=account.dug_in,
            why="All of it touches, and in soil decomposers need not economise.",
        )
    )  # fmt: skip
    ticking = account.one.clocks[False]
    start = account.one.today
    days = day_number(start) + 7.0 * np.arange(200)
    aged = layer.model_copy(update={"on": start, "age_decay_time": 0.5})
    most = float(drawn([aged], [Mixed(account.contact_mm)], ticking, days).max())
    made.append(
        SchoolSays(
            key="aged", words="Aged for months first, on top", most_owed=max(0.0, most), carbon_left=left, here=False,
            why="It has borrowed already, in the heap, from the air and itself.",
        )
    )  # fmt: skip
    return made


def site_nitrogen(scope: Scope, site_id: UUID) -> SiteNitrogen:
    """Return every plot's account, for the plan."""
    one = coming(scope, site_id, YEARS)
    made = []
    for account in _accounts(one, one.has.rows):
        given, lost = account.paid()
        balance = given - lost - account.draw().sum(axis=0)
        made.append(PlotBalance(plot_id=account.row.id, balance=_hundredths(balance)))
    return SiteNitrogen(first=one.first, today=one.today, weeks=one.days.size, plots=made)
