"""Rates of moving by hand: filling, walking, climbing, spreading."""

from ulmatic.core.tables import read_parameter

BARROW = read_parameter("work.barrow")
SCOOP = read_parameter("work.scoop")
FORK = read_parameter("work.fork")
PACE = read_parameter("work.pace")
UPHILL = read_parameter("work.uphill")
SPREAD = read_parameter("work.spread")
PACE_SPREAD = read_parameter("work.pace_spread")
JOB_SPREAD = read_parameter("work.job_spread")
UNKNOWN_WALK_M = 25.0
"""Taken where a plot's walk is not known."""
TEACHING = (PACE_SPREAD, JOB_SPREAD)
PARAMETERS = (BARROW, SCOOP, FORK, PACE, UPHILL, SPREAD, *TEACHING)
