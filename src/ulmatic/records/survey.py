"""Tables of sites, plots and landmarks."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Index, false
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow, of_site, of_workspace


class SiteRow(WorkspaceRow, Stamped, Base):
    """A site and what its orders go by.

    `typed` holds spare, load and barrow as they were written, in the site's units; `parameters` own figures that came
    with its archive, beside those of the workspace.
    """

    __tablename__ = "sites"
    noun = "site"
    name: Mapped[str]
    units: Mapped[str]
    spare: Mapped[float | None]
    load_m3: Mapped[float]
    load_least_m3: Mapped[float | None]
    load_most_m3: Mapped[float | None]
    barrow_m3: Mapped[float]
    time_zone: Mapped[str] = mapped_column(default="UTC", server_default="UTC")
    chosen: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default="[]")
    north_deg: Mapped[float] = mapped_column(default=0.0)
    location_deg: Mapped[list[Any] | None] = mapped_column(JSONB)
    climate: Mapped[dict[str, Any] | None]
    material: Mapped[str | None]
    practice: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    buying: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    seasons: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    weather_heard_at: Mapped[datetime | None]
    outlook: Mapped[list[Any]] = mapped_column(JSONB, server_default="[]")
    tasks: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default="[]")
    fire_district: Mapped[bool] = mapped_column(server_default=false())
    parameters: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    __table_args__ = (of_workspace(),)


class PlotRow(WorkspaceRow, Stamped, Base):
    """A plot: `shape` in SI, `typed` as its measurements were written, `place` where it was put on the plan.

    `surveyed_on` is when its shape was measured, `decisions` what was decided for it by season. What lies there follows
    from the ledger.
    """

    __tablename__ = "plots"
    noun = "plot"
    site_id: Mapped[UUID]
    ordinal: Mapped[int]
    name: Mapped[str]
    use: Mapped[str]
    shape: Mapped[dict[str, Any]]
    cut_outs: Mapped[list[Any]] = mapped_column(JSONB, server_default="[]")
    slope: Mapped[dict[str, Any] | None]
    found: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    recipe: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    wanted_mm: Mapped[float]
    typed: Mapped[dict[str, Any]]
    place: Mapped[dict[str, Any] | None]
    rule: Mapped[dict[str, Any] | None]
    decisions: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    surveyed_on: Mapped[date]
    priority: Mapped[int] = mapped_column(default=2, server_default="2")
    __table_args__ = (
        of_site(),
        Index("ix_plots_site", "workspace_id", "site_id", "ordinal"),
    )


class LandmarkRow(WorkspaceRow, Stamped, Base):
    """A tip, a pile place or a way of a site: `landmark` in SI, `typed` as its measurements were written."""

    __tablename__ = "landmarks"
    noun = "tip, pile place or way"
    site_id: Mapped[UUID]
    name: Mapped[str]
    landmark: Mapped[dict[str, Any]]
    typed: Mapped[dict[str, Any]]
    __table_args__ = (
        of_site(),
        Index("ix_landmarks_site", "workspace_id", "site_id"),
    )
