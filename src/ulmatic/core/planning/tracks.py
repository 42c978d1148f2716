"""The layers of one plot through the weeks of an outlook, those that lie there and those that are planned."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import DecayClock, LaidLayer, StackLayer, day_number, layers_of, stage_at, through_time
from ulmatic.core.materials import Material, Stage
from ulmatic.core.planning.outlook import Outlook
from ulmatic.core.schedule import Laying


@dataclass(frozen=True)
class LayerTrack:
    """One layer: when it was or will be laid, its stage on the day of the plan, and its chips in mm, week by week.

    Depths are means over the plot's ground, of which a `quarter` covers a fourth; those of all layers add up to the
    plot's.
    """

    material: Material
    on: date
    planned: bool
    stage: Stage
    chips_mm: NDArray[np.float64]
    quarter: int | None


def tracks(outlook: Outlook, plot_id: UUID) -> list[LayerTrack]:
    """Return the layers of a plot, the lowest first.

    Parameters
    ----------
    outlook : Outlook
    plot_id : UUID

    Returns
    -------
    list of LayerTrack
    """
    plan, state = outlook.plan, outlook.plan.state
    index, days = state.numbers[plot_id], outlook.days
    plot, scheduled = plan.plots[index], plan.scheduled[index]
    clock = state.climate.clocks[plot.irrigated]

    lying: dict[int, LayerTrack] = {}
    for part in state.stacks[plot_id].layers:
        chips = _lying(part, clock, days)
        before = lying.get(part.origin)
        passed = (
            float(clock.time_at(day_number(plan.day)) - clock.time_at(day_number(part.layer.on)))
            + part.layer.age_decay_time
        )
        lying[part.origin] = LayerTrack(
            material=part.layer.material,
            on=part.layer.on,
            planned=False,
            quarter=part.quarter,
            chips_mm=chips if before is None else before.chips_mm + chips,
            stage=stage_at(part.layer.material, max(0, (plan.day - part.layer.on).days), max(0.0, passed)),
        )
    planned = []
    for laying in plan.by_supply.layings:
        if laying.plot != index or laying.dug_in:
            continue
        chips = _planned(outlook, laying, scheduled.material, clock)
        planned.append(
            LayerTrack(
                material=scheduled.material,
                on=laying.on,
                planned=True,
                quarter=laying.quarter,
                chips_mm=chips,
                stage=stage_at(scheduled.material, 0, 0.0),
            )
        )
    return [*lying.values(), *planned]


def shipped_depth(outlook: Outlook, plot_id: UUID) -> NDArray[np.float64] | None:
    """Return the depth of a plot in mm, week by week, as it would be forecast had its readings taught nothing.

    The layings are the same; only decay goes by the shipped rates. None where nothing was learned for the plot.

    Parameters
    ----------
    outlook : Outlook
    plot_id : UUID

    Returns
    -------
    ndarray of float or None
        One value a week.
    """
    plan, state = outlook.plan, outlook.plan.state
    index, days = state.numbers[plot_id], outlook.days
    plot, material = plan.plots[index], state.recipe(plan.plots[index]).material
    if plan.scheduled[index].material.rate.value == material.rate.value:
        return None
    clock = state.climate.clocks[plot.irrigated]
    depth = np.zeros(days.size)
    for part in state.assumed.stacks[plot_id].layers:
        depth += _lying(part, clock, days)
    for laying in plan.by_supply.layings:
        if laying.plot == index and not laying.dug_in:
            depth += _planned(outlook, laying, material, clock)
    return depth


def _chips(layer: LaidLayer, clock: DecayClock, days: NDArray[np.float64]) -> NDArray[np.float64]:
    layers = layers_of([layer])
    chips: NDArray[np.float64] = through_time(
        layers, clock.time_at(days), clock.time_at(layers.laid_day), days
    ).chips_mm[0]
    return chips


def _lying(part: StackLayer, clock: DecayClock, days: NDArray[np.float64]) -> NDArray[np.float64]:
    begins = -np.inf if part.as_laid else float(day_number(part.from_day))
    ends = np.inf if part.until is None else float(day_number(part.until))
    return np.where((days >= begins) & (days < ends), _chips(part.layer, clock, days) * part.weight, 0.0)


def _planned(outlook: Outlook, laying: Laying, material: Material, clock: DecayClock) -> NDArray[np.float64]:
    scheduled = outlook.plan.scheduled[laying.plot]
    loose_mm = laying.settled_mm / (1 - scheduled.settling)
    layer = LaidLayer(material=material, on=laying.on, settling=scheduled.settling, loose_mm=loose_mm)
    chips = _chips(layer, clock, outlook.days) / scheduled.rows
    # Today stands as it is: what is to be laid now is not yet there.
    chips[outlook.weeks.today_index] = 0.0
    return chips
