"""The stage of a material by its age."""

from ulmatic.core.decay.yasso import decayed
from ulmatic.core.materials import Material, Stage

FRESH_DAYS = 30
AGEING_BELOW, AGED_BELOW = 0.35, 0.65
"""Bounds of q between stages: common practice, no source."""


def stage_after(material: Material, age_days: float, climate_factor: float) -> Stage:
    """Return the stage of `material` after `age_days`, in a climate of factor ξ.

    Fresh under a month; then by what is gone of its soluble pools.
    """
    if age_days < FRESH_DAYS:
        return Stage.FRESH
    time = material.rate.value * climate_factor * age_days / 365.25
    gone = float(decayed(material.fractions(), time))
    return Stage.AGEING if gone < AGEING_BELOW else Stage.AGED if gone < AGED_BELOW else Stage.DECOMPOSED
