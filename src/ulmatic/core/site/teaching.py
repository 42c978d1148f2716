"""What the log teaches besides rates: load sizes by supplier, settling, and how fast people work.

Each is a normal mean with a known spread: prior and readings are weighed by their certainty, in closed form.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from ulmatic.core.decay import NORMAL_90, SETTLING_DAYS, weighing
from ulmatic.core.decay.readings import depth_of
from ulmatic.core.figures import Figure, Mark, Parameter, Source, Unit
from ulmatic.core.log import DepthFound, Hours, Laid, LedgerEntry
from ulmatic.core.parameters import Parameters
from ulmatic.core.schedule import TRODDEN, settling_for
from ulmatic.core.site.haul import hours_per_m3
from ulmatic.core.site.state import SiteState
from ulmatic.core.stock import LoadSize
from ulmatic.core.supply.suppliers import Arborist, Supplier, Utility
from ulmatic.core.work import CARRIERS, FORK, JOB_SPREAD, PACE, PACE_SPREAD, SCOOP, SPREAD, Fleet

SOON_DAYS = (SETTLING_DAYS.value, 120)
"""A reading so many days after a laying tells how far it has settled: settled by then, and hardly decayed."""
MOST_SETTLING = 0.6


class TaughtFigure(BaseModel):
    """A figure that was learned: of what, from how many readings, with prior, data and posterior as its working."""

    model_config = ConfigDict(frozen=True)
    what: str
    name: str
    figure: Figure
    readings: int


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
    """
    precision = 1 / prior.spread**2 + sum(1 / reading.spread**2 for reading in readings)
    total = prior.mean / prior.spread**2 + sum(reading.mean / reading.spread**2 for reading in readings)
    return Normal(total / precision, 1 / math.sqrt(precision))


def taught(state: SiteState) -> SiteState:
    """Return a state whose suppliers, settling and pace are as its log teaches; the same one where it teaches none.

    Parameters
    ----------
    state : SiteState
    """
    loads = {supplier.id: _load(state, supplier) for supplier in state.site.suppliers}
    settling = _settling(state)
    pace = _pace(state)
    if not any(loads.values()) and not settling and pace is None:
        return state
    site = state.site
    own = dict(site.parameters.by_key)
    figures: list[TaughtFigure] = [load[1] for load in loads.values() if load is not None]
    materials = dict(site.materials)
    for key, (material_key, learned) in settling.items():
        figures.append(learned)
        if material_key is None:
            own[key] = learned.figure.value
        else:
            material = materials[material_key]
            settled = Parameter.model_validate({**dict(learned.figure), "key": material.settling.key})
            materials[material_key] = material.model_copy(update={"settling": settled})
    if pace is not None:
        figures.append(pace)
        carriers = [carrier for carrier in CARRIERS.values() if carrier.kind in site.buying.carriers]
        for rate in (SCOOP, FORK, SPREAD, *(carrier.own_fill for carrier in carriers if carrier.own_fill)):
            own[rate.key] = site.parameters.of(rate).value * pace.figure.value
        for walk in (PACE, *(carrier.pace for carrier in carriers)):
            own[walk.key] = site.parameters.of(walk).value / pace.figure.value
    suppliers = tuple(supplier if (load := loads[supplier.id]) is None else load[0] for supplier in site.suppliers)
    learned_site = replace(
        site,
        suppliers=suppliers,
        materials=materials if settling else site.materials,
        parameters=replace(
            Parameters.of_mapping(own),
            learned=frozenset(key for key, value in own.items() if site.parameters.by_key.get(key) != value),
        ),
    )
    return SiteState(learned_site, state.day, tuple(figures))


def _figure(
    name: str, unit: Unit, prior: Normal, readings: Sequence[Normal], posterior: Normal, text: str, *, log: bool = False
) -> Figure:
    def shown(normal: Normal, called: str, source: str) -> Figure:
        low, value, high = (normal.mean + edge * NORMAL_90 * normal.spread for edge in (-1, 0, 1))
        if log:
            low, value, high = math.exp(low), math.exp(value), math.exp(high)
        return Figure(
            name=called, value=value, unit=unit, low=low, high=high, source=Source(mark=Mark.COMPUTED, text=source)
        )

    data = weighed(Normal(readings[0].mean, readings[0].spread), readings[1:])
    before = shown(prior, "Prior", "As shipped, or as entered.")
    told = shown(data, "Readings alone", "What was logged says by itself.")
    weight, note = (posterior.spread / prior.spread) ** 2, f"{len(readings)} used."
    working = weighing(before, told, weight, note, powers=log)
    return shown(posterior, name, text).model_copy(update={"working": working})


def _load(state: SiteState, supplier: Supplier) -> tuple[Supplier, TaughtFigure] | None:
    """Return a supplier whose loads are as large as those it brought; None where it brought none that was measured."""
    source = supplier.source
    if not isinstance(source, Arborist | Utility):
        return None
    volumes = [
        delivery.volume_m3
        for delivery in state.site.deliveries
        if delivery.supplier_id == supplier.id
        and delivery.state == "received"
        and delivery.volume_m3
        and delivery.received_on is not None
        and delivery.received_on <= state.day
    ]
    size = source.size()
    spread = load_spread(size)
    if not volumes or spread <= 0:
        return None
    # The usual load of a supplier may be off by as much as one load is from the next.
    prior, readings = Normal(size.mean_m3, spread), [Normal(volume, spread) for volume in volumes]
    posterior = weighed(prior, readings)
    share = posterior.mean / prior.mean
    scaled = {name: getattr(source, name) * share for name in ("least_m3", "likely_m3", "most_m3")}
    figure = _figure(
        f"Usual load of {supplier.name}",
        "m3",
        prior,
        readings,
        posterior,
        "Mean of its loads: what was entered, and the loads that were measured.",
    )
    learned = TaughtFigure(what="load", name=supplier.name, figure=figure, readings=len(volumes))
    return supplier.model_copy(update={"source": source.model_copy(update=scaled)}), learned


def load_spread(size: LoadSize) -> float:
    """Return the standard deviation of a load in m³: that of a triangular distribution.

    Parameters
    ----------
    size : LoadSize
    """
    a, b, c = size.least_m3, size.likely_m3, size.most_m3
    return math.sqrt(max(0.0, a * a + b * b + c * c - a * b - a * c - b * c) / 18)


def _settling(state: SiteState) -> dict[str, tuple[str | None, TaughtFigure]]:
    """Return what readings soon after layings by volume say of settling: by parameter key, with the material's."""
    lessons: dict[str, tuple[str | None, Parameter, list[Normal]]] = {}
    for plot in state.site.plots:
        for laid, reading in _soon_read(state.ledger[plot.id]):
            lesson = state.learned.lessons.get(reading.id)
            material = state.site.materials.get(laid.material)
            if lesson is None or material is None or not lesson.used or lesson.expected_mm <= 0:
                continue
            shipped = settling_for(plot.plot.use, material, state.site.parameters)
            trodden = shipped.key == TRODDEN.key
            left = (1 - shipped.value) * lesson.depth_mm / lesson.expected_mm
            spread = left * lesson.error_mm / lesson.expected_mm
            normals = lessons.setdefault(shipped.key, (None if trodden else material.key, shipped, []))[2]
            normals.append(Normal(1 - left, max(0.005, spread)))
    learned: dict[str, tuple[str | None, TaughtFigure]] = {}
    for key, (material_key, shipped, readings) in lessons.items():
        figure, count = _settled(shipped, readings), len(readings)
        name = "Trodden ground" if material_key is None else state.site.materials[material_key].name
        learned[key] = (material_key, TaughtFigure(what="settling", name=name, figure=figure, readings=count))
    return learned


def _settled(shipped: Parameter, readings: Sequence[Normal]) -> Figure:
    low, high = (shipped.value if end is None else end for end in (shipped.low, shipped.high))
    prior = Normal(shipped.value, max(0.01, (high - low) / (2 * NORMAL_90)))
    posterior = weighed(prior, readings)
    held = Normal(min(MOST_SETTLING, max(0.0, posterior.mean)), posterior.spread)
    return _figure(
        shipped.name,
        "1",
        prior,
        readings,
        held,
        "Settled depth against the loose volume that was laid, three weeks to four months before.",
    )


def _soon_read(entries: Sequence[LedgerEntry]) -> Iterable[tuple[Laid, LedgerEntry]]:
    """Return layings by volume on bare ground, each with the one reading that tells how it has settled."""
    for at, entry in enumerate(entries):
        laid = entry.entry
        if not isinstance(laid, Laid) or laid.volume_m3 is None or laid.quarter is not None:
            continue
        before = [other for other in entries[:at] if isinstance(other.entry, DepthFound | Laid)]
        bare = not before or (isinstance(before[-1].entry, DepthFound) and depth_of(before[-1].entry) <= 0)
        after = next((other for other in entries[at + 1 :] if isinstance(other.entry, DepthFound | Laid)), None)
        if not bare or after is None or not isinstance(after.entry, DepthFound) or after.trees is not None:
            continue
        if SOON_DAYS[0] <= (after.on - entry.on).days <= SOON_DAYS[1]:
            yield laid, after


def _pace(state: SiteState) -> TaughtFigure | None:
    """Return how many times the usual hours the site's people take; None where no job tells."""
    site = state.site
    fleet = Fleet(kinds=site.buying.carriers, barrow_m3=site.barrow_m3, parameters=site.parameters)
    plots: set[UUID] = {plot.id for plot in site.plots}
    jobs: list[Normal] = []
    for entry in site.ledger:
        job = entry.entry
        if (
            isinstance(job, Hours)
            and job.task in ("laying", "moving")
            and job.volume_m3 is not None
            and entry.plot_id in plots
            and entry.plot_id is not None
            and entry.on <= state.day
        ):
            usual = hours_per_m3(state, fleet, entry.plot_id) * job.volume_m3
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
    return TaughtFigure(what="pace", name="Moving and laying", figure=figure, readings=len(jobs))
