"""What is known of a site: a pure value, built alike from rows and from an archive file."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, tzinfo
from functools import cached_property
from uuid import UUID
from zoneinfo import ZoneInfo

from ulmatic.core.climate import Climate, ClimateClass, Day, GenericClimate, Normals
from ulmatic.core.decay import LogRate
from ulmatic.core.figures import Figure, entered
from ulmatic.core.log import Laid, LedgerEntry
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Material
from ulmatic.core.money import Buying
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.recipe import PlannedPlot, PracticeChoices
from ulmatic.core.schedule import SPARE, Decision, Overrides, Rule
from ulmatic.core.stock import BookLine, Delivery, LoadSize, NotThere, Pile, book_entry
from ulmatic.core.stock.books import Books
from ulmatic.core.supply.chosen import ChosenLoads
from ulmatic.core.supply.suppliers import Supplier
from ulmatic.core.survey import Landmark, Place
from ulmatic.core.units import UnitSystem
from ulmatic.core.work import BARROW, CROPS, Crop
from ulmatic.core.work.task_changes import TaskChange

ASSUMED_CLIMATE = ClimateClass.COOL_MARITIME
"""Stands in where a site names no climate; shown as assumed, and asked for."""


@dataclass(frozen=True)
class SitePlot:
    """A plot of a site.

    Attributes
    ----------
    rule : Rule or None
        None takes the proposed one.
    priority : int
        1 first, 2 as usual, 3 can wait.
    surveyed_on : date
        When its shape was measured: rings grow from then on.
    decisions : mapping of season key to Decision
    """

    id: UUID
    plot: PlannedPlot
    surveyed_on: date
    rule: Rule | None = None
    priority: int = 2
    place: Place | None = None
    decisions: Mapping[str, Decision] = field(default_factory=dict)

    @property
    def irrigated(self) -> bool:
        """Whether it is irrigated."""
        return bool(self.plot.site_conditions.irrigated)


@dataclass(frozen=True)
class SiteLandmark:
    """A tip, a pile place or a way."""

    id: UUID
    name: str
    landmark: Landmark


@dataclass(frozen=True)
class Terms:
    """What a site orders and works by: spare, the size of a load with its range, and of a barrow, m³.

    Spare and barrow are None where the site leaves them to the parameters.
    """

    spare: float | None
    load_m3: float
    barrow_m3: float | None
    load_least_m3: float | None = None
    load_most_m3: float | None = None

    def load_size(self) -> LoadSize | None:
        """Return the range of one load, where it was given.

        Returns
        -------
        LoadSize or None
        """
        least, most = self.load_least_m3 or self.load_m3, self.load_most_m3 or self.load_m3
        if least >= most:
            return None
        return LoadSize(least_m3=least, likely_m3=self.load_m3, most_m3=most)


@dataclass(frozen=True)
class Site:
    """A site and all that its plan rests on.

    Attributes
    ----------
    time_zone : str
        IANA name; "today" is the site's.
    practices : tuple of PracticeChoices
        Of the workspace and of the site.
    location_deg : (float, float) or None
        Latitude and longitude.
    usual : str or None
        Key of the material it lays where nothing speaks against it.
    materials : mapping of key to Material
        The catalogue and own ones, with the figures that hold here.
    ledger : sequence of LedgerEntry
        What was logged on plots; layings from piles stand in the book's lines.
    chosen : tuple of ChosenLoads
        The user's own choice of loads, by season.
    parameters : Parameters
        As shipped, but for the figures that the workspace, or the site, has set.
    elsewhere : mapping of material key to sequence of LogRate
        What depth readings of the workspace's other sites say of a material's rate.
    task_changes : tuple of TaskChange
        What people said of the tasks that follow from the plan.
    crops : mapping of key to Crop
        Shipped ones and the workspace's own.
    """

    name: str
    units: UnitSystem
    terms: Terms
    plots: tuple[SitePlot, ...] = ()
    landmarks: tuple[SiteLandmark, ...] = ()
    time_zone: str = "UTC"
    practices: tuple[PracticeChoices, ...] = ()
    climate: Climate | None = None
    location_deg: tuple[float, float] | None = None
    weather: Sequence[Day] = ()
    overrides: Overrides = field(default_factory=Overrides)
    usual: str | None = None
    fire_district: bool = False
    materials: Mapping[str, Material] = field(default_factory=lambda: CATALOGUE)
    suppliers: tuple[Supplier, ...] = ()
    ledger: Sequence[LedgerEntry] = ()
    deliveries: tuple[Delivery, ...] = ()
    piles: tuple[Pile, ...] = ()
    lines: Sequence[BookLine] = ()
    buying: Buying = field(default_factory=Buying)
    chosen: tuple[ChosenLoads, ...] = ()
    parameters: Parameters = SHIPPED
    elsewhere: Mapping[str, Sequence[LogRate]] = field(default_factory=dict)
    task_changes: tuple[TaskChange, ...] = ()
    crops: Mapping[str, Crop] = field(default_factory=lambda: CROPS)

    @cached_property
    def zone(self) -> tzinfo:
        """Its time zone."""
        return UTC if self.time_zone == "UTC" else ZoneInfo(self.time_zone)

    @cached_property
    def normals(self) -> Normals:
        """Its months; of the assumed climate where none is named, turned round south of the equator."""
        if self.climate is not None:
            return self.climate.normals()
        southern = self.location_deg is not None and self.location_deg[0] < 0
        return GenericClimate(name=ASSUMED_CLIMATE, southern=southern).normals()

    @cached_property
    def spare(self) -> Figure:
        """Spare, as a share of what is needed: the site's own, or the parameter."""
        if self.terms.spare is None:
            return self.parameters.of(SPARE)
        return entered("Spare", self.terms.spare, "1")

    @cached_property
    def barrow_m3(self) -> float:
        """What a barrow holds: the site's own, or the parameter."""
        return self.parameters.of(BARROW).value if self.terms.barrow_m3 is None else self.terms.barrow_m3

    def material(self, key: str) -> Material:
        """Return a material; the usual one where a key is not known.

        Returns
        -------
        Material
        """
        return material_of(key, self.materials, self.usual, self.parameters)

    @cached_property
    def book_layings(self) -> list[LedgerEntry]:
        """What the book of piles says was laid on plots, load by load."""
        loads = {delivery.id: delivery for delivery in self.deliveries}
        books: Books[UUID] = Books()
        layings: list[LedgerEntry] = []
        latest = date.min
        for line in self.lines:
            latest = max(latest, line.on)
            before = dict(books.plots.get(line.plot_id, {})) if line.plot_id else {}
            try:
                books.enter(book_entry(line, latest))
            except NotThere:
                continue
            if line.kind != "lay" or line.plot_id is None:
                continue
            drawn = {
                load: volume - before.get(load, 0.0)
                for load, volume in books.plots[line.plot_id].items()
                if volume - before.get(load, 0.0) > 1e-9
            }
            for load, volume in drawn.items():
                born = loads[load].born
                laid = Laid(
                    material=loads[load].material,
                    volume_m3=volume,
                    chipped_on=born if born is not None and born <= line.on else None,
                )
                layings.append(
                    LedgerEntry(
                        id=line.id,
                        plot_id=line.plot_id,
                        on=line.on,
                        written_at=line.written_at,
                        entry=laid,
                        pile_id=line.pile_id,
                        delivery_id=load,
                    )
                )
        return layings

    def with_plot(self, plot: SitePlot, measured: LedgerEntry | None = None) -> "Site":
        """Return the site with a plot in place of that of its id, or as its last; `measured` is what lies there.

        Returns
        -------
        Site
        """
        others = [other for other in self.plots if other.id != plot.id]
        index = next((number for number, other in enumerate(self.plots) if other.id == plot.id), len(others))
        ledger = self.ledger if measured is None else [*self.ledger, measured]
        return replace(self, plots=(*others[:index], plot, *others[index:]), ledger=ledger)


def material_of(key: str, materials: Mapping[str, Material], usual: str | None, parameters: Parameters) -> Material:
    """Return a material of some by its key; the usual one where the key is not known.

    Parameters
    ----------
    key : str
    materials : mapping of key to Material
    usual : str or None
        Key of what is laid where nothing speaks against it.
    parameters : Parameters

    Returns
    -------
    Material
    """
    material = materials.get(key) or materials.get(usual or "") or materials.get(USUAL_MATERIAL)
    return material or CATALOGUE[USUAL_MATERIAL].with_parameters(parameters)
