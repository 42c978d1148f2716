"""The stage of a material by its age."""

from functools import lru_cache

from ulmatic.core.decay.yasso import decayed
from ulmatic.core.materials import Material, Stage

FRESH_DAYS = 30
AGEING_BELOW, AGED_BELOW = 0.35, 0.65
"""Bounds of q between stages: common practice, no source."""


def stage_at(material: Material, age_days: float, decay_time: float) -> Stage:
    """Return the stage of `material` after `age_days`, in which `decay_time` of ξ-years has passed.

    Fresh under a month; then by what is gone of its soluble pools.

    Parameters
    ----------
    material : Material
    age_days : float
    decay_time : float
        ξ-years.

    Returns
    -------
    Stage

    Examples
    --------
    >>> from ulmatic.core.materials import CATALOGUE
    >>> stage_at(CATALOGUE["arborist_leafy"], 30, 0.1).value
    'ageing'
    >>> stage_at(CATALOGUE["arborist_leafy"], 900, 2.5).value
    'aged'
    """
    return _stage(material, age_days < FRESH_DAYS, round(decay_time, 6))


@lru_cache(maxsize=16384)
def _stage(material: Material, fresh: bool, decay_time: float) -> Stage:
    if fresh:
        return Stage.FRESH
    lost_share = float(decayed(material.fractions(), material.rate.value * decay_time))
    return Stage.AGEING if lost_share < AGEING_BELOW else Stage.AGED if lost_share < AGED_BELOW else Stage.DECOMPOSED
