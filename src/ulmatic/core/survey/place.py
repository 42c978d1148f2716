"""Where something lies on the plan."""

import math

from pydantic import ConfigDict, Field

from ulmatic.core.units import Coordinate
from ulmatic.core.value import Value


class Place(Value):
    """The middle of something in metres east and north, turned counter-clockwise in degrees."""

    model_config = ConfigDict(extra="forbid")
    x_m: Coordinate = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    y_m: Coordinate = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    turn_deg: float = Field(default=0.0, ge=-360, le=360, allow_inf_nan=False)

    def put(self, point: tuple[float, float]) -> tuple[float, float]:
        """Return where a point, in metres about the middle, lies on the plan.

        Returns
        -------
        (float, float)
            Metres.
        """
        turn, (x, y) = math.radians(self.turn_deg), point
        return (
            self.x_m + x * math.cos(turn) - y * math.sin(turn),
            self.y_m + x * math.sin(turn) + y * math.cos(turn),
        )
