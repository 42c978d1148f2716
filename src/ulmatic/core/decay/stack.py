"""The layers on a plot, folded from its ledger in the order in which things happened."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from typing import Literal
from uuid import UUID

import numpy as np

from ulmatic.core.decay.decay_clock import MONTH_DAYS, DecayClock, day_number
from ulmatic.core.decay.layers import (
    LaidLayer,
    chips_left,
    layers_of,
    loose_for_1_mm,
    settled_share_of_reading,
    through_time,
)
from ulmatic.core.decay.pile_decay import pile_time
from ulmatic.core.decay.readings import ReadingEvidence, reading_error
from ulmatic.core.log import (
    QUARTERS,
    DepthFound,
    DugIn,
    Laid,
    LearningRestarted,
    LedgerEntry,
    Observed,
    Removed,
)
from ulmatic.core.materials import Kind, Material

BARE_MM = 0.5
"""Less than this is bare ground."""
GUESSED_MONTHS = 12
"""How long what lies there is taken to have lain, where nothing is noted: a judgement, no source."""
BENEATH = (Kind.SHEET, Kind.COMPOST, Kind.BIOCHAR, Kind.MANURE)
"""Kinds that are laid beneath the mulch and do not count as its depth."""


@dataclass(frozen=True)
class StackLayer:
    """A layer as it lies: from a day on, and until a day where it does no more.

    Attributes
    ----------
    quarter : int or None
        Of the ring that it covers; None where it covers all.
    from_day : date
        A layer that was measured anew lies as measured from that day on.
    measured_on : date or None
        When its depth was last measured: it is known on that day.
    origin : int
        The same for what was laid at once, however often it was measured.
    fate : str or None
        What became of it on the day `until`.
    """

    layer: LaidLayer
    from_day: date
    origin: int
    quarter: int | None = None
    until: date | None = None
    fate: Literal["measured", "dug_in", "removed"] | None = None
    measured_on: date | None = None

    @property
    def weight(self) -> float:
        """Share of the ground that it covers."""
        return 1.0 if self.quarter is None else 1.0 / QUARTERS

    @property
    def settled_mm(self) -> float:
        """Depth as it was laid, settled."""
        return self.layer.loose_mm * (1 - self.layer.settling)

    @property
    def as_laid(self) -> bool:
        """Whether it lies as it was laid, not measured since."""
        return self.from_day == self.layer.on


@dataclass(frozen=True)
class StackGround:
    """What the fold needs of a plot.

    Attributes
    ----------
    mulch : Material
        Which nothing else is known to lie there.
    settling : callable
        Loose-to-settled loss of a material here.
    area_m2 : callable
        StackGround laid on a day.
    clock : DecayClock
    """

    mulch: Material
    material: Callable[[str], Material | None]
    settling: Callable[[Material], float]
    area_m2: Callable[[date], float]
    clock: DecayClock
    trees: int = 1


@dataclass(frozen=True)
class PartlyRead:
    """A row on a day on which some of its trees were read: their share, and their depths times their shares, mm."""

    on: date
    expected_mm: float
    share: float = 0.0
    read_mm: float = 0.0


@dataclass
class Stack:
    """What lies and lay on a plot.

    Attributes
    ----------
    layers : list of StackLayer
        The lowest first.
    humus_taken : list of (date, mm)
    measured_on : date or None
        When its depth was last measured.
    laid_on : list of date
        Days on which mulch was laid.
    beneath : set of str
        Keys of sheets, compost and char that were laid.
    rounds : int
        Rounds over grass that were laid.
    weeds_on : date or None
        When weeds were last seen coming through, with nothing laid since.
    evidence : ReadingEvidence
        Readings, with what they were expected to find.
    """

    evidence: ReadingEvidence

    layers: list[StackLayer] = field(default_factory=list)
    humus_taken: list[tuple[date, float]] = field(default_factory=list)
    measured_on: date | None = None
    laid_on: list[date] = field(default_factory=list)
    beneath: set[str] = field(default_factory=set)
    last_quarter: int | None = None
    rounds: int = 0
    removed_on: date | None = None
    weeds_on: date | None = None
    dug_in: bool = False
    partly: PartlyRead | None = None

    @property
    def lying(self) -> list[StackLayer]:
        """The layers that lie there."""
        return [layer for layer in self.layers if layer.until is None]


def fold(entries: Sequence[LedgerEntry], ground: StackGround, breaks: frozenset[UUID] = frozenset()) -> Stack:
    """Return the layers of a plot.

    A measurement scales what lies there to what was measured and keeps ages and materials; where nothing was known to
    lie there, it is a layer of the plot's mulch.

    Parameters
    ----------
    entries : sequence of LedgerEntry
        Of one plot, in the order in which things happened (`in_order`).
    ground : StackGround
    breaks : frozenset of UUID
        Readings from which later ones are compared anew: something besides decay went before them.

    Returns
    -------
    Stack
    """
    stack = Stack(evidence=ReadingEvidence(ground.clock))
    for entry in entries:
        match entry.entry:
            case DepthFound():
                _measure(stack, entry, entry.entry, ground, anew=entry.id in breaks)
            case Laid():
                _lay(stack, entry.entry, entry.on, ground)
            case DugIn():
                stack.layers = [_ended(layer, entry.on, "dug_in") for layer in stack.layers]
                stack.evidence.clear()
                stack.dug_in = True
            case Removed():
                _remove(stack, entry.entry, entry.on, ground)
            case Observed():
                stack.weeds_on = entry.on if entry.entry.weeds else None
            case LearningRestarted():
                stack.evidence.restart()
    return stack


def _ended(layer: StackLayer, on: date, fate: Literal["measured", "dug_in", "removed"]) -> StackLayer:
    return layer if layer.until is not None else replace(layer, until=on, fate=fate)


def depths_on(layers: Sequence[StackLayer], on: date, clock: DecayClock) -> tuple[list[float], list[float]]:
    """Return the settled depth of chips and of humus of each layer on a day, mm.

    Parameters
    ----------
    layers : sequence of StackLayer
    on : date
    clock : DecayClock

    Returns
    -------
    (list of float, list of float)
        By layer.
    """
    if not layers:
        return [], []
    arrays = layers_of([layer.layer for layer in layers])
    day = np.array([float(day_number(on))])
    depths = through_time(arrays, clock.time_at(day), clock.time_at(arrays.laid_day), day)
    return depths.chips_mm[:, 0].tolist(), depths.humus_mm[:, 0].tolist()


def chips_on(layers: Sequence[StackLayer], on: date, clock: DecayClock) -> list[float]:
    """Return the settled depth of chips of each layer on a day, mm; as `depths_on`, for a few layers.

    Parameters
    ----------
    layers : sequence of StackLayer
    on : date
    clock : DecayClock

    Returns
    -------
    list of float
        By layer.
    """
    if not layers:
        return []
    now, laid = clock.on(on), [clock.on(layer.layer.on) for layer in layers]
    return [
        layer.settled_mm
        * chips_left(
            layer.layer.material, layer.layer.age_decay_time, layer.layer.age_decay_time + max(0.0, now - began)
        )
        for layer, began in zip(layers, laid, strict=True)
    ]


def _scaled(stack: Stack, share: float, on: date, fate: Literal["measured", "removed"]) -> None:
    ended = [_ended(layer, on, fate) for layer in stack.layers]
    scaled_layers = [
        replace(
            layer,
            layer=layer.layer.model_copy(update={"loose_mm": layer.layer.loose_mm * share}),
            from_day=on,
            measured_on=on if fate == "measured" else layer.measured_on,
        )
        for layer in stack.lying
        if share > 0
    ]
    stack.layers = ended + scaled_layers


def _measure(stack: Stack, entry: LedgerEntry, measured: DepthFound, ground: StackGround, *, anew: bool) -> None:
    on, lying = entry.on, stack.lying
    read_mm = measured.read_mm
    chips = chips_on(lying, on, ground.clock)
    if not measured.settled_already:
        chips = [
            depth / settled_share_of_reading(layer.layer.settling, (on - layer.layer.on).days)
            for depth, layer in zip(chips, lying, strict=True)
        ]
    expected_mm = sum(depth * layer.weight for depth, layer in zip(chips, lying, strict=True))
    anew = anew or measured.cause is not None
    if measured.cause is None:
        stack.evidence.read(entry.id, measured, on)
    found_mm = read_mm if entry.trees is None else _mean_mm(stack, entry, read_mm, expected_mm, ground.trees)
    stack.measured_on = on
    if expected_mm >= BARE_MM:
        _scaled(stack, found_mm / expected_mm if found_mm >= BARE_MM else 0.0, on, "measured")
        if anew or found_mm < BARE_MM:
            _find(stack, reading_error(measured), on, ground.clock)
        return
    stack.layers = [_ended(layer, on, "measured") for layer in stack.layers]
    if found_mm >= BARE_MM:
        stack.layers.append(_existing(measured, found_mm, on, ground, origin=len(stack.layers)))
    _find(stack, reading_error(measured), on, ground.clock)


def _existing(measured: DepthFound, found_mm: float, on: date, ground: StackGround, origin: int) -> StackLayer:
    """Return mulch that was found where nothing was known to lie.

    Returns
    -------
    StackLayer
    """
    months = GUESSED_MONTHS if measured.guessed_months is None else measured.guessed_months
    began = on - timedelta(days=round(months * MONTH_DAYS))
    settling, clock = ground.settling(ground.mulch), ground.clock
    passed = round(float(clock.time_at(day_number(on)) - clock.time_at(day_number(began))), 9)
    loose = found_mm * loose_for_1_mm(ground.mulch, settling, passed)
    layer = LaidLayer(material=ground.mulch, on=began, loose_mm=loose, settling=settling)
    return StackLayer(layer, from_day=began, origin=origin, measured_on=on)


def _mean_mm(stack: Stack, entry: LedgerEntry, read_mm: float, expected_mm: float, trees: int) -> float:
    """Return the depth of a row of which some trees were read: the others are as deep as was expected that morning.

    Returns
    -------
    float
        mm.
    """
    part = stack.partly
    if part is None or part.on != entry.on:
        part = PartlyRead(entry.on, expected_mm)
    share = min(1.0 - part.share, (entry.trees.count if entry.trees else trees) / max(1, trees))
    stack.partly = replace(part, share=part.share + share, read_mm=part.read_mm + share * read_mm)
    return stack.partly.read_mm + (1 - stack.partly.share) * part.expected_mm


def _find(stack: Stack, error_mm: float, on: date, clock: DecayClock) -> None:
    """Let later readings be compared with what lies there now."""
    lying = stack.lying
    chips = chips_on(lying, on, clock)
    stack.evidence.find(
        (
            (
                layer.layer.material,
                depth * layer.weight,
                layer.layer.settling,
                _passed(layer.layer, on, clock),
                layer.layer.on,
            )
            for layer, depth in zip(lying, chips, strict=True)
        ),
        error_mm,
        on,
    )


def _passed(layer: LaidLayer, on: date, clock: DecayClock) -> float:
    return layer.age_decay_time + (clock.on(on) - clock.on(layer.on))


def _lay(stack: Stack, laying: Laid, on: date, ground: StackGround) -> None:
    material = ground.material(laying.material) or ground.mulch
    if material.kind in BENEATH and material.key != ground.mulch.key:
        stack.beneath.add(material.key)
        return
    settling = ground.settling(material)
    area_m2 = ground.area_m2(on)
    loose_mm = laying.loose_mm(area_m2, settling)
    if loose_mm is None:
        return
    age = pile_time(ground.clock, laying.chipped_on, on) if laying.chipped_on else 0.0
    layer = LaidLayer(material=material, on=on, loose_mm=loose_mm, settling=settling, age_decay_time=age)
    stack.layers.append(StackLayer(layer, from_day=on, origin=len(stack.layers), quarter=laying.quarter))
    stack.evidence.lay(material, laying.settled_mm(area_m2, settling) or 0.0, settling, age, on)
    if on not in stack.laid_on:
        stack.laid_on.append(on)
        stack.rounds += 1
    if laying.quarter is not None:
        stack.last_quarter = laying.quarter
    if laying.round_number is not None:
        stack.rounds = laying.round_number
    stack.weeds_on = None


def _remove(stack: Stack, removed: Removed, on: date, ground: StackGround) -> None:
    lying = stack.lying
    chips, humus = depths_on(lying, on, ground.clock)
    chips_mm = sum(depth * layer.weight for depth, layer in zip(chips, lying, strict=True))
    humus_mm = sum(depth * layer.weight for depth, layer in zip(humus, lying, strict=True))
    humus_left_mm = max(0.0, humus_mm - sum(mm for _, mm in stack.humus_taken))
    removed_mm = humus_left_mm if removed.humus_mm is None else min(humus_left_mm, removed.humus_mm)
    if removed_mm > 0:
        stack.humus_taken.append((on, removed_mm))
    if removed.chips_mm > 0 and chips_mm > 0:
        left = max(0.0, 1 - removed.chips_mm / chips_mm)
        _scaled(stack, left, on, "removed")
        stack.evidence.scale(left)
    stack.removed_on = on
