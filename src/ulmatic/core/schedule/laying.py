"""A plot as it is scheduled, and one laying."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from uuid import UUID

from ulmatic.core.decay import Stack
from ulmatic.core.log import QUARTERS
from ulmatic.core.materials import Material
from ulmatic.core.schedule.decisions import Decision
from ulmatic.core.schedule.rules import Quarter, Rule
from ulmatic.core.schedule.seasons import Season, WindowKey

LEAST_LAYER_MM = 15.0
"""Nobody rakes out less: common practice, no source."""
SPECK_MM = 1e-6


@dataclass(frozen=True)
class ScheduledPlot:
    """A plot as it is scheduled.

    Attributes
    ----------
    target_mm, least_mm : float
        Settled.
    areas_m2 : tuple of float
        Ground laid in each year ahead, where it widens with its trees; the last goes on.
    covered_m2 : float
        Ground that what lies there was laid on, or measured on.
    windows : frozenset of WindowKey
        Which of the site's windows its practice uses.
    clock : int
        By which of the site's clocks it rots.
    digs_in : bool
        Whether the recipe digs its first layer in.
    opened_target_mm : float or None
        The target in the running season, where rows are open or growing: less lies round growing plants.
    """

    id: UUID
    target_mm: float
    least_mm: float
    material: Material
    settling: float
    areas_m2: tuple[float, ...]
    covered_m2: float
    rule: Rule
    windows: frozenset[WindowKey]
    stack: Stack
    clock: int = 0
    decisions: Mapping[str, Decision] = field(default_factory=dict)
    digs_in: bool = False
    opened_target_mm: float | None = None

    def target_in(self, number: int) -> float:
        """Return the target in a season: rows that are open now are taken to be covered again in later ones.

        Returns
        -------
        float
            Settled mm.
        """
        return self.target_mm if number or self.opened_target_mm is None else self.opened_target_mm

    @property
    def rows(self) -> int:
        """Stacks of its own that it has."""
        return QUARTERS if isinstance(self.rule, Quarter) else 1

    @property
    def least_layer_mm(self) -> float:
        """The thinnest layer that is laid."""
        return min(LEAST_LAYER_MM, self.target_mm)

    def area_m2(self, years: int) -> float:
        """Return the ground that is laid so many whole years ahead.

        Returns
        -------
        float
            m².
        """
        return self.areas_m2[min(max(0, years), len(self.areas_m2) - 1)]

    def following(self, seasons: Sequence[Season], number: int) -> Season:
        """Return the season that it uses next after one.

        Returns
        -------
        Season
            None where it uses none any more.
        """
        later_seasons = seasons[number + 1 :]
        return next((season for season in later_seasons if season.window in self.windows), seasons[-1])


@dataclass(frozen=True)
class Laying:
    """One planned laying.

    Attributes
    ----------
    plot : int
        Index of the plot.
    season : int
        Index of the season whose account it belongs to.
    wanted_on : date
        When it is due; earlier than `on` where it waits for chips.
    settled_mm : float
        Added.
    loose_m3 : float
        Without spare.
    humus_m3 : float
        Dug out before.
    first : bool
        Whether it is the plot's first planned one.
    """

    plot: int
    season: int
    on: date
    wanted_on: date
    settled_mm: float
    loose_m3: float
    reason: str
    quarter: int | None = None
    round_number: int | None = None
    humus_m3: float = 0.0
    dug_in: bool = False
    first: bool = False

    def reduced_to(self, share: float) -> "Laying":
        """Return the same with a share of its chips.

        Returns
        -------
        Laying
        """
        return replace(self, settled_mm=self.settled_mm * share, loose_m3=self.loose_m3 * share)


Serve = Callable[[int, Sequence[Laying]], Sequence[float]]
"""What is there for a season's layings, as shares of what they want."""
