"""Series of numbers as compact text."""

import base64

import numpy as np
from numpy.typing import NDArray

LEAST, MOST = -32_768, 32_767


def packed(values: NDArray[np.float64], parts: int, least: float) -> str:
    """Return numbers as base 64 of little-endian signed 16-bit integers, `parts` to the unit, none below `least`."""
    return packed_rows(values[None], parts, least)[0]


def packed_rows(values: NDArray[np.float64], parts: int, least: float) -> list[str]:
    """Return each row of numbers as `packed` does; what does not fit into 16 bits is as large as does."""
    integers = np.clip(np.rint(values * parts), max(LEAST, least * parts), MOST).astype("<i2")
    return [base64.b64encode(row).decode() for row in integers]
