"""What the log says besides rates: load sizes by supplier, settling, and how fast people work.

Each is a normal mean with a known spread: prior and readings are weighed by their certainty, in closed form.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from ulmatic.core.decay import NORMAL_90, SETTLING_DAYS, weighing
from ulmatic.core.decay.learning import RatePosterior
from ulmatic.core.figures import Figure, Mark, Parameter, Source, Unit
from ulmatic.core.log import DepthFound, HoursWorked, Laid, LedgerEntry
from ulmatic.core.planning.haul import hours_per_m3
from ulmatic.core.planning.ledgers import PlotLedgers
from ulmatic.core.schedule import TRODDEN, settling_for
from ulmatic.core.site.assumed import LearnedFigure
from ulmatic.core.site.ground_plan import GroundPlan
from ulmatic.core.site.site import Site
from ulmatic.core.stock import LoadSize
from ulmatic.core.supply.suppliers import Arborist, Supplier, Utility
from ulmatic.core.work import JOB_SPREAD, PACE_SPREAD, Fleet

SOON_DAYS = (SETTLING_DAYS.value, 120)
"""A reading so many days after a laying tells how far it has settled: settled by then, and hardly decayed."""
MOST_SETTLING = 0.6


@dataclass(frozen=True)
class Normal:
    """Mean and standard deviation."""

    mean: float
    spread: float


def weighed(prior: Normal, readings: Sequence[Normal]) -> Normal:
    """Return the posterior of a mean: normal prior, normal readings of known spread, closed form.

    Parameters
    ----------
    prior : Normal
    readings : sequence of Normal

    Returns
    -------
    Normal
    """
    precision = 1 / prior.spread**2 + sum(1 / reading.spread**2 for reading in readings)
    total = prior.mean / prior.spread**2 + sum(reading.mean / reading.spread**2 for reading in readings)
    return Normal(total / precision, 1 / math.sqrt(precision))


def _figure(
    name: str, unit: Unit, prior: Normal, readings: Sequence[Normal], posterior: Normal, text: str, *, log: bool = False
) -> Figure:
    def figure_of(normal: Normal, called: str, source: str) -> Figure:
        low, value, high = (normal.mean + edge * NORMAL_90 * normal.spread for edge in (-1, 0, 1))
        if log:
            low, value, high = math.exp(low), math.exp(value), math.exp(high)
        return Figure(
            name=called, value=value, unit=unit, low=low, high=high, source=Source(mark=Mark.COMPUTED, text=source)
        )

    data = weighed(Normal(readings[0].mean, readings[0].spread), readings[1:])
    before = figure_of(prior, "Prior", "As shipped, or as entered.")
    evidence = figure_of(data, "Readings alone", "What was logged says by itself.")
    weight, note = (posterior.spread / prior.spread) ** 2, f"{len(readings)} used."
    working = weighing(before, evidence, weight, note, powers=log)
    return figure_of(posterior, name, text).model_copy(update={"working": working})


def load_figures(site: Site, day: date) -> dict[UUID, LearnedFigure]:
    """Return the usual load of each supplier whose loads were measured until a day.

    Parameters
    ----------
    site : Site
    day : date

    Returns
    -------
    dict of supplier id to LearnedFigure
    """
    figures = ((supplier.id, _load_figure(site, day, supplier)) for supplier in site.suppliers)
    return {key: figure for key, figure in figures if figure is not None}


def _load_figure(site: Site, day: date, supplier: Supplier) -> LearnedFigure | None:
    source = supplier.source
    if not isinstance(source, Arborist | Utility):
        return None
    volumes = [
        delivery.volume_m3
        for delivery in site.deliveries
        if delivery.supplier_id == supplier.id
        and delivery.state == "received"
        and delivery.volume_m3
        and delivery.received_on is not None
        and delivery.received_on <= day
    ]
    size = source.size()
    spread = load_spread(size)
    if not volumes or spread <= 0:
        return None
    # The usual load of a supplier may be off by as much as one load is from the next.
    prior, readings = Normal(size.mean_m3, spread), [Normal(volume, spread) for volume in volumes]
    figure = _figure(
        f"Usual load of {supplier.name}",
        "m3",
        prior,
        readings,
        weighed(prior, readings),
        "Mean of its loads: what was entered, and the loads that were measured.",
    )
    return LearnedFigure(what="load", name=supplier.name, figure=figure, readings=len(volumes))


def with_loads_as(figure: LearnedFigure | None, supplier: Supplier) -> Supplier:
    """Return a supplier whose loads are as large as was learned; the same one where nothing was.

    Parameters
    ----------
    figure : LearnedFigure or None
        Of its usual load.
    supplier : Supplier

    Returns
    -------
    Supplier
    """
    source = supplier.source
    if figure is None or not isinstance(source, Arborist | Utility):
        return supplier
    share = figure.figure.value / source.size().mean_m3
    scaled = {name: getattr(source, name) * share for name in ("least_m3", "likely_m3", "most_m3")}
    return supplier.model_copy(update={"source": source.model_copy(update=scaled)})


def load_spread(size: LoadSize) -> float:
    """Return the standard deviation of a load in m³: that of a triangular distribution.

    Parameters
    ----------
    size : LoadSize

    Returns
    -------
    float
        m³.
    """
    a, b, c = size.least_m3, size.likely_m3, size.most_m3
    return math.sqrt(max(0.0, a * a + b * b + c * c - a * b - a * c - b * c) / 18)


def settling_figures(
    site: Site, ledgers: PlotLedgers, rates: RatePosterior
) -> dict[str, tuple[str | None, LearnedFigure]]:
    """Return what readings soon after layings by volume say of settling.

    Parameters
    ----------
    site : Site
    ledgers : mapping of plot id to sequence of LedgerEntry
    rates : RatePosterior
        That the readings teach by themselves.

    Returns
    -------
    dict of parameter key to (material key or None, LearnedFigure)
        None stands for trodden ground, whatever the material.
    """
    checks: dict[str, tuple[str | None, Parameter, list[Normal]]] = {}
    for plot in site.plots:
        for laid, reading in _soon_read(ledgers[plot.id]):
            check = rates.checks.get(reading.id)
            material = site.materials.get(laid.material)
            if check is None or material is None or not check.used or check.expected_mm <= 0:
                continue
            shipped = settling_for(plot.plot.use, material, site.parameters)
            trodden = shipped.key == TRODDEN.key
            left = (1 - shipped.value) * check.depth_mm / check.expected_mm
            spread = left * check.error_mm / check.expected_mm
            normals = checks.setdefault(shipped.key, (None if trodden else material.key, shipped, []))[2]
            normals.append(Normal(1 - left, max(0.005, spread)))
    figures: dict[str, tuple[str | None, LearnedFigure]] = {}
    for key, (material_key, shipped, readings) in checks.items():
        figure, count = _settled(shipped, readings), len(readings)
        name = "Trodden ground" if material_key is None else site.materials[material_key].name
        figures[key] = (material_key, LearnedFigure(what="settling", name=name, figure=figure, readings=count))
    return figures


def _settled(shipped: Parameter, readings: Sequence[Normal]) -> Figure:
    low, high = (shipped.value if end is None else end for end in (shipped.low, shipped.high))
    prior = Normal(shipped.value, max(0.01, (high - low) / (2 * NORMAL_90)))
    posterior = weighed(prior, readings)
    settling = Normal(min(MOST_SETTLING, max(0.0, posterior.mean)), posterior.spread)
    return _figure(
        shipped.name,
        "1",
        prior,
        readings,
        settling,
        "Settled depth against the loose volume that was laid, three weeks to four months before.",
    )


def _soon_read(entries: Sequence[LedgerEntry]) -> Iterator[tuple[Laid, LedgerEntry]]:
    """Return layings by volume on bare ground, each with the one reading that tells how it has settled.

    Yields
    ------
    (Laid, LedgerEntry)
    """
    for index, entry in enumerate(entries):
        laid = entry.entry
        if not isinstance(laid, Laid) or laid.volume_m3 is None or laid.quarter is not None:
            continue
        before = [other for other in entries[:index] if isinstance(other.entry, DepthFound | Laid)]
        bare = not before or (isinstance(before[-1].entry, DepthFound) and before[-1].entry.read_mm <= 0)
        after = next((other for other in entries[index + 1 :] if isinstance(other.entry, DepthFound | Laid)), None)
        if not bare or after is None or not isinstance(after.entry, DepthFound) or after.trees is not None:
            continue
        if SOON_DAYS[0] <= (after.on - entry.on).days <= SOON_DAYS[1]:
            yield laid, after


def pace_figure(site: Site, ground: GroundPlan, day: date) -> LearnedFigure | None:
    """Return how many times the usual hours the site's people take; None where no job until a day tells.

    Parameters
    ----------
    site : Site
    ground : GroundPlan
    day : date

    Returns
    -------
    LearnedFigure or None
    """
    fleet = Fleet(kinds=site.buying.carriers, barrow_m3=site.barrow_m3, parameters=site.parameters)
    plots = {plot.id: plot for plot in site.plots}
    jobs: list[Normal] = []
    for entry in site.ledger:
        job = entry.entry
        if (
            isinstance(job, HoursWorked)
            and job.task in ("laying", "moving")
            and job.volume_m3 is not None
            and entry.plot_id in plots
            and entry.on <= day
        ):
            usual = hours_per_m3(ground, fleet, plots[entry.plot_id]) * job.volume_m3
            jobs.append(Normal(math.log(job.hours / usual), JOB_SPREAD.value))
    if not jobs:
        return None
    prior = Normal(0.0, PACE_SPREAD.value)
    figure = _figure(
        "Hours against the usual ones",
        "factor",
        prior,
        jobs,
        weighed(prior, jobs),
        "Person-hours that were logged with a volume, against those that walk, carrier and rates give.",
        log=True,
    )
    return LearnedFigure(what="pace", name="Moving and laying", figure=figure, readings=len(jobs))
