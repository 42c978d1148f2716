"""How chips get from tips and piles to plots: legs, hours, the order of laying, and a second tip."""

from typing import Any
from uuid import UUID, uuid5

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import USUAL_MATERIAL
from ulmatic.core.planning.haul import SeasonHaul
from ulmatic.core.planning.machines import Machines, MachineSheet
from ulmatic.core.work import CARRIERS, CAUTIONS, CHIPS, TASKS, Task, Turn
from ulmatic.platform.problems import Problem
from ulmatic.site import book as receiving
from ulmatic.site import ledger as log
from ulmatic.site.book_schemas import NewBookLine
from ulmatic.site.ledger_schemas import LogEntries, NewLogEntry
from ulmatic.site.snapshot import snapshot_of
from ulmatic.site.summaries import season_names
from ulmatic.work.schemas import (
    LeftOut,
    LegOut,
    MovingSheet,
    PlotTasks,
    SecondTipOut,
    TaskOut,
    TaskReport,
    TaskSheet,
    TurnOut,
)


def moving_sheet(scope: Scope, site_id: UUID, season: str | None) -> MovingSheet:
    """Say how a season's chips are moved, and in which order plots are laid."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, season)
    haul, buying = plan.haul(number), snapshot.site.buying
    names = {plot.id: plot.plot.name for plot in plan.plots}
    tip = haul.second_tip()
    return MovingSheet(
        now=plan.now,
        season=plan.figures(number),
        seasons=season_names(plan),
        turns=[_turn(haul, turn, names) for turn in haul.turns()],
        hours=haul.moving.figure(),
        people=buying.people,
        each_h=haul.each_h,
        trips=haul.moving.trips,
        walked_m=haul.moving.walked_m,
        second_tip=SecondTipOut(
            at=tip[0],
            hours_now=tip[1],
            hours_then=tip[2],
            saves=(tip[1] - tip[2]) * buying.labour_per_h if buying.labour_per_h else None,
        )
        if tip
        else None,
    )


def _turn(haul: SeasonHaul, turn: Turn[UUID], names: dict[UUID, str]) -> TurnOut:
    place_names = {place.key: place.name for place in haul.places}
    legs = haul.legs[turn.plot]
    known = [leg.walk for leg in legs if leg.walk.known]
    return TurnOut(
        plot_id=turn.plot,
        plot=names[turn.plot],
        volume_m3=sum(leg.volume_m3 for leg in legs),
        walk_m=known[0].walk_m if known else None,
        before=[names[plot] for plot in turn.before],
        over=[names[plot] for plot in turn.crosses],
        legs=[
            LegOut(
                place=place_names[leg.place],
                volume_m3=leg.volume_m3,
                carrier=leg.carrier,
                trips=leg.trips,
                carrier_name=CARRIERS[leg.carrier].name if leg.carrier else "By hand",
                walked_m=leg.walked_m,
                hours=leg.figure(),
                known=leg.walk.known,
            )
            for leg in legs
        ],
    )


def task_sheet(scope: Scope, site_id: UUID, season: str | None) -> TaskSheet:
    """Return the tasks of a season by plot, and their cautions; the running one where none is asked for."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    work = plan.work(snapshot.season(plan, season))
    names = {plot.id: plot.plot.name for plot in plan.plots}
    raised = {key for tasks in work.by_plot.values() for task in tasks for key in task.cautions}
    return TaskSheet(
        seasons=season_names(plan),
        season=work.season.name,
        season_key=work.season.key,
        closes=work.season.closes,
        hours=work.figure(),
        plots=[
            PlotTasks(plot_id=plot_id, plot=names[plot_id], tasks=[_task_out(task) for task in tasks])
            for plot_id, tasks in work.by_plot.items()
        ],
        cautions=[caution for key, caution in CAUTIONS.items() if key in raised],
        people=work.crew.people,
        each_h=work.each_h,
        left_out=[
            LeftOut(
                plot_id=change.plot_id, plot=names[change.plot_id], task=change.task, words=TASKS[change.task].words
            )
            for change in work.changes.values()
            if change.left_out and change.own is None and change.plot_id in names
        ],
    )


def machine_sheet(scope: Scope, site_id: UUID, season: str | None, years: int) -> MachineSheet:
    """Set ways to move a season's chips side by side."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan(years)
    return Machines(plan, snapshot.season(plan, season)).sheet


def _task_out(task: Task) -> TaskOut:
    return TaskOut(
        key=task.key,
        kind=task.kind,
        words=task.words,
        amount=task.amount,
        unit=task.unit,
        hours=task.figure(),
        tools=list(task.tools),
        cautions=list(task.cautions),
        material=task.material,
        not_before=task.not_before,
        own=task.own,
        on=task.on,
        changed=task.changed,
        crew=task.crew,
    )


def report_task(scope: Scope, site_id: UUID, report: TaskReport) -> LogEntries:
    """Write into the log what was done of a task, its hours, and what was laid; sent again it is kept once."""
    plan = snapshot_of(scope, site_id).plan()
    number = plan.number(report.season)
    work = None if number is None else plan.work(number)
    task = None if work is None else work.task(report.plot_id, report.task, report.own)
    _check_read(task, report)
    entries: list[tuple[str, dict[str, Any]]] = []
    chips = report.task == CHIPS.key and report.volume_m3 is not None
    if chips and report.pile_id is None:
        plot_number = plan.state.numbers.get(report.plot_id)
        material = USUAL_MATERIAL if plot_number is None else plan.scheduled[plot_number].material.key
        entries.append(("laid", {"kind": "laid", "material": material, "volume_m3": report.volume_m3}))
    elif work is not None and task is not None and (beneath := work.laid_beneath(task, report.share)):
        # Until all of it lies there, the shares of the task tell.
        entries.append(("laid", {"kind": "laid", "material": beneath[0], "volume_m3": beneath[1]}))
    entries.append(
        (
            "task",
            {
                "kind": "task",
                "task": report.task,
                "season": report.season,
                "share": report.share,
                "own": report.own,
                "cautions_read": report.cautions_read,
            },
        )
    )
    if report.hours is not None:
        entries.append(
            (
                "hours",
                {
                    "kind": "hours",
                    "task": TASKS[report.task].logged_as,
                    "hours": report.hours,
                    "person": report.person,
                    "volume_m3": report.volume_m3 if chips else None,
                },
            )
        )
    if chips and report.pile_id is not None:
        line = {
            "id": uuid5(report.id, "line"),
            "units": "metric",
            "kind": "lay",
            "on": report.on,
            "plot_id": report.plot_id,
            "measured": {"kind": "stated", "volume_m3": report.volume_m3},
        }
        receiving.change_pile(scope, site_id, report.pile_id, NewBookLine.model_validate(line))
    written = [
        log.add_entry(
            scope,
            site_id,
            NewLogEntry.model_validate(
                {
                    "id": uuid5(report.id, name),
                    "plot_id": report.plot_id,
                    "on": report.on,
                    "units": "metric",
                    "entry": entry,
                    "note": report.note if name == "task" else "",
                }
            ),
        )
        for name, entry in entries
    ]
    notices = dict.fromkeys(sentence for entry in written for sentence in entry.said)
    return LogEntries(entries=written, said=tuple(notices))


def _check_read(task: Task | None, report: TaskReport) -> None:
    """Raise the 422 problem where a task raises cautions and nobody says that they were read."""
    if task is not None and task.cautions and not report.cautions_read:
        subjects = ", ".join(CAUTIONS[key].about.lower() for key in task.cautions)
        raise Problem(422, f"Read the cautions first ({subjects}), and say so.", field="cautions_read")
