"""Years ahead: every plot's layers, laid again by its rule in allowed months."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict

from ulmatic.core.decay import Clock, LaidLayer, Layers, day_number, layers_of, plots_through_time, through_time
from ulmatic.core.materials import Material
from ulmatic.core.renewal.rules import Every, Harvest, Hold, Once, Quarter, Rounds, Rule, Thin

Array = NDArray[np.float64]
Days = NDArray[np.int_]
LEAST_LAYER_MM = 15.0
"""Nobody rakes out less: common practice, no source."""
MOST_LAYER_MM = 300.0
QUARTERS = 4
WEEKS_A_YEAR = 52.18


class Ground(BaseModel):
    """A plot as it is renewed.

    Attributes
    ----------
    layers : tuple of LaidLayer
        What lies there already, or is laid before the first date.
    areas_m2 : tuple of float
        Ground in each year ahead, where it widens with its trees; the last goes on.
    """

    model_config = ConfigDict(frozen=True)
    rule: Rule
    material: Material
    settling: float
    layers: tuple[LaidLayer, ...]
    areas_m2: tuple[float, ...]
    open_months: tuple[int, ...]


@dataclass(frozen=True)
class TopUp:
    """Laid once: settled depth wanted, loose m³, and what was dug out before; `quarter` 0 to 3 where one was laid."""

    plot: int
    on: date
    settled_mm: float
    loose_mm: float
    volume_m3: float
    crumb_m3: float = 0.0
    quarter: int | None = None


@dataclass
class Future:
    """What becomes of plots: each array (plots, weeks), and every top-up in the order of time.

    `held` is the depth of chips; where a part of the ground is laid at a time it is the mean over the plot.
    """

    days: Array
    held_mm: Array
    mould_mm: Array
    crumb_kg_m2: Array
    top_ups: list[TopUp] = field(default_factory=list)


def renew(grounds: Sequence[Ground], clock: Clock, first: date, weeks: int) -> Future:
    """Simulate plots week by week of decision, in closed form between them.

    Every layer adds its depth at all later weeks at once; a rule then looks for the next week at which it must lay.
    So many rounds are made as the busiest plot has top-ups, each for all plots together.

    Parameters
    ----------
    grounds : sequence of Ground
    clock : Clock
    first : date
    weeks : int

    Returns
    -------
    Future
    """
    days = np.asarray(day_number(first) + 7.0 * np.arange(weeks), dtype=np.float64)
    dates = [first + timedelta(weeks=week) for week in range(weeks)]
    total = clock.at(days)
    future = _begin(grounds, clock, total, days)
    months = np.array([one.month for one in dates])
    masks = {one: np.isin(months, one) for one in {ground.open_months for ground in grounds}}
    opens = [masks[ground.open_months] for ground in grounds]
    plans = [_plan(ground, future, at, dates, opens[at]) for at, ground in enumerate(grounds)]
    units, own = _units(grounds)
    cursor, dug = np.zeros(len(grounds), dtype=int), np.zeros(len(grounds))
    while True:
        due = [(at, now) for at, plan in enumerate(plans) if (now := plan.next(cursor[at])) is not None]
        if not due:
            break
        at, week = np.array([one for one, _ in due]), np.array([one for _, one in due])
        # A layer of 1 mm settled for each; depth grows in proportion.
        per_mm = 1 / (1 - np.array([grounds[plot].settling for plot in at]))
        # Plots that are alike and laid in the same week share one layer.
        alike, share = np.unique(np.stack([own[at], week]), axis=1, return_inverse=True)
        kind, laid = alike
        one_mm = 1 / (1 - units.settling[kind])
        found = through_time(_laid(units, kind, one_mm, days[laid]), total, total[laid], days)
        chips, mould, crumb_made = (one[share.ravel()] for one in (found.chips_mm, found.mould_mm, found.crumb_kg_m2))
        settled = np.array([plans[plot].amount(now, chips[row]) for row, (plot, now) in enumerate(due)])
        loose = settled * per_mm
        for row, (plot, now) in enumerate(due):
            top_up = _top_up(grounds[plot], plans[plot], plot, now, dates[now], settled[row], loose[row])
            if plans[plot].digs:
                crumb = float(future.mould_mm[plot, now])
                area = _area(grounds[plot], now)
                top_up = TopUp(**{**top_up.__dict__, "crumb_m3": (crumb - dug[plot]) / 1000 * area})
                dug[plot] = crumb
            future.top_ups.append(top_up)
        future.held_mm[at] += chips * settled[:, None]
        future.mould_mm[at] += mould * settled[:, None]
        future.crumb_kg_m2[at] += crumb_made * settled[:, None]
        cursor[at] = week + 1
    future.top_ups.sort(key=lambda one: (one.on, one.plot))
    return future


def _begin(grounds: Sequence[Ground], clock: Clock, total: Array, days: Array) -> Future:
    shape = (len(grounds), days.size)
    future = Future(days, np.zeros(shape), np.zeros(shape), np.zeros(shape))
    covered = [at for at, ground in enumerate(grounds) if ground.layers]
    if covered:
        laid = [layer for at in covered for layer in grounds[at].layers]
        starts = np.cumsum([0, *(len(grounds[at].layers) for at in covered)])[:-1]
        layers = layers_of(laid)
        found = plots_through_time(layers, [int(one) for one in starts], total, clock.at(layers.laid_day), days)
        future.held_mm[covered] = found.chips_mm
        future.mould_mm[covered] = found.mould_mm
        future.crumb_kg_m2[covered] = found.crumb_kg_m2
    return future


def _units(grounds: Sequence[Ground]) -> tuple[Layers, Days]:
    """Return a fresh layer of 1 mm loose for each kind of plot, and the kind of each plot."""
    kinds: dict[tuple[str, float, float, float], int] = {}
    own, first = [], []
    for one in grounds:
        made = one.material
        key = (made.key, made.rate.value, made.density.value, one.settling)
        if key not in kinds:
            kinds[key] = len(kinds)
            first.append(one)
        own.append(kinds[key])
    units = layers_of(
        [LaidLayer(material=one.material, on=date(2000, 1, 1), loose_mm=1.0, settling=one.settling) for one in first]
    )
    return units, np.array(own, dtype=int)


def _laid(units: Layers, at: Days, loose_mm: Array, day: Array) -> Layers:
    return Layers(
        awen=units.awen[at] * loose_mm[:, None], awe=units.awe[at], humus=units.humus[at] * loose_mm[:, None],
        rate=units.rate[at], density=units.density[at], settling=units.settling[at], laid_day=day, age=units.age[at],
    )  # fmt: skip


def _area(ground: Ground, week: int) -> float:
    return ground.areas_m2[min(week // 52, len(ground.areas_m2) - 1)]


def _top_up(
    ground: Ground, plan: "_Plan", plot: int, week: int, on: date, settled_mm: float, loose_mm: float
) -> TopUp:  # fmt: skip
    area, before = _area(ground, week), plan.area
    full = plan.full_mm / (1 - ground.settling)
    # Ground that has come in since the last time has nothing on it yet.
    new = max(0.0, area - before)
    volume = (before * loose_mm + new * max(full, loose_mm)) / 1000
    plan.area = area
    return TopUp(
        plot=plot, on=on, settled_mm=settled_mm, loose_mm=loose_mm, volume_m3=volume,
        quarter=plan.count % QUARTERS if plan.quarters else None,
    )  # fmt: skip


class _Plan:
    """When a rule lays next, and how much; `count` is how often it has."""

    digs = False
    quarters = False

    def __init__(self, ground: Ground, future: Future, at: int) -> None:
        self.area = ground.areas_m2[0]
        self.held = future.held_mm[at]
        self.count = -1
        self.full_mm = 0.0

    def next(self, cursor: int) -> int | None:
        """Return the first week from `cursor` on at which something is to be laid."""
        raise NotImplementedError

    def amount(self, week: int, per_mm: Array) -> float:
        """Return the settled depth to lay then; `per_mm` is what each mm of it leaves in the weeks after."""
        raise NotImplementedError

    def _up_to(self, to_mm: float, week: int) -> float:
        return max(LEAST_LAYER_MM, to_mm - float(self.held[week]))


class _HoldPlan(_Plan):
    """Lays at the beginning of a window what would not last until the next one, and within it what falls short."""

    def __init__(self, ground: Ground, future: Future, at: int, rule: Hold, opens: NDArray[np.bool_]) -> None:
        super().__init__(ground, future, at)
        self.rule, self.full_mm = rule, rule.to_mm
        self.open, self.until = _windows(opens.tobytes())

    def next(self, cursor: int) -> int | None:
        lasts = np.where(self.until >= 0, self.held[self.until], np.inf)
        low = (lasts < self.rule.least_mm) | (self.held[self.open] < self.rule.least_mm)
        due = self.open[low & (self.open >= cursor)]
        return int(due[0]) if due.size else None

    def amount(self, week: int, per_mm: Array) -> float:
        self.count += 1
        until = int(self.until[np.searchsorted(self.open, week)])
        lasting = 0.0
        if until > week and per_mm[until] > 1e-6:
            lasting = (self.rule.least_mm - float(self.held[until])) / float(per_mm[until])
        return min(MOST_LAYER_MM, max(self._up_to(self.rule.to_mm, week), lasting))


@lru_cache(maxsize=64)
def _windows(opens: bytes) -> tuple[Days, Days]:
    """Return the open weeks, and until when a layer of each must last; -1 where that is not asked.

    A layer of a window's first week lasts until the next window; one of a later week until the week after.
    """
    open_weeks = np.flatnonzero(np.frombuffer(opens, dtype=bool))
    last = len(opens) - 1
    starts = open_weeks[np.diff(open_weeks, prepend=-2) > 1]
    until = np.minimum(open_weeks + 1, last)
    begins = np.isin(open_weeks, starts)
    until[begins] = np.append(starts[1:], last)[: begins.sum()]
    until[~begins & ~np.isin(open_weeks + 1, open_weeks)] = -1
    return open_weeks, until


class _DatedPlan(_Plan):
    """A rule with weeks known beforehand."""

    def __init__(
        self, ground: Ground, future: Future, at: int, weeks: Sequence[int], layer_mm: float | None, to_mm: float | None
    ) -> None:
        super().__init__(ground, future, at)
        self.weeks = np.array(sorted(set(weeks)), dtype=int)
        self.layer_mm, self.to_mm = layer_mm, to_mm
        self.full_mm = to_mm or layer_mm or 0.0

    def next(self, cursor: int) -> int | None:
        due = self.weeks[self.weeks >= cursor]
        return int(due[0]) if due.size else None

    def amount(self, week: int, per_mm: Array) -> float:
        self.count += 1
        if self.to_mm is not None:
            return self._up_to(self.to_mm, week)
        return self.layer_mm or 0.0


class _HarvestPlan(_DatedPlan):
    digs = True


class _QuarterPlan(_DatedPlan):
    quarters = True

    def amount(self, week: int, per_mm: Array) -> float:
        return super().amount(week, per_mm) / QUARTERS


def _first_weeks(dates: Sequence[date], months: Sequence[int]) -> list[int]:
    """Return the first week of each of these months, every year."""
    return [
        week
        for week, one in enumerate(dates)
        if one.month in months and (week == 0 or dates[week - 1].month != one.month) and (week > 0 or one.day <= 7)
    ]


def _plan(ground: Ground, future: Future, at: int, dates: Sequence[date], opens: NDArray[np.bool_]) -> _Plan:
    rule = ground.rule
    kind, weeks, layer_mm, to_mm = _DatedPlan, list[int](), None, None
    match rule:
        case Hold():
            return _HoldPlan(ground, future, at, rule, opens)
        case Thin():
            weeks, layer_mm = _first_weeks(dates, rule.months), rule.layer_mm
        case Every():
            weeks, to_mm = _first_weeks(dates, [rule.month])[:: rule.years], rule.to_mm
        case Harvest():
            kind, weeks, to_mm = _HarvestPlan, _first_weeks(dates, [rule.month])[:: rule.years], rule.to_mm
        case Quarter():
            kind, weeks, layer_mm = _QuarterPlan, _first_weeks(dates, [rule.month]), rule.layer_mm
        case Rounds():
            apart = [round(n * rule.months_apart * WEEKS_A_YEAR / 12) for n in range(rule.rounds)]
            moved = [_next_open(week, opens) for week in apart if week < opens.size]
            weeks, to_mm = [one for one in moved if one is not None], rule.to_mm
        case Once():
            pass
    return kind(ground, future, at, weeks, layer_mm, to_mm)


def _next_open(week: int, opens: NDArray[np.bool_]) -> int | None:
    later = np.flatnonzero(opens[week:])
    return int(later[0]) + week if later.size else None
