"""A plot: one piece of ground with its use, measurements and depths."""

from typing import Annotated, Any

from pydantic import AfterValidator, BeforeValidator, ConfigDict, Field, StringConstraints
from pydantic_core import PydanticCustomError

from ulmatic.core.survey.ground import CutOut, Ground, Slope, ground
from ulmatic.core.survey.shapes import Shape
from ulmatic.core.survey.site_conditions import SiteConditions
from ulmatic.core.survey.uses import Use
from ulmatic.core.units import Depth
from ulmatic.core.value import Value


def _printable(text: str) -> str:
    if any(not (sign.isprintable() or sign == " ") for sign in text):
        raise PydanticCustomError("text", "This contains a character that cannot be shown. Please type it again.")
    return text


def _nothing_is_empty(value: Any) -> Any:
    return {} if value is None else value


Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), AfterValidator(_printable)]
"""One printable line of 1 to 80 signs."""


class Plot(Value):
    """A piece of ground as measured.

    Attributes
    ----------
    wanted_mm : float
        Target depth of its mulch, settled.
    """

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True)
    name: Name
    use: Use
    shape: Shape
    cut_outs: Annotated[tuple[CutOut, ...], Field(max_length=40)] = ()
    slope: Slope | None = None
    site_conditions: Annotated[SiteConditions, BeforeValidator(_nothing_is_empty)] = Field(
        default=SiteConditions(), alias="found"
    )
    wanted_mm: Depth

    def ground(self) -> Ground:
        """Return the figures of its ground.

        Returns
        -------
        Ground
        """
        return ground(self.shape, self.cut_outs, self.slope)
