"""The work on opened ground: which step comes next, on which day, and how long it takes."""

from dataclasses import dataclass
from datetime import date, timedelta

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.log import NEXT, Opening, RowState
from ulmatic.core.parameters import Parameters
from ulmatic.core.schedule import RowsDrawn
from ulmatic.core.tables import read_parameter
from ulmatic.core.work.crops import Crop
from ulmatic.core.work.growing import GrowingYear, TimeLeft

OPEN = read_parameter("work.row_open")
LOOSEN = read_parameter("work.row_loosen")
START = read_parameter("work.row_sow")
CLOSE = read_parameter("work.row_close")
HAND_HIGH_DAYS = read_parameter("work.row_hand_high")
PARAMETERS = (OPEN, LOOSEN, START, CLOSE, HAND_HIGH_DAYS)
PLANTED_WAIT_DAYS = 7
"""Round plants that were planted chips go back after a week, when they have rooted: a judgement, no source."""
STEP_WORDS = {
    RowState.PULLED_BACK: "Pull chips aside",
    RowState.LOOSENED: "Loosen the soil",
    RowState.SOWN: "Sow",
    RowState.PLANTED: "Plant",
    RowState.UP: "Look whether it is up",
    RowState.CLOSED: "Put chips back round the plants",
    RowState.CLEARED: "Cover again to the target",
}


@dataclass(frozen=True)
class RowStep:
    """The next step on opened ground: on which day, and the person-hours it takes."""

    state: RowState
    on: date
    words: str
    hours: Figure | None


def next_row_step(
    opening: Opening, ground: RowsDrawn, crop: Crop | None, year: GrowingYear, today: date, parameters: Parameters
) -> RowStep | None:
    """Return what is to be done next on opened ground; None where it is covered again.

    Parameters
    ----------
    opening : Opening
    ground : RowsDrawn
    crop : Crop or None
    year : GrowingYear
    today : date
        A step whose day is past is due today.
    parameters : Parameters

    Returns
    -------
    RowStep or None
    """
    if not NEXT[opening.state]:
        return None
    state = _usual_next(opening, crop)
    on = max(today, _day(opening, state, crop, year, parameters))
    words = STEP_WORDS[state]
    if state in (RowState.SOWN, RowState.PLANTED) and crop is not None:
        words = f"{words} {crop.name.lower()}"
    if state is RowState.CLEARED and crop is not None:
        words = "Harvest, cut it and leave the roots" if crop.legume else "Harvest, then cover again to the target"
    return RowStep(state, on, words, hours_of(state, ground, parameters))


def _usual_next(opening: Opening, crop: Crop | None) -> RowState:
    start = RowState.PLANTED if crop is not None and crop.start == "plant" else RowState.SOWN
    return {
        RowState.PULLED_BACK: RowState.LOOSENED,
        RowState.LOOSENED: start,
        RowState.SOWN: RowState.UP,
        RowState.PLANTED: RowState.CLOSED,
        RowState.UP: RowState.CLOSED,
        RowState.CLOSED: RowState.CLEARED,
    }[opening.state]


def _day(opening: Opening, state: RowState, crop: Crop | None, year: GrowingYear, parameters: Parameters) -> date:
    started = opening.started_on
    if state is RowState.UP and crop is not None and started is not None:
        return year.up_on(crop, started)
    if state is RowState.CLOSED:
        wait = PLANTED_WAIT_DAYS if opening.state is RowState.PLANTED else parameters.of(HAND_HIGH_DAYS).value
        return opening.since + timedelta(days=round(wait))
    if state is RowState.CLEARED and crop is not None and started is not None:
        left: TimeLeft = year.time_left(crop, started)
        return left.ready
    return opening.since


def hours_of(state: RowState, ground: RowsDrawn, parameters: Parameters) -> Figure | None:
    """Return the person-hours of a step; None where it takes none.

    Parameters
    ----------
    state : RowState
    ground : RowsDrawn
    parameters : Parameters

    Returns
    -------
    Figure or None
    """
    area = {"n": entered("Opened ground", ground.area_m2, "m2")}
    length = {"n": entered("Length of rows", ground.length_m, "m")}
    rates = {
        RowState.PULLED_BACK: (OPEN, area),
        RowState.LOOSENED: (LOOSEN, area),
        RowState.SOWN: (START, length),
        RowState.PLANTED: (START, length),
        RowState.CLOSED: (CLOSE, area),
        RowState.CLEARED: (CLOSE, area),
    }
    if state not in rates:
        return None
    rate, terms = rates[state]
    return formula("n * r / 60").work("Hours by one person", "h", {**terms, "r": parameters.of(rate)})
