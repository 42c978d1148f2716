"""Methods of values that never change, and so need not be asked twice."""

from collections.abc import Callable
from functools import wraps
from typing import Any, TypeVar

Owner = TypeVar("Owner")
Key = TypeVar("Key")
Answer = TypeVar("Answer")


def cached_by_argument(method: Callable[[Owner, Key], Answer]) -> Callable[[Owner, Key], Answer]:
    """Keep what a method of a frozen value answers, by its one argument, with the value itself.

    Parameters
    ----------
    method : callable
        Of one hashable argument.

    Returns
    -------
    callable
    """
    place = f"_cached_by_argument {method.__name__}"

    @wraps(method)
    def answered(self: Owner, key: Key) -> Answer:
        answers: dict[Any, Answer] = vars(self).setdefault(place, {})
        if key not in answers:
            answers[key] = method(self, key)
        return answers[key]

    return answered
