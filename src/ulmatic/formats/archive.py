"""A whole site as one JSON file, versioned, with all that its plan rests on."""

import json
from datetime import date
from functools import cached_property
from typing import Annotated, Any, Literal, TypeVar
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from ulmatic.core.climate import Climate, Day
from ulmatic.core.decay import LogRate
from ulmatic.core.log import LedgerEntry, Trees
from ulmatic.core.materials import CATALOGUE, Material
from ulmatic.core.money import Buying, Currency, Quote
from ulmatic.core.parameters import Parameters
from ulmatic.core.planning.register import known_figures
from ulmatic.core.recipe import PlannedPlot, PracticeChoices
from ulmatic.core.schedule import Decision, Overrides, Rule
from ulmatic.core.site import Site, SiteLandmark, SitePlot, Terms
from ulmatic.core.stock import BookLine, Delivery, MeasuredVolume, Pile
from ulmatic.core.supply.chosen import ChosenLoads
from ulmatic.core.supply.suppliers import Supplier, SupplierTerms
from ulmatic.core.survey import Landmark, Place, Way
from ulmatic.core.survey.access import crossings
from ulmatic.core.survey.plot import Name
from ulmatic.core.units import Day as Date
from ulmatic.core.units import Share, UnitSystem, Volume
from ulmatic.core.value import Value
from ulmatic.core.work import CROPS, Crop, KnownEntry
from ulmatic.core.work.task_changes import MOST_CHANGES, TaskChange
from ulmatic.formats.files import FileRefused, text_of
from ulmatic.formats.older import upgraded
from ulmatic.formats.packed import unpacked
from ulmatic.platform.typed import TimeZone

VERSION = 6
MOST_CROSSINGS = 5_000
"""Of all ways with each other."""
READ = (1, 2, 3, 4, 5, 6)
"""Versions that are read; `formats/older.py` says what the older ones lack."""
Typed = dict[str, Any]
Text = Annotated[str, Field(max_length=500)]
Mean = Annotated[float, Field(ge=-5, le=5, allow_inf_nan=False)]
Variance = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Lesson = tuple[Mean, Variance]
OwnFigures = Annotated[dict[Annotated[str, Field(max_length=80)], float], AfterValidator(known_figures)]


Part = TypeVar("Part", bound=BaseModel)


class _Part(Value):
    model_config = ConfigDict(extra="forbid")


class ArchivedEntry(_Part):
    """An entry of the ledger: the day on which it happened, and when it was written."""

    id: UUID
    plot_id: UUID | None
    pile_id: UUID | None = None
    trees: Trees | None = None
    on: Date
    written_at: AwareDatetime
    entry: KnownEntry
    typed: Typed = Field(default_factory=dict)
    by: str = Field(default="", max_length=200)
    note: str = Field(default="", max_length=2_000)
    photos: tuple[UUID, ...] = Field(default=(), max_length=12)
    corrects: UUID | None = None


class ArchivedCorrection(ArchivedEntry):
    """An entry that was corrected, or deleted, as it was written first."""

    deleted_at: AwareDatetime


class ArchivedPhoto(_Part):
    """A photo; its JPEG is in the ZIP as ``photos/{hash}.jpg``."""

    id: UUID
    hash: str = Field(pattern=r"^[0-9a-f]{64}$")
    drawn: bool = False
    location: tuple[float, float] | None = None
    by: str = Field(default="", max_length=200)
    created_at: AwareDatetime


class ArchivedPlot(PlannedPlot):
    """A plot with how it was written and where it was put."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    id: UUID
    typed: Typed = Field(default_factory=dict)
    place: Place | None = None
    priority: int = Field(default=2, ge=1, le=3)
    rule: Rule | None = None
    decisions: dict[Annotated[str, Field(max_length=40)], Decision] = Field(default_factory=dict, max_length=60)
    surveyed_on: Date


class ArchivedLandmark(_Part):
    """A tip, a pile place or a way."""

    id: UUID
    name: Name
    landmark: Landmark
    typed: Typed = Field(default_factory=dict)


class ArchivedSite(_Part):
    """A site's own settings; its practice is that of its workspace and its own together."""

    name: Name
    units: UnitSystem
    time_zone: TimeZone = "UTC"
    spare: Share | None = None
    load_m3: Volume
    load_least_m3: Volume | None = None
    load_most_m3: Volume | None = None
    barrow_m3: Volume
    north_deg: float = Field(default=0.0, ge=-360, le=360, allow_inf_nan=False)
    location_deg: tuple[float, float] | None = None
    climate: Climate | None = None
    material: str | None = Field(default=None, max_length=80)
    practice: PracticeChoices = PracticeChoices()
    fire_district: bool = False
    seasons: Overrides = Overrides()
    chosen: tuple[ChosenLoads, ...] = Field(default=(), max_length=60)
    tasks: tuple[TaskChange, ...] = Field(default=(), max_length=MOST_CHANGES)
    crops: tuple[Crop, ...] = Field(default=(), max_length=300, description="The workspace's own crops")
    parameters: OwnFigures = Field(default_factory=dict, description="Figures set in place of shipped ones, by key")
    elsewhere: dict[Annotated[str, Field(max_length=80)], tuple[Lesson, ...]] = Field(
        default_factory=dict,
        max_length=300,
        description="What readings of other sites say of a rate: mean and variance of its logarithm",
    )
    typed: Typed = Field(default_factory=dict)


class ArchivedSupplier(_Part):
    """A supplier that the site reckons with."""

    id: UUID
    name: Name
    currency: Currency
    source: SupplierTerms
    typed: Typed = Field(default_factory=dict)


class ArchivedOffer(_Part):
    """The offer of a crew that was accepted, as it was last heard."""

    reference: str = Field(max_length=60)
    state: Literal["accepted", "fell_through"]
    offer: dict[str, Any]
    heard_at: AwareDatetime
    expires_at: AwareDatetime


class ArchivedDelivery(Delivery):
    """A load with how it was measured and written down."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    name: Name
    material: str = Field(max_length=80)
    volume_m3: Volume | None = None
    cost: float = Field(default=0.0, ge=0, le=10_000_000, allow_inf_nan=False)
    currency: Currency = "EUR"
    measured: MeasuredVolume | None = None
    note: Text = ""
    typed: Typed = Field(default_factory=dict)
    offer: ArchivedOffer | None = None
    photo_id: UUID | None = None


class ArchivedPile(Pile):
    """A pile."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    name: Name


class ArchivedLine(BookLine):
    """A line of the book of piles."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    volume_m3: float = Field(default=0.0, ge=0, le=1_000_000, allow_inf_nan=False)
    by: str = Field(default="", max_length=200)
    note: Text = ""


class ArchivedDay(Day):
    """A day's observed weather, typed in or heard from the weather service."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    source: Literal["csv", "service"] = "csv"


class ArchivedQuote(_Part):
    """A quote as it was promised."""

    id: UUID
    number: int = Field(ge=1)
    client: Name
    words: Text = ""
    units: UnitSystem
    quote: Quote
    created_at: AwareDatetime


class Archive(Value):
    """The file: lengths in metres, depths in millimetres, volumes in cubic metres, angles in degrees."""

    model_config = ConfigDict(extra="forbid", title="Ulmatic site archive")
    format: Literal["ulmatic-site"] = "ulmatic-site"
    version: Literal[6] = 6
    site: ArchivedSite
    plots: list[ArchivedPlot] = Field(max_length=2_000)
    landmarks: list[ArchivedLandmark] = Field(default=[], max_length=300)
    ledger: list[ArchivedEntry] = Field(default=[], max_length=50_000)
    corrected: list[ArchivedCorrection] = Field(default=[], max_length=50_000)
    photos: list[ArchivedPhoto] = Field(default=[], max_length=5_000)
    buying: Buying | None = None
    buying_typed: Typed = Field(default_factory=dict)
    suppliers: list[ArchivedSupplier] = Field(default=[], max_length=200)
    deliveries: list[ArchivedDelivery] = Field(default=[], max_length=2_000)
    piles: list[ArchivedPile] = Field(default=[], max_length=2_000)
    lines: list[ArchivedLine] = Field(default=[], max_length=20_000)
    weather: list[ArchivedDay] = Field(default=[], max_length=40_000)
    quotes: list[ArchivedQuote] = Field(default=[], max_length=500)
    materials: list[Material] = Field(default=[], max_length=300, description="Own materials that the site names")

    @cached_property
    def shelf(self) -> dict[str, Material]:
        """The catalogue and its own materials, with the figures that hold at the site."""
        shelf = {**CATALOGUE, **{material.key: material for material in self.materials}}
        parameters = Parameters.of_mapping(self.site.parameters)
        return {key: material.with_parameters(parameters) for key, material in shelf.items()}

    def to_site(self) -> Site:
        """Return the site that the file tells of."""
        site = self.site
        usual = "USD" if site.units is UnitSystem.US else "EUR"
        return Site(
            name=site.name,
            units=site.units,
            time_zone=site.time_zone,
            terms=Terms(
                spare=site.spare,
                load_m3=site.load_m3,
                barrow_m3=site.barrow_m3,
                load_least_m3=site.load_least_m3,
                load_most_m3=site.load_most_m3,
            ),
            plots=tuple(
                SitePlot(
                    id=plot.id,
                    plot=_part(PlannedPlot, plot),
                    surveyed_on=plot.surveyed_on,
                    rule=plot.rule,
                    priority=plot.priority,
                    place=plot.place,
                    decisions=plot.decisions,
                )
                for plot in self.plots
            ),
            landmarks=tuple(
                SiteLandmark(id=landmark.id, name=landmark.name, landmark=landmark.landmark)
                for landmark in self.landmarks
            ),
            practices=(site.practice,),
            climate=site.climate,
            location_deg=site.location_deg,
            weather=[_part(Day, day) for day in self.weather],
            overrides=site.seasons,
            usual=site.material,
            fire_district=site.fire_district,
            materials=self.shelf,
            suppliers=tuple(_part(Supplier, supplier) for supplier in self.suppliers),
            ledger=[_part(LedgerEntry, entry) for entry in self.ledger],
            deliveries=tuple(_part(Delivery, delivery) for delivery in self.deliveries),
            piles=tuple(_part(Pile, pile) for pile in self.piles),
            lines=[_part(BookLine, line) for line in self.lines],
            buying=self.buying or Buying(currency=usual),
            chosen=site.chosen,
            parameters=Parameters.of_mapping(site.parameters),
            elsewhere={key: [LogRate(*lesson) for lesson in lessons] for key, lessons in site.elsewhere.items()},
            task_changes=site.tasks,
            crops={**CROPS, **{crop.key: crop for crop in site.crops}},
        )


def _part(model: type[Part], archived: BaseModel) -> Part:
    """Return what an archived part holds of a value of the core."""
    shared = model.model_fields.keys() & type(archived).model_fields.keys()
    return model.model_validate({name: getattr(archived, name) for name in shared})


def read_archive(content: bytes, undated: date) -> Archive:
    """Read an archive of any version.

    Parameters
    ----------
    content : bytes
    undated : date
        Taken for what older versions say without a day.

    Raises
    ------
    FileRefused
        With a sentence that says what is wrong and where.
    """
    try:
        data = json.loads(text_of(unpacked(content)[0]))
    except (json.JSONDecodeError, RecursionError):
        raise FileRefused("This file cannot be read as JSON.") from None
    if not isinstance(data, dict) or data.get("format") != "ulmatic-site":
        raise FileRefused("This is not an Ulmatic site archive.")
    if data.get("version") not in READ:
        raise FileRefused(
            f"This archive is of version {str(data.get('version'))[:10]}; versions {READ[0]} to {VERSION} can be read."
        )
    try:
        storable = "\x00" not in json.dumps(data, ensure_ascii=False).encode().decode().replace("\\u0000", "\x00")
    except UnicodeEncodeError:
        storable = False
    if not storable:
        raise FileRefused("This archive contains characters that cannot be stored.")
    try:
        archive = Archive.model_validate(upgraded(data, undated))
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(step) for step in first["loc"])
        raise FileRefused(f"This archive is damaged at “{where[:80]}”: {first['msg'][:200]}") from None
    except (KeyError, TypeError, ValueError, AttributeError):
        raise FileRefused("This archive is damaged: a part of it has the wrong form.") from None
    _check_references(archive)
    return archive


def _check_references(archive: Archive) -> None:
    """Refuse an archive whose parts name others that are not in it."""
    plots = {plot.id for plot in archive.plots}
    piles = {pile.id for pile in archive.piles}
    deliveries = {delivery.id for delivery in archive.deliveries}
    lists = (archive.plots, archive.landmarks, archive.ledger, archive.suppliers, archive.deliveries, archive.piles)
    for parts in (*lists, archive.lines, archive.quotes):
        if len({part.id for part in parts}) < len(parts):
            raise FileRefused("This archive is damaged: two of its parts have the same id.")
    photos = {photo.id for photo in archive.photos}
    for entry in (*archive.ledger, *archive.corrected):
        if entry.pile_id is not None and entry.pile_id not in piles:
            raise FileRefused("This archive is damaged: its ledger names a pile that is not in it.")
        if not photos.issuperset(entry.photos):
            raise FileRefused("This archive is damaged: its ledger names a photo that is not in it.")
    if any(entry.plot_id not in {*plots, None} for entry in archive.ledger):
        raise FileRefused("This archive is damaged: its ledger names a plot that is not in it.")
    ways = [landmark.landmark for landmark in archive.landmarks if isinstance(landmark.landmark, Way)]
    if sum(crossings(way, ways[:index]) for index, way in enumerate(ways)) > MOST_CROSSINGS:
        raise FileRefused("The ways of this archive cross each other too often.")
    for line in archive.lines:
        lost = line.pile_id not in piles or (line.to_pile_id is not None and line.to_pile_id not in piles)
        if lost or (line.delivery_id is not None and line.delivery_id not in deliveries):
            raise FileRefused("This archive is damaged: its book names a pile or a load that is not in it.")


def write_archive(archive: Archive) -> bytes:
    """Return the archive as a file."""
    return json.dumps(archive.model_dump(mode="json"), indent=1, ensure_ascii=False).encode()
