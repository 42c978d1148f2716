"""The order in which plots are laid: farthest first, and nobody walks over finished ground."""

from collections.abc import Hashable, Sequence
from heapq import heapify, heappop, heappush
from typing import Generic, TypeVar

from shapely import LineString, Polygon, STRtree, unary_union
from shapely.geometry.base import BaseGeometry

from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.value import Value

Key = TypeVar("Key", bound=Hashable)
EDGE_M = 0.1
STEPS_OVER_M = 0.3
"""A walk along the edge, or over less than this of a plot, does no harm."""


class Job(Value, Generic[Key]):
    """One plot to be laid: how far it is, the walk to it, and its outline on the plan; empty where not known."""

    plot: Key
    walk_m: float
    walk: tuple[XY, ...] = ()
    outline: tuple[tuple[XY, ...], ...] = ()


class Turn(Value, Generic[Key]):
    """A plot in the order of laying.

    Attributes
    ----------
    before : tuple of key
        Plots that the walk to it crosses, and that therefore wait.
    crosses : tuple of key
        Finished plots that the walk cannot but cross: boards are laid there.
    """

    plot: Key
    before: tuple[Key, ...]
    crosses: tuple[Key, ...]


def _ground(job: Job[Key]) -> BaseGeometry:
    return unary_union([Polygon(ring).buffer(-EDGE_M) for ring in job.outline if len(ring) >= 3])


def in_order(jobs: Sequence[Job[Key]]) -> list[Turn[Key]]:
    """Put plots in the order of laying.

    A plot that the walk to another one crosses waits for that other one. Of those that wait for nobody the farthest
    comes first. Where each waits for another, the farthest goes first all the same, over boards.

    Parameters
    ----------
    jobs : sequence of Job

    Returns
    -------
    list of Turn
    """
    grounds = [_ground(job) for job in jobs]
    tree = STRtree(grounds)
    crosses: list[list[int]] = [[] for _ in jobs]
    for index, job in enumerate(jobs):
        if len(job.walk) >= 2:
            walk = LineString(job.walk)
            neighbours = [int(other) for other in tree.query(walk, predicate="intersects") if other != index]
            crosses[index] = [other for other in neighbours if walk.intersection(grounds[other]).length > STEPS_OVER_M]
    waits_for = [0] * len(jobs)
    for others in crosses:
        for other in others:
            waits_for[other] += 1
    # The farthest first; a plot waits while a walk to another crosses it.
    free = [(-job.walk_m, index) for index, job in enumerate(jobs) if waits_for[index] == 0]
    waiting = sorted((-job.walk_m, index) for index, job in enumerate(jobs) if waits_for[index] > 0)
    heapify(free)
    turns: list[Turn[Key]] = []
    finished: set[int] = set()
    while len(turns) < len(jobs):
        if free:
            _, index = heappop(free)
        else:
            _, index = next(row for row in waiting if row[1] not in finished)
        if index in finished:
            continue
        crossed = tuple(jobs[other].plot for other in crosses[index] if other in finished)
        finished.add(index)
        before = tuple(jobs[other].plot for other in crosses[index] if other not in finished)
        turns.append(Turn[Key](plot=jobs[index].plot, before=before, crosses=crossed))
        for other in crosses[index]:
            waits_for[other] -= 1
            if waits_for[other] == 0 and other not in finished:
                heappush(free, (-jobs[other].walk_m, other))
    return turns
