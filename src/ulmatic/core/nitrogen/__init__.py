"""The nitrogen account: what chips borrow and pay back, what else goes in, and what to do."""

from ulmatic.core.nitrogen.account import (
    ACT_FROM,
    NEED,
    Advised,
    Dose,
    GrowingSeason,
    Rating,
    advised,
    dose,
    plant_need,
    rating,
    seasons,
    soil_supply,
)
from ulmatic.core.nitrogen.account import PARAMETERS as ACCOUNT
from ulmatic.core.nitrogen.draw import (
    CONTACT_MM,
    Mixed,
    brought,
    held_share,
    nitrogen_draw,
    peak,
    peak_draw,
    use_on_top,
)
from ulmatic.core.nitrogen.draw import PARAMETERS as DRAW
from ulmatic.core.nitrogen.nitrogen_credits import PARAMETERS as CREDITS
from ulmatic.core.nitrogen.nitrogen_credits import nitrogen_of, paid_in, range_of

PARAMETERS = (*DRAW, *CREDITS, *ACCOUNT)
