"""What to order, from whom: the cheapest choices, the best first."""

from collections.abc import Sequence

import numpy as np

from ulmatic.core.supply.choice import (
    MONTHS,
    NO_LIMIT,
    NOTHING_COMES,
    SURER,
    Choice,
    Chosen,
    Coming,
    Limits,
    Need,
    SupplySource,
)
from ulmatic.core.supply.programme import Programme

MOST_LOOKED_AT = 12
MOST_SEARCHES = 60
"""For the next-best choices: with more than some 25 sources not every one of them is tried instead."""
LEAST_RAISE = 1e-3
"""Share of the need by which it is raised at least, where a choice is not sure enough."""


def choose(
    needs: Sequence[Need],
    sources: Sequence[SupplySource],
    limits: Limits | None = None,
    best: int = 3,
    coming: Coming = NOTHING_COMES,
) -> Chosen:
    """Choose what to order at least cost.

    Needs that accept the same materials are added up, so the programme grows with sources, not with plots. The
    next-best choices differ by a load of at least one source, and by a tenth of the need where loads are smaller (a
    bag more is no other choice); they are found by splitting the solved set at each
    source, so none better is left out, except those that only add to the best without being surer. Loads of unknown
    size count by their mean; for more certainty than even the need is raised until the choice has it.

    Parameters
    ----------
    needs : sequence of Need
    sources : sequence of SupplySource
    limits : Limits, optional
    best : int
        How many choices are wanted.
    coming : Coming
        Counts with what is ordered, where it is asked how sure it is to be enough.

    Returns
    -------
    Chosen
        With a sentence on what binds where nothing can be chosen.

    References
    ----------
    Murty 1968, Operations Research 16: 682–687; from memory.
    """
    limits = limits or Limits()
    model = Programme(needs, sources, limits, coming)
    if model.total <= 0:
        return Chosen(choices=(Choice(purchases=(), cost=0.0, volume_m3=0.0, left_over_m3=0.0),))
    if not sources:
        return Chosen(choices=(), binding="There are no suppliers yet.")
    first = model.solve(model.lowest(), model.highest())
    # Raised by what is missing, and by ever larger steps where that is less than another load.
    step = LEAST_RAISE
    while first is not None and limits.sure > 0.5 and first.enough < limits.sure - 1e-9:
        missing = max(step * model.needed, model.needed - model.surely(first))
        model = Programme(needs, sources, limits, coming, (model.total + missing) / model.needed)
        first = model.solve(model.lowest(), model.highest())
        step *= 2
    if first is None:
        nearest = model.solve(model.lowest(), model.highest(), short=True)
        return Chosen(choices=(), binding=_binding(needs, sources, limits), nearest=nearest)
    choices, complete = _best(model, first, best)
    return Chosen(choices=tuple(choices), complete=complete)


def _by_price(model: Programme, first: Choice) -> list[int]:
    """Return the numbers of sources in the order in which others are tried instead: those bought, then the cheapest.

    Returns
    -------
    list of int
    """
    bought = {purchase.source for purchase in first.purchases}
    per_m3 = [source.per_m3 + source.per_load / source.holds_m3 for source in model.sources]
    return sorted(range(model.count), key=lambda index: (model.sources[index].key not in bought, per_m3[index], index))


def _best(model: Programme, first: Choice, best: int) -> tuple[list[Choice], bool]:
    """Return the best choices, and whether all that could be among them were tried.

    Returns
    -------
    (list of Choice, bool)
    """
    choices: list[Choice] = []
    searches, order = 0, _by_price(model, first)
    open_sets = [(first, model.lowest(), model.highest())]
    steps = model.steps()
    looked = 0
    while open_sets and len(choices) < best and looked < MOST_LOOKED_AT:
        open_sets.sort(key=lambda open_set: open_set[0].cost)
        choice, low, high = open_sets.pop(0)
        looked += 1
        if not choices or not _more_of_the_same(choice, choices):
            choices.append(choice)
        if len(choices) == best:
            break
        loads = {purchase.source: purchase.loads for purchase in choice.purchases}
        loads_chosen = np.array([loads.get(source.key, 0) for source in model.sources])
        lower, upper = low.copy(), high.copy()
        for index in order:
            if searches >= MOST_SEARCHES:
                break
            for less in (True, False):
                new_low, new_high = lower.copy(), upper.copy()
                if less:
                    new_high[index] = loads_chosen[index] - steps[index]
                else:
                    new_low[index] = loads_chosen[index] + steps[index]
                possible = (new_low <= new_high).all()
                searches += int(possible)
                other = model.solve(new_low, new_high) if possible else None
                if other is not None:
                    open_sets.append((other, new_low, new_high))
            lower[index] = max(lower[index], loads_chosen[index] - steps[index] + 1)
            upper[index] = min(upper[index], loads_chosen[index] + steps[index] - 1)
    return choices, searches < MOST_SEARCHES


def _more_of_the_same(choice: Choice, others: Sequence[Choice]) -> bool:
    """Say whether a choice only adds to the best one: once that is worth saying, where it is surer to be enough.

    Returns
    -------
    bool
    """
    best = others[0]
    if not _adds_to(choice, best):
        return False
    surer = choice.enough >= best.enough + SURER
    return not surer or any(_adds_to(other, best) for other in others[1:])


def _adds_to(choice: Choice, best: Choice) -> bool:
    volumes = {purchase.source: purchase.volume_m3 for purchase in choice.purchases}
    return all(volumes.get(bought.source, 0.0) >= bought.volume_m3 - 1e-6 for bought in best.purchases)


def _binding(needs: Sequence[Need], sources: Sequence[SupplySource], limits: Limits) -> str:
    """Say which limit alone, if it were lifted, would let the need be covered.

    Returns
    -------
    str
    """
    offered = {source.material for source in sources}
    if any(need.volume_m3 > 0 and not need.accepts & offered for need in needs):
        return "No source has a material that one of the plots accepts."
    more = {"arrivals": (NO_LIMIT,) * MONTHS, "loads_at_most": None}
    plenty = [source.model_copy(update=more) for source in sources]
    all_year = limits.model_copy(update={"months": tuple(range(MONTHS))})
    lifted = (
        ("The budget is too small.", sources, limits.model_copy(update={"budget": None})),
        ("The tip is too small for the available loads.", sources, limits.model_copy(update={"tip_m3": None})),
        ("The date is too early.", sources, all_year),
        ("Too few loads are likely to come in these months.", plenty, limits),
    )
    for sentence, whom, bounds in lifted:
        model = Programme(needs, whom, bounds, NOTHING_COMES)
        if model.solve(model.lowest(), model.highest()) is not None:
            return sentence
    return "Several limits together make it impossible to cover the need."
