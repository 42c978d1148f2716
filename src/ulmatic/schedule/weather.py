"""The weather of a site: days from CSV or from the weather service, and what follows for its seasons."""

from collections.abc import Callable, Sequence
from datetime import date, timedelta
from uuid import UUID

import httpx2

from ulmatic.accounts.scope import Scope
from ulmatic.core.climate.normals import Normals
from ulmatic.core.climate.weather import Day, WeatherRefused, read_days
from ulmatic.core.decay import extrapolated
from ulmatic.formats.files import FileRefused, text_of
from ulmatic.platform.asking import AskedService
from ulmatic.platform.problems import Problem
from ulmatic.records.schedule import WeatherRow
from ulmatic.records.survey import SiteRow
from ulmatic.schedule.schemas import Weather, WeatherImport
from ulmatic.site.snapshot import Snapshot, snapshot_of, today_at

DEADLINE_S = 5.0
DAYS_BACK = 400
"""Asked for where nothing is known yet: the rain of a year, and a little more."""


class NoWeather(Exception):
    """The service could not be asked; its text is a sentence for the reader."""


class WeatherService:
    """A client of the weather service; the one that ships is simulated (`ulmatic.standins.weather`).

    Parameters
    ----------
    url : str
    transport : callable, optional
        Makes another way to reach it.
    """

    def __init__(self, url: str, transport: Callable[[], httpx2.AsyncBaseTransport] | None = None) -> None:
        self._service = AskedService("weather", url, DEADLINE_S, transport)

    def days(self, place: str, normals: Normals, first: date, last: date) -> tuple[list[Day], list[Day]]:
        """Return past days and the outlook.

        Raises
        ------
        NoWeather
        """
        question = {
            "place": place,
            "temperatures_c": normals.temperatures_c,
            "rain_mm": normals.rain_mm,
            "first": first.isoformat(),
            "last": last.isoformat(),
        }
        response = self._service.ask("POST", "/weather/v1/days", fits=lambda status: status == 200, json=question)
        if response is None:
            raise NoWeather("The weather service does not answer. Its last report is used. Try again later.")
        try:
            answer = response.json()
            return (
                [Day.model_validate(day) for day in answer["days"]],
                [Day.model_validate(day) for day in answer["outlook"]],
            )
        except (ValueError, KeyError, TypeError):
            raise NoWeather("The answer of the weather service cannot be read.") from None


def weather_rows(scope: Scope, site: SiteRow) -> Sequence[WeatherRow]:
    """Return the days of a site in their order."""
    return scope.session.scalars(
        scope.select(WeatherRow).where(WeatherRow.site_id == site.id).order_by(WeatherRow.day)
    ).all()


def _keep(scope: Scope, site: SiteRow, days: Sequence[Day], source: str) -> None:
    """Keep days; a typed one goes before one of the service."""
    rows = {row.day: row for row in weather_rows(scope, site)}
    fresh = []
    for day in days:
        row = rows.get(day.day)
        if row is None:
            fresh.append(WeatherRow(site_id=site.id, source=source, **day.model_dump()))
        elif source == "csv" or row.source == "service":
            row.tmax_c, row.tmin_c, row.rain_mm, row.source = day.tmax_c, day.tmin_c, day.rain_mm, source
    scope.add_all(fresh)


def refresh(scope: Scope, service: WeatherService | None, site_id: UUID) -> None:
    """Ask the service for the days that are missing, and keep them."""
    site = scope.get(SiteRow, site_id)
    if service is None:
        raise Problem(409, "No weather service is set up.")
    today, normals = today_at(scope, site), snapshot_of(scope, site_id).site.normals
    rows = weather_rows(scope, site)
    first = rows[-1].day + timedelta(days=1) if rows else today - timedelta(days=DAYS_BACK)
    first = max(first, today - timedelta(days=DAYS_BACK))
    # Only afterwards: nobody waits for the service with the site held, and the connection is given back.
    scope.commit()
    try:
        past, ahead = service.days(str(site.id), normals, first, today)
    except NoWeather as trouble:
        raise Problem(502, str(trouble)) from None
    site = scope.get(SiteRow, site_id, lock=True)
    _keep(scope, site, past, "service")
    site.outlook = [day.model_dump(mode="json") for day in ahead]
    site.weather_heard_at = scope.clock.now()
    scope.session.flush()


def bring_in(scope: Scope, site_id: UUID, content: bytes) -> WeatherImport:
    """Keep daily weather from CSV."""
    site = scope.get(SiteRow, site_id, lock=True)
    try:
        days = read_days(text_of(content))
    except (FileRefused, WeatherRefused) as refusal:
        raise Problem(422, str(refusal), field="file") from None
    if days[-1].day > today_at(scope, site):
        raise Problem(422, f"{days[-1].day.isoformat()} is in the future.", field="file")
    _keep(scope, site, days, "csv")
    return WeatherImport(days=len(days), first=days[0].day, last=days[-1].day)


def clear(scope: Scope, site_id: UUID) -> None:
    """Forget all observed days; normals then stand for the past too."""
    site = scope.get(SiteRow, site_id, lock=True)
    for row in weather_rows(scope, site):
        scope.session.delete(row)
    site.outlook, site.weather_heard_at = [], None
    scope.session.flush()


def weather_out(snapshot: Snapshot) -> Weather:
    """Return what is known of a site's weather."""
    ahead = [day for day in map(Day.model_validate, snapshot.row.outlook) if day.day >= snapshot.today]
    days = snapshot.site.weather
    return Weather(
        observed_from=days[0].day if days else None,
        observed_to=days[-1].day if days else None,
        days=len(days),
        heard_at=snapshot.row.weather_heard_at,
        simulated=snapshot.row.weather_heard_at is not None,
        outlook_rain_mm=sum(day.rain_mm for day in ahead) if ahead else None,
        outlook_coldest_c=min((day.tmin_c for day in ahead), default=None),
        climate_known=not snapshot.state.climate.assumed,
        extrapolated=extrapolated(snapshot.site.normals),
    )
