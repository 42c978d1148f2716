"""What several words of the job show or take of a site."""

from typing import Annotated, Self
from uuid import UUID

from pydantic import BaseModel, ConfigDict, StringConstraints, model_validator

from ulmatic.core.climate.normals import Climate, Normals
from ulmatic.core.materials.material import Stage
from ulmatic.core.recipe.practice import PracticeChoices
from ulmatic.core.survey.access import Landmark
from ulmatic.core.units.measures import UnitSystem
from ulmatic.platform.typed import Typed


class SiteOut(BaseModel):
    """A site as kept."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    name: str
    units: UnitSystem
    spare: float | None
    load_m3: float
    load_least_m3: float | None
    load_most_m3: float | None
    barrow_m3: float
    time_zone: str
    north_deg: float
    location_deg: tuple[float, float] | None
    climate: Climate | None
    material: str | None
    practice: PracticeChoices
    fire_district: bool
    parameters: dict[str, float]
    normals: Normals | None = None
    typed: Typed
    version: int

    @model_validator(mode="after")
    def _by_month(self) -> Self:
        self.normals = self.climate.normals() if self.climate else None
        return self


class AcceptedOut(BaseModel):
    """What may be laid on a plot as mulch: keys and names of materials, and how far rotted woody ones may be."""

    materials: list[str]
    names: list[str]
    stages: list[Stage]


class LandmarkOut(BaseModel):
    """A landmark as kept."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    name: str
    landmark: Landmark
    typed: Typed
    version: int


class SeasonName(BaseModel):
    """A season that can be asked for."""

    key: str
    name: str


class ImportedPlot(BaseModel):
    """A plot found in a file, not yet kept; `to_target_m3` brings it to its target today."""

    row: int
    name: str
    kind: str
    area_m2: float
    to_target_m3: float


class RowError(BaseModel):
    """What is wrong in one row of a file."""

    row: int
    column: str
    detail: str


class ImportColumn(BaseModel):
    """A column of a table with headings that are not known: what stands in it, and which of ours it seems to be."""

    heading: str
    examples: tuple[str, ...]
    guess: str | None


class Import(BaseModel):
    """What a file holds; `kept` says whether its plots were added. With errors none is.

    Where `columns` are told, it has to be chosen which of `headings` each stands for.
    """

    columns: list[ImportColumn] = []
    headings: list[str] = []
    plots: list[ImportedPlot]
    errors: list[RowError]
    kept: bool


Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)]
