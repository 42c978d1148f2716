"""What the material routes take and answer."""

from typing import Annotated, Any, Literal, Self
from uuid import UUID

from pydantic import BaseModel, BeforeValidator, Field, PrivateAttr, model_validator
from pydantic_core import PydanticCustomError

from ulmatic.core.figures import Figure
from ulmatic.core.materials import Findings, Material
from ulmatic.core.survey import Name
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import MASS, VOLUME, Density, MeasureError, Share, parse
from ulmatic.platform.typed import Entry, TypedEntry


def _read_number(value: object) -> object:
    """Take a number typed as text, `100` or `100:1`, with a decimal comma or point."""
    if not isinstance(value, str):
        return value
    text = value.strip().removesuffix(":1").strip().replace(",", ".")
    try:
        return float(text)
    except ValueError:
        sentence = f"“{value.strip()[:30]}” is not a number. Type it like 100 or 0.8."
        raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence}) from None


def _number(least: float, limit: float) -> Any:
    return Annotated[
        float,
        BeforeValidator(_read_number, json_schema_input_type=str | float),
        Field(ge=least, le=limit, allow_inf_nan=False),
    ]


class OwnFigures(Entry):
    """Figures that replace those of the material copied; what is left out stays."""

    density: Annotated[Density | None, Field(description="Dry, loose")] = None
    moisture: Annotated[Share, Field(le=0.95)] | None = None
    carbon: Annotated[Share, Field(ge=0.01)] | None = None
    cn: _number(1, 2_000) | None = None  # type: ignore[valid-type]
    settling: Annotated[Share, Field(le=0.9)] | None = None
    rate: _number(0.01, 20) | None = None  # type: ignore[valid-type]

    def typed_figures(self) -> dict[str, float]:
        """Return the figures that were given."""
        return {key: value for key, value in self.model_dump().items() if value is not None}


class Part(Entry):
    """A part of a mix, by loose volume."""

    material: Annotated[str, Field(max_length=80)]
    share: Annotated[Share, Field(gt=0)]


class MaterialEntry(TypedEntry):
    """An own material: a copy of one (`base`) or of a guessed load, or a mix (`parts`), with own figures."""

    name: Name
    base: Annotated[str, Field(max_length=80)] | None = None
    found: Findings | None = None
    parts: Annotated[list[Part], Field(default_factory=list, max_length=10)]
    figures: OwnFigures = OwnFigures()


class NewMaterial(MaterialEntry):
    """A new material; its id is chosen by the sender."""

    id: UUID


class MaterialOut(BaseModel):
    """A material with what follows from its figures; `entry` says how an own one was made."""

    material: Material
    own: bool
    version: int
    wet_density: Figure
    nitrogen: Figure
    entry: dict[str, Any]


class PileMixPart(Entry):
    """So much of a material in a pile, as typed: a loose volume or a mass as it comes."""

    material: Annotated[str, Field(max_length=80)]
    amount: Annotated[str, Field(max_length=60)]


class PileMixEntry(TypedEntry):
    """A pile as typed; `by` says whether amounts are loose volumes (m³ or yd³) or masses as it comes (kg or lb)."""

    by: Literal["m3", "kg"] = "m3"
    parts: Annotated[list[PileMixPart], Field(min_length=1, max_length=12)]
    add: Annotated[str, Field(max_length=80)] | None = None
    ratio: _number(5, 500) = 30.0  # type: ignore[valid-type]
    moisture: Annotated[Share, Field(ge=0.05, le=0.9)] = 0.6
    _amounts: list[float] = PrivateAttr(default_factory=list)

    @model_validator(mode="after")
    def _read_amounts(self) -> Self:
        measure = MASS if self.by == "kg" else VOLUME
        for index, part in enumerate(self.parts):
            try:
                amount = 0.0 if part.amount.strip() in ("", "0") else parse(part.amount, measure, self.units)
            except MeasureError as error:
                raise wrong(str(error), f"parts.{index}.amount") from None
            self._amounts.append(amount)
        return self

    def amounts(self) -> list[float]:
        """Return what goes in of each part, in m³ or kg."""
        return self._amounts


class PileMixAddition(BaseModel):
    """How much of something is missing, in kg as it comes and loose m³; None where none of it can help."""

    kg: float | None
    m3: float | None


class Bucket(BaseModel):
    """A part of the pile as buckets, in proportion to the smallest."""

    name: str
    buckets: float
    kg: float
    m3: float


class PileMixOut(BaseModel):
    """What the pile is like, and what is missing."""

    cn: Figure
    moisture: Figure
    buckets: list[Bucket]
    for_ratio: PileMixAddition | None
    for_moisture: PileMixAddition | None
