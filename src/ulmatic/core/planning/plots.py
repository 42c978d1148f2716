"""What the plan says of one plot."""

from datetime import date
from uuid import UUID

from pydantic import ConfigDict, Field

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.recipe import USUAL_DEPTH
from ulmatic.core.schedule import LayerAmount, Quarter, beneath, plot_ground, settling_for, to_target
from ulmatic.core.schedule.volume import LOOSE
from ulmatic.core.value import Value
from ulmatic.core.work import Moving


class PlotLaying(Value):
    """A planned laying of a plot, settled and as it is spread; `ordered_m3` with spare."""

    on: date
    season: str
    season_key: str
    settled_mm: float
    spread_mm: float
    ordered_m3: float
    reason: str
    lasts_until: date | None


class Gap(Value):
    """When even what is laid does not last, until the season that follows; what can be done about it.

    `deeper_mm` is a deeper target that the use allows, `deeper_spread_mm` the same as spread; `second_season` says
    whether the plot leaves one unused.
    """

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True)
    below_from: date = Field(alias="from")
    until: date
    deeper_mm: float | None
    deeper_spread_mm: float | None
    second_season: bool


class PlotFigures(Value):
    """A plot's ground and volumes, with their working.

    Attributes
    ----------
    to_target : Figure
        Loose m³ to the target today, with spare.
    planned : Figure
        Loose m³ planned for the season that runs, with spare.
    """

    area: Figure
    laid: Figure
    edge: Figure
    cardboard: Figure
    to_target: Figure
    planned: Figure
    season: str
    layers: tuple[LayerAmount, ...]


class PlotWork(Value):
    """What it takes to bring a plot its chips in the season that runs; `fits` is None where the way is not known."""

    trips: int
    walked_m: float
    hours: Figure
    fits: bool | None


def plot_laying(plan: SitePlan, plot_id: UUID) -> PlotLaying | None:
    """Return the next laying of a plot; None where nothing is planned in the years ahead.

    Parameters
    ----------
    plan : SitePlan
    plot_id : UUID

    Returns
    -------
    PlotLaying or None
    """
    coming = plan.next_layings.get(plan.state.numbers[plot_id])
    if coming is None:
        return None
    laying, lasts_until = coming
    season = plan.seasons[laying.season]
    settling = plan.scheduled[laying.plot].settling
    return PlotLaying(
        on=laying.on,
        season=season.name,
        season_key=season.key,
        settled_mm=laying.settled_mm,
        spread_mm=laying.settled_mm / (1 - settling),
        ordered_m3=plan.ordered_m3(laying),
        reason=laying.reason,
        lasts_until=lasts_until,
    )


def plot_gap(plan: SitePlan, plot_id: UUID) -> Gap | None:
    """Return when what is laid on a plot does not last; None where it does.

    Parameters
    ----------
    plan : SitePlan
    plot_id : UUID

    Returns
    -------
    Gap or None
    """
    number = plan.state.numbers[plot_id]
    gap = plan.by_rules.gaps.get(number)
    if gap is None:
        return None
    plot, most = plan.plots[number], USUAL_DEPTH[plan.plots[number].plot.use].most_mm
    used = plan.state.recipes[plot_id].windows
    deeper = most if most > plot.plot.wanted_mm + 1 else None
    return Gap(
        below_from=gap[0],
        until=gap[1],
        deeper_mm=deeper,
        deeper_spread_mm=None if deeper is None else deeper / (1 - plan.scheduled[number].settling),
        second_season=len(used) < len(plan.state.climate.windows)
        and not isinstance(plan.state.recipes[plot_id].rule, Quarter),
    )


def plot_figures(plan: SitePlan, plot_id: UUID) -> PlotFigures:
    """Return a plot's ground and volumes, with their working.

    Parameters
    ----------
    plan : SitePlan
    plot_id : UUID

    Returns
    -------
    PlotFigures
    """
    index, state = plan.state.numbers[plot_id], plan.state
    plot = plan.plots[index].plot
    recipe, spare, parameters = state.recipe(plan.plots[index]), state.site.spare, state.parameters
    ground = plot_ground(plot, recipe.laid_share, parameters)
    planned = [laying for laying in plan.layings(0) if laying.plot == index]
    settling = settling_for(plot.use, recipe.material, state.parameters)
    terms = {
        "A": ground.laid.certain(),
        "d": entered("To be laid, settled", sum(laying.settled_mm for laying in planned), "mm"),
        "s": settling,
        "w": spare.certain(),
    }
    note = " ".join(dict.fromkeys(laying.reason for laying in planned)) or "Nothing is due in this season."
    volume = formula("A * d / (1 - s) * (1 + w)").work("Planned for the season", "m3", terms, source=LOOSE, note=note)
    exact = plan.planned_m3(0).get(plot_id, 0.0)
    if abs(exact - volume.value) > 1e-9 * max(1.0, exact):
        note = f"{note} Growth of rings and partial layings are included."
        volume = entered("Planned for the season", exact, "m3")
    return PlotFigures(
        area=ground.ground.area,
        laid=ground.laid,
        edge=ground.ground.edge,
        cardboard=ground.ground.cardboard,
        to_target=to_target(plot, recipe, state.existing(plot_id), spare, parameters, state.opened_m2(plot_id)),
        planned=volume,
        season=plan.seasons[0].name,
        layers=beneath(plot, recipe, spare, parameters),
    )


def plot_work(plan: SitePlan, plot_id: UUID) -> PlotWork | None:
    """Return the work of a plot in the season that runs; None where nothing is laid there.

    Parameters
    ----------
    plan : SitePlan
    plot_id : UUID

    Returns
    -------
    PlotWork or None
    """
    legs = plan.haul(0).legs.get(plot_id)
    if not legs:
        return None
    moving, width = Moving(tuple(legs)), legs[0].walk.width_m
    return PlotWork(
        trips=moving.trips,
        walked_m=moving.walked_m,
        hours=legs[0].figure() if len(legs) == 1 else moving.figure(),
        fits=None if width is None else all(leg.carrier is not None for leg in legs),
    )
