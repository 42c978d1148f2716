"""A site with its layers, its weather, and the rules by which it is laid again."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from ulmatic.accounts.scope import Scope
from ulmatic.core.climate.weather import by_month, minima
from ulmatic.core.decay import (
    IRRIGATION,
    Clock,
    LaidLayer,
    climate_factor,
    clock,
    day_number,
    loose_for,
)
from ulmatic.core.events import LaidEvent
from ulmatic.core.materials import Material
from ulmatic.core.nitrogen import MixedIn
from ulmatic.core.recipe import Practice, recipe_of
from ulmatic.core.recipe.acceptance import accepted
from ulmatic.core.renewal import (
    Future,
    Ground,
    Overrides,
    Rule,
    Seasons,
    TopUp,
    grown,
    open_months,
    proposed_rule,
    renew,
    seasons_of,
)
from ulmatic.core.supply.volume import settling_for
from ulmatic.core.survey import Use
from ulmatic.core.survey.ground import ground
from ulmatic.core.work.haul import HOURS, PACE, SCOOP, SPREAD, UNKNOWN_WALK_M, UPHILL
from ulmatic.log.models import EventRow
from ulmatic.log.schemas import EventOut
from ulmatic.log.service import event_rows
from ulmatic.schedule.expected import Expected
from ulmatic.schedule.models import WeatherRow
from ulmatic.schedule.weather import days_of, weather_rows
from ulmatic.stock.service import Stock, stock_of
from ulmatic.supply.schemas import SupplierOut
from ulmatic.supply.suppliers import buying_of, list_suppliers
from ulmatic.survey.models import PlotRow
from ulmatic.survey.surveyed import Surveyed, surveyed

Array = NDArray[np.float64]
BACK_WEEKS = 52
CLOCK_YEARS = 12
"""What lies there may have lain for ten years."""
EVERY = 4
"""Ranges are worked out for every fourth week."""
GUESSED_MONTHS = 12
"""How long what lies there is taken to have lain, where nothing is noted: a judgement, no source."""
LEAST_MM = 0.5
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)


@dataclass(frozen=True)
class Coming:
    """A site with its layers, weather and rules."""

    has: Surveyed
    stock: Stock
    events: Sequence[EventRow]
    weather: Sequence[WeatherRow]
    suppliers: Sequence[SupplierOut]
    years: int

    @property
    def today(self) -> date:
        """The day it is."""
        return self.has.around.today

    @property
    def first(self) -> date:
        """The first week shown."""
        return self.today - timedelta(weeks=BACK_WEEKS)

    @property
    def ahead(self) -> int:
        """Weeks from today on."""
        return 52 * self.years + 1

    @cached_property
    def days(self) -> Array:
        """All weeks shown, as days since 1970."""
        return np.asarray(day_number(self.first) + 7.0 * np.arange(BACK_WEEKS + self.ahead), dtype=np.float64)

    @cached_property
    def overridden(self) -> Overrides:
        """What was said of the place's seasons."""
        return Overrides.model_validate(self.has.row.seasons)

    @cached_property
    def seasons(self) -> Seasons:
        """The place's seasons, as overridden."""
        found = seasons_of(self.has.around.normals, minima(days_of(self.weather)))
        said = self.overridden.model_dump(include={"last_frost", "first_frost", "zone"}, exclude_none=True)
        return found.model_copy(update=said)

    @cached_property
    def open_months(self) -> tuple[int, ...]:
        """Months in which is laid, by the site's practice or as overridden."""
        setting = self.has.around.practices
        chosen = next((one.season for one in reversed(setting) if one.season), None)
        return self.overridden.open_months or open_months(self.has.around.normals, chosen or Practice().season)

    def _clock(self, irrigation_mm: float) -> Clock:
        first = date(self.today.year - CLOCK_YEARS, 1, 1)
        last = self.today + timedelta(weeks=self.ahead)
        return clock(self.has.around.normals, first, last, by_month(days_of(self.weather)), irrigation_mm)

    @cached_property
    def clocks(self) -> tuple[Clock, Clock]:
        """Decay time without and with irrigation; that with only where something is irrigated."""
        dry = self._clock(0.0)
        return dry, self._clock(IRRIGATION.value) if any(self.irrigated(key) for key in self.has.plots) else dry

    def irrigated(self, plot: UUID) -> bool:
        """Say whether a plot is irrigated."""
        return bool(self.has.plots[plot].found.irrigated)

    @cached_property
    def materials(self) -> dict[UUID, Material]:
        """The mulch of each plot."""
        around, plots = self.has.around, self.has.plots
        found = {}
        for key, plot in plots.items():
            setting = around.setting(plot)
            found[key] = setting.own or recipe_of(plot, setting).proposal.material
        return found

    def settling(self, plot: UUID) -> float:
        """Return the share of loose depth that goes on a plot."""
        return settling_for(self.has.plots[plot].use, self.materials[plot]).value

    def _age_time(self, material: Material, laid: date, chipped: date | None) -> float:
        """Return the decay time before a layer was laid."""
        days = max(0, (laid - chipped).days) if chipped else 0
        return climate_factor(self.has.around.normals) * days / 365.25

    @cached_property
    def layers(self) -> dict[UUID, list[LaidLayer]]:
        """What lies on each plot, without what was dug in."""
        return {
            key: [layer for layer in laid if self.dug_in_on(key, layer) is None] for key, laid in self.all_laid.items()
        }

    @cached_property
    def logged(self) -> list[EventOut]:
        """The log of the site's plots, the earliest first."""
        return [EventOut.model_validate(row) for row in self.events]

    @cached_property
    def dug_in(self) -> dict[UUID, list[date]]:
        """Days on which what lay on a plot was dug in."""
        found: dict[UUID, list[date]] = {}
        for one in self.logged:
            if isinstance(one.event, MixedIn):
                found.setdefault(one.plot_id, []).append(one.on)
        return found

    def dug_in_on(self, plot: UUID, layer: LaidLayer) -> date | None:
        """Return the day on which a layer was dug in."""
        return min((day for day in self.dug_in.get(plot, ()) if day >= layer.on), default=None)

    @cached_property
    def all_laid(self) -> dict[UUID, list[LaidLayer]]:
        """What each plot was given: what was there when its depth was last said, and what was laid since."""
        found: dict[UUID, list[LaidLayer]] = {row.id: self._lies(row) for row in self.has.rows}
        since = {row.id: row.existing_at for row in self.has.rows}
        area = {key: max(0.01, need.laid.value) for key, need in self.has.needs.items()}
        for entry in self.stock.entries:
            plot = entry.plot_id
            if entry.kind == "lay" and plot in since and entry.created_at > since[plot]:
                lots = self.stock.books.plots.get(plot, {})
                load = self.stock.deliveries[max(lots, key=lots.__getitem__)]
                material = self.has.around.shelf.get(load.material) or self.materials[plot]
                found[plot].append(
                    self._laid(
                        plot,
                        material,
                        entry.on,
                        entry.volume_m3 / area[plot] * 1000,
                        load.chipped_on or load.received_on,
                    )
                )
        for row, logged in zip(self.events, self.logged, strict=True):
            event = logged.event
            if isinstance(event, LaidEvent) and row.plot_id in since and row.created_at > since[row.plot_id]:
                material = self.has.around.shelf.get(event.material) or self.materials[row.plot_id]
                settling = settling_for(self.has.plots[row.plot_id].use, material).value
                loose = event.depth_mm / (1 - settling)
                found[row.plot_id].append(self._laid(row.plot_id, material, row.on, loose, event.chipped_on))
        return found

    def _laid(self, plot: UUID, material: Material, on: date, loose_mm: float, chipped: date | None) -> LaidLayer:
        settling = settling_for(self.has.plots[plot].use, material).value
        return LaidLayer(
            material=material, on=on, loose_mm=loose_mm, settling=settling,
            age_decay_time=self._age_time(material, on, chipped),
        )  # fmt: skip

    @cached_property
    def _loose_for_1_mm(self) -> dict[tuple[str, float, bool, date, date], float]:
        return {}

    def _lies(self, row: PlotRow) -> list[LaidLayer]:
        plot = self.has.plots[row.id]
        depth = plot.existing().value
        if depth < LEAST_MM:
            return []
        months = plot.found.lain_months if plot.found.lain_months is not None else GUESSED_MONTHS
        said = row.existing_at.date()
        on = said - timedelta(days=round(months * 30.44))
        material, settling = self.materials[row.id], self.settling(row.id)
        wet = self.irrigated(row.id)
        alike = (material.key, settling, wet, said, on)
        if alike not in self._loose_for_1_mm:
            ticking = self.clocks[wet]
            time = float(ticking.at(day_number(said)) - ticking.at(day_number(on)))
            self._loose_for_1_mm[alike] = loose_for(material, settling, 1.0, (said - on).days, time)
        loose = depth * self._loose_for_1_mm[alike]
        return [LaidLayer(material=material, on=on, loose_mm=loose, settling=settling)]

    def rule(self, row: PlotRow) -> tuple[Rule, bool]:
        """Return a plot's rule, and whether it is the proposed one."""
        if row.renewal is not None:
            return _RULE.validate_python(row.renewal), False
        plot = self.has.plots[row.id]
        return proposed_rule(plot.use, self.has.around.setting(plot).practice, plot.wanted_mm), True

    def areas(self, plot: UUID) -> tuple[float, ...]:
        """Return a plot's laid ground in each year ahead."""
        one, need = self.has.plots[plot], self.has.needs[plot]
        now = need.area.value
        if one.use not in (Use.YOUNG_TREE, Use.ESTABLISHED_TREE) or now <= 0:
            return (need.laid.value,)
        share = need.laid.value / now
        return tuple(
            share * ground(grown(one.shape, one.use, year, one.found.growth_m), one.cut_outs, one.slope).area.value
            for year in range(self.years + 1)
        )

    @cached_property
    def expected(self) -> Expected:
        """What suppliers who reckon in the site's currency can be counted on for."""
        currency = buying_of(self.has.row).currency
        return Expected([one.source for one in self.suppliers if one.currency == currency])

    @cached_property
    def waits(self) -> bool:
        """Whether what is short waits for chips that come unasked: as was said, or where nobody sells any."""
        if self.overridden.waits is not None:
            return self.overridden.waits
        return self.expected.year_m3 > 0 and not self.expected.sold

    @cached_property
    def _accepts(self) -> dict[UUID, frozenset[str]]:
        around = self.has.around
        keys = {one.source.material for one in self.suppliers} | {
            one.material for one in self.stock.deliveries.values()
        }
        offered = [material for key in sorted(keys) if (material := around.shelf.get(key)) is not None]
        return {key: accepted(plot, around.setting(plot), offered) for key, plot in self.has.plots.items()}

    def ground(self, row: PlotRow, rule: Rule, *, faster: float = 1.0) -> Ground:
        """Return a plot as it is renewed; `faster` multiplies the rate of what is laid from now on."""
        material = self.materials[row.id]
        if faster != 1.0:
            quick = material.rate.model_copy(update={"value": material.rate.value * faster})
            material = material.model_copy(update={"rate": quick})
        return Ground(
            rule=rule, material=material, settling=self.settling(row.id), layers=tuple(self.layers[row.id]),
            areas_m2=self.areas(row.id), open_months=self.open_months, clock=int(self.irrigated(row.id)),
            rank=row.priority, accepts=self._accepts[row.id] if self.waits else frozenset(),
        )  # fmt: skip

    def renewed(self, grounds: Sequence[Ground], *, waits: bool = False) -> Future:
        """Simulate plots from today on; with `waits` nothing is laid before it has come."""
        around, arrivals = self.has.around, None
        if waits:
            pace = climate_factor(around.normals)
            arrivals = self.expected.arrivals(self.today, self.years, self.stock, around.shelf, pace)
        return renew(grounds, self.clocks, self.today, self.ahead, arrivals)

    @cached_property
    def rules(self) -> list[tuple[Rule, bool]]:
        """The rule of each plot, and whether it is the proposed one."""
        return [self.rule(row) for row in self.has.rows]

    @cached_property
    def grounds(self) -> list[Ground]:
        """All plots, each by its rule."""
        return [self.ground(row, rule) for row, (rule, _) in zip(self.has.rows, self.rules, strict=True)]

    @cached_property
    def wanted(self) -> Future:
        """What becomes of all plots if there are chips when they are wanted."""
        return self.renewed(self.grounds)

    @cached_property
    def future(self) -> Future:
        """What becomes of all plots."""
        return self.renewed(self.grounds, waits=True) if self.waits else self.wanted

    def planned(self, rows: Sequence[PlotRow]) -> list[list[TopUp]]:
        """Return what is to be laid on each of some plots."""
        # Where plots share what comes, none can be worked out without the others.
        alone = len(rows) < len(self.has.rows) and not self.waits
        every = rows if alone else self.has.rows
        future = self.renewed([self.ground(row, self.rule(row)[0]) for row in rows]) if alone else self.future
        found: dict[UUID, list[TopUp]] = {row.id: [] for row in every}
        for one in future.top_ups:
            found[every[one.plot].id].append(one)
        return [found[row.id] for row in rows]

    def hours_per_m3(self, plot: UUID) -> float:
        """Return the hours that a m³ takes one person, with the site's barrow."""
        way = self.has.ways[plot]
        return HOURS(
            V=1.0, n=1 / self.has.site.barrow_m3, f=SCOOP.value, s=SPREAD.value, k=UPHILL.value, p=PACE.value,
            d=way.walk.value if way.walk else UNKNOWN_WALK_M, u=way.climb.value if way.climb else 0.0,
        )  # fmt: skip


def coming(scope: Scope, site_id: UUID, years: int) -> Coming:
    """Return a site with all that its forecast rests on."""
    has = surveyed(scope, site_id)
    row = has.row
    return Coming(
        has, stock_of(scope, row), event_rows(scope, row), weather_rows(scope, row), list_suppliers(scope), years
    )
