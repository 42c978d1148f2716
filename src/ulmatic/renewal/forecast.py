"""What becomes of a site’s plots and piles."""

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import timedelta
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
    plots_through_time,
    spread,
    stage_after,
    through_time,
)
from ulmatic.core.renewal import (
    Future,
    Hold,
    Rule,
    TopUp,
    closes_in,
)
from ulmatic.problems import Problem
from ulmatic.renewal.coming import BACK_WEEKS, EVERY, LEAST_MM, Coming, coming
from ulmatic.renewal.demand import demand_of
from ulmatic.renewal.schemas import (
    LayersSheet,
    LayerTrack,
    PileFuture,
    PlotFuture,
    RuleEntry,
    SeasonsEntry,
    SeasonsSheet,
    TopUpOut,
)
from ulmatic.renewal.weather import weather_out
from ulmatic.series import packed
from ulmatic.supply.suppliers import buying_of
from ulmatic.survey.models import PlotRow, SiteRow
from ulmatic.survey.service import one_plot
from ulmatic.writes import next_version

Array = NDArray[np.float64]
CARBON = 0.5
"""Share of carbon in dry crumb: common practice, no source."""
RIPE = 0.65


def _tenths(values: Array) -> str:
    return packed(values, 10, 0.0)


def _all_layers(
    one: Coming, top_ups: Sequence[TopUp], rows: Sequence[PlotRow], laid: Mapping[UUID, list[LaidLayer]] | None = None
) -> dict[UUID, list[LaidLayer]]:
    """Return what lies on plots, or `laid`, and what will be laid there."""
    found = {row.id: list((laid or one.layers)[row.id]) for row in rows}
    settling = {row.id: one.settling(row.id) for row in rows}
    for top_up in top_ups:
        key = rows[top_up.plot].id
        found[key].append(
            LaidLayer.model_construct(
                material=one.materials[key], on=top_up.on, loose_mm=float(top_up.loose_mm), age_decay_time=0.0,
                settling=settling[key],
            )
        )  # fmt: skip
    return found


def _depths(
    one: Coming, layers: dict[UUID, list[LaidLayer]], rows: Sequence[PlotRow], days: Array, which: str
) -> Depths:
    """Return depths by plot in the order of rows; `which` takes rates as they are, or their 10th or 90th percentile."""
    out = _depths_of(one, layers, rows, days, which)
    for at, row in enumerate(rows):
        if row.id in one.dug_in:
            # What was dug in lay there until then.
            for layer in one.all_laid[row.id]:
                dug = one.dug_in_on(row.id, layer)
                if dug is not None:
                    until = days < day_number(dug)
                    lay = _depths_of(one, {row.id: [layer]}, [row], days[until], which)
                    for kept, part in zip(_arrays(out), _arrays(lay), strict=True):
                        kept[at, until] += part[0]
    return out


def _depths_of(
    one: Coming, layers: dict[UUID, list[LaidLayer]], rows: Sequence[PlotRow], days: Array, which: str
) -> Depths:
    shape = (len(rows), days.size)
    out = Depths(*(np.zeros(shape) for _ in range(4)))
    for wet in (False, True):
        at = [index for index, row in enumerate(rows) if layers[row.id] and one.irrigated(row.id) is wet]
        if not at:
            continue
        flat = [layer for index in at for layer in layers[rows[index].id]]
        made = layers_of(flat)
        if which != "value":
            rates = [layer.material.rate for layer in flat]
            made = made.at_rate(np.array([(getattr(rate, which) or rate.value) / rate.value for rate in rates]))
        starts = np.cumsum([0, *(len(layers[rows[index].id]) for index in at)])[:-1]
        ticking = one.clocks[wet]
        found = plots_through_time(made, [int(x) for x in starts], ticking.at(days), ticking.at(made.laid_day), days)
        for kept, part in zip(_arrays(out), _arrays(found), strict=True):
            kept[at] = part
    return out


def _arrays(depths: Depths) -> tuple[Array, Array, Array, Array]:
    return depths.chips_mm, depths.mould_mm, depths.mass_kg_m2, depths.crumb_kg_m2


def seasons_sheet(scope: Scope, site_id: UUID, years: int, trouble: str | None = None) -> SeasonsSheet:
    """Return a site through its seasons."""
    one = coming(scope, site_id, years)
    rows = list(one.has.rows)
    rules = [one.rule(row) for row in rows]
    future = one.renewed([one.ground(row, rule) for row, (rule, _) in zip(rows, rules, strict=True)], rows)
    layers = _all_layers(one, future.top_ups, rows)
    # Today stands as it is: what is to be laid now is not yet there.
    past = _depths(one, one.layers, rows, one.days[: BACK_WEEKS + 1], "value")
    held = np.concatenate([past.chips_mm, future.held_mm[:, 1:]], axis=1)
    mould = np.concatenate([past.mould_mm, future.mould_mm[:, 1:]], axis=1)
    coarse = one.days[::EVERY]
    slow, fast = (_depths(one, layers, rows, coarse, which) for which in ("low", "high"))
    low, high = spread(held[:, ::EVERY], slow.chips_mm, fast.chips_mm)
    year_ends = [min(one.ahead - 1, 52 * year) for year in range(1, years + 1)]
    areas = np.array([one.has.needs[row.id].laid.value for row in rows])
    coarse_ends = [(BACK_WEEKS + week) // EVERY for week in year_ends]
    own: list[list[TopUp]] = [[] for _ in rows]
    for top_up in future.top_ups:
        own[top_up.plot].append(top_up)
    plots = [
        _plot_future(one, row, at, rule, proposed=proposed, held=held[at], mould=mould[at], low=low[at], high=high[at],
                     future=future, own=own[at], year_ends=year_ends)
        for at, (row, (rule, proposed)) in enumerate(zip(rows, rules, strict=True))
    ]  # fmt: skip
    demand, yearly = demand_of(scope, one, rows, rules, future)
    normals = one.has.around.normals

    def carbon(crumb: Array, ends: Sequence[int]) -> list[float]:
        return [round(float(CARBON * (crumb[:, end] * areas).sum()), 1) for end in ends]

    return SeasonsSheet(
        first=one.first, today=one.today, weeks=one.days.size, seasons=one.seasons, overridden=one.overridden,
        open_months=list(one.open_months), temperatures_c=list(normals.temperatures_c), rain_mm=list(normals.rain_mm),
        weather=weather_out(one.has.row, one.weather, normals, trouble), plots=plots, piles=_piles(one),
        events=one.logged, demand=demand, years=yearly,
        breaks_in=next((year.year for year in yearly if year.short), None), currency=buying_of(one.has.row).currency,
        carbon_kg=carbon(future.crumb_kg_m2, year_ends),
        carbon_low_kg=carbon(np.minimum(slow.crumb_kg_m2, fast.crumb_kg_m2), coarse_ends),
        carbon_high_kg=carbon(np.maximum(slow.crumb_kg_m2, fast.crumb_kg_m2), coarse_ends),
    )  # fmt: skip


def _plot_future(
    one: Coming, row: PlotRow, at: int, rule: Rule, *, proposed: bool, held: Array, mould: Array, low: Array,
    high: Array, future: Future, own: Sequence[TopUp], year_ends: Sequence[int],
) -> PlotFuture:  # fmt: skip
    least = rule.least_mm if isinstance(rule, Hold) else None
    below = np.flatnonzero(future.held_mm[at] < least - LEAST_MM) if least else np.array([])
    plot = one.has.plots[row.id]
    return PlotFuture(
        plot_id=row.id, rule=rule, proposed=proposed, material=one.materials[row.id].name, least_mm=least,
        held=_tenths(held), mould=_tenths(mould), low=_tenths(low), high=_tenths(high),
        top_ups=[
            TopUpOut(on=top_up.on, settled_mm=float(top_up.settled_mm), volume_m3=float(top_up.volume_m3),
                     crumb_m3=float(top_up.crumb_m3), quarter=top_up.quarter)
            for top_up in own
        ],
        next_step=_next_step(one, own), closes_in=closes_in(plot.shape, plot.use),
        falls_below=one.today + timedelta(weeks=int(below[0])) if below.size else None,
        crumb_kg_m2=[round(float(future.crumb_kg_m2[at, week]), 2) for week in year_ends],
    )  # fmt: skip


def _next_step(one: Coming, own: Sequence[TopUp]) -> str:
    if not own:
        return "Left to itself."
    first = own[0]
    amount = f"{{{first.settled_mm:.0f} mm}}, {{{first.volume_m3:.3g} m3}}"
    weeks = (first.on - one.today).days / 7
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
    future = one.renewed([one.ground(row, one.rule(row)[0]) for row in rows], rows)
    planned = Counter(rows[top_up.plot].id for top_up in future.top_ups)
    return {key: (laid, planned[key]) for key, laid in _all_layers(one, future.top_ups, rows, one.all_laid).items()}


def layers_sheet(scope: Scope, site_id: UUID, plot_id: UUID, years: int) -> LayersSheet:
    """Return the layers of one plot through time, the lowest first."""
    one = coming(scope, site_id, years)
    row = next((row for row in one.has.rows if row.id == plot_id), None)
    if row is None:
        raise Problem(404, "There is no such plot here.")
    rule, _ = one.rule(row)
    future = one.renewed([one.ground(row, rule)], [row])
    layers = _all_layers(one, future.top_ups, [row], one.all_laid)[row.id]
    if not layers:
        return LayersSheet(layers=[])
    made = layers_of(layers)
    ticking = one.clocks[one.irrigated(row.id)]
    chips = through_time(made, ticking.at(one.days), ticking.at(made.laid_day), one.days).chips_mm
    chips[len(layers) - len(future.top_ups) :, BACK_WEEKS] = 0.0
    for at, layer in enumerate(one.all_laid[plot_id]):
        dug = one.dug_in_on(plot_id, layer)
        if dug is not None:
            chips[at, one.days >= day_number(dug)] = 0.0
    factor = climate_factor(one.has.around.normals)
    quarters = [None] * (len(layers) - len(future.top_ups)) + [top_up.quarter for top_up in future.top_ups]
    return LayersSheet(
        layers=[
            LayerTrack(
                name=layer.material.name, on=layer.on, planned=at >= len(layers) - len(future.top_ups),
                chips=_tenths(chips[at]),
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


def change_seasons(scope: Scope, site_id: UUID, entry: SeasonsEntry) -> None:
    """Override what is derived of a place's seasons."""
    scope.one(SiteRow, site_id, lock=True).seasons = entry.model_dump(mode="json", exclude_none=True)
    scope.session.flush()
