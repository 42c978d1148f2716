"""Depth readings beside what lay there: the evidence on how fast it decays."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date
from uuid import UUID

from ulmatic.core.decay.decay_clock import DecayClock
from ulmatic.core.decay.layers import LAID_CV, settled_share_of_reading
from ulmatic.core.log import DepthFound
from ulmatic.core.materials import Material
from ulmatic.core.tables import read_parameter

READING_ERROR = read_parameter("decay.reading")


@dataclass(frozen=True)
class EvidencePart:
    """Mulch whose depth is known on a day: laid, or found there.

    Attributes
    ----------
    depth_mm : float
        Settled, by the share of the ground that it covers.
    passed : float
        Decay time until then, years of ξ = 1.
    cv : float
        Standard error of the depth as a share of it; portions of one `event` are wrong together.
    """

    material: Material
    depth_mm: float
    passed: float
    on: date
    settling: float
    event: int
    cv: float


@dataclass(frozen=True)
class Reading:
    """A depth as it was found, with what it consists of.

    Attributes
    ----------
    parts : tuple of (EvidencePart, decay time, factor)
        Decay time of each portion at the reading; what is left of it counts by the factor.
    """

    entry_id: UUID
    on: date
    depth_mm: float
    error_mm: float
    parts: tuple[tuple[EvidencePart, float, float], ...]


@dataclass
class ReadingEvidence:
    """What a plot's readings can tell, gathered in the order in which things happened."""

    clock: DecayClock
    readings: list[Reading] = field(default_factory=list)
    _lying: list[tuple[EvidencePart, float]] = field(default_factory=list)
    _events: int = 0

    def lay(self, material: Material, depth_mm: float, settling: float, age: float, on: date) -> None:
        """Add what was laid: settled depth by the share of the ground it covers; its age in decay time."""
        self._add([(material, depth_mm, settling, age, on)], LAID_CV.value, on)

    def find(self, parts: Iterable[tuple[Material, float, float, float, date]], error_mm: float, on: date) -> None:
        """Begin anew with what lies there: (material, depth, settling, decay time, day laid) of each layer."""
        self._lying = []
        lying = [part for part in parts if part[1] > 0]
        total_mm = sum(part[1] for part in lying)
        if total_mm > 0:
            self._add(lying, error_mm / total_mm, on)

    def _add(self, parts: Sequence[tuple[Material, float, float, float, date]], cv: float, on: date) -> None:
        for material, depth_mm, settling, passed, laid_on in parts:
            portion = EvidencePart(
                material=material,
                depth_mm=depth_mm,
                passed=passed,
                on=laid_on,
                settling=settling,
                event=self._events,
                cv=cv,
            )
            # Decay goes on from that moment, whatever had passed before it.
            began = self.clock.on(on) - passed
            self._lying.append((portion, began))
        self._events += 1

    def clear(self) -> None:
        """Nothing lies there any more."""
        self._lying = []

    def scale(self, share: float) -> None:
        """Take away a part of everything that lies there."""
        self._lying = [
            (EvidencePart(**{**vars(portion), "depth_mm": portion.depth_mm * share}), began)
            for portion, began in self._lying
        ]

    def read(self, entry_id: UUID, measured: DepthFound, on: date) -> None:
        """Add a reading of what lies there."""
        if not self._lying:
            return
        decay_time = self.clock.on(on)
        parts = tuple(
            (portion, decay_time - began, self._factor(portion, measured, on)) for portion, began in self._lying
        )
        self.readings.append(
            Reading(
                entry_id=entry_id,
                on=on,
                depth_mm=measured.read_mm,
                error_mm=reading_error(measured),
                parts=parts,
            )
        )

    @staticmethod
    def _factor(portion: EvidencePart, measured: DepthFound, on: date) -> float:
        if measured.settled_already:
            return 1.0
        return 1 / settled_share_of_reading(portion.settling, (on - portion.on).days)

    def restart(self) -> None:
        """Forget the readings so far."""
        self.readings = []


def reading_error(measured: DepthFound) -> float:
    """Return the standard error of a depth that was found, mm.

    Each point is wrong by `READING_ERROR`, or by the spread of the points where that is more; their mean by that over
    the root of their number.

    Parameters
    ----------
    measured : DepthFound

    Returns
    -------
    float
    """
    readings = measured.points_mm
    count = max(1, len(readings))
    spread = (
        math.sqrt(sum((reading - measured.read_mm) ** 2 for reading in readings) / (count - 1)) if count > 1 else 0.0
    )
    return max(READING_ERROR.value, spread) / math.sqrt(count)
