"""What is laid, from the soil up."""

from ulmatic.core.work.task_kinds.task_record import TaskRecord, working_rate

SHEET = working_rate("sheet", "Laying cardboard, overlapped and wetted", "min_m2", (1.0, 0.6, 2.0))
TRUNK_GUARD = working_rate("guard", "Putting a guard round a trunk", "min_tree", (2.0, 1.0, 4.0))

SHEET_LAID = TaskRecord(
    "sheet",
    80,
    "Lay cardboard",
    "cardboard laid",
    ("cardboard", "watering can"),
    "preparing",
    SHEET,
    lays=True,
)
COMPOST = TaskRecord(
    "compost",
    90,
    "Lay compost",
    "compost laid",
    ("barrow", "shovel", "rake"),
    "laying",
    lays=True,
)
BIOCHAR = TaskRecord(
    "biochar",
    100,
    "Lay biochar",
    "biochar laid",
    ("mask", "rake"),
    "laying",
    cautions=("char_dust",),
    lays=True,
)
CHIPS = TaskRecord(
    "chips",
    110,
    "Lay chips and rake level",
    "chips laid and raked level",
    ("stiff rake",),
    "laying",
    lays=True,
)
GUARD = TaskRecord(
    "guard",
    130,
    "Put guards round trunks",
    "guards put round trunks",
    ("guards",),
    "laying",
    tree_rate=TRUNK_GUARD,
)
