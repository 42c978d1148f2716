"""What becomes of it: the decay model, decay time by climate and weather, layers through time, and stages by age."""

from ulmatic.core.decay.clock import (
    IRRIGATION,
    Clock,
    clock,
    day_number,
    extrapolated,
    weekly,
)
from ulmatic.core.decay.layers import (
    PARAMETERS,
    Depths,
    LaidLayer,
    Layers,
    forecast,
    layers_of,
    loose_for,
    plots_through_time,
    spread,
    through_time,
    with_range,
)
from ulmatic.core.decay.stage import stage_after
from ulmatic.core.decay.yasso import climate_factor, decayed, pools

__all__ = [
    "IRRIGATION", "PARAMETERS", "Clock", "Depths", "LaidLayer", "Layers", "climate_factor", "clock", "day_number",
    "decayed", "extrapolated", "forecast", "layers_of", "loose_for", "plots_through_time", "pools", "spread",
    "stage_after", "through_time", "weekly", "with_range",
]  # fmt: skip
