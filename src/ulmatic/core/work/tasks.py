"""The work on a plot, task by task, in the order that saves redoing: with amounts, hours, tools and cautions."""

from collections.abc import Iterable
from datetime import date
from enum import StrEnum
from typing import Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Figure, Mark, Parameter, Unit, entered, formula, parameter
from ulmatic.core.parameters import Parameters

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
    "strim_tree", "Strimming round a young tree", "min_tree", (0.375, 0.25, 0.6),
    f"{_PRACTICE}round 80 trees in half an hour.",
)  # fmt: skip
FABRIC = _rate("fabric", "Taking off old fabric", "min_m2", (3.0, 1.5, 6.0))
EDGE = _rate("edge", "Cutting an edge", "min_m", (1.0, 0.5, 2.0))
SHEET = _rate("sheet", "Laying cardboard, overlapped and wetted", "min_m2", (1.0, 0.6, 2.0))
PULL_BACK = _rate(
    "pull_back", "Raking round a tree and pulling back from its trunk", "min_tree", (0.5, 0.3, 1.0),
    f"{_PRACTICE}about 45 young trees ringed in an hour by hand, hauling included.",
)  # fmt: skip
CRISP = _rate("crisp", "Crisping the edge", "min_m", (0.2, 0.1, 0.4))
WATER_IN = _rate("water_in", "Rinsing foliage and watering in", "min_m2", (0.2, 0.1, 0.5))
WORKDAY = parameter(
    "work.day", "Hours of hand work in a day", 6.0, "h", 4.0, 8.0, Mark.COMMON_PRACTICE,
    f"{_PRACTICE}a day of shovelling and raking with breaks and the way there.",
)  # fmt: skip
PARAMETERS = (
    PRUNE, PRUNE_TREE, SOAK, CLEAR, WEED, STRIM, STRIM_TREE, FABRIC, EDGE, SHEET, PULL_BACK, CRISP, WATER_IN, WORKDAY,
)  # fmt: skip

BY_GROUND = {
    TaskKind.PRUNE: PRUNE, TaskKind.SOAK: SOAK,
    TaskKind.CLEAR: CLEAR, TaskKind.WEED: WEED, TaskKind.STRIM: STRIM, TaskKind.FABRIC: FABRIC, TaskKind.EDGE: EDGE,
    TaskKind.SHEET: SHEET, TaskKind.PULL_BACK: PULL_BACK, TaskKind.CRISP: CRISP, TaskKind.WATER_IN: WATER_IN,
}  # fmt: skip
BY_TREE = {TaskKind.STRIM: STRIM_TREE, TaskKind.PRUNE: PRUNE_TREE}
WORDS = {
    TaskKind.PRUNE: "Prune what hangs over the ground", TaskKind.SOAK: "Soak the dry ground",
    TaskKind.CLEAR: "Clear sticks and debris", TaskKind.WEED: "Cut or pull weeds", TaskKind.STRIM: "Strim or mow short",
    TaskKind.FABRIC: "Take off the old fabric", TaskKind.EDGE: "Cut the edge", TaskKind.SHEET: "Lay cardboard",
    TaskKind.COMPOST: "Lay compost", TaskKind.BIOCHAR: "Lay biochar", TaskKind.CHIPS: "Lay chips and rake level",
    TaskKind.PULL_BACK: "Pull back from trunks and flares", TaskKind.CRISP: "Crisp the edge",
    TaskKind.WATER_IN: "Rinse foliage and water in",
}  # fmt: skip
TOOLS: dict[TaskKind, tuple[str, ...]] = {
    TaskKind.PRUNE: ("shears", "saw"), TaskKind.SOAK: ("hose",),
    TaskKind.CLEAR: ("rake", "barrow"), TaskKind.WEED: ("hoe", "fork"), TaskKind.STRIM: ("strimmer or mower",),
    TaskKind.FABRIC: ("knife", "gloves"), TaskKind.EDGE: ("half-moon edger",),
    TaskKind.SHEET: ("cardboard", "watering can"), TaskKind.COMPOST: ("barrow", "shovel", "rake"),
    TaskKind.BIOCHAR: ("mask", "rake"), TaskKind.CHIPS: ("stiff rake",), TaskKind.PULL_BACK: ("hand rake",),
    TaskKind.CRISP: ("edger",), TaskKind.WATER_IN: ("hose",),
}  # fmt: skip


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


class Task(BaseModel):
    """A task on a plot.

    Attributes
    ----------
    amount : float
        In `unit`: metres of edge, square metres, loose m³, or trees.
    hours : Figure
        Person-hours with range and working.
    tools : tuple of str
    cautions : tuple of str
        Keys of the cautions that it raises.
    material : str
        What is laid, where something is.
    not_before : str or None
        ISO day on which what it needs is expected.
    own : UUID or None
        Of a task that was added by hand.
    on : date or None
        The day on which it was put by hand.
    changed : bool
        Whether its hours were said by hand.
    """

    model_config = ConfigDict(frozen=True)
    plot_id: UUID
    kind: TaskKind
    words: str
    amount: float
    unit: Measured
    hours: Figure
    tools: tuple[str, ...]
    cautions: tuple[str, ...] = ()
    material: str = ""
    not_before: str | None = None
    own: UUID | None = None
    on: date | None = None
    changed: bool = False

    def scaled(self, share: float) -> "Task":
        """Return a share of it."""
        terms = {"h": self.hours.certain(), "p": entered("Share that is left", share, "1")}
        hours = formula("h * p").work("Hours by one person", "h", terms)
        return self.model_copy(update={"amount": self.amount * share, "hours": hours})

    @property
    def key(self) -> str:
        """The same for the same task of a plot, however the plan changes."""
        return key_of(self.plot_id, self.kind, self.own)


def by_ground(
    plot_id: UUID, kind: TaskKind, amount: float, unit: Measured, parameters: Parameters, **more: object
) -> Task:
    """Return a task whose hours follow from metres, square metres or trees.

    Parameters
    ----------
    plot_id : UUID
    kind : TaskKind
    amount : float
    unit : {"m", "m2", "trees"}
    parameters : Parameters
    more : object
        Other fields of the task.
    """
    rate = parameters.of(BY_TREE[kind] if unit == "trees" and kind in BY_TREE else BY_GROUND[kind])
    terms = {"n": entered("Amount", amount, unit), "r": rate}
    hours = formula("n * r / 60").work("Hours by one person", "h", terms)
    return Task.model_validate(
        {
            "plot_id": plot_id, "kind": kind, "words": WORDS[kind], "amount": amount, "unit": unit, "hours": hours,
            "tools": TOOLS[kind], **more,
        }
    )  # fmt: skip


def in_order(tasks: Iterable[Task]) -> list[Task]:
    """Return the tasks of a plot in the order in which they are done.

    Parameters
    ----------
    tasks : iterable of Task
    """
    return sorted(tasks, key=lambda task: ORDER[task.kind])
