"""Amounts of money: decimals, rounded half up to the smallest unit of their currency."""

from decimal import ROUND_HALF_UP, Decimal

WHOLE = frozenset(
    ["BIF", "CLP", "DJF", "GNF", "ISK", "JPY", "KMF", "KRW", "PYG", "RWF", "UGX", "VND", "VUV", "XAF", "XOF", "XPF"]
)
"""Currencies without a smaller unit: ISO 4217, from memory."""
THOUSANDTHS = frozenset(["BHD", "IQD", "JOD", "KWD", "LYD", "OMR", "TND"])
"""Currencies of a thousand smaller units: ISO 4217, from memory."""
TYPED_DIGITS = 9
"""Digits behind the point that a typed price keeps where it was converted from another unit."""


def minor_digits(currency: str) -> int:
    """Return how many digits behind the point a currency has.

    Parameters
    ----------
    currency : str
        ISO 4217.

    Returns
    -------
    int

    References
    ----------
    ISO 4217; from memory.

    Examples
    --------
    >>> minor_digits("EUR"), minor_digits("JPY")
    (2, 0)
    """
    return 0 if currency in WHOLE else 3 if currency in THOUSANDTHS else 2


def exact(amount: float | Decimal) -> Decimal:
    """Return an amount as it was typed, without what binary fractions add to it.

    Parameters
    ----------
    amount : float or Decimal

    Returns
    -------
    Decimal
    """
    return amount if isinstance(amount, Decimal) else Decimal(repr(round(amount, TYPED_DIGITS)))


def rounded(amount: float | Decimal, currency: str) -> Decimal:
    """Return an amount in whole minor units of its currency, half up.

    Parameters
    ----------
    amount : float or Decimal
    currency : str
        ISO 4217.

    Returns
    -------
    Decimal

    Examples
    --------
    >>> rounded(12.345, "EUR")
    Decimal('12.35')
    """
    return exact(amount).quantize(Decimal(1).scaleb(-minor_digits(currency)), ROUND_HALF_UP)
