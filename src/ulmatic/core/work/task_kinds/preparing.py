"""What prepares ground before something is laid."""

from ulmatic.core.survey import ExistingCover, Use
from ulmatic.core.work.task_kinds.task_record import PRACTICE, TaskAmount, TaskGround, TaskRecord, working_rate

PRUNE = working_rate("prune", "Pruning what hangs over the ground", "min_m2", (0.5, 0.2, 1.5))
PRUNE_TREE = working_rate("prune_tree", "Taking off low branches of a tree", "min_tree", (6.0, 2.0, 15.0))
CLEAR = working_rate("clear", "Clearing sticks and debris", "min_m2", (0.3, 0.15, 0.6))
WEED = working_rate("weed", "Cutting or pulling weeds", "min_m2", (2.0, 1.0, 4.0))
STRIM = working_rate("strim", "Strimming or mowing short", "min_m2", (0.4, 0.2, 0.8))
STRIM_TREE = working_rate(
    "strim_tree",
    "Strimming round a young tree",
    "min_tree",
    (0.375, 0.25, 0.6),
    f"{PRACTICE}round 80 trees in half an hour.",
)
FABRIC = working_rate("fabric", "Taking off old fabric", "min_m2", (3.0, 1.5, 6.0))
EDGE = working_rate("edge", "Cutting an edge", "min_m", (1.0, 0.5, 2.0))
SOAK = working_rate("soak", "Soaking dry ground", "min_m2", (0.3, 0.1, 0.6))


def _pruned(plot: TaskGround) -> TaskAmount | None:
    if plot.first and plot.use is Use.ESTABLISHED_TREE and plot.trees:
        return TaskAmount(plot.trees, "trees", ("machine",))
    return TaskAmount(plot.area_m2, "m2") if plot.first and plot.use is Use.PERENNIALS else None


def _cleared(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.area_m2, "m2") if plot.first and not plot.in_grass else None


def _weeded(plot: TaskGround) -> TaskAmount | None:
    weedy = (plot.first and plot.cover is ExistingCover.ANNUAL_WEEDS) or plot.weeds
    return TaskAmount(plot.area_m2, "m2") if weedy else None


def _strimmed(plot: TaskGround) -> TaskAmount | None:
    if plot.in_grass and plot.trees:
        return TaskAmount(plot.trees, "trees")
    grass = plot.cover in (ExistingCover.LAWN, ExistingCover.RUNNING_GRASS)
    return TaskAmount(plot.area_m2, "m2") if plot.first and grass else None


def _freed(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.area_m2, "m2") if plot.first and plot.cover is ExistingCover.OLD_FABRIC else None


def _edged(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.edge_m, "m") if plot.first and plot.use.record.edged else None


def _soaked(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.area_m2, "m2") if plot.dry else None


TaskRecord(
    "prune",
    10,
    "Prune what hangs over the ground",
    "pruned",
    ("shears", "saw"),
    "preparing",
    PRUNE,
    PRUNE_TREE,
    prepares=_pruned,
)
TaskRecord(
    "clear",
    20,
    "Clear sticks and debris",
    "sticks and debris cleared",
    ("rake", "barrow"),
    "preparing",
    CLEAR,
    prepares=_cleared,
)
TaskRecord("weed", 30, "Cut or pull weeds", "weeds cut or pulled", ("hoe", "fork"), "weeding", WEED, prepares=_weeded)
TaskRecord(
    "strim",
    40,
    "Strim or mow short",
    "strimmed or mown short",
    ("strimmer or mower",),
    "strimming",
    STRIM,
    STRIM_TREE,
    cautions=("machine",),
    prepares=_strimmed,
)
TaskRecord(
    "fabric",
    50,
    "Take off the old fabric",
    "old fabric taken off",
    ("knife", "gloves"),
    "preparing",
    FABRIC,
    prepares=_freed,
)
TaskRecord(
    "edge",
    60,
    "Cut the edge",
    "edge cut",
    ("half-moon edger",),
    "preparing",
    EDGE,
    cautions=("services",),
    prepares=_edged,
)
TaskRecord("soak", 70, "Soak the dry ground", "dry ground soaked", ("hose",), "watering", SOAK, prepares=_soaked)
