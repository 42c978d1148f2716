"""From a measured shape to the ground that is covered: cut-outs, slope, edge, cardboard."""

import math
import re
from typing import Annotated, Literal

from pydantic import BeforeValidator, ConfigDict, Field
from shapely import affinity, union_all
from shapely.geometry.base import BaseGeometry

from ulmatic.core.figures import Figure, Mark, Source, entered, formula
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.survey.place import Place
from ulmatic.core.survey.shapes import BaseShape, Shape
from ulmatic.core.survey.shapes.base import GEOMETRY, metres, wrong
from ulmatic.core.tables import read_parameter
from ulmatic.core.units import Gap
from ulmatic.core.units.parsing import LONGEST_ENTRY
from ulmatic.core.value import Value

STEEPEST_DEG = 60

CARDBOARD_OVERLAP = read_parameter("survey.cardboard_overlap")

_RATIO = re.compile(r"^(\d+(?:\.\d+)?)\s*(?::|in|to)\s*(\d+(?:\.\d+)?)$")
_ANGLE = re.compile(r"^(\d+(?:\.\d+)?)\s*(%|percent|°|deg|degrees)?$")


def _read_angle(value: object) -> object:
    if isinstance(value, str):
        text = value.strip().lower().replace(",", ".") if len(value) <= LONGEST_ENTRY else "?"
        ratio, plain = _RATIO.match(text), _ANGLE.match(text)
        if ratio and float(ratio[2]) > 0:
            value = math.degrees(math.atan(float(ratio[1]) / float(ratio[2])))
        elif plain:
            number = float(plain[1])
            value = math.degrees(math.atan(number / 100)) if plain[2] in ("%", "percent") else number
        else:
            raise wrong(f"“{value[:40]}” is not a slope. Type it like 15 %, 9° or 1:4; a number alone is degrees.", "")
    if isinstance(value, int | float) and not isinstance(value, bool) and not 0 <= value <= STEEPEST_DEG:
        raise wrong(f"A slope is between 0 and {STEEPEST_DEG}°; steeper ground cannot be mulched.", "")
    return value


class Slope(Value):
    """How steep the ground is, and whether its lengths were taped along the slope or are those of a plan."""

    model_config = ConfigDict(extra="forbid")
    angle_deg: Annotated[
        float, BeforeValidator(_read_angle, json_schema_input_type=str | float), Field(allow_inf_nan=False)
    ]
    taped: Literal["along", "plan"] = "along"


class PlantGaps(Value):
    """Plants, stones or stems kept clear, each by a radius of `gap_m`."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["plants"] = "plants"
    plants: int = Field(ge=1, le=10_000)
    gap_m: Gap


class ShapeCut(Value):
    """A piece of the plot that is not mulched; without a place it is taken to lie wholly inside."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["shape"] = "shape"
    shape: Shape
    place: Place | None = None


CutOut = Annotated[PlantGaps | ShapeCut, Field(discriminator="kind")]


class Ground(Value):
    """The figures of a piece of ground.

    Attributes
    ----------
    area : Figure
        m² that are covered.
    edge : Figure
        m of outer edge.
    cardboard : Figure
        m² of cardboard that cover it, overlaps included.
    """

    area: Figure
    edge: Figure
    cardboard: Figure


def at_place(geometry: BaseGeometry, place: Place) -> BaseGeometry:
    """Return geometry turned about (0, 0) and moved to `place`.

    Parameters
    ----------
    geometry : BaseGeometry
    place : Place

    Returns
    -------
    BaseGeometry
    """
    return affinity.translate(affinity.rotate(geometry, place.turn_deg, origin=(0, 0)), place.x_m, place.y_m)


def centred(geometry: BaseGeometry) -> BaseGeometry:
    """Return geometry with the middle of its box at (0, 0).

    Parameters
    ----------
    geometry : BaseGeometry

    Returns
    -------
    BaseGeometry
    """
    west, south, east, north = geometry.bounds
    return affinity.translate(geometry, -(west + east) / 2, -(south + north) / 2)


def placed_cuts(cut_outs: tuple[CutOut, ...]) -> BaseGeometry:
    """Return the union of the cut-outs that have a place, about the plot's middle.

    Parameters
    ----------
    cut_outs : tuple[CutOut, ...]

    Returns
    -------
    BaseGeometry
    """
    return union_all(
        [
            at_place(centred(cut_out.shape.geometry()), cut_out.place)
            for cut_out in cut_outs
            if isinstance(cut_out, ShapeCut) and cut_out.place is not None
        ]
    )


def ground(
    shape: BaseShape,
    cut_outs: tuple[CutOut, ...] = (),
    slope: Slope | None = None,
    parameters: Parameters = SHIPPED,
) -> Ground:
    """Work out what is covered.

    Parameters
    ----------
    shape : Shape
        As measured.
    cut_outs : tuple of CutOut
        Subtracted: with a place geometrically, so that overlaps and overhangs count once; else by their area.
    slope : Slope, optional
        Without it the ground is taken as level.
    parameters : Parameters

    Returns
    -------
    Ground
    """
    area = _without(shape, cut_outs)
    if slope is not None and slope.angle_deg > 0:
        area = _on_slope(area, shape, slope)
    area = area.model_copy(update={"name": "Area"})
    return Ground(area=area, edge=_edge(shape, cut_outs), cardboard=_cardboard(area, parameters))


def _without(shape: BaseShape, cut_outs: tuple[CutOut, ...]) -> Figure:
    area = shape.area()
    if not cut_outs:
        return area
    terms: dict[str, Figure] = {"S": area.model_copy(update={"name": "Within the outline"})}
    placed = placed_cuts(cut_outs)
    if not placed.is_empty:
        overlap_m2 = centred(shape.geometry()).intersection(placed).area
        source = Source(mark=Mark.DEFINITION, text="Measured on the drawing; overlaps count once.")
        terms["c0"] = Figure(name="Cut-outs with a place", value=overlap_m2, unit="m2", source=source)
    for number, cut_out in enumerate(cut_outs, 1):
        if isinstance(cut_out, PlantGaps):
            gaps = {"n": entered("Plants", cut_out.plants, "number"), "x": metres("Gap round each", cut_out.gap_m)}
            terms[f"c{number}"] = formula("n * pi * x**2").work("Gaps at plants", "m2", gaps, source=GEOMETRY)
        elif cut_out.place is None:
            terms[f"c{number}"] = cut_out.shape.area().model_copy(update={"name": f"Cut-out {number}"})
    text = f"max(0, {' - '.join(terms)})"
    return formula(text).work("Area without cut-outs", "m2", terms, source=GEOMETRY)


def _on_slope(area: Figure, shape: BaseShape, slope: Slope) -> Figure:
    if slope.taped == "along" and shape.taped:
        note = f"Taped along a slope of {slope.angle_deg:.1f}°: the area is that of the ground itself, not of its plan."
        working = (
            area.working.model_copy(update={"note": f"{area.working.note} {note}".strip()}) if area.working else None
        )
        return area.model_copy(update={"working": working})
    terms = {"P": area.model_copy(update={"name": "Plan area"}), "t": entered("Slope", slope.angle_deg, "deg")}
    return formula("P / cos(t)").work("Area on the slope", "m2", terms, source=GEOMETRY)


def _edge(shape: BaseShape, cut_outs: tuple[CutOut, ...]) -> Figure:
    placed = placed_cuts(cut_outs)
    left = shape.geometry() if placed.is_empty else centred(shape.geometry()).difference(placed)
    parts = getattr(left, "geoms", [left])
    length = sum(part.exterior.length for part in parts if part.geom_type == "Polygon")
    source = Source(
        mark=Mark.DEFINITION, text="Length of the outer edge, measured on the drawing; gaps at trunks not counted."
    )
    return Figure(name="Outer edge", value=length, unit="m", source=source)


def _cardboard(area: Figure, parameters: Parameters) -> Figure:
    return formula("A * (1 + o)").work(
        "Cardboard", "m2", {"A": area, "o": parameters.of(CARDBOARD_OVERLAP)}, source=CARDBOARD_OVERLAP.source
    )
