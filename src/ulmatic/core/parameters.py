"""Shipped parameters, and the figures that a workspace has set in their place."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from ulmatic.core.figures import Mark, Parameter, Source

SHARE_MOST = 0.95
"""An own share stays below this: a material that loses all of its depth could not be ordered."""


@dataclass(frozen=True)
class Parameters:
    """The parameters of a site: as shipped, but for own figures.

    Attributes
    ----------
    set_figures : tuple of (key, value)
        In the unit of each parameter, sorted by key.
    learned_keys : frozenset of str
        Keys of those that the site's log has taught.
    """

    set_figures: tuple[tuple[str, float], ...] = ()
    learned_keys: frozenset[str] = frozenset()

    @classmethod
    def of_mapping(cls, figures: Mapping[str, float]) -> "Parameters":
        """Return the parameters with own figures by key.

        Returns
        -------
        Self
        """
        return cls(tuple(sorted(figures.items())))

    @cached_property
    def by_key(self) -> dict[str, float]:
        """Own figures by key."""
        return dict(self.set_figures)

    def of(self, shipped: Parameter) -> Parameter:
        """Return a parameter as it holds here: as shipped, or the own figure with the shipped range in proportion.

        Returns
        -------
        Parameter
        """
        value = self.by_key.get(shipped.key)
        if value is None or value == shipped.value:
            return shipped
        return replaced(shipped, value, is_learned=shipped.key in self.learned_keys)

    def figures(self, shipped: Mapping[str, Parameter]) -> dict[str, Parameter]:
        """Return those of some parameters that are set here, by the same names.

        Returns
        -------
        dict of str to Parameter
        """
        return {name: self.of(figure) for name, figure in shipped.items() if figure.key in self.by_key}


def replaced(shipped: Parameter, value: float, *, is_learned: bool = False) -> Parameter:
    """Return a parameter with an own figure in place of the shipped one; its source says so.

    Parameters
    ----------
    shipped : Parameter
    value : float
        In its unit.
    is_learned : bool
        Whether the site's log has taught it.

    Returns
    -------
    Parameter
    """
    scale = value / shipped.value if shipped.value else 1.0
    most = SHARE_MOST if shipped.unit == "1" else None
    low, high = (
        None if end is None else end * scale if most is None else min(most, end * scale)
        for end in (shipped.low, shipped.high)
    )
    who = "Learned from the log of this site" if is_learned else "Set by your workspace"
    text = f"{who}; shipped is {shipped.value:g}. {shipped.source.text}"
    return shipped.model_copy(
        update={"value": value, "low": low, "high": high, "source": Source(mark=Mark.ENTERED, text=text)}
    )


SHIPPED = Parameters()
"""As shipped."""
