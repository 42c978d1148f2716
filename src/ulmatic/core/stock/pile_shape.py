"""A pile of chips: how high and wide it stands, what a tip holds, and its volume from what was measured."""

import math

from ulmatic.core.figures import Figure, Mark, Source, entered, formula
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value

REPOSE = read_parameter("supply.repose")
HIGHEST = read_parameter("supply.pile_height")
CLEAR_OF_WALLS = read_parameter("supply.pile_wall")
_CONE = Source(mark=Mark.DEFINITION, text="Volume of a cone, π r² h ÷ 3.")


class Stand(Value):
    """How a pile stands: a cone, or where that were too high a ridge with two half cones at its ends.

    Attributes
    ----------
    height_m, width_m, length_m : float
        Of the whole pile; a cone is as long as wide.
    ridge : bool
    """

    height_m: float
    width_m: float
    length_m: float
    ridge: bool


class TipPlan(Value):
    """How a load stands on a tip.

    Attributes
    ----------
    holds_m3 : float
        What the tip holds in all, no higher than is safe.
    fits : bool
    stand : Stand
    wall_m : float or None
        From the foot of the pile to the nearest wall; None where the wall is not known.
    clear : bool or None
        Whether that is enough.
    """

    tip: str
    holds_m3: float
    fits: bool
    stand: Stand
    wall_m: float | None = None
    clear: bool | None = None


def tip_plan(name: str, load_m3: float, length_m: float, width_m: float, to_wall_m: float | None) -> TipPlan:
    """Say how `load_m3` stands on a tip whose edge is `to_wall_m` from the nearest wall, tipped in its middle.

    Parameters
    ----------
    name : str
        As it is shown.
    load_m3 : float
        Loose, m³.
    length_m, width_m : float
    to_wall_m : float or None

    Returns
    -------
    TipPlan
    """
    most, narrow = holds(length_m, width_m), min(length_m, width_m)
    shape = stand(load_m3, narrow)
    to_wall = None if to_wall_m is None else to_wall_m + max(0.0, narrow - shape.width_m) / 2
    return TipPlan(
        tip=name,
        holds_m3=most,
        fits=load_m3 <= most + 1e-9,
        stand=shape,
        wall_m=to_wall,
        clear=None if to_wall is None else to_wall >= CLEAR_OF_WALLS.value,
    )


def cone_volume(radius_m: float, repose_deg: float = REPOSE.value) -> float:
    """Volume in m³ of a cone that stands at the angle of repose: π r³ tan φ ÷ 3.

    Parameters
    ----------
    radius_m, repose_deg : float

    Returns
    -------
    float

    Examples
    --------
    >>> round(cone_volume(2.0, 38), 1)
    6.5
    """
    return math.pi * radius_m**3 * math.tan(math.radians(repose_deg)) / 3


def stand(volume_m3: float, widest_m: float | None = None, highest_m: float = HIGHEST.value) -> Stand:
    """Return how `volume_m3` stands, at most `highest_m` high and, where given, `widest_m` wide.

    Parameters
    ----------
    volume_m3 : float
        Loose, m³.
    widest_m : float or None
    highest_m : float

    Returns
    -------
    Stand

    Examples
    --------
    >>> on_a_drive = stand(12.0, widest_m=None, highest_m=1.5)
    >>> on_a_drive.height_m, round(on_a_drive.length_m, 1)
    (1.5, 6.2)
    """
    slope = math.tan(REPOSE.base_value)
    radius = (3 * volume_m3 / (math.pi * slope)) ** (1 / 3)
    most = min(highest_m / slope, widest_m / 2 if widest_m else math.inf)
    if radius <= most:
        return Stand(height_m=radius * slope, width_m=2 * radius, length_m=2 * radius, ridge=False)
    height = most * slope
    ridge_m = (volume_m3 - cone_volume(most)) / (most * height)
    return Stand(height_m=height, width_m=2 * most, length_m=ridge_m + 2 * most, ridge=True)


def fits(volume_m3: float, length_m: float, width_m: float) -> bool:
    """Say whether a pile of `volume_m3` stands within a rectangle, along its longer side.

    Parameters
    ----------
    volume_m3 : float
        Loose, m³.
    length_m, width_m : float

    Returns
    -------
    bool

    Examples
    --------
    >>> fits(12, length_m=5, width_m=4), fits(10, length_m=5, width_m=4)
    (False, True)
    """
    long, short = max(length_m, width_m), min(length_m, width_m)
    return stand(volume_m3, short).length_m <= long + 1e-9


def holds(length_m: float, width_m: float) -> float:
    """Return the m³ that stand within a rectangle, no higher than is safe.

    Parameters
    ----------
    length_m, width_m : float

    Returns
    -------
    float

    Examples
    --------
    >>> round(holds(length_m=5, width_m=4), 1)
    10.4
    """
    long, short = max(length_m, width_m), min(length_m, width_m)
    slope = math.tan(REPOSE.base_value)
    radius = min(short / 2, HIGHEST.value / slope)
    return cone_volume(radius) + (long - 2 * radius) * radius * radius * slope


def measured_pile(width_m: float, height_m: float, ridge_m: float = 0.0) -> Figure:
    """Volume in m³ of a pile from its width at the foot, its height, and the length of its ridge (0 for a cone).

    Parameters
    ----------
    width_m, height_m, ridge_m : float

    Returns
    -------
    Figure

    Examples
    --------
    >>> round(measured_pile(3.6, 1.5, 1.2).value, 1)
    8.3
    """
    terms = {"b": entered("Width at the foot", width_m, "m"), "h": entered("Height", height_m, "m")}
    if ridge_m <= 0:
        return formula("pi * b**2 * h / 12").work("Pile, a cone", "m3", terms, source=_CONE)
    terms["l"] = entered("Length of the ridge", ridge_m, "m")
    return formula("b * h / 2 * l + pi * b**2 * h / 12").work("Pile, a ridge", "m3", terms, source=_CONE)
