"""A whole site as one JSON file, versioned, that reads back to an identical site."""

import json
from typing import Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from ulmatic.core.climate.normals import Climate
from ulmatic.core.events import Event
from ulmatic.core.materials import Material
from ulmatic.core.money.buying import Buying
from ulmatic.core.recipe import PlannedPlot, PracticeChoices
from ulmatic.core.renewal import Overrides, Rule
from ulmatic.core.survey import Landmark, Place
from ulmatic.core.survey.plot import Name
from ulmatic.core.units import Day, Share, UnitSystem, Volume
from ulmatic.formats.files import FileRefused, text_of

VERSION = 4
READ = (1, 2, 3, 4)
"""Version 1 had neither climate, landmarks nor recipes; 2 neither priorities nor buying; 3 no log and no rules."""


class ArchivedEvent(BaseModel):
    """An entry of a plot's log; `written_at` tells whether it came before or after the depth was last said."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    on: Day
    event: Event
    typed: dict[str, Any] = Field(default_factory=dict)
    by: str = Field(default="", max_length=200)
    written_at: AwareDatetime


class ArchivedPlot(PlannedPlot):
    """A plot with how it was written and where it was put."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    typed: dict[str, Any] = Field(default_factory=dict)
    place: Place | None = None
    priority: int = Field(default=2, ge=1, le=3)
    renewal: Rule | None = None
    existing_at: AwareDatetime | None = None
    events: list[ArchivedEvent] = Field(default=[], max_length=5_000)


class ArchivedLandmark(BaseModel):
    """A tip, a pile place or a way."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    name: Name
    landmark: Landmark
    typed: dict[str, Any] = Field(default_factory=dict)


class ArchivedSite(BaseModel):
    """A site's own settings."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    name: Name
    units: UnitSystem
    spare: Share
    load_m3: Volume
    load_least_m3: Volume | None = None
    load_most_m3: Volume | None = None
    barrow_m3: Volume
    loads_chosen: int | None = Field(default=None, ge=0, le=10_000)
    north_deg: float = Field(default=0.0, ge=-360, le=360, allow_inf_nan=False)
    location_deg: tuple[float, float] | None = None
    climate: Climate | None = None
    material: str | None = Field(default=None, max_length=80)
    practice: PracticeChoices = PracticeChoices()
    fire_district: bool = False
    seasons: Overrides = Overrides()
    typed: dict[str, Any] = Field(default_factory=dict)


class Archive(BaseModel):
    """The file: lengths in metres, depths in millimetres, volumes in cubic metres, angles in degrees."""

    model_config = ConfigDict(frozen=True, extra="forbid", title="Ulmatic site archive")
    format: Literal["ulmatic-site"] = "ulmatic-site"
    version: Literal[1, 2, 3, 4] = 4
    site: ArchivedSite
    plots: list[ArchivedPlot] = Field(max_length=2_000)
    landmarks: list[ArchivedLandmark] = Field(default=[], max_length=300)
    buying: Buying | None = None
    materials: list[Material] = Field(default=[], max_length=300, description="Own materials that the site names")


def read_archive(content: bytes) -> Archive:
    """Read an archive.

    Raises
    ------
    FileRefused
        With a sentence that says what is wrong and where.
    """
    try:
        data = json.loads(text_of(content))
    except (json.JSONDecodeError, RecursionError):
        raise FileRefused("This file cannot be read as JSON.") from None
    if not isinstance(data, dict) or data.get("format") != "ulmatic-site":
        raise FileRefused("This is not a site archive of Ulmatic.")
    if data.get("version") not in READ:
        raise FileRefused(
            f"This archive is of version {str(data.get('version'))[:10]}; "
            f"versions {READ[0]} to {VERSION} are read here."
        )
    try:
        storable = "\x00" not in json.dumps(data, ensure_ascii=False).encode().decode().replace("\\u0000", "\x00")
    except UnicodeEncodeError:
        storable = False
    if not storable:
        raise FileRefused("This archive holds signs that cannot be stored.")
    try:
        return Archive.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(step) for step in first["loc"])
        raise FileRefused(f"This archive is damaged at “{where[:80]}”: {first['msg'][:200]}") from None


def write_archive(archive: Archive) -> bytes:
    """Return the archive as a file."""
    return json.dumps(archive.model_dump(mode="json"), indent=1, ensure_ascii=False).encode()
