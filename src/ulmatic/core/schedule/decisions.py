"""What was decided for one plot and one season."""

from datetime import date
from typing import Literal

from pydantic import ConfigDict

from ulmatic.core.value import Value


class Decision(Value):
    """Lay, on a day or when the season opens, although the plot may not be due; or skip the season."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["lay", "skip"]
    on: date | None = None
