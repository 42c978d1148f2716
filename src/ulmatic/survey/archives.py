"""A whole site in and out of an archive."""

from collections.abc import Iterable
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid5

from ulmatic.accounts.scope import Scope
from ulmatic.core.events import LaidEvent
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Material
from ulmatic.core.money.buying import Buying
from ulmatic.core.nitrogen import Spread
from ulmatic.formats import FileRefused
from ulmatic.formats.archive import (
    Archive,
    ArchivedEvent,
    ArchivedLandmark,
    ArchivedPlot,
    ArchivedSite,
    read_archive,
    write_archive,
)
from ulmatic.log.models import EventRow
from ulmatic.log.schemas import EventEntry
from ulmatic.materials.models import MaterialRow
from ulmatic.materials.service import shelf
from ulmatic.platform.problems import Problem
from ulmatic.platform.writes import added
from ulmatic.survey import service
from ulmatic.survey.models import LandmarkRow, PlotRow, SiteRow
from ulmatic.survey.schemas import PlotEntry, SiteOut, SiteSheet
from ulmatic.survey.surveyed import plot_rows


def archive(scope: Scope, site_id: UUID) -> bytes:
    """Return a whole site as a JSON archive."""
    row = scope.one(SiteRow, site_id)
    sheet = service.site_sheet(scope, site_id)
    kept = {one.id: one for one in plot_rows(scope, row)}
    events: dict[UUID, list[ArchivedEvent]] = {key: [] for key in kept}
    log = scope.select(EventRow).where(EventRow.site_id == site_id).order_by(EventRow.on, EventRow.created_at)
    for one in scope.session.scalars(log):
        if one.plot_id in events:
            written = {"on": one.on, "event": one.event, "typed": one.typed, "by": one.by}
            events[one.plot_id].append(ArchivedEvent.model_validate(written | {"written_at": one.created_at}))
    return write_archive(
        Archive(
            site=ArchivedSite.model_validate(
                {**sheet.site.model_dump(include=set(ArchivedSite.model_fields)), "seasons": row.seasons}
            ),
            plots=[
                ArchivedPlot.model_validate(
                    {
                        **out.model_dump(include=set(ArchivedPlot.model_fields)),
                        "existing_mm": kept[out.id].existing_mm,
                        "place": kept[out.id].place,
                        "renewal": kept[out.id].renewal,
                        "existing_at": kept[out.id].existing_at,
                        "events": events[out.id],
                    }
                )
                for out in sheet.plots
            ],
            buying=Buying.model_validate(row.buying) if row.buying else None,
            materials=_named_materials(scope, sheet, events.values()),
            landmarks=[
                ArchivedLandmark.model_validate(one.model_dump(include=set(ArchivedLandmark.model_fields)))
                for one in sheet.landmarks
            ],
        )
    )


def _named_materials(scope: Scope, sheet: SiteSheet, logs: Iterable[list[ArchivedEvent]]) -> list[Material]:
    """Return the own materials that a site, its plots and their logs name."""
    named = {sheet.site.material, *(out.recipe.material for out in sheet.plots)}
    named |= {one.event.material for log in logs for one in log if isinstance(one.event, LaidEvent | Spread)}
    return [one for key, one in shelf(scope).items() if key in named and key not in CATALOGUE]


def _restored_materials(scope: Scope, site_id: UUID, materials: list[Material]) -> dict[str, str]:
    """Keep an archive's materials under new ids; return the new key by the old one."""
    keys: dict[str, str] = {}
    for one in materials:
        row_id = uuid5(site_id, f"material {one.key}")
        copy = one.model_copy(update={"key": str(row_id)})
        added(scope, MaterialRow(id=row_id, name=one.name, material=copy.model_dump(mode="json"), entry={}))
        keys[one.key] = str(row_id)
    return keys


def _renamed(key: str | None, keys: dict[str, str]) -> str | None:
    """Return the key a material has here; one that is not known falls back to what the site lays."""
    return keys.get(key or "") or (key if key in CATALOGUE else None)


def restore_archive(scope: Scope, site_id: UUID, content: bytes) -> SiteOut:
    """Make a new site from an archive; the same `site_id` makes it once."""
    try:
        found = read_archive(content)
    except FileRefused as refusal:
        raise Problem(422, str(refusal), field="file") from None
    there = scope.session.scalar(scope.select(SiteRow).where(SiteRow.id == site_id))
    if there is not None:
        return SiteOut.model_validate(there)
    now = datetime.now(UTC)
    values = found.site.model_dump(mode="json", exclude={"seasons"})
    values["seasons"] = found.site.seasons.model_dump(mode="json", exclude_none=True)
    keys = _restored_materials(scope, site_id, found.materials)
    values |= {"typed": PlotEntry.texts(found.site.typed), "material": _renamed(found.site.material, keys)}
    values["buying"] = found.buying.model_dump(mode="json") if found.buying else {}
    site = added(scope, SiteRow(id=site_id, **values))
    for number, plot in enumerate(found.plots, 1):
        plain = plot.model_dump(mode="json", exclude={"typed", "place", "existing_at", "events"})
        typed: dict[str, Any] = {**PlotEntry.texts(plot.typed), "units": plot.typed.get("units")}
        place = plot.place.model_dump() if plot.place else None
        plain["recipe"]["material"] = _renamed(plot.recipe.material, keys)
        row = PlotRow(
            id=uuid5(site_id, str(number)), site_id=site.id, ordinal=number, place=place, typed=typed,
            existing_at=min(now, plot.existing_at or now), **plain,
        )  # fmt: skip
        added(scope, row)
        _restore_log(scope, row, plot.events, keys, now)
    for number, one in enumerate(found.landmarks, 1):
        written: dict[str, Any] = {**PlotEntry.texts(one.typed), "units": one.typed.get("units")}
        values = {**one.model_dump(mode="json", exclude={"typed"}), "typed": written}
        added(scope, LandmarkRow(id=uuid5(site_id, f"landmark {number}"), site_id=site.id, **values))
    return SiteOut.model_validate(site)


def _restore_log(scope: Scope, plot: PlotRow, events: list[ArchivedEvent], keys: dict[str, str], now: datetime) -> None:
    """Keep a plot's log as it was written, when it was written."""
    for number, one in enumerate(events, 1):
        if one.on > now.date():
            raise Problem(422, f"The log of “{plot.name}” has an entry for a day that has not come yet.", field="file")
        event = one.event.model_dump(mode="json")
        if isinstance(one.event, LaidEvent | Spread):
            event["material"] = _renamed(one.event.material, keys) or USUAL_MATERIAL
        added(
            scope,
            EventRow(
                id=uuid5(plot.id, f"event {number}"), site_id=plot.site_id, plot_id=plot.id, on=one.on, event=event,
                typed={**EventEntry.texts(one.typed), "units": one.typed.get("units")}, by=one.by,
                created_at=min(now, one.written_at),
            ),
        )  # fmt: skip
