"""The kinds of tasks, a record each, in the order that saves redoing.

What is laid goes from the soil up; what prepares goes before it, what finishes after. To add a kind is to add its
record here.
"""

from dataclasses import dataclass
from enum import StrEnum

from ulmatic.core.figures import Mark, Parameter, Unit, parameter
from ulmatic.core.log.observations import LoggedAs

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


@dataclass(frozen=True)
class TaskRecord:
    """A kind of task.

    Attributes
    ----------
    words : str
        What is done.
    tools : tuple of str
    logged_as : str
        What its hours count as in the log.
    rate, tree_rate : Parameter or None
        Minutes for a metre or square metre of ground, and for a tree.
    cautions : tuple of str
        Keys of those that it raises whatever the conditions.
    lays : bool
        Whether something is laid: it waits for its delivery.
    """

    words: str
    tools: tuple[str, ...]
    logged_as: LoggedAs
    rate: Parameter | None = None
    tree_rate: Parameter | None = None
    cautions: tuple[str, ...] = ()
    lays: bool = False


TASKS: dict[TaskKind, TaskRecord] = {
    TaskKind.PRUNE: TaskRecord("Prune what hangs over the ground", ("shears", "saw"), "preparing", PRUNE, PRUNE_TREE),
    TaskKind.CLEAR: TaskRecord("Clear sticks and debris", ("rake", "barrow"), "preparing", CLEAR),
    TaskKind.WEED: TaskRecord("Cut or pull weeds", ("hoe", "fork"), "weeding", WEED),
    TaskKind.STRIM: TaskRecord(
        "Strim or mow short", ("strimmer or mower",), "strimming", STRIM, STRIM_TREE, cautions=("machine",)
    ),
    TaskKind.FABRIC: TaskRecord("Take off the old fabric", ("knife", "gloves"), "preparing", FABRIC),
    TaskKind.EDGE: TaskRecord("Cut the edge", ("half-moon edger",), "preparing", EDGE, cautions=("services",)),
    TaskKind.SOAK: TaskRecord("Soak the dry ground", ("hose",), "watering", SOAK),
    TaskKind.SHEET: TaskRecord("Lay cardboard", ("cardboard", "watering can"), "preparing", SHEET, lays=True),
    TaskKind.COMPOST: TaskRecord("Lay compost", ("barrow", "shovel", "rake"), "laying", lays=True),
    TaskKind.BIOCHAR: TaskRecord("Lay biochar", ("mask", "rake"), "laying", cautions=("char_dust",), lays=True),
    TaskKind.CHIPS: TaskRecord("Lay chips and rake level", ("stiff rake",), "laying", lays=True),
    TaskKind.PULL_BACK: TaskRecord("Pull back from trunks and flares", ("hand rake",), "laying", tree_rate=PULL_BACK),
    TaskKind.GUARD: TaskRecord("Put guards round trunks", ("guards",), "laying", tree_rate=TRUNK_GUARD),
    TaskKind.CRISP: TaskRecord("Crisp the edge", ("edger",), "preparing", CRISP),
    TaskKind.WATER_IN: TaskRecord("Rinse foliage and water in", ("hose",), "watering", WATER_IN),
    TaskKind.OWN: TaskRecord("Own task", (), "other"),
}
PARAMETERS = (
    *(rate for record in TASKS.values() for rate in (record.rate, record.tree_rate) if rate is not None),
    WORKDAY,
)
