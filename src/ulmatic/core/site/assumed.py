"""What the entries of a site up to a day teach: a value that is built from the site and never flows back into it."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from uuid import UUID

from ulmatic.core.decay import RatePosterior, Stack
from ulmatic.core.figures import Figure
from ulmatic.core.materials import Material
from ulmatic.core.parameters import Parameters
from ulmatic.core.supply.suppliers import Supplier
from ulmatic.core.value import Value


class LearnedFigure(Value):
    """A figure that was learned: of what, from how many readings, with prior, data and posterior as its working."""

    what: str
    name: str
    figure: Figure
    readings: int


@dataclass(frozen=True)
class Assumed:
    """What is taken to hold at a site on a day, by what is shipped or entered and by the log until that day.

    Attributes
    ----------
    suppliers : tuple of Supplier
        Their loads as large as those that were measured.
    materials : mapping of key to Material
        Settling as readings soon after layings say.
    parameters : Parameters
        Settling of trodden ground and the pace of work as logged.
    figures : tuple of LearnedFigure
        Those of loads, settling and pace that were learned.
    rates : RatePosterior
        Of decay, by material and plot, with the readings that are asked about.
    questioned : frozenset of UUID
        Readings from which later ones are compared anew: something besides decay may have gone before them.
    stacks : mapping of plot id to Stack
        The ledger of each plot folded once, with the rates that held before any reading: layers and evidence.
    """

    day: date
    suppliers: tuple[Supplier, ...]
    materials: Mapping[str, Material]
    parameters: Parameters
    figures: tuple[LearnedFigure, ...] = ()
    rates: RatePosterior = field(default_factory=RatePosterior)
    questioned: frozenset[UUID] = frozenset()
    stacks: Mapping[UUID, Stack] = field(default_factory=dict)
