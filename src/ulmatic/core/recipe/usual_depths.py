"""What each plot gets: usual settled depths by use."""

from ulmatic.core.figures import Mark, Parameter, make_parameter
from ulmatic.core.survey.uses import USES, Use
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value


class UsualDepth(Value):
    """Usual settled depths for a use, in mm, with the depth proposed at first."""

    least_mm: float
    proposed: Parameter
    most_mm: float


USUAL_DEPTH: dict[Use, UsualDepth] = {
    use: UsualDepth(
        least_mm=record.depths_mm[0],
        most_mm=record.depths_mm[2],
        proposed=make_parameter(
            f"recipe.depth.{use}",
            f"Settled depth, {record.label.lower()}",
            record.depths_mm[1],
            "mm",
            record.depths_mm[0],
            record.depths_mm[2],
            Mark.COMMON_PRACTICE,
            record.depths_source,
        ),
    )
    for use, record in USES.items()
}
"""Usual settled depth by use, in mm."""

GROWING = read_parameter("recipe.depth.growing")
"""Vegetable beds have two depths: this one round growing plants, and the target between crops."""
