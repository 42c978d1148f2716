"""What finishes a plot once something was laid there; and tasks that people add."""

from ulmatic.core.work.task_kinds.task_record import PRACTICE, TaskAmount, TaskGround, TaskRecord, working_rate

PULL_BACK = working_rate(
    "pull_back",
    "Raking round a tree and pulling back from its trunk",
    "min_tree",
    (0.5, 0.3, 1.0),
    f"{PRACTICE}about 45 young trees ringed in an hour by hand, hauling included.",
)
CRISP = working_rate("crisp", "Tidying the edge", "min_m", (0.2, 0.1, 0.4))
WATER_IN = working_rate("water_in", "Rinsing foliage and watering in", "min_m2", (0.2, 0.1, 0.5))


def _pulled_back(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.trees, "trees") if plot.trees and plot.use.record.trees else None


def _crisped(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.edge_m, "m") if plot.use.record.edged else None


def _watered_in(plot: TaskGround) -> TaskAmount | None:
    return TaskAmount(plot.area_m2, "m2") if plot.use.record.bed else None


TaskRecord(
    "pull_back",
    120,
    "Pull back from trunks and flares",
    "pulled back from trunks and flares",
    ("hand rake",),
    "laying",
    tree_rate=PULL_BACK,
    finishes=_pulled_back,
)
TaskRecord("crisp", 140, "Tidy the edge", "edge tidied", ("edger",), "preparing", CRISP, finishes=_crisped)
TaskRecord(
    "water_in",
    150,
    "Rinse foliage and water in",
    "foliage rinsed, watered in",
    ("hose",),
    "watering",
    WATER_IN,
    finishes=_watered_in,
)
ADDED = TaskRecord("own", 160, "Own task", "own task done", (), "other")
