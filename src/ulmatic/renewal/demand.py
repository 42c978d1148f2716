"""What coming years take, and what can be expected to come."""

from collections.abc import Sequence
from datetime import timedelta
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import Material
from ulmatic.core.renewal import (
    RULE_WORDS,
    Every,
    Future,
    Harvest,
    Hold,
    Quarter,
    Rule,
    Thin,
)
from ulmatic.core.supply.sources import Arborist, Merchant, Own, Utility, Yard, counted_on
from ulmatic.core.survey import Use
from ulmatic.core.working import ceil
from ulmatic.problems import Problem
from ulmatic.renewal.coming import Coming, coming
from ulmatic.renewal.schemas import (
    AllDemand,
    DemandLine,
    RuleCompared,
    SiteDemand,
    SupplyHeld,
    YearDemand,
)
from ulmatic.supply.schemas import SupplierOut
from ulmatic.supply.suppliers import buying_of, supplier_rows
from ulmatic.survey.models import PlotRow, SiteRow

Array = NDArray[np.float64]
RANGED_PLOTS = 80


def _unit_cost(scope: Scope, one: Coming) -> tuple[float | None, float]:
    """Return the price of a m³ of the cheapest supplier, and what can be counted on for nothing or a fee in a year."""
    currency = buying_of(one.has.row).currency
    prices, supply = [], 0.0
    for row in supplier_rows(scope):
        kept = SupplierOut.model_validate(row)
        source = kept.source
        if kept.currency != currency:
            continue
        match source:
            case Arborist() | Utility():
                loads = counted_on(len(source.months), source.chance)
                mean = source.size().mean_m3
                supply += loads * mean
                if loads:
                    prices.append(source.per_load / mean)
            case Own():
                supply += source.year_m3
            case Merchant():
                prices.append(source.per_m3 + source.per_load / source.truck_m3)
            case Yard():
                prices.append(source.per_m3 + source.per_trip / source.trailer_m3)
            case _:
                pass
    return min(prices, default=None), supply


def demand_of(
    scope: Scope, one: Coming, rows: Sequence[PlotRow], rules: Sequence[tuple[Rule, bool]], future: Future
) -> tuple[list[DemandLine], list[YearDemand]]:
    price, supply = _unit_cost(scope, one)
    lines: dict[tuple[int, str], dict[str, float]] = {}
    hours: dict[tuple[int, str], float] = {}
    for top_up in future.top_ups:
        row = rows[top_up.plot]
        key = (top_up.on.year, "spring" if top_up.on.month <= 6 else "autumn")
        by_material = lines.setdefault(key, {})
        name = one.materials[row.id].name
        by_material[name] = by_material.get(name, 0.0) + float(top_up.volume_m3)
        hours[key] = hours.get(key, 0.0) + one.hours_per_m3(row.id) * float(top_up.volume_m3)
    load = one.has.site.load_m3
    order = {"spring": 0, "autumn": 1}
    demand = [
        DemandLine(
            year=year, half=half, by_material=by_material, volume_m3=(total := sum(by_material.values())),
            loads=ceil(total / load), hours=hours[year, half],
            cost=None if price is None else total * price,
        )
        for (year, half), by_material in sorted(lines.items(), key=lambda item: (item[0][0], order[item[0][1]]))
    ]  # fmt: skip
    volumes = _by_year(future)
    low, high = volumes, volumes
    if len(rows) <= RANGED_PLOTS:
        low, high = (
            _by_year(
                one.renewed(
                    [
                        one.ground(row, rule, faster=_factor(one.materials[row.id], which))
                        for row, (rule, _) in zip(rows, rules, strict=True)
                    ],
                    rows,
                )
            )
            for which in ("low", "high")
        )
    years = range(one.today.year, one.today.year + one.years)
    return demand, [
        YearDemand(
            year=year, volume_m3=volumes.get(year, 0.0), low_m3=min(low.get(year, 0.0), high.get(year, 0.0)),
            high_m3=max(low.get(year, 0.0), high.get(year, 0.0)), supply_m3=supply,
            short=volumes.get(year, 0.0) > supply + 0.05,
        )
        for year in years
    ]  # fmt: skip


def _factor(material: Material, which: str) -> float:
    end: float | None = getattr(material.rate, which)
    return (end or material.rate.value) / material.rate.value


def _by_year(future: Future) -> dict[int, float]:
    found: dict[int, float] = {}
    for top_up in future.top_ups:
        found[top_up.on.year] = found.get(top_up.on.year, 0.0) + float(top_up.volume_m3)
    return found


def compare_rules(scope: Scope, site_id: UUID, plot_id: UUID, years: int = 10) -> list[RuleCompared]:
    """Set rules side by side on one plot: its own, and the usual ones."""
    one = coming(scope, site_id, years)
    row = next((row for row in one.has.rows if row.id == plot_id), None)
    if row is None:
        raise Problem(404, "There is no such plot here.")
    own, _ = one.rule(row)
    plot = one.has.plots[plot_id]
    wanted = max(plot.wanted_mm, 40.0)
    autumn = next((month for month in (11, 10, 12, 9) if month in one.open_months), one.open_months[0])
    rules: list[Rule] = [
        own, Hold(least_mm=50.0, to_mm=wanted), Thin(months=(4, 10), layer_mm=40.0),
        Every(years=3, month=autumn, to_mm=2 * wanted),
    ]  # fmt: skip
    if plot.use in (Use.YOUNG_TREE, Use.ESTABLISHED_TREE):
        rules.append(Quarter(month=autumn, layer_mm=wanted))
    if plot.use in (Use.FOOT_PATH, Use.VEHICLE_PATH):
        rules.append(Harvest(years=2, month=autumn, to_mm=wanted))
    price, _ = _unit_cost(scope, one)
    made = []
    for rule in dict.fromkeys(rules):
        future = one.renewed([one.ground(row, rule)], [row])
        volume = sum(float(top_up.volume_m3) for top_up in future.top_ups) / years
        held = future.held_mm[0]
        made.append(
            RuleCompared(
                rule=rule, words=RULE_WORDS[rule.kind], volume_m3=volume, hours=volume * one.hours_per_m3(plot_id),
                cost=None if price is None else volume * price, top_ups=len(future.top_ups),
                least_mm=float(held[52:].min()), mean_mm=float(held[52:].mean()),
                crumb_kg_m2=float(future.crumb_kg_m2[0, -1]),
            )
        )  # fmt: skip
    return made


def held_by(scope: Scope, site_id: UUID, supply_m3: float) -> SupplyHeld:
    """Return the depth that a yearly supply can hold on all plots that are held above one."""
    one = coming(scope, site_id, 6)
    rows = [row for row in one.has.rows if isinstance(one.rule(row)[0], Hold)]

    def yearly(depth_mm: float) -> float:
        rule = Hold(least_mm=depth_mm, to_mm=max(depth_mm, 1.0))
        future = one.renewed([one.ground(row, rule) for row in rows], rows)
        late = [float(top_up.volume_m3) for top_up in future.top_ups if top_up.on > one.today + timedelta(days=730)]
        return sum(late) / (one.years - 2)

    needed = sum(_by_year(one.renewed([one.ground(row, one.rule(row)[0]) for row in rows], rows)).values()) / one.years
    if not rows or supply_m3 <= 0:
        return SupplyHeld(supply_m3=supply_m3, depth_mm=None, needed_m3=needed)
    low, high = 0.0, 300.0
    for _ in range(8):
        middle = (low + high) / 2
        low, high = (middle, high) if yearly(middle) <= supply_m3 else (low, middle)
    return SupplyHeld(supply_m3=supply_m3, depth_mm=low, needed_m3=needed)


def all_sites(scope: Scope, years: int = 5) -> AllDemand:
    """Return what all sites of the workspace take in coming years."""
    found, loads, first = [], [0] * years, None
    for site in scope.session.scalars(scope.select(SiteRow).order_by(SiteRow.name, SiteRow.id)).all():
        one = coming(scope, site.id, years)
        rows = list(one.has.rows)
        first = first or one.today.year
        volumes = _by_year(one.renewed([one.ground(row, one.rule(row)[0]) for row in rows], rows))
        own = [volumes.get(first + at, 0.0) for at in range(years)]
        found.append(SiteDemand(site_id=site.id, name=site.name, volumes_m3=own))
        loads = [count + ceil(volume / site.load_m3) for count, volume in zip(loads, own, strict=True)]
    return AllDemand(
        years=[(first or 0) + at for at in range(years)] if first else [],
        sites=found,
        total_m3=[sum(one.volumes_m3[at] for one in found) for at in range(years)],
        loads=loads,
    )
