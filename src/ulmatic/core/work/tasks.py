"""The work on a plot, task by task, in the order that saves redoing: with amounts, hours, tools and cautions."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date
from uuid import UUID

from ulmatic.core.figures import Figure, Mark, Parameter, Source, Term, Working, entered, formula
from ulmatic.core.parameters import Parameters
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.work.legs import Leg, Moving, PersonHours, TimedWork, ends
from ulmatic.core.work.task_kinds import TASKS, AmountUnit

_SUM = Source(mark=Mark.COMPUTED, text="The sum of tasks of this kind, by one person.")


def key_of(plot_id: UUID, kind: str, own_id: UUID | None) -> str:
    """Return by what a task is known, however the plan changes.

    Parameters
    ----------
    plot_id : UUID
    kind : str
    own_id : UUID or None
        Of one that was added by hand.

    Returns
    -------
    str
    """
    return f"{plot_id} {own_id or kind}"


_BY_RATE, _BY_LEGS = formula("n * r / 60"), formula("h * V / L")
_NAME = "Hours by one person"


@dataclass(frozen=True, slots=True)
class Task(TimedWork):
    """A task on a plot, with what is left of it.

    Attributes
    ----------
    amount : float
        In `unit`: metres of edge, square metres, loose m³, trees, or hours.
    rate : Parameter or None
        Minutes for each unit, where hours follow from metres, square metres or trees.
    legs : tuple of Leg
        That bring what is laid, and all else that is laid on the plot; hours are its share of theirs.
    said_h : float or None
        Person-hours as they were said by hand.
    tools : tuple of str
    cautions : tuple of str
        Keys of the cautions that it raises.
    material : str
        What is laid, where something is.
    not_before : date or None
        The day on which what it needs is expected.
    own : UUID or None
        Of a task that was added by hand; its words are `own_words`.
    on : date or None
        The day on which it was put by hand.
    crew : str
        Who does it, where that was said.
    """

    plot_id: UUID
    kind: str
    amount: float
    unit: AmountUnit
    rate: Parameter | None = None
    legs: tuple[Leg[UUID], ...] = ()
    said_h: float | None = None
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    material: str = ""
    material_key: str = ""
    not_before: date | None = None
    own: UUID | None = None
    own_words: str = ""
    on: date | None = None
    crew: str = ""

    @property
    def words(self) -> str:
        """What is done."""
        return self.own_words if self.own is not None else TASKS[self.kind].words

    @property
    def key(self) -> str:
        """The same for the same task of a plot, however the plan changes."""
        return key_of(self.plot_id, self.kind, self.own)

    @property
    def changed(self) -> bool:
        """Whether hours were said by hand instead of those that follow."""
        return self.said_h is not None and self.own is None

    def hours_at(self, end: int) -> float:
        """Return the person-hours as they were said, or of its rate or legs; see `TimedWork`.

        Returns
        -------
        float
        """
        if self.said_h is not None:
            return self.said_h
        if self.rate is not None:
            return _BY_RATE(n=self.amount, r=ends(self.rate)[end])
        carried_m3 = self._carried_m3
        return _BY_LEGS(h=Moving(self.legs).hours_at(end), V=self.amount, L=carried_m3) if carried_m3 > 0 else 0.0

    @property
    def _carried_m3(self) -> float:
        """What its legs bring in all, loose."""
        return sum(leg.volume_m3 for leg in self.legs)

    def figure(self) -> Figure:
        """Return its hours with their working.

        Returns
        -------
        Figure
            Person-hours.
        """
        if self.said_h is not None:
            return entered("Hours, as said", self.said_h, "h")
        if self.rate is not None:
            return _BY_RATE.work(_NAME, "h", {"n": entered("Amount", self.amount, self.unit), "r": self.rate})
        moving = self.legs[0].figure() if len(self.legs) == 1 else Moving(self.legs).figure()
        if abs(self._carried_m3 - self.amount) <= SPECK_M3:
            return moving
        terms = {
            "h": moving,
            "V": entered("Of this material", self.amount, "m3"),
            "L": entered("Carried to the plot in all", self._carried_m3, "m3"),
        }
        return _BY_LEGS.work(_NAME, "h", terms)

    def scaled(self, share: float) -> "Task":
        """Return a share of it.

        Parameters
        ----------
        share : float
            0 to 1.

        Returns
        -------
        Task
        """
        said_h = None if self.said_h is None else self.said_h * share
        return replace(self, amount=self.amount * share, said_h=said_h)


def by_ground(
    plot_id: UUID, kind: str, amount: float, unit: AmountUnit, parameters: Parameters, *cautions: str
) -> Task:
    """Return a task whose hours follow from metres, square metres or trees.

    Parameters
    ----------
    plot_id : UUID
    kind : str
    amount : float
    unit : {"m", "m2", "trees"}
    parameters : Parameters
    cautions : str
        Keys of cautions, beside those of its kind.

    Returns
    -------
    Task
    """
    record = TASKS[kind]
    rate = (record.tree_rate if unit == "trees" else None) or record.rate
    rate_here = None if rate is None else parameters.of(rate)
    return Task(plot_id, kind, amount, unit, rate_here, tools=record.tools, cautions=(*record.cautions, *cautions))


def in_order(tasks: Iterable[Task]) -> list[Task]:
    """Return the tasks of a plot in the order in which they are done.

    Parameters
    ----------
    tasks : iterable of Task

    Returns
    -------
    list of Task
    """
    return sorted(tasks, key=lambda task: TASKS[task.kind].place)


def hours_of_all(tasks: Iterable[Task]) -> Figure:
    """Return the person-hours of tasks with their range, worked out kind by kind.

    Parameters
    ----------
    tasks : iterable of Task

    Returns
    -------
    Figure
    """
    kinds: dict[str, list[PersonHours]] = {}
    for task in in_order(tasks):
        kinds.setdefault("Other work" if task.own is not None else task.words, []).append(task.hours)
    terms = tuple(
        Term(
            symbol=f"h{index}",
            figure=Figure(
                name=words,
                value=sum(hours.value for hours in each),
                low=sum(hours.low for hours in each),
                high=sum(hours.high for hours in each),
                unit="h",
                source=_SUM,
            ),
        )
        for index, (words, each) in enumerate(kinds.items(), 1)
    )
    pieces = tuple(piece for term in terms for piece in (" + ", term.symbol))[1:] or ("0",)
    every = [hours for each in kinds.values() for hours in each]
    return Figure(
        name="Hours of all tasks",
        value=sum(hours.value for hours in every),
        low=sum(hours.low for hours in every),
        high=sum(hours.high for hours in every),
        unit="h",
        working=Working(formula=pieces, terms=terms),
        source=Source(mark=Mark.COMPUTED, text="The sum of the hours of all tasks."),
    )
