"""What each plot gets: usual settled depths by use."""

from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Mark, Parameter, parameter
from ulmatic.core.survey.uses import Use


class UsualDepth(BaseModel):
    """Usual settled depths for a use, in mm, with the depth proposed at first."""

    model_config = ConfigDict(frozen=True)
    least_mm: float
    proposed: Parameter
    most_mm: float


def _usual(use: Use, least: float, proposed: float, most: float, why: str) -> UsualDepth:
    return UsualDepth(
        least_mm=least,
        most_mm=most,
        proposed=parameter(
            f"recipe.depth.{use}",
            f"Settled depth, {use.label.lower()}",
            proposed,
            "mm",
            least,
            most,
            Mark.COMMON_PRACTICE,
            why,
        ),
    )


USUAL_DEPTH: dict[Use, UsualDepth] = {
    use: _usual(use, *rest)
    for use, rest in {
        Use.VEGETABLES: (
            75,
            100,
            150,
            "Common practice between crops; less lies round growing plants. No published source.",
        ),
        Use.PERENNIALS: (
            50,
            75,
            75,
            "Common practice; 75 mm is the usual landscape depth. No published source.",
        ),
        Use.YOUNG_TREE: (50, 100, 150, "Common practice: 50 mm at first, building up. No published source."),
        Use.ESTABLISHED_TREE: (150, 150, 300, "Common practice; no published source."),
        Use.FOOT_PATH: (75, 100, 150, "Common practice; no published source."),
        Use.VEHICLE_PATH: (150, 200, 300, "Common practice, coarse material; no published source."),
        Use.PLAY: (
            225,
            275,
            300,
            "What is required (9 in settled, as loose-fill surfacing is often laid: US CPSC Publication 325, from "
            "memory) and a season's loss. Depth for a fall height is set by local rules and certified material.",
        ),
        Use.BANK: (50, 75, 100, "Common practice, shredded material; no published source."),
        Use.LAWN_TO_CONVERT: (125, 150, 200, "Common practice over cardboard; no published source."),
        Use.SEEDBED: (0, 0, 0, "Common practice: bare until seedlings are up. No published source."),
        Use.BULBS: (0, 0, 0, "Common practice: kept bare, or covered once they are up. No published source."),
        Use.PILE_GROUND: (0, 0, 0, "Nothing is laid where piles stand."),
    }.items()
}
"""Usual settled depth by use, in mm."""

GROWING = parameter(
    "recipe.depth.growing",
    "Settled depth round growing vegetables",
    75,
    "mm",
    75,
    100,
    Mark.COMMON_PRACTICE,
    "Common practice; no published source.",
)
"""Vegetable beds have two depths: this one round growing plants, and the target between crops."""
