"""What chips borrow of nitrogen and pay back, by the stoichiometry of decomposition."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ulmatic.core.decay import DecayClock, LaidLayer, day_number, layers_of, through_time
from ulmatic.core.tables import read_parameter

Array = NDArray[np.float64]

DECOMPOSERS = read_parameter("nitrogen.decomposers")
CRITICAL_A = read_parameter("nitrogen.critical_a")
CRITICAL_B = read_parameter("nitrogen.critical_b")
DUG_IN_USE = read_parameter("nitrogen.dug_in_use")
DUG_IN_FASTER = read_parameter("nitrogen.dug_in_faster")
CONTACT_MM = {"relaxed": 5.0, "where_it_touches": 15.0, "cautious": 30.0}
"""Depth of chips that draws on the soil, by school; the middle one is the default: common practice, no source."""
PARAMETERS = (DECOMPOSERS, CRITICAL_A, CRITICAL_B, DUG_IN_USE, DUG_IN_FASTER)
MOST_USE = 0.9


def use_on_top(cn: ArrayLike) -> Array:
    """Return the carbon-use efficiency of decomposers in litter that lies on top: its critical N:C over theirs.

    Parameters
    ----------
    cn : array_like
        Carbon over nitrogen by mass, shape (n,).

    Returns
    -------
    ndarray
        kg C built in per kg C taken, of the shape of `cn`.

    References
    ----------
    Manzoni, Jackson, Trofymow, Porporato 2008, Science 321: 684–686; from memory.
    """
    ratio = 1 / np.asarray(cn, dtype=float)
    use: Array = np.minimum(MOST_USE, CRITICAL_A.value * ratio**CRITICAL_B.value / DECOMPOSERS.value)
    return use


def held_share(carbon_left: ArrayLike, cn: ArrayLike, use: ArrayLike) -> Array:
    """Return n(c): nitrogen held as a share of what litter brought, when share c of its carbon is left.

    ``n(c) = c · r_B/r_0 + (1 − r_B/r_0) · c^(1/(1−e))``.

    Parameters
    ----------
    carbon_left : array_like
        From 1 (fresh) to 0.
    cn : array_like
        C:N by mass of the fresh litter.
    use : array_like
        Carbon-use efficiency e of its decomposers.

    Returns
    -------
    ndarray

    References
    ----------
    Manzoni, Jackson, Trofymow, Porporato 2008, Science 321: 684–686; from memory.

    Examples
    --------
    >>> held_share([1.0, 0.5, 0.0], 60, 0.3).round(2).tolist()
    [1.0, 1.14, 0.0]
    """
    c = np.clip(np.asarray(carbon_left, dtype=float), 0.0, 1.0)
    ratio = DECOMPOSERS.value * np.asarray(cn, dtype=float)
    share: Array = c * ratio + (1 - ratio) * c ** (1 / (1 - np.asarray(use, dtype=float)))
    return share


def peak(cn: float, use: float) -> tuple[float, float]:
    """Return the carbon left at the peak of n(c), and n there; (1, 1) where nothing is tied up.

    Where n'(c) = 0: ``c = (R / ((R − 1) k))^(1/(k−1))`` with R = r_B/r_0 and k = 1/(1−e).

    Parameters
    ----------
    cn : float
        Carbon over nitrogen by mass.
    use : float
        Carbon-use efficiency, 0 to 1.

    Returns
    -------
    (float, float)
        Shares of the carbon and of the nitrogen at the beginning.

    References
    ----------
    Manzoni, Jackson, Trofymow, Porporato 2008, Science 321: 684–686; from memory.

    Examples
    --------
    >>> [round(part, 2) for part in peak(60.0, 0.3)]
    [0.67, 1.2]
    """
    ratio, power = DECOMPOSERS.value * cn, 1 / (1 - use)
    if ratio <= 1 or ratio >= (ratio - 1) * power:
        return 1.0, 1.0
    peak_time = (ratio / ((ratio - 1) * power)) ** (1 / (power - 1))
    return peak_time, float(held_share(peak_time, cn, use))


@dataclass(frozen=True)
class Mixed:
    """How a layer touches soil: `contact_mm` of it on top, or all of it where it was dug in on a day (since 1970)."""

    contact_mm: float
    dug_in_day: float | None = None


def nitrogen_draw(layers: Sequence[LaidLayer], mixed: Sequence[Mixed], clock: DecayClock, days: ArrayLike) -> Array:
    """Return the nitrogen that layers hold beyond what they brought, g N/m², by layer and date.

    Positive is tied up, negative has been released. Counted from the day a layer was laid: one that had rotted before
    starts from where it was. Of a layer laid on others only what of the contact zone they leave free touches the
    soil; that it comes nearer as they rot is left out. Dug in, all of what is left then draws, and decays faster.

    Parameters
    ----------
    layers : sequence of LaidLayer
    mixed : sequence of Mixed
        One for each layer.
    clock : DecayClock
    days : array_like, shape (t,)
        Since 1970.

    Returns
    -------
    ndarray, shape (layers, t)
    """
    when = np.asarray(days, dtype=float)
    out = np.zeros((len(layers), when.size))
    for index, (layer, how) in enumerate(zip(layers, mixed, strict=True)):
        day = day_number(layer.on)
        beneath = [
            layer
            for other, layer in enumerate(layers)
            if (layer.on, other) < (layer.on, index) and not _dug_in_by(mixed[other], day)
        ]
        free = max(0.0, how.contact_mm - _depth_at(beneath, clock, day))
        out[index] = _layer(layer, Mixed(free, how.dug_in_day), clock, when)
    return out


def _dug_in_by(how: Mixed, day: float) -> bool:
    return how.dug_in_day is not None and how.dug_in_day <= day


def _depth_at(layers: Sequence[LaidLayer], clock: DecayClock, day: float) -> float:
    if not layers:
        return 0.0
    table = layers_of(layers)
    when = np.array([day])
    return float(through_time(table, clock.time_at(when), clock.time_at(table.laid_day), when).chips_mm.sum())


def _layer(layer: LaidLayer, how: Mixed, clock: DecayClock, when: Array) -> Array:
    layers = layers_of([layer])
    material = layer.material
    fresh = float(layers.awen.sum())
    nitrogen = _fresh(layer, fresh)
    laid_day = float(layers.laid_day[0])
    settled = max(1.0, layer.loose_mm * (1 - layer.settling))
    touching = min(1.0, how.contact_mm / settled)
    cn, on_top = material.cn.value, float(use_on_top(material.cn.value))

    def carbon_left(total: Array, day: Array) -> Array:
        share: Array = through_time(layers, total, clock.time_at(layers.laid_day), day).mass_kg_m2[0] / fresh
        return share

    def shares_on(when: float) -> tuple[float, float]:
        """Return the share of carbon left on a day, and what a part that touches then holds, as a share of N₀.

        Returns
        -------
        (float, float)
        """
        share = float(carbon_left(clock.time_at(np.array([when])), np.array([when]))[0])
        return share, float(held_share(share, cn, on_top))

    lies = when >= laid_day
    _, start = shares_on(laid_day)
    draw = touching * nitrogen * (held_share(carbon_left(clock.time_at(when), when), cn, on_top) - start)
    dug = how.dug_in_day
    if dug is not None and dug >= laid_day:
        after = when >= dug
        faster = clock.time_at(dug) + (clock.time_at(when) - clock.time_at(dug)) * DUG_IN_FASTER.value
        carbon, held_then = shares_on(dug)
        before = touching * nitrogen * (held_then - start)
        # What goes in is litter of the C:N that it has come to: counted on from there, nothing is made or lost.
        goes_in = nitrogen * start + before
        cn_now = fresh * 1000 * material.carbon.value * carbon / goes_in
        carbon_share = carbon_left(np.where(after, faster, clock.time_at(when)), when) / carbon
        draw = np.where(after, before + goes_in * (held_share(carbon_share, cn_now, DUG_IN_USE.value) - 1), draw)
    return np.where(lies, draw, 0.0)


def brought(layer: LaidLayer) -> float:
    """Return the nitrogen that a layer brings, g/m²: N₀, and what it has borrowed where it had rotted before.

    Parameters
    ----------
    layer : LaidLayer

    Returns
    -------
    float
        g N/m².
    """
    layers = layers_of([layer])
    fresh = float(layers.awen.sum())
    mass_share = through_time(layers, np.zeros(1), np.zeros(1), layers.laid_day).mass_kg_m2[0] / fresh
    cn = layer.material.cn.value
    return _fresh(layer, fresh) * float(held_share(mass_share, cn, use_on_top(cn))[0])


def _fresh(layer: LaidLayer, mass_kg_m2: float) -> float:
    return mass_kg_m2 * 1000 * layer.material.carbon.value / layer.material.cn.value


def peak_draw(layer: LaidLayer, contact_mm: float, *, dug_in: bool) -> tuple[float, float]:
    """Return the largest draw of a fresh layer in g N/m², and the share of carbon that is left then.

    Parameters
    ----------
    layer : LaidLayer
    contact_mm : float
        Chips that touch the soil, mm.
    dug_in : bool

    Returns
    -------
    (float, float)
    """
    cn = layer.material.cn.value
    use = DUG_IN_USE.value if dug_in else float(use_on_top(cn))
    index, most_held = peak(cn, use)
    settled = max(1.0, layer.loose_mm * (1 - layer.settling))
    share = 1.0 if dug_in else min(1.0, contact_mm / settled)
    return share * brought(layer) * max(0.0, most_held - 1), index
