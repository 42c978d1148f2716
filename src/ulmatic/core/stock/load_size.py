"""What one load holds, where nobody knows it beforehand."""

from pydantic import model_validator

from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Volume
from ulmatic.core.value import Value


def in_order(least: float | None, likely: float, most: float | None, prefix: str = "") -> None:
    """Raise what is wrong with a range of loads, at its field, whose name has `prefix`.

    Parameters
    ----------
    least : float or None
    likely : float
    most : float or None
    prefix : str
        Of the field.

    Raises
    ------
    PydanticCustomError
        At the end of the range that is on the wrong side of the usual load.
    """
    if least is not None and least > likely:
        raise wrong("The smallest load cannot be larger than the usual load.", f"{prefix}least_m3")
    if most is not None and most < likely:
        raise wrong("The largest load cannot be smaller than the usual load.", f"{prefix}most_m3")


class LoadSize(Value):
    """What one load holds, in m³: at least, most likely, at most; taken as a triangular distribution."""

    least_m3: Volume
    likely_m3: Volume
    most_m3: Volume

    @model_validator(mode="after")
    def _in_order(self) -> "LoadSize":
        in_order(self.least_m3, self.likely_m3, self.most_m3)
        return self

    @property
    def mean_m3(self) -> float:
        """Mean of the distribution."""
        return (self.least_m3 + self.likely_m3 + self.most_m3) / 3
