"""Rows opened in mulch, and what was done on them."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from ulmatic.core.log.log_record import LogRecord, Words
from ulmatic.core.units import Depth, FieldType, Length, Offset

CropKey = Annotated[str, Field(min_length=1, max_length=80), FieldType("key")]


class Opened(LogRecord):
    """Chips were pulled aside to bare soil: they stay beside the rows, and are not taken off.

    Attributes
    ----------
    opening : UUID
        By which what is done there later names it.
    form : str
        Rows and strips lie along the plot's long side, so many, each so long and so wide; a patch is one.
    apart_m : float or None
        From the middle of one row to that of the next; spread evenly where None.
    in_m, along_m : float or None
        From the plot's long edge to the middle of the first, and from its short edge to where they begin; in the
        middle of the plot where None.
    crop : str or None
        Key of what is to grow there.
    """

    changes_plan = True
    kind: Literal["opened"] = "opened"
    opening: UUID
    form: Literal["rows", "strip", "patch"] = "rows"
    count: Annotated[int, Field(ge=1, le=500)] = 1
    length_m: Annotated[Length, Field(gt=0)]
    width_m: Annotated[Length, Field(gt=0)]
    apart_m: Annotated[Length, Field(gt=0)] | None = None
    in_m: Offset | None = None
    along_m: Offset | None = None
    crop: CropKey | None = None
    name: Words = ""


class RowWorked(LogRecord):
    """What was done on opened ground.

    Attributes
    ----------
    opening : UUID
    step : str
    crop : str or None
        What was sown or planted.
    depth_mm : float or None
        Settled depth to which chips were put back; that for growing plants where None.
    roots_left : bool or None
        Whether a crop was cut and its roots stayed in the soil, as is usual with legumes.
    """

    changes_plan = True
    kind: Literal["row"] = "row"
    opening: UUID
    step: Literal["loosened", "sown", "planted", "up", "closed", "cleared"]
    crop: CropKey | None = None
    depth_mm: Depth | None = None
    roots_left: bool | None = None
