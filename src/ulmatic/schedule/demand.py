"""What coming years take, and what can be expected to come."""

from collections import Counter
from collections.abc import Sequence
from datetime import timedelta
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.figures import ceil
from ulmatic.core.materials import Material
from ulmatic.core.renewal import RULE_WORDS, Every, Future, Harvest, Hold, Quarter, Rule, Thin
from ulmatic.core.survey import Use
from ulmatic.platform.problems import Problem
from ulmatic.schedule.coming import Coming, coming
from ulmatic.schedule.expected import Expected
from ulmatic.schedule.schemas import (
    AllDemand,
    DemandLine,
    Half,
    RuleCompared,
    SeasonDemand,
    SiteDemand,
    SupplyHeld,
    YearDemand,
)
from ulmatic.supply.suppliers import buying_of, list_suppliers
from ulmatic.survey.models import SiteRow

RANGED_PLOTS = 80
LAST_OF_SPRING = 6
SPECK_M3 = 0.05


def demand_of(one: Coming) -> tuple[list[DemandLine], list[YearDemand]]:
    """Return what is laid by half years, and what years want against what comes."""
    years = range(one.today.year, one.today.year + one.years)
    supply, volumes, laid = one.expected.year_m3, _by_year(one.wanted), _by_year(one.future)
    low, high = volumes, volumes
    if len(one.has.rows) <= RANGED_PLOTS:
        low, high = (
            _by_year(
                one.renewed(
                    [
                        one.ground(row, rule, faster=_factor(one.materials[row.id], which))
                        for row, (rule, _) in zip(one.has.rows, one.rules, strict=True)
                    ]
                )
            )
            for which in ("low", "high")
        )
    return _lines(one), [
        YearDemand(
            year=year, volume_m3=volumes.get(year, 0.0), laid_m3=laid.get(year, 0.0),
            low_m3=min(low.get(year, 0.0), high.get(year, 0.0)), high_m3=max(low.get(year, 0.0), high.get(year, 0.0)),
            supply_m3=supply, short=volumes.get(year, 0.0) > supply + SPECK_M3,
        )
        for year in years
    ]  # fmt: skip


def _in_time(half: tuple[int, Half]) -> tuple[int, bool]:
    return half[0], half[1] == "autumn"


def _lines(one: Coming) -> list[DemandLine]:
    price, rows = one.expected.price, one.has.rows
    by_half: dict[tuple[int, Half], dict[str, float]] = {}
    hours, crumb = dict[tuple[int, Half], float](), dict[tuple[int, Half], float]()
    names = [one.materials[row.id].name for row in rows]
    pace = [one.hours_per_m3(row.id) for row in rows]
    for top_up in one.future.top_ups:
        at: tuple[int, Half] = (top_up.on.year, "spring" if top_up.on.month <= LAST_OF_SPRING else "autumn")
        by_material, name = by_half.setdefault(at, {}), names[top_up.plot]
        by_material[name] = by_material.get(name, 0.0) + top_up.volume_m3
        hours[at] = hours.get(at, 0.0) + pace[top_up.plot] * top_up.volume_m3
        crumb[at] = crumb.get(at, 0.0) + top_up.crumb_m3
    return [
        DemandLine(
            year=year, half=half, by_material=by_material, crumb_m3=crumb[year, half],
            volume_m3=(total := sum(by_material.values())),
            loads=ceil(total / one.has.site.load_m3), hours=hours[year, half],
            cost=None if price is None else total * price,
        )
        for (year, half), by_material in sorted(by_half.items(), key=lambda item: _in_time(item[0]))
    ]  # fmt: skip


def _factor(material: Material, which: str) -> float:
    end: float | None = getattr(material.rate, which)
    return (end or material.rate.value) / material.rate.value


def _by_year(future: Future) -> dict[int, float]:
    found: dict[int, float] = {}
    for top_up in future.top_ups:
        found[top_up.on.year] = found.get(top_up.on.year, 0.0) + top_up.volume_m3
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
    price = one.expected.price
    made = []
    for rule in dict.fromkeys(rules):
        future = one.renewed([one.ground(row, rule)])
        volume = sum(top_up.volume_m3 for top_up in future.top_ups) / years
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
        future = one.renewed([one.ground(row, rule) for row in rows])
        late = [top_up.volume_m3 for top_up in future.top_ups if top_up.on > one.today + timedelta(days=730)]
        return sum(late) / (one.years - 2)

    needed = sum(_by_year(one.renewed([one.ground(row, one.rule(row)[0]) for row in rows])).values()) / one.years
    if not rows or supply_m3 <= 0:
        return SupplyHeld(supply_m3=supply_m3, depth_mm=None, needed_m3=needed)
    low, high = 0.0, 300.0
    for _ in range(8):
        middle = (low + high) / 2
        low, high = (middle, high) if yearly(middle) <= supply_m3 else (low, middle)
    return SupplyHeld(supply_m3=supply_m3, depth_mm=low, needed_m3=needed)


def all_sites(scope: Scope, years: int = 5) -> AllDemand:
    """Return what all sites of the workspace take in coming years, against what can be counted on to come to it."""
    sites = scope.session.scalars(scope.select(SiteRow).order_by(SiteRow.name, SiteRow.id)).all()
    found = [(site, coming(scope, site.id, years)) for site in sites]
    first = found[0][1].today.year if found else 0
    numbers = range(first, first + years) if found else range(0)
    own = [[_by_year(one.wanted).get(year, 0.0) for year in numbers] for _, one in found]
    supply = Expected([one.source for one in list_suppliers(scope)]).year_m3
    total = [sum(volumes[at] for volumes in own) for at in range(len(numbers))]
    lines: dict[tuple[int, Half], list[tuple[str, DemandLine]]] = {}
    for _, one in found:
        currency = buying_of(one.has.row).currency
        for line in _lines(one):
            lines.setdefault((line.year, line.half), []).append((currency, line))
    return AllDemand(
        years=list(numbers),
        sites=[
            SiteDemand(site_id=site.id, name=site.name, volumes_m3=volumes)
            for (site, _), volumes in zip(found, own, strict=True)
        ],
        total_m3=total, supply_m3=supply,
        breaks_in=next((year for year, volume in zip(numbers, total, strict=True) if volume > supply + SPECK_M3), None),
        seasons=[_together(lines[key]) for key in sorted(lines, key=_in_time)],
    )  # fmt: skip


def _together(lines: Sequence[tuple[str, DemandLine]]) -> SeasonDemand:
    """Return what several sites take in the same half year, each with its currency."""
    first = lines[0][1]
    by_material, costs = Counter[str](), Counter[str]()
    for currency, line in lines:
        by_material.update(line.by_material)
        costs.update({} if line.cost is None else {currency: line.cost})
    return SeasonDemand(
        year=first.year, half=first.half, by_material=dict(by_material), loads=sum(line.loads for _, line in lines),
        hours=sum(line.hours for _, line in lines), costs=dict(costs),
        costs_known=all(line.cost is not None for _, line in lines),
    )  # fmt: skip
