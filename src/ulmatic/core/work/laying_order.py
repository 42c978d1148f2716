"""The order in which plots are laid: farthest first, and nobody walks over finished ground."""

from collections.abc import Hashable, Sequence
from typing import Generic, TypeVar

from pydantic import BaseModel, ConfigDict
from shapely import LineString, Polygon, unary_union
from shapely.geometry.base import BaseGeometry

from ulmatic.core.survey.shapes.base import XY

Key = TypeVar("Key", bound=Hashable)
EDGE_M = 0.1
STEPS_OVER_M = 0.3
"""A walk along the edge, or over less than this of a plot, does no harm."""


class Job(BaseModel, Generic[Key]):
    """One plot to be laid: how far it is, the walk to it, and its outline on the plan; empty where not known."""

    model_config = ConfigDict(frozen=True)
    plot: Key
    walk_m: float
    walk: tuple[XY, ...] = ()
    outline: tuple[tuple[XY, ...], ...] = ()


class Turn(BaseModel, Generic[Key]):
    """A plot in the order of laying.

    Attributes
    ----------
    before : tuple of key
        Plots that the walk to it crosses, and that therefore wait.
    over : tuple of key
        Finished plots that the walk cannot but cross: boards are laid there.
    """

    model_config = ConfigDict(frozen=True)
    plot: Key
    before: tuple[Key, ...]
    over: tuple[Key, ...]


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
    grounds = {job.plot: _ground(job) for job in jobs}
    walks = {job.plot: LineString(job.walk) for job in jobs if len(job.walk) >= 2}
    crosses: dict[Key, set[Key]] = {job.plot: set() for job in jobs}
    for plot, walk in walks.items():
        for other, ground in grounds.items():
            if other != plot and not ground.is_empty and walk.intersection(ground).length > STEPS_OVER_M:
                crosses[plot].add(other)
    waiting = {job.plot: job for job in jobs}
    done: list[Turn[Key]] = []
    while waiting:
        held = {other for plot in waiting for other in crosses[plot] if other in waiting}
        free = [job for plot, job in waiting.items() if plot not in held] or list(waiting.values())
        job = max(free, key=lambda one: one.walk_m)
        del waiting[job.plot]
        finished = {turn.plot for turn in done}
        done.append(
            Turn[Key](
                plot=job.plot,
                before=tuple(one for one in crosses[job.plot] if one in waiting),
                over=tuple(one for one in crosses[job.plot] if one in finished),
            )
        )
    return done
