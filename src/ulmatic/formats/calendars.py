"""What falls on the days of a site as an iCalendar file."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from ulmatic.core.planning.occasions import Occasion
from ulmatic.core.units import UnitSystem
from ulmatic.formats.paper import in_words


def calendar_file(name: str, site: str, occasions: Sequence[Occasion], units: UnitSystem, stamp: datetime) -> bytes:
    """Return occasions as an iCalendar file (RFC 5545), whole days.

    Parameters
    ----------
    name : str
        Of the calendar.
    site : str
        Its id: with the key of an occasion it makes one that stays the same.
    occasions : sequence of Occasion
    units : UnitSystem
        In which amounts are written.
    stamp : datetime
        When it is written.
    """
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Ulmatic//Ulmatic//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for occasion in occasions:
        event = Event()
        event.add("uid", f"{site}.{occasion.key.replace(' ', '.')}@ulmatic")
        event.add("dtstamp", stamp)
        work = f"Mulching: {occasion.words}" if occasion.kind == "work" else occasion.words
        event.add("summary", in_words(work, units))
        event.add("dtstart", occasion.on)
        event.add("dtend", occasion.until + timedelta(days=1))
        details = [*occasion.details, *occasion.breaks]
        if occasion.hours is not None:
            details.append(f"{occasion.hours:.1f} person-hours")
        details += [f"Crew: {crew}" for crew in occasion.crews]
        if details:
            event.add("description", in_words("\n".join(details), units))
        calendar.add_component(event)
    return bytes(calendar.to_ical())
