"""Table of daily weather."""

from datetime import date
from uuid import UUID

from sqlalchemy import Index
from sqlalchemy.orm import Mapped

from ulmatic.platform.database import Base, WorkspaceRow, of_site


class WeatherRow(WorkspaceRow, Base):
    """A day's weather at a site, `source` is `csv` or `service`."""

    __tablename__ = "weather_days"
    noun = "day"
    site_id: Mapped[UUID]
    day: Mapped[date]
    tmax_c: Mapped[float]
    tmin_c: Mapped[float]
    rain_mm: Mapped[float]
    source: Mapped[str]
    __table_args__ = (
        of_site(),
        Index("uq_weather_days_day", "workspace_id", "site_id", "day", unique=True),
    )
