"""Loads that are booked already, expected or received: they count against those that are ordered."""

from collections.abc import Iterable
from datetime import date

from ulmatic.core.stock import Delivery
from ulmatic.core.supply.suppliers import UNNAMED


def booked_loads(deliveries: Iterable[Delivery], today: date, first: date, last: date) -> dict[str, tuple[int, float]]:
    """Return the loads that are booked for a span of days by source, each with their number and m³.

    Parameters
    ----------
    deliveries : iterable of Delivery
    today : date
        What was expected earlier is expected today.
    first, last : date
        Both included.

    Returns
    -------
    dict of str to (int, float)
    """
    booked: dict[str, tuple[int, float]] = {}
    for delivery in deliveries:
        if delivery.state == "cancelled":
            continue
        day = delivery.received_on or max(today, delivery.expected_on or today)
        if not first <= day <= last:
            continue
        key = str(delivery.supplier_id) if delivery.supplier_id else UNNAMED
        loads, volume = booked.get(key, (0, 0.0))
        booked[key] = (loads + 1, volume + (delivery.volume_m3 or delivery.size.mean_m3))
    return booked
