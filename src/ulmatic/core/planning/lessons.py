"""What a site's log teaches: rates with prior and posterior, unlikely readings, forecasts against readings, upkeep."""

from collections.abc import Iterable, Iterator
from datetime import date, timedelta
from uuid import UUID

from ulmatic.core.decay import MONTH_DAYS, SETTLING_DAYS, RatePosterior, prior_of, rate_figure
from ulmatic.core.figures import Figure
from ulmatic.core.log import UPKEEP, DepthFound, HoursWorked, Laid, LedgerEntry, Planted, TreeMeasured, Worms
from ulmatic.core.planning.assumption import assume_each
from ulmatic.core.planning.inventory import depth_ranges, state_of
from ulmatic.core.schedule import settling_on
from ulmatic.core.site import LearnedFigure, SiteState
from ulmatic.core.value import Value

MOST_DAYS = 60
"""So many of the latest days with readings are looked back at."""
LEAST_MONTHS = 1.0


class LearnedMaterial(Value):
    """The rate of a material on the site, against the shipped one."""

    material: str
    name: str
    factor: Figure
    readings: int


class LearnedPlot(Value):
    """The rate of a plot's mulch, against the shipped one."""

    plot_id: UUID
    name: str
    material: str
    factor: Figure
    readings: int


class ReadingQuestion(Value):
    """A reading that is unlikely: it teaches nothing until somebody says what happened."""

    plot_id: UUID
    entry_id: UUID
    on: date
    depth_mm: float
    expected_mm: float
    error_mm: float


class Compared(Value):
    """A reading beside the forecast that held on the day before it: median and 80 % range."""

    plot_id: UUID
    entry_id: UUID
    on: date
    depth_mm: float
    low_mm: float
    middle_mm: float
    high_mm: float
    inside: bool


class Upkeep(Value):
    """Person-hours of a task in a month, before the site's first laying and since; None where nothing is logged."""

    task: str
    before_h: float | None
    since_h: float | None


class PlotYear(Value):
    """A year of a plot: what was laid and last read, mm settled; worms in a hole, girth, plants lost, hours, water."""

    plot_id: UUID
    year: int
    laid_mm: float
    read_mm: float | None
    worms: float | None
    girth_m: float | None
    lost: int
    hours: float
    water_m3: float


class LearningSheet(Value):
    """All of it. `inside` of `compared` readings lay in the 80 % range of their forecast."""

    materials: tuple[LearnedMaterial, ...]
    plots: tuple[LearnedPlot, ...]
    questions: tuple[ReadingQuestion, ...]
    compared: tuple[Compared, ...]
    inside: int
    upkeep: tuple[Upkeep, ...]
    taught: tuple[LearnedFigure, ...]
    years: tuple[PlotYear, ...]


def learning_sheet(state: SiteState) -> LearningSheet:
    """Return what a site's log teaches and shows.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    LearningSheet
    """
    posterior = state.assumed.rates
    compared = tuple(compare(state))
    return LearningSheet(
        materials=tuple(_materials(state, posterior)),
        plots=tuple(_plots(state, posterior)),
        questions=tuple(_questions(state, posterior)),
        compared=compared,
        inside=sum(reading.inside for reading in compared),
        upkeep=tuple(upkeep(state)),
        taught=state.assumed.figures,
        years=tuple(plot_years(state)),
    )


def _materials(state: SiteState, posterior: RatePosterior) -> Iterator[LearnedMaterial]:
    for key, known in posterior.pooled.items():
        material = state.assumed.materials.get(key)
        readings = posterior.readings.get(key, 0)
        if material is not None and readings:
            yield LearnedMaterial(
                material=key,
                name=material.name,
                readings=readings,
                factor=rate_figure(material, posterior.prior[key], known, readings),
            )


def _plots(state: SiteState, posterior: RatePosterior) -> Iterator[LearnedPlot]:
    for plot in state.site.plots:
        if plot.id not in posterior.by_plot:
            continue
        lying = state.stacks[plot.id].lying
        key = lying[-1].layer.material.key if lying else ""
        material = state.assumed.materials.get(key) or state.recipe(plot).material
        known = posterior.of(plot.id, material)
        if known is not None:
            prior = prior_of(material, state.site.elsewhere).on_a_plot()
            readings = posterior.plot_readings[plot.id]
            yield LearnedPlot(
                plot_id=plot.id,
                name=plot.plot.name,
                material=material.name,
                readings=readings,
                factor=rate_figure(material, prior, known, readings),
            )


def _questions(state: SiteState, posterior: RatePosterior) -> Iterator[ReadingQuestion]:
    days = {entry.id: entry.on for entries in state.ledger.values() for entry in entries}
    for misfit in posterior.misfits:
        yield ReadingQuestion(
            plot_id=misfit.plot_id,
            entry_id=misfit.entry_id,
            on=days[misfit.entry_id],
            depth_mm=misfit.depth_mm,
            expected_mm=misfit.expected_mm,
            error_mm=misfit.error_mm,
        )


def compare(state: SiteState) -> list[Compared]:
    """Return depth readings beside what was forecast for their day on the day before, the earliest first.

    Readings taken within three weeks of a laying, of some trees alone, or with a cause besides decay are left out, and
    those with which a plot's log begins.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    list of Compared
    """
    by_day: dict[date, list[tuple[UUID, LedgerEntry, DepthFound]]] = {}
    for plot_id, entries in state.ledger.items():
        laid_on: date | None = None
        for index, entry in enumerate(entries):
            if isinstance(entry.entry, Laid):
                laid_on = entry.on
            if not isinstance(entry.entry, DepthFound) or index == 0:
                continue
            fresh = laid_on is not None and (entry.on - laid_on).days < SETTLING_DAYS.value
            if not fresh and entry.trees is None and entry.entry.cause is None:
                by_day.setdefault(entry.on, []).append((plot_id, entry, entry.entry))
    compared: list[Compared] = []
    days = sorted(by_day)[-MOST_DAYS:]
    for on, assumed in zip(days, assume_each(state.site, [day - timedelta(days=1) for day in days]), strict=True):
        before = state_of(state.site, assumed)
        low, middle, high = depth_ranges(before.layers, on)
        for plot_id, entry, measured in by_day[on]:
            index, depth = before.numbers[plot_id], measured.read_mm
            if middle[index] > 0:
                compared.append(
                    Compared(
                        plot_id=plot_id,
                        entry_id=entry.id,
                        on=on,
                        depth_mm=depth,
                        low_mm=float(low[index]),
                        middle_mm=float(middle[index]),
                        high_mm=float(high[index]),
                        inside=bool(low[index] <= depth <= high[index]),
                    )
                )
    return compared


def upkeep(state: SiteState) -> list[Upkeep]:
    """Return the hours of upkeep in a month, before the first laying and since it, by task.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    list of Upkeep
    """
    entries = [entry for entry in state.site.ledger if entry.on <= state.day]
    layings = [entry.on for entry in (*entries, *state.site.book_layings) if isinstance(entry.entry, Laid)]
    hours = [(entry.on, entry.entry) for entry in entries if isinstance(entry.entry, HoursWorked)]
    if not hours:
        return []
    first, began = min(layings, default=state.day), min(on for on, _ in hours)
    before_months = (first - began).days / MONTH_DAYS
    since_months = (state.day - max(first, began)).days / MONTH_DAYS
    rows = []
    for task in UPKEEP:
        before = sum(entry.hours for on, entry in hours if entry.task == task and on < first)
        since = sum(entry.hours for on, entry in hours if entry.task == task and on >= first)
        if before or since:
            rows.append(
                Upkeep(
                    task=task,
                    before_h=before / before_months if before_months >= LEAST_MONTHS else None,
                    since_h=since / since_months if since_months >= LEAST_MONTHS else None,
                )
            )
    return rows


def plot_years(state: SiteState) -> Iterator[PlotYear]:
    """Return what was logged on each plot, year by year, the earliest first.

    Parameters
    ----------
    state : SiteState

    Yields
    ------
    PlotYear
    """
    for plot in state.site.plots:
        by_year: dict[int, list[LedgerEntry]] = {}
        for entry in state.ledger[plot.id]:
            by_year.setdefault(entry.on.year, []).append(entry)
        settling = settling_on(plot.plot.use, state.parameters)
        for year, entries in sorted(by_year.items()):
            whats = [entry.entry for entry in entries]
            laid = [
                what.settled_mm(state.laid_m2(plot, entry.on), settling(state.material(what.material))) or 0.0
                for entry, what in zip(entries, whats, strict=True)
                if isinstance(what, Laid)
            ]
            yield PlotYear(
                plot_id=plot.id,
                year=year,
                laid_mm=sum(laid),
                read_mm=_last(what.read_mm for what in whats if isinstance(what, DepthFound)),
                worms=_last(what.per_hole for what in whats if isinstance(what, Worms)),
                girth_m=_last(what.girth_m for what in whats if isinstance(what, TreeMeasured) and what.girth_m),
                lost=sum(what.count for what in whats if isinstance(what, Planted) and what.action == "lost"),
                hours=sum(what.hours for what in whats if isinstance(what, HoursWorked)),
                water_m3=sum(what.water_m3 or 0.0 for what in whats if isinstance(what, Planted)),
            )


def _last(values: Iterable[float]) -> float | None:
    return next(reversed(list(values)), None)
