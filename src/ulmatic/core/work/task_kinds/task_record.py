"""What every kind of task says of itself, and the register of the kinds."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator
from pydantic_core import PydanticCustomError

from ulmatic.core.figures import Mark, Parameter, Unit, make_parameter
from ulmatic.core.log import LogEntry, LoggedAs, TaskDone, TaskKey
from ulmatic.core.survey import ExistingCover, Use
from ulmatic.core.survey.shapes.base import wrong

JUDGED = "A judgement, no published source: by hand, one person."
PRACTICE = "Common practice, no published source: "
_NO_SUCH_TASK = "There is no such kind of task."
AmountUnit = Literal["m", "m2", "m3", "trees", "h"]


@dataclass(frozen=True)
class TaskGround:
    """What a plot is like when its work in a season is planned.

    Attributes
    ----------
    use : Use
    cover : ExistingCover or None
        What covers the ground.
    trees : int
    area_m2, edge_m : float
    first : bool
        Whether it is covered for the first time in this season, and so prepared from the ground up.
    weeds : bool
        Whether weeds were seen coming through.
    dry : bool
        Whether the ground is dry.
    """

    use: Use
    cover: ExistingCover | None
    trees: int
    area_m2: float
    edge_m: float
    first: bool
    weeds: bool
    dry: bool

    @property
    def in_grass(self) -> bool:
        """Whether it is of young trees that stand in grass."""
        return self.use is Use.YOUNG_TREE and self.cover in (None, ExistingCover.LAWN, ExistingCover.RUNNING_GRASS)


@dataclass(frozen=True)
class TaskAmount:
    """How much of a task a plot needs, with keys of cautions beside those of its kind."""

    amount: float
    unit: AmountUnit
    cautions: tuple[str, ...] = ()


TaskNeed = Callable[[TaskGround], TaskAmount | None]
"""How much of a task a plot needs; None where none."""
TASKS: dict[str, "TaskRecord"] = {}
"""The kinds of tasks by their keys, in the order that saves redoing. A kind is one record in this folder."""


@dataclass(frozen=True)
class TaskRecord:
    """A kind of task; it enters itself in the register.

    Attributes
    ----------
    key : str
    place : int
        In the order that saves redoing: what is laid goes from the soil up, what prepares goes before it, what
        finishes after.
    words, done : str
        What is done, and what it is called once it was.
    tools : tuple of str
    logged_as : str
        What its hours count as in the log.
    rate, tree_rate : Parameter or None
        Minutes for a metre or square metre of ground, and for a tree.
    cautions : tuple of str
        Keys of those that it raises whatever the conditions.
    lays : bool
        Whether something is laid: it waits for its delivery.
    prepares, finishes : callable or None
        Of a plot, how much of it is done before something is laid there, or after; None where none is.
    """

    key: str
    place: int
    words: str
    done: str
    tools: tuple[str, ...]
    logged_as: LoggedAs
    rate: Parameter | None = None
    tree_rate: Parameter | None = None
    cautions: tuple[str, ...] = ()
    lays: bool = False
    prepares: TaskNeed | None = None
    finishes: TaskNeed | None = None

    def __post_init__(self) -> None:
        TASKS[self.key] = self


def working_rate(
    key: str, name: str, unit: Unit, numbers: tuple[float, float, float], source: str = JUDGED
) -> Parameter:
    """Return a rate of work.

    Parameters
    ----------
    key, name : str
    unit : str
    numbers : tuple of float
        Usual, least and most minutes for a unit.
    source : str

    Returns
    -------
    Parameter
    """
    return make_parameter(f"work.{key}", name, numbers[0], unit, numbers[1], numbers[2], Mark.COMMON_PRACTICE, source)


def _check_task(key: str) -> str:
    if key not in TASKS:
        raise PydanticCustomError("measure", "{sentence}", {"sentence": _NO_SUCH_TASK})
    return key


def _check_entry(entry: LogEntry) -> LogEntry:
    if isinstance(entry, TaskDone) and entry.task not in TASKS:
        raise wrong(_NO_SUCH_TASK, "task")
    return entry


TaskKind = Annotated[TaskKey, AfterValidator(_check_task)]
"""Key of a kind of task that there is."""
KnownEntry = Annotated[LogEntry, AfterValidator(_check_entry)]
"""An entry of the log; one of a task names a kind that there is. The log itself knows no kinds of tasks."""
