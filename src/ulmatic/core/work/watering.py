"""Watering until what was planted has rooted: week by week, less the rain, and less what mulch saves."""

from datetime import date, timedelta
from typing import Literal

from ulmatic.core.figures import Figure, Parameter, entered, formula
from ulmatic.core.parameters import Parameters
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value
from ulmatic.core.work.growing import REFERENCE_C

TREE = read_parameter("work.water_tree")
PLANT = read_parameter("work.water_plant")
ROW = read_parameter("work.water_row")
SAVES = read_parameter("work.mulch_saves")
RAIN_COUNTS = read_parameter("work.rain_counts")
PARAMETERS = (TREE, PLANT, ROW, SAVES, RAIN_COUNTS)
ROOT_M2 = {"tree": 1.0, "plant": 0.1}
"""Ground over the roots of what is planted: a judgement, no source."""
WEEKS = {"tree": 26, "plant": 13, "row": 6}
"""Watered weekly for three to six months; rows until they have rooted: common practice, no source."""
Rooting = Literal["tree", "plant", "row"]


class Week(Value):
    """Water for a week, from its first day on, m³ with its working; rain in mm, the mean temperature in °C."""

    on: date
    rain_mm: float
    mean_c: float
    water: Figure


def water_for_week(kind: Rooting, amount: float, rain_mm: float, mean_c: float, parameters: Parameters) -> Figure:
    """Return the water for a week, m³.

    Parameters
    ----------
    kind : {"tree", "plant", "row"}
    amount : float
        Trees or plants, or m² of rows.
    rain_mm, mean_c : float
        In that week; where it is cooler than in good growing weather less is needed.
    parameters : Parameters

    Returns
    -------
    Figure
    """
    terms: dict[str, Figure] = {
        "n": entered("Rows" if kind == "row" else "Plants", amount, "m2" if kind == "row" else "number"),
        "r": entered("Rain of the week", rain_mm, "mm"),
        "c": parameters.of(RAIN_COUNTS),
        "m": parameters.of(SAVES),
        "w": parameters.of(_NEEDS[kind]),
        "e": entered("Warmth of the week", min(1.0, max(0.0, mean_c / parameters.of(REFERENCE_C).value)), "1"),
    }
    if kind == "row":
        # Rows lie open until they are up: there mulch saves nothing yet.
        terms.pop("m")
        return formula("n * max(0, w * e - r * c)").work("Water for the week", "m3", terms)
    terms["a"] = entered("Ground over the roots of each", ROOT_M2[kind], "m2")
    return formula("n * max(0, w * e - r * c * a) * (1 - m)").work("Water for the week", "m3", terms)


_NEEDS: dict[Rooting, Parameter] = {"tree": TREE, "plant": PLANT, "row": ROW}


def weeks_of(kind: Rooting, planted_on: date, today: date) -> list[date]:
    """Return the weeks, by their first days, in which something is still watered: the running one and later ones.

    Parameters
    ----------
    kind : {"tree", "plant", "row"}
    planted_on : date
    today : date

    Returns
    -------
    list of date
    """
    weeks = [planted_on + timedelta(weeks=number) for number in range(WEEKS[kind])]
    return [week for week in weeks if week + timedelta(days=6) >= today]
