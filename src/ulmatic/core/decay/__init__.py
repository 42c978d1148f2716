"""What becomes of it: the decay model, decay time by climate and weather, layers through time, and stages by age."""

from ulmatic.core.decay.asked import learned_from
from ulmatic.core.decay.decay_clock import (
    IRRIGATION,
    MONTH_DAYS,
    YEAR_DAYS,
    DecayClock,
    day_number,
    decay_clock,
    extrapolated,
)
from ulmatic.core.decay.layer_table import End, LayerTable, arrays, no_depths
from ulmatic.core.decay.layers import (
    LAID_CV,
    MOULD_DENSITY,
    NORMAL_90,
    SETTLING_DAYS,
    Depths,
    LaidLayer,
    Layers,
    forecast,
    layers_of,
    loose_for_1_mm,
    plots_through_time,
    settled_share_of_reading,
    spread,
    through_time,
)
from ulmatic.core.decay.learned_figures import rate_figure, weighing
from ulmatic.core.decay.learning import (
    PLOT_SPREAD,
    SITE_SPREAD,
    LogRate,
    RatePosterior,
    ReadingCheck,
    learn,
    prior_of,
)
from ulmatic.core.decay.pile_decay import PILE_FASTER, pile_left, pile_stage, pile_time, reaches, yearly_pace
from ulmatic.core.decay.readings import READING_ERROR, Reading
from ulmatic.core.decay.stack import BARE_MM, BENEATH, Stack, StackGround, StackLayer, fold
from ulmatic.core.decay.stage import stage_at
from ulmatic.core.decay.yasso import climate_factor, decayed, pools

PARAMETERS = (MOULD_DENSITY, SETTLING_DAYS, LAID_CV, PILE_FASTER, READING_ERROR, PLOT_SPREAD, SITE_SPREAD)
"""Of the model."""
