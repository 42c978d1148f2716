"""What is said of a site's seasons instead of what follows from its climate."""

from datetime import date
from typing import Annotated

from pydantic import ConfigDict, Field

from ulmatic.core.schedule.closures import MOST_CLOSURES, Closure
from ulmatic.core.schedule.seasons import WindowDates, WindowKey
from ulmatic.core.value import Value


class Overrides(Value):
    """Frost dates as days of the year, hardiness zone, and the dates of windows.

    `waits` says whether what is short waits for chips that come unasked (true), or is bought (false). `people` says how
    many people work on a day, where that differs; on the days of `closures` nobody does.
    """

    model_config = ConfigDict(extra="forbid")
    last_frost: Annotated[int, Field(ge=1, le=366)] | None = None
    first_frost: Annotated[int, Field(ge=1, le=366)] | None = None
    zone: Annotated[str, Field(pattern=r"^(1[0-3]|[1-9])[ab]$")] | None = None
    windows: dict[WindowKey, WindowDates] = Field(default_factory=dict)
    waits: bool | None = None
    people: Annotated[dict[date, Annotated[int, Field(ge=0, le=100)]], Field(max_length=400)] = Field(
        default_factory=dict
    )
    closures: Annotated[tuple[Closure, ...], Field(max_length=MOST_CLOSURES)] = ()
