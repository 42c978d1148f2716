"""What becomes of a site’s plots and piles."""

from collections.abc import Sequence
from datetime import date, timedelta
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.accounts.scope import Scope
from ulmatic.core.decay import (
    Depths,
    LaidLayer,
    climate_factor,
    day_number,
    decayed,
    layers_of,
    spread,
    stage_after,
    through_time,
)
from ulmatic.core.renewal import End, Hold, Overrides, TopUp, arrays, closes_in, covered
from ulmatic.platform.problems import Problem
from ulmatic.platform.series import packed, packed_rows
from ulmatic.platform.writes import next_version
from ulmatic.schedule.coming import BACK_WEEKS, EVERY, LEAST_MM, Coming, coming
from ulmatic.schedule.demand import demand_of
from ulmatic.schedule.schemas import (
    LayersSheet,
    LayerTrack,
    PileFuture,
    PlotFuture,
    RuleEntry,
    SeasonsSheet,
    SoilMade,
    TopUpOut,
)
from ulmatic.schedule.weather import weather_out
from ulmatic.supply.suppliers import buying_of
from ulmatic.survey.models import PlotRow, SiteRow
from ulmatic.survey.surveyed import one_plot

Array = NDArray[np.float64]
CARBON = 0.5
"""Share of carbon in dry crumb: common practice, no source."""
RIPE = 0.65
ENDS: tuple[End, End] = ("low", "high")


def _all_layers(
    one: Coming, rows: Sequence[PlotRow], planned: Sequence[Sequence[TopUp]]
) -> dict[UUID, list[LaidLayer]]:
    """Return what plots were given, dug in or not, and then what will be laid there."""
    found = {}
    for row, top_ups in zip(rows, planned, strict=True):
        material, settling = one.materials[row.id], one.settling(row.id)
        found[row.id] = one.all_laid[row.id] + [
            LaidLayer.model_construct(
                material=material, on=top_up.on, loose_mm=top_up.loose_mm, age_decay_time=0.0, settling=settling
            )
            for top_up in top_ups
        ]
    return found


def _depths(one: Coming, days: Array, top_ups: Sequence[TopUp] = (), end: End = "value") -> Depths:
    """Return what lies on all plots at dates, and lay there until it was dug in."""
    out = covered(one.grounds, one.clocks, days, top_ups, end)
    for at, row in enumerate(one.has.rows):
        for layer in one.all_laid[row.id] if row.id in one.dug_in else ():
            dug = one.dug_in_on(row.id, layer)
            if dug is not None:
                until = days < day_number(dug)
                alone = one.grounds[at].model_copy(update={"layers": (layer,)})
                lay = covered([alone], one.clocks, days[until], end=end)
                for kept, part in zip(arrays(out), arrays(lay), strict=True):
                    kept[at, until] += part[0]
    return out


def seasons_sheet(scope: Scope, site_id: UUID, years: int, trouble: str | None = None) -> SeasonsSheet:
    """Return a site through its seasons."""
    one = coming(scope, site_id, years)
    rows, future = one.has.rows, one.future
    # Today stands as it is: what is to be laid now is not yet there.
    past = _depths(one, one.days[: BACK_WEEKS + 1])
    held = np.concatenate([past.chips_mm, future.held_mm[:, 1:]], axis=1)
    mould = np.concatenate([past.mould_mm, future.mould_mm[:, 1:]], axis=1)
    slow, fast = (_depths(one, one.days[::EVERY], future.top_ups, end) for end in ENDS)
    low, high = spread(held[:, ::EVERY], slow.chips_mm, fast.chips_mm)
    year_ends = [min(one.ahead - 1, 52 * year) for year in range(1, years + 1)]
    series = zip(*(packed_rows(values, 10, 0.0) for values in (held, mould, low, high)), strict=True)
    plots = [
        _plot_future(one, at, own, packs, year_ends)
        for at, (own, packs) in enumerate(zip(one.planned(rows), series, strict=True))
    ]
    demand, yearly = demand_of(one)
    normals = one.has.around.normals
    return SeasonsSheet(
        first=one.first, today=one.today, weeks=one.days.size, seasons=one.seasons, overridden=one.overridden,
        open_months=list(one.open_months), waits=one.waits, temperatures_c=list(normals.temperatures_c),
        rain_mm=list(normals.rain_mm), weather=weather_out(one.has.row, one.weather, normals, trouble), plots=plots,
        piles=_piles(one), events=one.logged, demand=demand, years=yearly,
        breaks_in=next((year.year for year in yearly if year.short), None), currency=buying_of(one.has.row).currency,
        soil=_soil_made(one, year_ends, slow.crumb_kg_m2, fast.crumb_kg_m2),
    )  # fmt: skip


def _soil_made(one: Coming, year_ends: Sequence[int], slow: Array, fast: Array) -> list[SoilMade]:
    """Return the soil made by the end of each year; `slow` and `fast` are kg/m² of crumb every fourth week."""
    areas = np.array([one.has.needs[row.id].laid.value for row in one.has.rows])
    whole = float(areas.sum())

    def mean(values: Array) -> float:
        return float((values * areas).sum()) / whole if whole > 0 else 0.0

    made = []
    for years, week in enumerate(year_ends, 1):
        coarse = (BACK_WEEKS + week) // EVERY
        mass = mean(one.future.crumb_kg_m2[:, week])
        low, high = sorted((mean(slow[:, coarse]), mean(fast[:, coarse])))
        low, high = min(low, mass), max(high, mass)
        made.append(
            SoilMade(
                years=years, crumb_mm=mean(one.future.mould_mm[:, week]),
                crumb_kg_m2=mass, low_kg_m2=low, high_kg_m2=high, carbon_kg=CARBON * mass * whole,
                low_carbon_kg=CARBON * low * whole, high_carbon_kg=CARBON * high * whole,
            )
        )  # fmt: skip
    return made


def _plot_future(
    one: Coming, at: int, own: Sequence[TopUp], packs: Sequence[str], year_ends: Sequence[int]
) -> PlotFuture:
    row, future, (rule, proposed) = one.has.rows[at], one.future, one.rules[at]
    least = rule.least_mm if isinstance(rule, Hold) else None
    below = np.flatnonzero(future.held_mm[at] < least - LEAST_MM) if least else np.array([])
    plot, (held, mould, low, high) = one.has.plots[row.id], packs
    return PlotFuture(
        plot_id=row.id, rule=rule, proposed=proposed, material=one.materials[row.id].name, least_mm=least,
        held=held, mould=mould, low=low, high=high,
        top_ups=[
            TopUpOut(on=top_up.on, wanted=top_up.wanted, settled_mm=top_up.settled_mm, volume_m3=top_up.volume_m3,
                     crumb_m3=top_up.crumb_m3, quarter=top_up.quarter)
            for top_up in own
        ],
        next_step=_next_step(one, own, future.waiting.get(at)),
        closes_in=closes_in(plot.shape, plot.use, plot.found.growth_m),
        falls_below=one.today + timedelta(weeks=int(below[0])) if below.size else None,
        waits_since=future.waiting.get(at),
        crumb_kg_m2=[round(float(future.crumb_kg_m2[at, week]), 2) for week in year_ends],
    )  # fmt: skip


def _next_step(one: Coming, own: Sequence[TopUp], waits_since: date | None) -> str:
    if not own:
        if waits_since is None:
            return "Left to itself."
        return f"Wants chips from {waits_since:%B %Y} on; none can be counted on to come."
    first = own[0]
    amount = f"{{{first.settled_mm:.0f} mm}}, {{{first.volume_m3:.3g} m3}}"
    weeks = (first.on - one.today).days / 7
    if first.wanted < first.on:
        short = "now" if (first.wanted - one.today).days < 21 else f"in {first.wanted:%B %Y}"
        return f"Wanted {short}, put off to {first.on:%B %Y} for want of chips: then {amount}."
    if weeks < 3:
        return f"Top up now: {amount}."
    if weeks < 14:
        return f"Top up in {first.on:%B}: {amount}."
    return f"Nothing until {first.on:%B %Y}; then {amount}."


def _piles(one: Coming) -> list[PileFuture]:
    made = []
    ticking, today = one.clocks[False], day_number(one.today)
    for key, pile in one.stock.piles.items():
        lots = one.stock.lots(key)
        volume = sum(lots.values())
        if volume < 0.01:
            continue
        left, ripe = np.zeros(2), 0
        weeks = today + 7.0 * np.arange(one.ahead)
        for load, amount in lots.items():
            delivery = one.stock.deliveries[load]
            born = delivery.chipped_on or delivery.received_on or one.today
            material = one.has.around.shelf.get(delivery.material)
            if material is None:
                continue
            layer = layers_of([LaidLayer(material=material, on=born, loose_mm=1000.0, settling=0.0)])
            days = np.array([today, today + 182, today + 365], dtype=float)
            found = through_time(layer, ticking.at(days), ticking.at(layer.laid_day), days)
            there = (found.chips_mm + found.mould_mm)[0]
            left += amount * there[1:] / max(1e-9, there[0])
            time = material.rate.value * (ticking.at(weeks) - ticking.at(layer.laid_day))
            rotted = np.flatnonzero(decayed(np.tile(material.fractions(), (weeks.size, 1)), time) > RIPE)
            ripe = max(ripe, int(rotted[0]) if rotted.size else 10**6)
        made.append(
            PileFuture(
                pile=pile.name, volume_m3=volume, in_half_a_year_m3=float(left[0]), in_a_year_m3=float(left[1]),
                ripe_on=one.today + timedelta(weeks=ripe) if ripe < one.ahead else None,
            )
        )  # fmt: skip
    return made


def layers_with_planned(one: Coming, rows: Sequence[PlotRow]) -> dict[UUID, tuple[list[LaidLayer], int]]:
    """Return what plots were given, dug in or not, and will be given, and how many of these are yet to be laid."""
    planned = one.planned(rows)
    layers = _all_layers(one, rows, planned)
    return {row.id: (layers[row.id], len(own)) for row, own in zip(rows, planned, strict=True)}


def layers_sheet(scope: Scope, site_id: UUID, plot_id: UUID, years: int) -> LayersSheet:
    """Return the layers of one plot through time, the lowest first."""
    one = coming(scope, site_id, years)
    row = next((row for row in one.has.rows if row.id == plot_id), None)
    if row is None:
        raise Problem(404, "There is no such plot here.")
    planned = one.planned([row])
    (top_ups,), layers = planned, _all_layers(one, [row], planned)[row.id]
    if not layers:
        return LayersSheet(layers=[])
    made, laid = layers_of(layers), len(layers) - len(top_ups)
    ticking = one.clocks[one.irrigated(row.id)]
    chips = through_time(made, ticking.at(one.days), ticking.at(made.laid_day), one.days).chips_mm
    chips[laid:, BACK_WEEKS] = 0.0
    for at, layer in enumerate(one.all_laid[plot_id]):
        dug = one.dug_in_on(plot_id, layer)
        if dug is not None:
            chips[at, one.days >= day_number(dug)] = 0.0
    factor = climate_factor(one.has.around.normals)
    quarters = [None] * (laid) + [top_up.quarter for top_up in top_ups]
    return LayersSheet(
        layers=[
            LayerTrack(
                name=layer.material.name, on=layer.on, planned=at >= laid,
                chips=packed(chips[at], 10, 0.0),
                quarter=quarters[at],
                stage=stage_after(layer.material, max(0, (one.today - layer.on).days), factor),
            )
            for at, layer in enumerate(layers)
        ]
    )  # fmt: skip


def change_rule(scope: Scope, site_id: UUID, plot_id: UUID, entry: RuleEntry, if_match: str | None) -> None:
    """Give a plot a rule of its own, or the proposed one back."""
    row = one_plot(scope, site_id, plot_id, lock=True)
    next_version(row, if_match)
    row.renewal = None if entry.rule is None else entry.rule.model_dump(mode="json")
    scope.session.flush()


def change_seasons(scope: Scope, site_id: UUID, entry: Overrides) -> None:
    """Override what is derived of a place's seasons."""
    scope.one(SiteRow, site_id, lock=True).seasons = entry.model_dump(mode="json", exclude_none=True)
    scope.session.flush()
