"""How a site buys, and quotes: what the job costs, and what was promised to somebody."""

from uuid import UUID

from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.core.money import Quote
from ulmatic.core.planning import SitePlan
from ulmatic.core.units import UnitSystem
from ulmatic.money.schemas import BuyingEntry, BuyingOut, HireEntry, QuoteEntry, QuoteOut, QuoteSheet
from ulmatic.platform.problems import Problem
from ulmatic.records.money import QuoteRow
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import added, next_version
from ulmatic.site.snapshot import buying_at, snapshot_of
from ulmatic.site.summaries import season_names

MOST_QUOTES = 500


def buying_of(site: SiteRow) -> BuyingOut:
    """Return how a site buys; where nothing was said, what is usual in its units."""
    buying = buying_at(site).model_dump()
    return BuyingOut.model_validate({**buying, "typed": site.buying.get("typed", {}), "version": site.version})


def change_buying(scope: Scope, site_id: UUID, entry: BuyingEntry, if_match: str | None) -> BuyingOut:
    """Change how a site buys."""
    row = scope.get(SiteRow, site_id, lock=True)
    next_version(row, if_match)
    hire = {} if "hire" in entry.model_fields_set else {"hire": buying_at(row).hire.model_dump()}
    row.buying = {**entry.model_dump(mode="json", exclude={"units"}), **hire, "typed": entry.typed()}
    scope.session.flush()
    return buying_of(row)


def change_hire(scope: Scope, site_id: UUID, entry: HireEntry, if_match: str | None) -> BuyingOut:
    """Change what hiring a machine costs a day."""
    row = scope.get(SiteRow, site_id, lock=True)
    next_version(row, if_match)
    row.buying = {**row.buying, "hire": entry.model_dump(mode="json", exclude={"units"})}
    scope.session.flush()
    return buying_of(row)


def _wanting(plan: SitePlan, number: int) -> str | None:
    """Say why there is no quote; None where there is one."""
    order = plan.order(number)
    if not plan.layings(number):
        return "Nothing is laid in this season, so there is nothing to quote."
    if order.short_m3 > 0 and order.decided is None:
        return f"The need cannot be covered yet. {order.best.binding or ''}".strip()
    unnamed = next((line for line in order.lines if not line.name), None)
    if unnamed is not None:
        return f"There is no supplier for {unnamed.material_name.lower()} yet. Add one."
    return None


def quote_sheet(scope: Scope, site_id: UUID, season: str | None) -> QuoteSheet:
    """Return the quote of a season as it would be today, and those kept."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, season)
    wanting = _wanting(plan, number)
    figures = plan.figures(number)
    priced = {line.material_key for line in figures.order}
    return QuoteSheet(
        now=plan.now,
        season=figures,
        seasons=season_names(plan),
        today=None if wanting else plan.quote(number, snapshot.today),
        wanting=wanting,
        beside=[also.material for also in figures.also if also.material_key not in priced],
        kept=[_out(row) for row in _rows(scope, snapshot.row)],
    )


def _rows(scope: Scope, site: SiteRow) -> list[QuoteRow]:
    query = scope.select(QuoteRow).where(QuoteRow.site_id == site.id).order_by(QuoteRow.number.desc())
    return list(scope.session.scalars(query))


def _out(row: QuoteRow) -> QuoteOut:
    return QuoteOut(
        id=row.id,
        number=row.number,
        client=row.client,
        words=row.words,
        quote=Quote.model_validate(row.quote),
        created_at=row.created_at,
        accepted_at=row.accepted_at,
        accepted_by=row.accepted_by,
    )


def latest_quote(scope: Scope, site: SiteRow) -> QuoteOut | None:
    """Return the last quote of a site that was kept."""
    rows = _rows(scope, site)
    return _out(rows[0]) if rows else None


def accept_quote(scope: Scope, site: SiteRow, quote_id: UUID, name: str) -> QuoteOut:
    """Keep that a quote was accepted, by whom and when; the first acceptance stands."""
    row = scope.get(QuoteRow, quote_id, lock=True)
    if row.site_id != site.id:
        raise Problem(404, f"There is no such {QuoteRow.noun} here.")
    if row.accepted_at is None:
        row.accepted_at, row.accepted_by = scope.clock.now(), name
        scope.session.flush()
    return _out(row)


def keep_quote(scope: Scope, site_id: UUID, entry: QuoteEntry) -> QuoteOut:
    """Keep the quote as it is now; it stays as it was promised. The same id again returns the one that is there."""
    scope.hold()
    site = scope.get(SiteRow, site_id, lock=True)
    quote_row = scope.session.scalar(scope.select(QuoteRow).where(QuoteRow.id == entry.id))
    if quote_row is not None:
        return _out(_one(scope, site_id, entry.id))
    rows = _rows(scope, site)
    if len(rows) >= MOST_QUOTES:
        raise Problem(409, f"A site keeps {MOST_QUOTES} quotes at most.")
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, entry.season)
    wanting = _wanting(plan, number)
    quote = None if wanting else plan.quote(number, snapshot.today)
    if quote is None:
        raise Problem(409, wanting or "There is nothing to quote.")
    row = QuoteRow(
        id=entry.id,
        site_id=site.id,
        number=_next_number(scope),
        client=entry.client,
        words=entry.words,
        units=site.units,
        quote=quote.model_dump(mode="json"),
        created_at=scope.clock.now(),
    )
    return _out(added(scope, row))


def _next_number(scope: Scope) -> int:
    """Return the next number of the workspace; those of deleted quotes are not given again."""
    numbers = (
        scope.session.scalar(scope.select(QuoteRow, deleted=deleted).with_only_columns(func.max(QuoteRow.number)))
        for deleted in (False, True)
    )
    return 1 + max(number or 0 for number in numbers)


def _one(scope: Scope, site_id: UUID, quote_id: UUID, *, deleted: bool = False) -> QuoteRow:
    row = scope.get(QuoteRow, quote_id, deleted=deleted)
    if row.site_id != scope.get(SiteRow, site_id).id:
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
    from ulmatic.formats.quotes import QuoteParty, quote_csv, quote_pdf

    row = _one(scope, site_id, quote_id)
    site = scope.get(SiteRow, site_id)
    party = QuoteParty(
        number=row.number,
        client=row.client,
        words=row.words,
        site=site.name,
        by=scope.member.workspace.name,
        units=UnitSystem(row.units),
    )
    quote = Quote.model_validate(row.quote)
    content = quote_pdf(quote, party) if ending == "pdf" else quote_csv(quote, party)
    return content, f"quote-{row.number}.{ending}"
