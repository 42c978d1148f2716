"""Rates of moving by hand: filling, walking, climbing, spreading."""

from ulmatic.core.figures import Mark, parameter

_JUDGED = "A judgement, no published source: "
BARROW = parameter(
    "work.barrow",
    "Barrow, heaped",
    0.10,
    "m3",
    0.07,
    0.17,
    Mark.COMMON_PRACTICE,
    "Common practice, no published source: a garden barrow holds 70 to 100 L of chips heaped, a large one 170 L "
    "(6 cu ft).",
)
SCOOP = parameter(
    "work.scoop",
    "Filling, from a hard tip",
    10.0,
    "min_m3",
    7.0,
    15.0,
    Mark.COMMON_PRACTICE,
    f"{_JUDGED}scooped with a grain shovel, about a minute for a barrow of 0.1 m³.",
)
FORK = parameter(
    "work.fork",
    "Filling, from a soft tip",
    20.0,
    "min_m3",
    14.0,
    30.0,
    Mark.COMMON_PRACTICE,
    "Common practice, no published source: on grass it takes a fork, and twice as long as scooping.",
)
PACE = parameter(
    "work.pace",
    "Walking with a barrow",
    50.0,
    "m_min",
    35.0,
    60.0,
    Mark.COMMON_PRACTICE,
    f"{_JUDGED}loaded there and empty back, on the level.",
)
UPHILL = parameter(
    "work.uphill",
    "Walking metres that a metre of climb costs",
    10.0,
    "number",
    8.0,
    12.0,
    Mark.COMMON_PRACTICE,
    f"{_JUDGED}a walker’s rule, with a load.",
)
SPREAD = parameter(
    "work.spread",
    "Tipping and raking out",
    12.0,
    "min_m3",
    8.0,
    18.0,
    Mark.COMMON_PRACTICE,
    f"{_JUDGED}tipped in small piles and levelled with a rake.",
)
PACE_SPREAD = parameter(
    "work.pace_spread",
    "How much people differ in how fast they work",
    0.30,
    "1",
    0.15,
    0.50,
    Mark.COMMON_PRACTICE,
    "A judgement, no published source: standard deviation of the logarithm of the hours a m³ takes.",
)
JOB_SPREAD = parameter(
    "work.job_spread",
    "How much one job differs from the next",
    0.25,
    "1",
    0.10,
    0.40,
    Mark.COMMON_PRACTICE,
    "A judgement, no published source: standard deviation of the logarithm of the hours a m³ takes.",
)
UNKNOWN_WALK_M = 25.0
"""Taken where a plot's walk is not known."""
TEACHING = (PACE_SPREAD, JOB_SPREAD)
PARAMETERS = (BARROW, SCOOP, FORK, PACE, UPHILL, SPREAD, *TEACHING)
