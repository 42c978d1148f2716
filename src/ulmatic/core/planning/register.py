"""The register of shipped parameters: all of them, and which a workspace can set for itself."""

import math
from collections.abc import Mapping
from functools import cache

from ulmatic.core.decay import IRRIGATION
from ulmatic.core.decay import PARAMETERS as DECAY
from ulmatic.core.figures import Parameter
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.nitrogen import PARAMETERS as NITROGEN
from ulmatic.core.nitrogen.account import MOST_AT_ONCE, MOST_IN_A_YEAR
from ulmatic.core.nitrogen.draw import PARAMETERS as DRAW
from ulmatic.core.planning.machines import PARAMETERS as MACHINES
from ulmatic.core.recipe import OTHER_DEPTHS, USUAL_DEPTH
from ulmatic.core.recipe.proposal import LEAST_PLAY
from ulmatic.core.schedule import PARAMETERS as SCHEDULE
from ulmatic.core.stock.pile_shape import CLEAR_OF_WALLS, HIGHEST, REPOSE
from ulmatic.core.survey import CARDBOARD_OVERLAP
from ulmatic.core.survey.uses import Use
from ulmatic.core.units import DEPTH, LENGTH, SHARE, VOLUME, MeasureError, UnitSystem, parse
from ulmatic.core.work import BARROW, CARRIERS, CarrierKind
from ulmatic.core.work import PARAMETERS as WORK
from ulmatic.core.work.rates import TEACHING

FARTHEST = 10.0
"""An own figure is no more than so many times the shipped one, and no less than a part of it."""
WIDEST = 20.0
"""°C, or whatever else may lie below zero."""

GENERAL: tuple[Parameter, ...] = (
    *OTHER_DEPTHS,
    *(USUAL_DEPTH[use].proposed for use in Use),
    *SCHEDULE,
    *WORK,
    *MACHINES,
    *(figure for carrier in CARRIERS.values() for figure in carrier.parameters()),
    CARDBOARD_OVERLAP,
    IRRIGATION,
    *DECAY,
    *NITROGEN,
    REPOSE,
    HIGHEST,
    CLEAR_OF_WALLS,
)
"""All but the figures of materials, which stand with them."""
_SAFETY = "This cannot be changed: people could be hurt."
_MODEL = "This is part of the model and depends on the other values."
_BY_SITE = "This is set on each site."
FIXED: dict[str, str] = {
    **{
        figure.key: _SAFETY
        for figure in (
            LEAST_PLAY,
            USUAL_DEPTH[Use.PLAY].proposed,
            MOST_AT_ONCE,
            MOST_IN_A_YEAR,
            REPOSE,
            HIGHEST,
            CLEAR_OF_WALLS,
        )
    },
    **{figure.key: _MODEL for figure in (*DECAY, *DRAW, *TEACHING)},
    **{figure.key: _BY_SITE for figure in (BARROW, CARRIERS[CarrierKind.BARROW].volume)},
}
"""Parameters that cannot be set, and why."""
_MEASURES = {"mm": DEPTH, "m": LENGTH, "m3": VOLUME, "1": SHARE}


@cache
def shipped() -> dict[str, Parameter]:
    """Return every shipped parameter by key, those of materials among them.

    Returns
    -------
    dict of str to Parameter
    """
    materials = [figure for material in CATALOGUE.values() for figure in material.parameters()]
    return {figure.key: figure for figure in (*GENERAL, *materials)}


def settable(key: str) -> bool:
    """Say whether a parameter can be set.

    Parameters
    ----------
    key : str

    Returns
    -------
    bool
    """
    return key in shipped() and key not in FIXED


def own_figure(figure: Parameter, text: str, units: UnitSystem) -> float:
    """Return what was typed in place of a shipped parameter, in its unit.

    Parameters
    ----------
    figure : Parameter
        As shipped.
    text : str
    units : UnitSystem
        Of bare numbers.

    Returns
    -------
    float

    Raises
    ------
    MeasureError
        Where it cannot be understood, or is out of all proportion.
    """
    measure = _MEASURES.get(figure.unit)
    if measure is not None:
        value = parse(text, measure, units)
    else:
        try:
            value = float(text.strip().replace(",", ".").replace("−", "-"))
        except ValueError:
            raise MeasureError(f"Type only a number, like {figure.value:g}.") from None
    return checked_figure(figure, value)


def checked_figure(figure: Parameter, value: float) -> float:
    """Return an own figure if it can stand in place of a shipped one.

    Parameters
    ----------
    figure : Parameter
    value : float
        In its unit.

    Returns
    -------
    float

    Raises
    ------
    MeasureError
    """
    if figure.value > 0 and (figure.low is None or figure.low >= 0) and figure.unit != "degC":
        least, most = figure.value / FARTHEST, figure.value * FARTHEST
        if figure.unit == "1":
            most = min(most, 0.9)
    else:
        least, most = figure.value - WIDEST, figure.value + WIDEST
    if not math.isfinite(value) or not least <= value <= most:
        number = figure.value * 100 if figure.unit == "1" else figure.value
        sign = " %" if figure.unit == "1" else ""
        raise MeasureError(f"That is too far from the shipped {number:g}{sign} to be right.")
    return value


def known_figures(figures: Mapping[str, float]) -> dict[str, float]:
    """Return own figures of a file, checked; those that are not known here are left out.

    Parameters
    ----------
    figures : mapping of key to value

    Returns
    -------
    dict of str to float

    Raises
    ------
    ValueError
        Where a figure cannot stand in place of the shipped one.
    """
    return {key: checked_figure(shipped()[key], value) for key, value in figures.items() if settable(key)}
