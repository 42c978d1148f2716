"""What becomes of it: the decay model and the stage of a material by its age."""

from ulmatic.core.decay.stage import stage_after
from ulmatic.core.decay.yasso import climate_factor, decayed, pools

__all__ = ["climate_factor", "decayed", "pools", "stage_after"]
