"""What becomes of a site's plots and piles, season by season; rules, and the site's seasons."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.planning.outlook import Outlook, RuleCompared, SupplyHeld
from ulmatic.core.planning.plots import plot_gap
from ulmatic.core.planning.several import SeveralSites
from ulmatic.core.planning.tracks import shipped_depth, tracks
from ulmatic.core.schedule import Laying, Overrides, closes_in
from ulmatic.platform.series import packed, packed_rows
from ulmatic.records.plots import one_plot
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import next_version
from ulmatic.schedule.schemas import (
    AllSites,
    LayerOut,
    LayersSheet,
    LayingOut,
    PlotFuture,
    RuleEntry,
    SeasonOut,
    SeasonsSheet,
    SiteYears,
    YearsSheet,
)
from ulmatic.schedule.weather import weather_out
from ulmatic.site.ledger import log_of
from ulmatic.site.snapshot import snapshot_of, snapshots

COMPARED_YEARS, HELD_YEARS = 10, 6


def seasons_sheet(scope: Scope, site_id: UUID, years: int) -> SeasonsSheet:
    """Return a site through its seasons."""
    snapshot = snapshot_of(scope, site_id)
    outlook = Outlook(snapshot.plan(years))
    plan, state = outlook.plan, outlook.plan.state
    series = zip(
        *(packed_rows(values, 10, 0.0) for values in (outlook.held_mm, outlook.humus_mm, *outlook.band_mm)), strict=True
    )
    by_plot: dict[int, list[Laying]] = {}
    for laying in plan.by_supply.layings:
        by_plot.setdefault(laying.plot, []).append(laying)
    return SeasonsSheet(
        now=plan.now,
        first=plan.weeks.first,
        today=snapshot.today,
        weeks=plan.weeks.count,
        place_year=state.climate.place_year,
        windows=list(state.climate.windows),
        seasons=[
            SeasonOut(key=season.key, name=season.name, window=season.window, opens=season.opens, closes=season.closes)
            for season in plan.seasons
        ],
        overridden=snapshot.site.overrides,
        waits=plan.waits,
        temperatures_c=list(state.climate.normals.temperatures_c),
        rain_mm=list(state.climate.normals.rain_mm),
        weather=weather_out(snapshot),
        plots=[_plot_future(outlook, index, by_plot.get(index, []), packs) for index, packs in enumerate(series)],
        piles=outlook.piles(),
        log=log_of(snapshot),
        soil=outlook.soil_made(),
    )


def _plot_future(outlook: Outlook, index: int, layings: Sequence[Laying], packs: Sequence[str]) -> PlotFuture:
    plan = outlook.plan
    plot, scheduled = plan.plots[index], plan.scheduled[index]
    chips, humus, low, high = packs
    waits = plan.by_supply.waiting.get(index)
    return PlotFuture(
        plot_id=plot.id,
        rule=scheduled.rule,
        proposed=plot.rule is None,
        material=scheduled.material.name,
        target_mm=plan.state.recipe(plot).target_mm,
        least_mm=scheduled.least_mm,
        held=chips,
        humus=humus,
        low=low,
        high=high,
        layings=[
            LayingOut(
                on=laying.on,
                wanted_on=laying.wanted_on,
                season=plan.seasons[laying.season].name,
                settled_mm=laying.settled_mm,
                ordered_m3=plan.ordered_m3(laying),
                reason=laying.reason,
                humus_m3=laying.humus_m3,
                quarter=laying.quarter,
            )
            for laying in layings
        ],
        next_step=next_step(outlook, layings, waits),
        gap=plot_gap(plan, plot.id),
        waits_since=waits,
        closes_in=closes_in(plot.plot.shape, plot.plot.use, plot.plot.site_conditions.growth_m, plan.state.parameters),
        humus_kg_m2=[round(float(mass), 2) for mass in outlook.humus_kg_m2[index]],
    )


def next_step(outlook: Outlook, layings: Sequence[Laying], waits_since: date | None) -> str:
    """Say what is to be done next on a plot."""
    plan = outlook.plan
    if not layings:
        if waits_since is None:
            return "Nothing planned."
        return f"Needs chips from {waits_since:%B %Y} on; none are likely to come."
    first = layings[0]
    season = plan.seasons[first.season]
    amount = f"{{{first.settled_mm:.0f} mm}}, {{{plan.ordered_m3(first):.3g} m3}}"
    if first.wanted_on < first.on:
        return f"Due on {first.wanted_on:%-d %B %Y}, postponed to {first.on:%-d %B %Y}, chips are short: {amount}."
    if first.season == 0:
        return f"Lay {amount} by {season.closes:%-d %B %Y}."
    return f"Nothing until {season.name[:1].lower()}{season.name[1:]}; then {amount}."


def years_sheet(scope: Scope, site_id: UUID, years: int) -> YearsSheet:
    """Return the seasons and years ahead of a site in numbers."""
    snapshot = snapshot_of(scope, site_id)
    outlook = Outlook(snapshot.plan(years))
    return YearsSheet(
        now=outlook.plan.now,
        seasons=outlook.seasons(),
        years=outlook.years(),
        breaks_in=outlook.breaks_in,
        currency=snapshot.site.buying.currency,
    )


def layers_sheet(scope: Scope, site_id: UUID, plot_id: UUID, years: int) -> LayersSheet:
    """Return the layers of one plot through time, the lowest first."""
    snapshot = snapshot_of(scope, site_id)
    snapshot.plot(plot_id)
    outlook = Outlook(snapshot.plan(years))
    shipped = shipped_depth(outlook, plot_id)
    return LayersSheet(
        shipped=None if shipped is None else packed(shipped, 10, 0.0),
        layers=[
            LayerOut(
                name=track.material.name,
                on=track.on,
                planned=track.planned,
                quarter=track.quarter,
                stage=track.stage,
                chips=packed(track.chips_mm, 10, 0.0),
            )
            for track in tracks(outlook, plot_id)
        ],
    )


def compare_rules(scope: Scope, site_id: UUID, plot_id: UUID) -> list[RuleCompared]:
    """Set rules side by side on one plot."""
    snapshot = snapshot_of(scope, site_id)
    snapshot.plot(plot_id)
    return Outlook(snapshot.plan(COMPARED_YEARS)).compare_rules(plot_id)


def held_by(scope: Scope, site_id: UUID, supply_m3: float) -> SupplyHeld:
    """Return the target depth that a yearly supply can hold."""
    return Outlook(snapshot_of(scope, site_id).plan(HELD_YEARS)).held_by(supply_m3)


def all_sites(scope: Scope, years: int = 5) -> AllSites:
    """Return what all sites of the workspace take in coming years, against what can be counted on to come to it."""
    of_workspace = snapshots(scope)
    several = SeveralSites([Outlook(snapshot.plan(years)) for snapshot in of_workspace])
    return AllSites(
        years=several.years,
        sites=[
            SiteYears(
                site_id=snapshot.row.id,
                name=snapshot.row.name,
                now=outlook.plan.now,
                volumes_m3=volumes,
            )
            for snapshot, outlook, volumes in zip(of_workspace, several.outlooks, several.volumes_m3, strict=True)
        ],
        total_m3=several.total_m3,
        supply_m3=several.supply_m3,
        breaks_in=several.breaks_in,
        seasons=several.seasons(),
    )


def change_rule(scope: Scope, site_id: UUID, plot_id: UUID, entry: RuleEntry, if_match: str | None) -> None:
    """Give a plot a rule of its own, or the proposed one back."""
    row = one_plot(scope, site_id, plot_id, lock=True)
    next_version(row, if_match)
    row.rule = None if entry.rule is None else entry.rule.model_dump(mode="json")
    scope.session.flush()


def change_seasons(scope: Scope, site_id: UUID, entry: Overrides) -> None:
    """Override what is derived of a site's seasons."""
    row = scope.get(SiteRow, site_id, lock=True)
    # Closures and people are written down with the days of work; who leaves them out leaves them as they are.
    kept_keys = {"closures", "people"} - entry.model_fields_set
    kept_parts = {key: row.seasons[key] for key in kept_keys if key in row.seasons}
    row.seasons = {**entry.model_dump(mode="json", exclude_none=True, exclude=kept_keys), **kept_parts}
    scope.session.flush()
