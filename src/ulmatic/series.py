"""Series of numbers as compact text."""

import base64

import numpy as np
from numpy.typing import NDArray


def packed(values: NDArray[np.float64], parts: int, least: float) -> str:
    """Return numbers as base 64 of little-endian signed 16-bit integers, `parts` to the unit, none below `least`."""
    whole = np.clip(np.rint(values * parts), least * parts, 32_767)
    return base64.b64encode(whole.astype("<i2").tobytes()).decode()


def packed_rows(values: NDArray[np.float64], parts: int, least: float) -> list[str]:
    """Return each row of numbers as `packed` does."""
    whole = np.clip(np.rint(values * parts), least * parts, 32_767).astype("<i2")
    return [base64.b64encode(row).decode() for row in whole]
