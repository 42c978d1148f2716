"""Seasons, deliveries, layings and days of work as an iCalendar file."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event


@dataclass(frozen=True)
class Occasion:
    """Something on a day, or from a day until another, both included; `key` is the same whenever it is written."""

    key: str
    summary: str
    on: date
    until: date | None = None
    description: str = ""


def calendar_file(name: str, occasions: Sequence[Occasion]) -> bytes:
    """Return occasions as an iCalendar file (RFC 5545), whole days.

    Parameters
    ----------
    name : str
        Of the calendar.
    occasions : sequence of Occasion
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Ulmatic//Ulmatic//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    stamp = datetime.now(UTC)
    for occasion in occasions:
        event = Event()
        event.add("uid", f"{occasion.key}@ulmatic")
        event.add("dtstamp", stamp)
        event.add("summary", occasion.summary)
        event.add("dtstart", occasion.on)
        event.add("dtend", (occasion.until or occasion.on) + timedelta(days=1))
        if occasion.description:
            event.add("description", occasion.description)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
