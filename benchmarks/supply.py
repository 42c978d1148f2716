"""How long it takes to choose an order: 200 plots, 12 sources, 12 months; and beside plain enumeration on a small case.

Run: PYTHONPATH=src .venv/bin/python benchmarks/supply.py
"""

import itertools
import statistics
import sys
import time

import numpy as np

from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.supply.choice import Need, SupplySource
from ulmatic.core.supply.choosing import choose
from ulmatic.core.work.moving import transported

RUNS = 7
MATERIALS = ("leafy", "bare", "bark", "coarse")


def say(text: str) -> None:
    sys.stdout.write(text + "\n")


def median_ms(work) -> float:
    taken = []
    for _ in range(RUNS):
        started = time.perf_counter()
        work()
        taken.append((time.perf_counter() - started) * 1e3)
    return statistics.median(taken)


def large() -> tuple[list[Need], list[SupplySource]]:
    dice = np.random.default_rng(5)
    accepts = [frozenset(one) for n in (1, 2, 3, 4) for one in itertools.combinations(MATERIALS, n)]
    needs = [
        Need(volume_m3=float(dice.uniform(0.2, 3)), accepts=accepts[int(dice.integers(len(accepts)))])
        for _ in range(200)
    ]
    sources = []
    for number in range(12):
        likely = float(dice.uniform(4, 14))
        exact = number % 3 == 2
        sources.append(
            SupplySource(
                key=str(number),
                material=MATERIALS[number % 4],
                load_m3=likely,
                exact=exact,
                size=None if exact else LoadSize(least_m3=likely * 0.7, likely_m3=likely, most_m3=likely * 1.3),
                per_load=float(dice.uniform(0, 60)),
                per_m3=float(dice.uniform(20, 50)) if exact else 0.0,
                least_m3=1.0 if exact else 0.0,
                arrivals=tuple(int(one) for one in dice.integers(0, 4, 12)),
            )
        )
    return needs, sources


def enumerate_all(need_m3: float, sources: list[SupplySource]) -> float:
    most = [sum(one.arrivals) for one in sources]
    return min(
        sum(n * one.per_load for n, one in zip(loads, sources, strict=True))
        for loads in itertools.product(*(range(m + 1) for m in most))
        if sum(n * one.load_m3 for n, one in zip(loads, sources, strict=True)) >= need_m3
    )


def main() -> None:
    needs, sources = large()
    say(f"200 plots x 12 sources x 12 months, three best choices: {median_ms(lambda: choose(needs, sources)):.0f} ms")
    one = [need.model_copy(update={"accepts": frozenset(MATERIALS)}) for need in needs]
    say(f"  the same, every plot taking every material: {median_ms(lambda: choose(one, sources)):.0f} ms")
    few = [
        SupplySource(key=str(at), material="leafy", load_m3=size, per_load=price, arrivals=(1,) * 12)
        for at, (size, price) in enumerate([(7, 20), (11, 45), (4.5, 9), (9, 33)])
    ]
    need = [Need(volume_m3=120, accepts=frozenset(["leafy"]))]
    same = choose(need, few, best=1).choices[0].cost, enumerate_all(120, few)
    programme, plain = median_ms(lambda: choose(need, few, best=1)), median_ms(lambda: enumerate_all(120, few))
    say(f"4 sources x 12 loads: programme {programme:.1f} ms, enumeration of 28,561 cases {plain:.1f} ms; costs {same}")
    dice = np.random.default_rng(3)
    there, wanted, cost = dice.uniform(50, 200, 8), dice.uniform(0.2, 2, 500), dice.uniform(5, 60, (8, 500))
    say(f"transport, 8 heaps x 500 plots: {median_ms(lambda: transported(there, np.arange(8), wanted, cost)):.0f} ms")


if __name__ == "__main__":
    main()
