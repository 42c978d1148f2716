"""The work on a plot, task by task, in the order that saves redoing: with amounts, hours, tools and cautions."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum
from typing import Literal
from uuid import UUID

from ulmatic.core.figures import Figure, Mark, Parameter, Source, Term, Unit, Working, entered, formula, parameter
from ulmatic.core.parameters import Parameters
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.work.moving import Hours, Leg, Moving, ends

_JUDGED = "A judgement, no published source: by hand, one person."
_PRACTICE = "Common practice, no published source: "


class TaskKind(StrEnum):
    """Tasks in the order in which they are done."""

    PRUNE = "prune"
    CLEAR = "clear"
    WEED = "weed"
    STRIM = "strim"
    FABRIC = "fabric"
    EDGE = "edge"
    SOAK = "soak"
    SHEET = "sheet"
    COMPOST = "compost"
    BIOCHAR = "biochar"
    CHIPS = "chips"
    PULL_BACK = "pull_back"
    GUARD = "guard"
    CRISP = "crisp"
    WATER_IN = "water_in"
    OWN = "own"


ORDER = {kind: number for number, kind in enumerate(TaskKind)}
"""What is laid goes from the soil up; what prepares goes before it, what finishes after."""
LAYING = (TaskKind.SHEET, TaskKind.COMPOST, TaskKind.BIOCHAR, TaskKind.CHIPS)


def _rate(key: str, name: str, unit: Unit, numbers: tuple[float, float, float], source: str = _JUDGED) -> Parameter:
    return parameter(f"work.{key}", name, numbers[0], unit, numbers[1], numbers[2], Mark.COMMON_PRACTICE, source)


PRUNE = _rate("prune", "Pruning what hangs over the ground", "min_m2", (0.5, 0.2, 1.5))
PRUNE_TREE = _rate("prune_tree", "Taking off low branches of a tree", "min_tree", (6.0, 2.0, 15.0))
SOAK = _rate("soak", "Soaking dry ground", "min_m2", (0.3, 0.1, 0.6))
CLEAR = _rate("clear", "Clearing sticks and debris", "min_m2", (0.3, 0.15, 0.6))
WEED = _rate("weed", "Cutting or pulling weeds", "min_m2", (2.0, 1.0, 4.0))
STRIM = _rate("strim", "Strimming or mowing short", "min_m2", (0.4, 0.2, 0.8))
STRIM_TREE = _rate(
    "strim_tree",
    "Strimming round a young tree",
    "min_tree",
    (0.375, 0.25, 0.6),
    f"{_PRACTICE}round 80 trees in half an hour.",
)
FABRIC = _rate("fabric", "Taking off old fabric", "min_m2", (3.0, 1.5, 6.0))
EDGE = _rate("edge", "Cutting an edge", "min_m", (1.0, 0.5, 2.0))
SHEET = _rate("sheet", "Laying cardboard, overlapped and wetted", "min_m2", (1.0, 0.6, 2.0))
PULL_BACK = _rate(
    "pull_back",
    "Raking round a tree and pulling back from its trunk",
    "min_tree",
    (0.5, 0.3, 1.0),
    f"{_PRACTICE}about 45 young trees ringed in an hour by hand, hauling included.",
)
TRUNK_GUARD = _rate("guard", "Putting a guard round a trunk", "min_tree", (2.0, 1.0, 4.0))
CRISP = _rate("crisp", "Crisping the edge", "min_m", (0.2, 0.1, 0.4))
WATER_IN = _rate("water_in", "Rinsing foliage and watering in", "min_m2", (0.2, 0.1, 0.5))
WORKDAY = parameter(
    "work.day",
    "Hours of hand work in a day",
    6.0,
    "h",
    4.0,
    8.0,
    Mark.COMMON_PRACTICE,
    f"{_PRACTICE}a day of shovelling and raking with breaks and the way there.",
)
PARAMETERS = (
    PRUNE,
    PRUNE_TREE,
    SOAK,
    CLEAR,
    WEED,
    STRIM,
    STRIM_TREE,
    FABRIC,
    EDGE,
    SHEET,
    PULL_BACK,
    TRUNK_GUARD,
    CRISP,
    WATER_IN,
    WORKDAY,
)

BY_GROUND = {
    TaskKind.PRUNE: PRUNE,
    TaskKind.SOAK: SOAK,
    TaskKind.CLEAR: CLEAR,
    TaskKind.WEED: WEED,
    TaskKind.STRIM: STRIM,
    TaskKind.FABRIC: FABRIC,
    TaskKind.EDGE: EDGE,
    TaskKind.SHEET: SHEET,
    TaskKind.PULL_BACK: PULL_BACK,
    TaskKind.GUARD: TRUNK_GUARD,
    TaskKind.CRISP: CRISP,
    TaskKind.WATER_IN: WATER_IN,
}
BY_TREE = {TaskKind.STRIM: STRIM_TREE, TaskKind.PRUNE: PRUNE_TREE}
WORDS = {
    TaskKind.PRUNE: "Prune what hangs over the ground",
    TaskKind.SOAK: "Soak the dry ground",
    TaskKind.CLEAR: "Clear sticks and debris",
    TaskKind.WEED: "Cut or pull weeds",
    TaskKind.STRIM: "Strim or mow short",
    TaskKind.FABRIC: "Take off the old fabric",
    TaskKind.EDGE: "Cut the edge",
    TaskKind.SHEET: "Lay cardboard",
    TaskKind.COMPOST: "Lay compost",
    TaskKind.BIOCHAR: "Lay biochar",
    TaskKind.CHIPS: "Lay chips and rake level",
    TaskKind.PULL_BACK: "Pull back from trunks and flares",
    TaskKind.GUARD: "Put guards round trunks",
    TaskKind.CRISP: "Crisp the edge",
    TaskKind.WATER_IN: "Rinse foliage and water in",
}
TOOLS: dict[TaskKind, tuple[str, ...]] = {
    TaskKind.PRUNE: ("shears", "saw"),
    TaskKind.SOAK: ("hose",),
    TaskKind.CLEAR: ("rake", "barrow"),
    TaskKind.WEED: ("hoe", "fork"),
    TaskKind.STRIM: ("strimmer or mower",),
    TaskKind.FABRIC: ("knife", "gloves"),
    TaskKind.EDGE: ("half-moon edger",),
    TaskKind.SHEET: ("cardboard", "watering can"),
    TaskKind.COMPOST: ("barrow", "shovel", "rake"),
    TaskKind.BIOCHAR: ("mask", "rake"),
    TaskKind.CHIPS: ("stiff rake",),
    TaskKind.PULL_BACK: ("hand rake",),
    TaskKind.GUARD: ("guards",),
    TaskKind.CRISP: ("edger",),
    TaskKind.WATER_IN: ("hose",),
}

CAUTIONED: dict[TaskKind, tuple[str, ...]] = {
    TaskKind.STRIM: ("machine",),
    TaskKind.EDGE: ("services",),
    TaskKind.BIOCHAR: ("char_dust",),
}
"""Cautions that a task raises whatever the conditions, by their keys."""
_SUM = Source(mark=Mark.COMPUTED, text="The sum of tasks of this kind, by one person.")


def key_of(plot_id: UUID, kind: str, own: UUID | None) -> str:
    """Return by what a task is known, however the plan changes.

    Parameters
    ----------
    plot_id : UUID
    kind : str
    own : UUID or None
        Of one that was added by hand.
    """
    return f"{plot_id} {own or kind}"


Measured = Literal["m", "m2", "m3", "trees", "h"]
_BY_RATE, _BY_LEGS = formula("n * r / 60"), formula("h * V / L")
_NAME = "Hours by one person"


@dataclass(frozen=True, slots=True)
class Task:
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
    kind: TaskKind
    amount: float
    unit: Measured
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
        return self.own_words if self.own is not None else WORDS[self.kind]

    @property
    def key(self) -> str:
        """The same for the same task of a plot, however the plan changes."""
        return key_of(self.plot_id, self.kind, self.own)

    @property
    def changed(self) -> bool:
        """Whether hours were said by hand instead of those that follow."""
        return self.said_h is not None and self.own is None

    def _hours_at(self, end: int) -> float:
        """Return the person-hours at the low ends of rates, their values, or the high ends: 0, 1, 2."""
        if self.said_h is not None:
            return self.said_h
        if self.rate is not None:
            return _BY_RATE(n=self.amount, r=ends(self.rate)[end])
        carried_m3 = self._carried_m3
        return _BY_LEGS(h=Moving(self.legs).hours_at(end), V=self.amount, L=carried_m3) if carried_m3 > 0 else 0.0

    @property
    def usual_h(self) -> float:
        """Person-hours at usual rates."""
        return self._hours_at(1)

    @property
    def hours(self) -> Hours:
        """Person-hours; slow and fast rates at their ends."""
        return Hours(*map(self._hours_at, range(3)))

    @property
    def _carried_m3(self) -> float:
        """What its legs bring in all, loose."""
        return sum(leg.volume_m3 for leg in self.legs)

    def figure(self) -> Figure:
        """Return its hours with their working."""
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
        """
        said_h = None if self.said_h is None else self.said_h * share
        return replace(self, amount=self.amount * share, said_h=said_h)


def by_ground(
    plot_id: UUID, kind: TaskKind, amount: float, unit: Measured, parameters: Parameters, *cautions: str
) -> Task:
    """Return a task whose hours follow from metres, square metres or trees.

    Parameters
    ----------
    plot_id : UUID
    kind : TaskKind
    amount : float
    unit : {"m", "m2", "trees"}
    parameters : Parameters
    cautions : str
        Keys of cautions, beside those of its kind.
    """
    rate = parameters.of(BY_TREE[kind] if unit == "trees" and kind in BY_TREE else BY_GROUND[kind])
    raised = (*CAUTIONED.get(kind, ()), *cautions)
    return Task(plot_id, kind, amount, unit, rate, tools=TOOLS[kind], cautions=raised)


def in_order(tasks: Iterable[Task]) -> list[Task]:
    """Return the tasks of a plot in the order in which they are done.

    Parameters
    ----------
    tasks : iterable of Task
    """
    return sorted(tasks, key=lambda task: ORDER[task.kind])


def hours_of_all(tasks: Iterable[Task]) -> Figure:
    """Return the person-hours of tasks with their range, worked out kind by kind.

    Parameters
    ----------
    tasks : iterable of Task
    """
    kinds: dict[str, list[Hours]] = {}
    for task in in_order(tasks):
        kinds.setdefault("Other work" if task.own is not None else task.words, []).append(task.hours)
    terms = tuple(
        Term(
            symbol=f"h{at}",
            figure=Figure(
                name=words,
                value=sum(hours.value for hours in each),
                low=sum(hours.low for hours in each),
                high=sum(hours.high for hours in each),
                unit="h",
                source=_SUM,
            ),
        )
        for at, (words, each) in enumerate(kinds.items(), 1)
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
