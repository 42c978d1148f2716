"""Choices in words. Amounts stand as ``{4 m3}`` and ``{84 money}``, to be shown in the reader's units and currency."""

from collections.abc import Mapping

from ulmatic.core.supply.choice import SURER, Choice, Purchase

NOUNS: dict[str, tuple[str, str]] = {
    "arborist": ("load", "loads"),
    "utility": ("load", "loads"),
    "yard": ("trip", "trips"),
    "merchant": ("delivery", "deliveries"),
    "unnamed": ("load", "loads"),
    "bags": ("bag", "bags"),
    "chipper": ("day", "days"),
}
EXACT = ("yard", "merchant", "own")


def amount(purchase: Purchase, kind: str) -> str:
    """Return `3 loads`, `{7.5 m3} in 2 trips`, `{4 m3}`.

    Parameters
    ----------
    purchase : Purchase
    kind : str
        Of the source.

    Returns
    -------
    str
        With volumes in braces, as texts with units have them.
    """
    volume = f"{{{purchase.volume_m3:.3g} m3}}"
    if kind not in NOUNS:
        return volume
    counted = f"{purchase.loads} {NOUNS[kind][purchase.loads != 1]}"
    return f"{volume} in {counted}" if kind in ("yard", "merchant") else counted


def tell_apart(best: Choice, other: Choice, sources: Mapping[str, tuple[str, str]]) -> str:
    """Say how `other` differs from `best`; `sources` gives name and kind by key.

    Parameters
    ----------
    best, other : Choice
    sources : Mapping[str, tuple[str, str]]
        Name and kind, by key.

    Returns
    -------
    str
    """
    before = {purchase.source: purchase for purchase in best.purchases}
    after = {purchase.source: purchase for purchase in other.purchases}
    pieces = []
    for key in dict.fromkeys([*after, *before]):
        name, kind = sources[key]
        loads = (after[key].loads if key in after else 0) - (before[key].loads if key in before else 0)
        volume = (after[key].volume_m3 if key in after else 0.0) - (before[key].volume_m3 if key in before else 0.0)
        if kind in EXACT:
            if abs(volume) >= 0.05:
                pieces.append(f"{{{abs(volume):.3g} m3}} {'more' if volume > 0 else 'less'} from {name}")
        elif loads:
            noun = NOUNS[kind][abs(loads) != 1]
            pieces.append(f"{abs(loads)} {noun} {'more' if loads > 0 else 'fewer'} from {name}")
    dearer = other.cost - best.cost
    money = "it costs the same" if abs(dearer) < 0.005 else f"it costs {{{dearer:.2f} money}} more"
    surplus_m3 = other.left_over_m3 - best.left_over_m3
    rest = (
        ""
        if abs(surplus_m3) < 0.05
        else f", and leaves {{{abs(surplus_m3):.3g} m3}} {'more' if surplus_m3 > 0 else 'less'} over"
    )
    chance = other.enough - best.enough
    surer = f"; it is {other.enough:.0%} chance it is enough".replace("%", " %") if abs(chance) >= SURER else ""
    return f"{_listed(pieces) or 'The same amounts'}: {money}{rest}{surer}."


def _listed(pieces: list[str]) -> str:
    text = ", ".join(pieces[:-1]) + (" and " if len(pieces) > 1 else "") + (pieces[-1] if pieces else "")
    return text[:1].upper() + text[1:]
