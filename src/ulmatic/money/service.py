"""Quotes: what the job costs now, and what was promised to somebody."""

from datetime import UTC, datetime
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.money.quote import Bought, PlotShare, Quote, Rates, quote
from ulmatic.core.units import UnitSystem
from ulmatic.core.units.money import YARD3_M3
from ulmatic.formats.quotes import QuoteParty, quote_csv, quote_pdf
from ulmatic.platform.problems import Problem
from ulmatic.platform.writes import added
from ulmatic.supply.models import QuoteRow
from ulmatic.supply.planning import Planning, planning
from ulmatic.supply.schemas import QuoteEntry, QuoteOut, QuoteSheet
from ulmatic.survey.models import SiteRow
from ulmatic.work.service import Site

MOST_QUOTES = 500


def _quote(plan: Planning) -> tuple[Quote | None, str | None]:
    """Return the quote for what is still to be laid, or why there is none."""
    if not plan.wants and not plan.beneath:
        return None, "Nothing is wanted here, so there is nothing to quote."
    chosen = plan.chosen
    if not chosen.choices:
        return None, f"There is no way yet to cover what is needed. {chosen.binding}"
    lacking = plan.uncovered()
    if lacking:
        return None, f"Nobody brings {lacking[0].material_name.lower()} yet; add a supplier for it."
    choice = chosen.choices[0]
    bought = [
        Bought(
            name=plan.offered[one.source].name,
            material=plan.material(plan.offered[one.source].source.material).name,
            loads=one.loads, volume_m3=one.volume_m3, source=plan.offered[one.source].source,
        )
        for one in choice.purchases
        if plan.offered[one.source].kind not in ("pile", "coming")
    ]  # fmt: skip
    hours: dict[UUID, float] = {}
    for leg in Site(plan).move().legs:
        hours[leg.plot] = hours.get(leg.plot, 0.0) + leg.hours.value
    beneath = {plot: sum(one.get(plot, 0.0) for one in plan.beneath.values()) for plot in plan.has.plots}
    mulch = {want.plot: want.needs_m3 for want in plan.wants}
    plots = [
        PlotShare(
            plot=plot.name, area_m2=plan.has.needs[key].area.value, hours=hours.get(key, 0.0),
            volume_m3=mulch.get(key, 0.0) + beneath[key],
        )
        for key, plot in plan.has.plots.items()
        if key in mulch or beneath[key] > 0
    ]  # fmt: skip
    buying = plan.buying
    rates = Rates(labour_per_h=buying.labour_per_h, markup=buying.markup, disposal=buying.disposal, tax=buying.tax)
    spare = plan.has.site.spare
    needed = sum(one.volume_m3 for one in plots)
    return (
        quote(
            buying.currency, plan.has.around.today, bought, plots, rates,
            spare_m3=choice.left_over_m3 + needed * spare / (1 + spare),
            step_m3=0.1 * (YARD3_M3 if plan.has.site.units is UnitSystem.US else 1.0),
        ),
        None,
    )  # fmt: skip


def quote_sheet(scope: Scope, site_id: UUID) -> QuoteSheet:
    """Return the quote as it would be now, and those kept."""
    plan = planning(scope, site_id)
    now, wanting = _quote(plan)
    return QuoteSheet(now=now, wanting=wanting, kept=[_out(row) for row in _rows(scope, plan.has.row)])


def _rows(scope: Scope, site: SiteRow) -> list[QuoteRow]:
    query = scope.select(QuoteRow).where(QuoteRow.site_id == site.id).order_by(QuoteRow.number.desc())
    return list(scope.session.scalars(query))


def _out(row: QuoteRow) -> QuoteOut:
    return QuoteOut(
        id=row.id, number=row.number, client=row.client, words=row.words, quote=Quote.model_validate(row.quote),
        created_at=row.created_at or datetime.now(UTC),
    )  # fmt: skip


def keep_quote(scope: Scope, site_id: UUID, entry: QuoteEntry) -> QuoteOut:
    """Keep the quote as it is now; it stays as it was promised. The same id again returns the one that is there."""
    site = scope.one(SiteRow, site_id, lock=True)
    there = scope.session.scalar(scope.select(QuoteRow).where(QuoteRow.id == entry.id))
    if there is not None:
        return _out(_one(scope, site_id, entry.id))
    rows = _rows(scope, site)
    if len(rows) >= MOST_QUOTES:
        raise Problem(409, f"A site keeps {MOST_QUOTES} quotes at most.")
    now, wanting = _quote(planning(scope, site_id))
    if now is None:
        raise Problem(409, wanting or "There is nothing to quote.")
    number = 1 + max(
        (one.number for one in [*rows, *scope.session.scalars(scope.select(QuoteRow, deleted=True))]), default=0
    )
    row = QuoteRow(
        id=entry.id, site_id=site.id, number=number, client=entry.client, words=entry.words, units=site.units,
        quote=now.model_dump(mode="json"),
    )  # fmt: skip
    return _out(added(scope, row))


def _one(scope: Scope, site_id: UUID, quote_id: UUID, *, deleted: bool = False) -> QuoteRow:
    row = scope.one(QuoteRow, quote_id, deleted=deleted)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {QuoteRow.noun} here.")
    return row


def delete_quote(scope: Scope, site_id: UUID, quote_id: UUID) -> None:
    """Delete a quote; `restoration` takes it back."""
    scope.delete(_one(scope, site_id, quote_id))


def restore_quote(scope: Scope, site_id: UUID, quote_id: UUID) -> None:
    """Take back the deletion of a quote."""
    _one(scope, site_id, quote_id, deleted=True)
    scope.restore(QuoteRow, quote_id)


def quote_file(scope: Scope, site_id: UUID, quote_id: UUID, ending: str) -> tuple[bytes, str]:
    """Return a kept quote as a file, PDF or CSV, with its name."""
    row = _one(scope, site_id, quote_id)
    site = scope.one(SiteRow, site_id)
    party = QuoteParty(
        number=row.number, client=row.client, words=row.words, site=site.name, by=scope.member.workspace.name,
        units=UnitSystem(row.units),
    )  # fmt: skip
    made = Quote.model_validate(row.quote)
    content = quote_pdf(made, party) if ending == "pdf" else quote_csv(made, party)
    return content, f"quote-{row.number}.{ending}"
