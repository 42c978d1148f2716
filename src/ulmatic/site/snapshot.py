"""A site from its rows: the only place with SQL for a site's figures."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, tzinfo
from functools import cache, cached_property
from typing import Any, TypeVar
from uuid import UUID
from zoneinfo import ZoneInfo

from pydantic import TypeAdapter
from sqlalchemy import BigInteger, Text, Uuid, cast, func, literal, literal_column, null, union_all

from ulmatic.accounts.scope import Scope, query_once
from ulmatic.core.climate import Day
from ulmatic.core.decay import LogRate
from ulmatic.core.log import LedgerEntry
from ulmatic.core.materials import Material
from ulmatic.core.money import Buying
from ulmatic.core.parameters import Parameters
from ulmatic.core.planning import SitePlan
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.register import settable
from ulmatic.core.recipe import PlannedPlot, PracticeChoices
from ulmatic.core.schedule import Decision, Overrides, Rule
from ulmatic.core.site import Site, SiteLandmark, SitePlot, SiteState, Terms
from ulmatic.core.stock import BookLine, Delivery, Pile
from ulmatic.core.supply.chosen import ChosenLoads
from ulmatic.core.supply.suppliers import Supplier
from ulmatic.core.survey import Place
from ulmatic.core.survey.access import Landmark
from ulmatic.core.units import UnitSystem
from ulmatic.core.work import CROPS, Crop
from ulmatic.core.work.task_changes import TaskChange
from ulmatic.platform.database import WorkspaceRow
from ulmatic.platform.problems import Problem, not_found
from ulmatic.records.log import LedgerRow, SiteLessonRow
from ulmatic.records.mapping import BOOK, DELIVERY, LEDGER, PILE, SUPPLIER
from ulmatic.records.materials import MaterialRow
from ulmatic.records.schedule import WeatherRow
from ulmatic.records.stock import BookRow, DeliveryRow, PileRow
from ulmatic.records.supply import SupplierRow
from ulmatic.records.survey import LandmarkRow, PlotRow, SiteRow
from ulmatic.site.cached_sites import CachedSite, cached_site, site_of_version
from ulmatic.site.schemas import SiteOut
from ulmatic.site.shelf import shelf

Row = TypeVar("Row", bound=WorkspaceRow)
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)
_LANDMARK: TypeAdapter[Landmark] = TypeAdapter(Landmark)
_CHOSEN: TypeAdapter[tuple[ChosenLoads, ...]] = TypeAdapter(tuple[ChosenLoads, ...])
_CHANGES: TypeAdapter[tuple[TaskChange, ...]] = TypeAdapter(tuple[TaskChange, ...])
_DECISIONS: TypeAdapter[dict[str, Decision]] = TypeAdapter(dict[str, Decision])
MOST_CHECKED = 8192
_checked: dict[tuple[UUID, UUID, int, datetime], PlannedPlot] = {}
"""Plots by what is kept of them: nothing of whose they are."""
LANDMARK_KINDS = ("tip", "pile_place", "way")
"""In the order in which they are listed."""
TWO_YEARS = 2


def zone_of(site: SiteRow) -> tzinfo:
    """Return the time zone of a site."""
    return UTC if site.time_zone == "UTC" else ZoneInfo(site.time_zone)


def today_at(scope: Scope, site: SiteRow) -> date:
    """Return the day it is at a site."""
    return scope.clock.today(zone_of(site))


def plot_of(row: PlotRow) -> PlannedPlot:
    """Return a plot as it was kept; checked once, as long as it stays as it is."""
    key = (row.workspace_id, row.id, row.version, row.updated_at)
    plot = _checked.get(key)
    if plot is None:
        if len(_checked) >= MOST_CHECKED:
            _checked.clear()
        plot = _checked[key] = PlannedPlot.model_validate(row, from_attributes=True)
    return plot


def empty_state(scope: Scope, row: SiteRow) -> SiteState:
    """Return what is today of a site without anything on it: enough for what a recipe depends on."""
    practice = PracticeChoices.model_validate(scope.member.workspace.practice)
    rows = SiteRecords(row, (), (), (), (), (), (), ())
    site = _site(rows, shelf(scope), practice, workspace_parameters(scope), [], {}, CROPS)
    return state_on(site, today_at(scope, row))


def buying_at(row: SiteRow) -> Buying:
    """Return how a site buys; where nothing was said, what is usual in its units."""
    buying = {key: value for key, value in row.buying.items() if key != "typed"}
    usual = {"currency": "USD" if row.units == UnitSystem.US else "EUR"}
    return Buying.model_validate({**usual, **buying})


@dataclass(frozen=True)
class SiteRecords:
    """The rows of a site."""

    row: SiteRow
    plot_rows: Sequence[PlotRow]
    landmark_rows: Sequence[LandmarkRow]
    ledger_rows: Sequence[LedgerRow]
    supplier_rows: Sequence[SupplierRow]
    delivery_rows: Sequence[DeliveryRow]
    pile_rows: Sequence[PileRow]
    book_rows: Sequence[BookRow]


@dataclass(frozen=True)
class Snapshot(SiteRecords):
    """A site with the rows it was built from.

    Attributes
    ----------
    today : date
        At the site.
    """

    site: Site
    today: date

    @cached_property
    def _cached(self) -> CachedSite:
        """The site as it was last looked at; worked out again only when something of it is another than that time."""
        return cached_site((self.row.workspace_id, self.row.id), self.site, self.today)

    @property
    def state(self) -> SiteState:
        """What is there today."""
        return self._cached.state

    def plan(self, years: int = TWO_YEARS) -> SitePlan:
        """Return what follows."""
        return self._cached.plan(years)

    def season(self, plan: SitePlan, key: str | None) -> int:
        """Return which season is asked for; the running one where none is; raise the 404 problem for one not there."""
        if key is None:
            return 0
        number = plan.number(key)
        if number is None:
            raise Problem(404, "This season is not in the years of the plan.", field="season")
        return number

    @cached_property
    def typed_of(self) -> dict[UUID, dict[str, Any]]:
        """How each entry of the ledger was written."""
        return {row.id: row.typed for row in self.ledger_rows}

    @cached_property
    def plots_by_id(self) -> dict[UUID, PlotRow]:
        """Rows of plots by id."""
        return {row.id: row for row in self.plot_rows}

    def plot(self, plot_id: UUID) -> PlotRow:
        """Return a plot's row, or raise the 404 problem."""
        if plot_id not in self.plots_by_id:
            raise Problem(404, "This plot does not exist.")
        return self.plots_by_id[plot_id]


def snapshot_of(scope: Scope, site_id: UUID) -> Snapshot:
    """Return a site, or raise the 404 problem; the number of queries does not depend on its size."""
    snapshots = _load(scope, site_id)
    if not snapshots:
        raise not_found(SiteRow.noun)
    return snapshots[0]


def snapshots(scope: Scope) -> list[Snapshot]:
    """Return all sites of the workspace by name, with the same number of queries."""
    return _load(scope, None)


def _by_site(rows: Iterable[Row]) -> dict[UUID, list[Row]]:
    groups: dict[UUID, list[Row]] = {}
    for row in rows:
        groups.setdefault(row.site_id, []).append(row)  # type: ignore[attr-defined]
    return groups


_BY_NAME: dict[type[SiteRow] | type[SupplierRow], tuple[Any, ...]] = {
    model: (func.lower(model.name), model.id) for model in (SiteRow, SupplierRow)
}
_ORDER_OF_SITES: dict[Any, tuple[Any, ...]] = {
    PlotRow: (PlotRow.ordinal, PlotRow.id),
    LandmarkRow: (LandmarkRow.created_at, LandmarkRow.name, LandmarkRow.id),
    LedgerRow: (LedgerRow.on, LedgerRow.created_at, LedgerRow.id),
    DeliveryRow: (DeliveryRow.created_at, DeliveryRow.id),
    PileRow: (PileRow.created_at, PileRow.id),
    BookRow: (BookRow.ordinal,),
}
"""What belongs to a site, in the order in which it is listed."""


def _load(scope: Scope, site_id: UUID | None) -> list[Snapshot]:
    rows = scope.rows(SiteRow, *_BY_NAME[SiteRow], site_id=site_id)
    if not rows:
        return []
    materials = shelf(scope)
    suppliers = scope.rows(SupplierRow, *_BY_NAME[SupplierRow])
    practice = PracticeChoices.model_validate(scope.member.workspace.practice)
    parameters, crops = workspace_parameters(scope), workspace_crops(scope)
    plots, landmarks, ledger, deliveries, piles, lines = (
        _by_site(scope.rows(model, *order, site_id=site_id)) for model, order in _ORDER_OF_SITES.items()
    )
    weather = _weather(scope, site_id)
    lessons = scope.rows(SiteLessonRow, SiteLessonRow.id)
    snapshots = []
    for row in rows:
        own_rows = SiteRecords(
            row=row,
            plot_rows=plots.get(row.id, []),
            ledger_rows=ledger.get(row.id, []),
            landmark_rows=sorted(
                landmarks.get(row.id, []), key=lambda landmark: LANDMARK_KINDS.index(landmark.landmark["kind"])
            ),
            supplier_rows=suppliers,
            delivery_rows=deliveries.get(row.id, []),
            pile_rows=piles.get(row.id, []),
            book_rows=lines.get(row.id, []),
        )
        elsewhere = _elsewhere(lessons, row.id)
        site = _site(own_rows, materials, practice, parameters, weather.get(row.id, []), elsewhere, crops)
        snapshots.append(Snapshot(**vars(own_rows), site=site, today=today_at(scope, row)))
    return snapshots


def _elsewhere(rows: Iterable[SiteLessonRow], site_id: UUID) -> dict[str, list[LogRate]]:
    """Return what the readings of the workspace's other sites say, by material."""
    elsewhere: dict[str, list[LogRate]] = {}
    for row in rows:
        # A row with an id of its own came with the archive of the site it names.
        if (row.id == row.site_id) == (row.site_id != site_id):
            for key, (mean, variance) in row.lessons.items():
                elsewhere.setdefault(key, []).append(LogRate(mean, variance))
    return elsewhere


@cache
def _weather_query(*, of_site: bool) -> Any:
    columns = (WeatherRow.site_id, WeatherRow.day, WeatherRow.tmax_c, WeatherRow.tmin_c, WeatherRow.rain_mm)
    return query_once(WeatherRow, of_site=of_site).with_only_columns(*columns).order_by(WeatherRow.day)


def _weather(scope: Scope, site_id: UUID | None) -> dict[UUID, list[Day]]:
    weather: dict[UUID, list[Day]] = {}
    query = _weather_query(of_site=site_id is not None)
    for site, day, tmax, tmin, rain in scope.session.execute(query, scope.of_site(site_id)):
        weather.setdefault(site, []).append(Day.model_construct(day=day, tmax_c=tmax, tmin_c=tmin, rain_mm=rain))
    return weather


def workspace_parameters(scope: Scope) -> Parameters:
    """Return the parameters of the workspace: as shipped, but for its own figures."""
    figures = scope.member.workspace.parameters
    return Parameters.of_mapping({key: figure["value"] for key, figure in figures.items() if settable(key)})


def workspace_crops(scope: Scope) -> dict[str, Crop]:
    """Return the crops of the workspace: shipped ones, and its own."""
    crops = scope.member.workspace.crops
    return {**CROPS, **{key: Crop.model_validate(crop) for key, crop in crops.items()}} if crops else CROPS


def _site(
    rows: SiteRecords,
    materials: Mapping[str, Material],
    practice: PracticeChoices,
    parameters: Parameters,
    weather: list[Day],
    elsewhere: dict[str, list[LogRate]],
    crops: dict[str, Crop],
) -> Site:
    row = rows.row
    answers = SiteOut.model_validate(row)
    parameters = Parameters.of_mapping({**parameters.by_key, **row.parameters})
    return Site(
        name=row.name,
        units=answers.units,
        time_zone=row.time_zone,
        terms=Terms(
            spare=row.spare,
            load_m3=row.load_m3,
            barrow_m3=row.barrow_m3,
            load_least_m3=row.load_least_m3,
            load_most_m3=row.load_most_m3,
        ),
        plots=tuple(site_plot(plot) for plot in rows.plot_rows),
        landmarks=tuple(
            SiteLandmark(id=landmark.id, name=landmark.name, landmark=_LANDMARK.validate_python(landmark.landmark))
            for landmark in rows.landmark_rows
        ),
        practices=(practice, answers.practice),
        climate=answers.climate,
        location_deg=answers.location_deg,
        weather=weather,
        overrides=Overrides.model_validate(row.seasons),
        usual=row.material,
        fire_district=row.fire_district,
        materials={key: material.with_parameters(parameters) for key, material in materials.items()}
        if parameters.set_figures
        else materials,
        suppliers=tuple(SUPPLIER.value(Supplier, supplier) for supplier in rows.supplier_rows),
        ledger=[LEDGER.value(LedgerEntry, entry) for entry in rows.ledger_rows],
        deliveries=tuple(DELIVERY.value(Delivery, delivery) for delivery in rows.delivery_rows),
        piles=tuple(PILE.value(Pile, pile) for pile in rows.pile_rows),
        lines=[BOOK.value(BookLine, line) for line in rows.book_rows],
        buying=buying_at(row),
        chosen=_CHOSEN.validate_python(row.chosen),
        parameters=parameters,
        elsewhere=elsewhere,
        task_changes=_CHANGES.validate_python(row.tasks),
        crops=crops,
    )


def site_plot(row: PlotRow) -> SitePlot:
    """Return a plot of a site from its row."""
    return SitePlot(
        id=row.id,
        plot=plot_of(row),
        surveyed_on=row.surveyed_on,
        rule=None if row.rule is None else _RULE.validate_python(row.rule),
        priority=row.priority,
        place=None if row.place is None else Place.model_validate(row.place),
        decisions=_DECISIONS.validate_python(row.decisions) if row.decisions else {},
    )


@cache
def _version_queries(*, of_site: bool) -> tuple[Any, Any]:
    written = func.sum(cast(cast(literal_column("xmin"), Text), BigInteger))
    sites = query_once(SiteRow, of_site=of_site).with_only_columns(
        SiteRow.id, literal_column("xmin::text"), SiteRow.time_zone
    )
    counts = [
        query_once(model, of_site=False).with_only_columns(
            literal(model.__tablename__), cast(null(), Uuid), func.count(), written
        )
        for model in (MaterialRow, SupplierRow, SiteLessonRow)
    ]
    counts += [
        query_once(model, of_site=of_site)
        .with_only_columns(literal(model.__tablename__), model.site_id, func.count(), written)
        .group_by(model.site_id)
        for model in (*_ORDER_OF_SITES, WeatherRow)
    ]
    return sites, union_all(*counts)


def versions(scope: Scope, site_id: UUID | None = None) -> dict[UUID, tuple[Any, ...]]:
    """Return what tells one state of each site, or of one, from another, without reading it.

    PostgreSQL gives each written row the number of the transaction that wrote it; their count and sum change with
    whatever is added, changed or deleted.
    """
    workspace = scope.member.workspace
    sites, counts = _version_queries(of_site=site_id is not None)
    parameters = scope.of_site(site_id)
    known: dict[UUID, list[Any]] = {}
    for key, version, zone in scope.session.execute(sites, parameters):
        today = scope.clock.today(UTC if zone == "UTC" else ZoneInfo(zone))
        known[key] = [repr((workspace.practice, workspace.parameters, workspace.crops)), version, today]
    for name, key, count, total in scope.session.execute(counts, parameters):
        for version in known.values() if key is None else [known[key]] if key in known else []:
            version.append((name, count, total))
    return {key: tuple(sorted(map(repr, version))) for key, version in known.items()}


def current_site(scope: Scope, site_id: UUID) -> CachedSite:
    """Return a site as it is today; nothing of it is loaded where nothing was written since the last time.

    For requests that write nothing: what a transaction has changed twice looks alike.
    """
    key, version = (scope.workspace_id, site_id), versions(scope, site_id).get(site_id)
    cached = site_of_version(key, version)
    if cached is not None:
        return cached
    snapshot = snapshot_of(scope, site_id)
    return cached_site(key, snapshot.site, snapshot.today, version)


def state_of(scope: Scope, site_id: UUID) -> SiteState:
    """Return what is there today at a site, as `current_site` does."""
    return current_site(scope, site_id).state
