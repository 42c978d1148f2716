"""The one clock: whatever asks for the day or the moment asks one that was handed to it."""

import os
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta, tzinfo


@dataclass(frozen=True)
class Clock:
    """The machine's clock, or one that stands ahead of it by as much.

    Attributes
    ----------
    ahead : timedelta
        Negative where it stands behind.
    """

    ahead: timedelta = timedelta()

    @classmethod
    def configured(cls) -> "Clock":
        """Return the clock of this process: `ULMATIC_CLOCK_AHEAD_S` says by how many seconds it stands ahead."""
        return cls(timedelta(seconds=float(os.environ.get("ULMATIC_CLOCK_AHEAD_S", "0"))))

    def now(self) -> datetime:
        """Return the moment, UTC."""
        return datetime.now(UTC) + self.ahead

    def today(self, zone: tzinfo = UTC) -> date:
        """Return the day it is in a time zone.

        Parameters
        ----------
        zone : tzinfo
        """
        return self.now().astimezone(zone).date()

    def turned(self, days: int) -> "Clock":
        """Return a clock so many days further ahead.

        Parameters
        ----------
        days : int
        """
        return Clock(self.ahead + timedelta(days=days)) if days else self


MACHINE = Clock()
"""The clock of the machine, for what runs beside the application."""
