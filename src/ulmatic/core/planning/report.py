"""The plan of a site as a report: the JSON of `ulmatic plan`, and a table for a terminal."""

from datetime import date
from decimal import Decimal
from typing import Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.planning.season_figures import BesideFigures, Now, SeasonFigures

BESIDE_UNITS = {"m2": "m²", "m3": "m³", "trees": ""}


class ReportedDepth(BaseModel):
    """Settled depth on the day, mm: 10th percentile, median, 90th."""

    low: float
    middle: float
    high: float


class ReportedLaying(BaseModel):
    """A planned laying; `loose_m3` without spare, `ordered_m3` with it."""

    on: date
    season: str
    settled_mm: float
    loose_m3: float
    ordered_m3: float
    material: str
    reason: str
    lasts_until: date | None
    quarter: int | None = None


class ReportedPlot(BaseModel):
    """A plot; `below_least_from` if nothing is laid, the day itself where it is below already, null in ten years."""

    id: UUID
    name: str
    area_m2: float
    target_mm: float
    least_mm: float
    depth_mm: ReportedDepth
    below_least_from: date | None
    layings: list[ReportedLaying]


class ReportedSeason(BaseModel):
    """A season in numbers."""

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True)
    name: str
    opens: date = Field(alias="from")
    closes: date = Field(alias="until")
    needed_m3: float
    loads: int
    hours: float
    cost: Decimal | None


class ReportedClimate(BaseModel):
    """The climate that the plan rests on: months from January on, and whether it was assumed."""

    assumed: bool
    temperatures_c: tuple[float, ...]
    rain_mm: tuple[float, ...]


class PlanReport(BaseModel):
    """The plan of a site on a day. Dates are ISO, `until` included; numbers are not rounded; money is text."""

    model_config = ConfigDict(populate_by_name=True, serialize_by_alias=True, title="Ulmatic plan")
    made_by: Literal["ulmatic-plan-1"] = Field(default="ulmatic-plan-1", alias="schema")
    site: str
    on: date
    years: int
    time_zone: str
    climate: ReportedClimate
    now: Now
    plots: list[ReportedPlot]
    seasons: list[ReportedSeason]


def report(plan: SitePlan) -> PlanReport:
    """Return a plan as a report.

    Parameters
    ----------
    plan : SitePlan

    Returns
    -------
    PlanReport
    """
    state, schedule = plan.state, plan.by_rules
    layings: dict[int, list[ReportedLaying]] = {}
    for laying, until in zip(schedule.layings, schedule.lasts_until, strict=True):
        layings.setdefault(laying.plot, []).append(
            ReportedLaying(
                on=laying.on,
                season=plan.seasons[laying.season].name,
                settled_mm=laying.settled_mm,
                loose_m3=laying.loose_m3,
                ordered_m3=plan.ordered_m3(laying),
                material=plan.scheduled[laying.plot].material.name,
                reason=laying.reason,
                lasts_until=until,
                quarter=laying.quarter,
            )
        )
    return PlanReport(
        site=state.site.name,
        on=plan.day,
        years=plan.years,
        time_zone=state.site.time_zone,
        climate=ReportedClimate(
            assumed=state.climate.assumed,
            temperatures_c=state.climate.normals.temperatures_c,
            rain_mm=state.climate.normals.rain_mm,
        ),
        now=plan.now,
        plots=[
            ReportedPlot(
                id=plot.id,
                name=plot.plot.name,
                area_m2=state.laid_m2(plot, plan.day),
                target_mm=state.recipe(plot).target_mm,
                least_mm=plan.scheduled[index].least_mm,
                depth_mm=ReportedDepth(**state.depth(plot.id)._asdict()),
                below_least_from=schedule.below_least_from[index],
                layings=layings.get(index, []),
            )
            for index, plot in enumerate(plan.plots)
        ],
        seasons=[_season(season) for season in plan.all_seasons],
    )


def _season(season: SeasonFigures) -> ReportedSeason:
    return ReportedSeason(
        name=season.season,
        opens=season.opens,
        closes=season.closes,
        needed_m3=season.needed_m3,
        loads=season.loads,
        hours=season.hours,
        cost=season.cost,
    )


def table(answer: PlanReport) -> str:
    """Return a report as text for a terminal.

    Parameters
    ----------
    answer : PlanReport

    Returns
    -------
    str
    """
    running_season = answer.now
    money = "price unknown" if running_season.cost is None else f"{running_season.cost} {running_season.currency}"
    lines = [
        f"{answer.site}, {answer.on:%-d %B %Y}",
        f"{running_season.season}, {running_season.opens:%-d %B} to {running_season.closes:%-d %B %Y}"
        + (" (climate assumed)" if answer.climate.assumed else ""),
        "",
        f"  Needed    {running_season.needed_m3:8.1f} m³",
        f"  On hand   {running_season.on_hand_m3:8.1f} m³",
        f"  Coming    {running_season.coming_m3:8.1f} m³",
        f"  To order  {running_season.to_order_m3:8.1f} m³   {_counted(running_season.loads, 'load')}, "
        f"{running_season.left_over_m3:.1f} m³ left over",
    ]
    if running_season.short_m3 > 0.05:
        lines.append(f"  Short     {running_season.short_m3:8.1f} m³   {running_season.binding or ''}".rstrip())
    lines += [
        f"  Work      {running_season.hours:8.1f} h    {_counted(running_season.trips, 'trip')}",
        f"  Cost      {money}",
    ]
    lines += [
        f"    {line.source or 'Nobody named yet'}: {line.material}, {line.volume_m3:.1f} m³"
        for line in running_season.order
    ]
    lines += [_beside(also) for also in running_season.also]
    lines += ["", f"{'Plot':28} {'m²':>7} {'target':>7} {'least':>6} {'now':>5}  next laying"]
    for plot in answer.plots:
        depths = f"{plot.target_mm:7.0f} {plot.least_mm:6.0f} {plot.depth_mm.middle:5.0f}"
        row = f"{plot.name[:28]:28} {plot.area_m2:7.1f} {depths}"
        laying = plot.layings[0] if plot.layings else None
        amount = (
            f"{laying.settled_mm:.0f} mm on {laying.on} ({laying.ordered_m3:.1f} m³ to order)" if laying else "none"
        )
        lines.append(f"{row}  {amount}")
    lines += ["", f"{'Season':24} {'from':>10} {'until':>10} {'m³':>7} {'loads':>5} {'hours':>6}  cost"]
    for season in answer.seasons:
        cost = "not known" if season.cost is None else str(season.cost)
        lines.append(
            f"{season.name[:24]:24} {season.opens} {season.closes} {season.needed_m3:7.1f} {season.loads:5} "
            f"{season.hours:6.1f}  {cost}"
        )
    return "\n".join(lines)


def _beside(also: BesideFigures) -> str:
    digits = 0 if also.unit == "trees" else 1
    return f"    {also.material}: {also.amount:.{digits}f} {BESIDE_UNITS[also.unit]}".rstrip()


def _counted(count: int, noun: str) -> str:
    return f"{count} {noun}" if count == 1 else f"{count} {noun}s"
