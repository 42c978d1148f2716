"""What falls on a day at a site: coming, or past."""

from collections.abc import Iterator
from datetime import date
from typing import Literal
from uuid import UUID

from ulmatic.core.log import LedgerEntry, TaskDone
from ulmatic.core.site import SiteState
from ulmatic.core.value import Value
from ulmatic.core.work import TASKS

Kind = Literal[
    "season",
    "order",
    "delivery",
    "work",
    "reading",
    "dressing",
    "rows",
    "water",
    "pile",
    "closure",
    "done",
    "logged",
]


class Occasion(Value):
    """Something that falls on a day, or from a day until another, both included.

    Attributes
    ----------
    key : str
        The same whenever it is told.
    tasks : tuple of str
        Keys of the tasks that are done, where it is work; `season` is their season's.
    breaks : tuple of str
        What it breaks, in words.
    fixed : bool
        Whether it was put on this day by hand.
    crews : tuple of str
        Who does it, where that was said.
    """

    key: str
    kind: Kind
    on: date
    until: date
    words: str
    details: tuple[str, ...] = ()
    plot_ids: tuple[UUID, ...] = ()
    hours: float | None = None
    tasks: tuple[str, ...] = ()
    season: str | None = None
    breaks: tuple[str, ...] = ()
    fixed: bool = False
    crews: tuple[str, ...] = ()


def past_occasions(state: SiteState, first: date, last: date) -> Iterator[Occasion]:
    """Return what was received, done and logged on past days.

    Parameters
    ----------
    state : SiteState
    first, last : date
        Both included.

    Yields
    ------
    Occasion
    """
    for delivery in state.site.deliveries:
        on = delivery.received_on
        if on is not None and first <= on <= last:
            words = f"Delivery received: {delivery.name}"
            yield Occasion(key=f"received {delivery.id}", kind="delivery", on=on, until=on, words=words)
    names = {plot.id: plot.plot.name for plot in state.site.plots}
    by_day: dict[date, list[LedgerEntry]] = {}
    for entry in state.site.ledger:
        if first <= entry.on <= last:
            by_day.setdefault(entry.on, []).append(entry)
    for on, entries in by_day.items():
        tasks: dict[UUID, list[str]] = {}
        plots: dict[UUID, None] = {}
        others = 0
        for entry in entries:
            if isinstance(entry.entry, TaskDone) and entry.plot_id in names:
                tasks.setdefault(entry.plot_id, []).append(_words(state, entry.entry))
            else:
                others += 1
                plots |= {entry.plot_id: None} if entry.plot_id in names else {}
        for plot_id, done_tasks in tasks.items():
            yield Occasion(
                key=f"done {on} {plot_id}",
                kind="done",
                on=on,
                until=on,
                words=names[plot_id],
                details=tuple(dict.fromkeys(done_tasks)),
                plot_ids=(plot_id,),
            )
        if others:
            yield Occasion(
                key=f"logged {on}",
                kind="logged",
                on=on,
                until=on,
                plot_ids=tuple(plots),
                words="1 log entry" if others == 1 else f"{others} log entries",
                details=tuple(names[plot_id] for plot_id in plots),
            )


def _words(state: SiteState, entry: TaskDone) -> str:
    """Return what was done, and how much of it where not all.

    Returns
    -------
    str
    """
    added = {change.own: change.words for change in state.site.task_changes if change.own is not None}
    words = TASKS[entry.task].words if entry.own is None else added.get(entry.own, "Own task")
    return words if entry.share >= 1 else f"{words}, {entry.share:.0%}".replace("%", " %")
