"""A plot: one piece of ground with its use and depths."""

from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, StringConstraints
from pydantic_core import PydanticCustomError

from ulmatic.core.survey.shapes import Shape
from ulmatic.core.survey.uses import Use
from ulmatic.core.units import Depth


def _printable(text: str) -> str:
    if any(not (sign.isprintable() or sign == " ") for sign in text):
        raise PydanticCustomError("text", "This holds a sign that cannot be shown; please type it again.")
    return text


Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), AfterValidator(_printable)]
"""One printable line of 1 to 80 signs."""


class Plot(BaseModel):
    """A piece of ground as measured.

    Attributes
    ----------
    existing_mm, wanted_mm : float
        Settled depth of mulch that lies there, and that is wanted.
    """

    model_config = ConfigDict(frozen=True)
    name: Name
    use: Use
    shape: Shape
    existing_mm: Depth = 0.0
    wanted_mm: Depth
