"""How long ten years of layers take: 2,000 plots x 10 layers, weekly, beside `solve_ivp` and bare exponentials.

Run: PYTHONPATH=src .venv/bin/python benchmarks/decay.py
"""

import resource
import sys
import time
from datetime import date

import numpy as np
from scipy.integrate import solve_ivp

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import LaidLayer, day_number, decay_clock, layers_of, plots_through_time, through_time
from ulmatic.core.decay.evidence import EVIDENCE
from ulmatic.core.decay.fit import fit, is_within_range
from ulmatic.core.decay.yasso import CHANGE, VALUES
from ulmatic.core.materials import CATALOGUE

PLOTS, EACH, WEEKS = 2_000, 10, 520
BLOCK, RUNS = 20, 7


def say(text: str) -> None:
    sys.stdout.write(text + "\n")


def main() -> None:
    dice = np.random.default_rng(4)
    chips = [one for one in CATALOGUE.values() if one.woody]
    start = date(2026, 1, 1)
    laid = [
        LaidLayer(
            material=chips[int(dice.integers(len(chips)))],
            on=date(2026 + number % EACH, 1 + int(dice.integers(12)), 1),
            loose_mm=float(dice.uniform(30, 150)),
            settling=0.22,
        )
        for number in range(PLOTS * EACH)
    ]
    ticking = decay_clock(GenericClimate(name=ClimateClass.COOL_MARITIME).normals(), start, date(2036, 1, 1))
    days = day_number(start) + 7.0 * np.arange(WEEKS)
    layers = layers_of(laid)
    total, born = ticking.time_at(days), ticking.time_at(layers.laid_day)

    times = np.maximum(0.0, (total[None, :] - born[:, None]) * layers.rate[:, None])
    room = np.empty((BLOCK, VALUES.size, WEEKS))
    runs, bares = [], []
    # By turns, as the machine is shared with others and not always as fast.
    for _ in range(RUNS):
        started = time.perf_counter()
        found = plots_through_time(layers, range(0, PLOTS * EACH, EACH), total, born, days)
        runs.append(time.perf_counter() - started)
        started = time.perf_counter()
        for at in range(0, layers.count, BLOCK):
            np.exp(np.multiply(VALUES[None, :, None], times[at : at + BLOCK, None, :], out=room), out=room)
        bares.append(time.perf_counter() - started)
    ours, bare = (min(one) / (PLOTS * EACH * WEEKS) for one in (runs, bares))
    say(f"{PLOTS} plots x {EACH} layers x {WEEKS} weeks: {min(runs):.2f} s, {ours * 1e9:.0f} ns a layer-week")
    say(f"  peak memory of the process so far {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MiB")
    say(f"the needed exponentials alone, in the same blocks: {bare * 1e9:.0f} ns a layer-week")
    say(f"  ours is {ours / bare:.1f} times that")

    some = dice.choice(layers.count, 12, replace=False)
    worst, taken = 0.0, 0.0
    for at in some:
        after = days >= layers.laid_day[at]
        x0 = np.array([*laid[at].material.fractions(), 0.0])
        spans = np.concatenate([[born[at]], total[after]]) * layers.rate[at]
        # As the equation stands, in days, with the climate of each month.
        since = np.concatenate([[layers.laid_day[at]], days[after]])
        pace = np.diff(ticking.total) / np.diff(ticking.days) * layers.rate[at]

        def change(day, x, pace=pace):
            return pace[min(int(np.searchsorted(ticking.days, day, side="right")) - 1, pace.size - 1)] * (CHANGE @ x)

        started = time.perf_counter()
        solved = solve_ivp(change, (since[0], since[-1]), x0, t_eval=since[1:], rtol=1e-6, atol=1e-12)
        taken += (time.perf_counter() - started) / after.sum()
        exact = solve_ivp(
            lambda _, x: CHANGE @ x, (spans[0], spans[-1]), x0, t_eval=spans[1:], rtol=1e-12, atol=1e-15, method="LSODA"
        )
        mass = laid[at].loose_mm / 1000 * layers.density[at]
        mine = through_time(layers_of([laid[at]]), total[after], born[at : at + 1], days[after]).mass_kg_m2[0]
        worst = max(worst, float(np.abs(mine / (mass * exact.y.sum(axis=0)) - 1).max()))
        if not solved.success:
            raise SystemExit(solved.message)
    theirs = taken / some.size
    say(f"solve_ivp at rtol 1e-6: {theirs * 1e6:.0f} µs a layer-week, {theirs / ours:,.0f} times ours")
    say(f"  largest relative difference of ours from a tight solution: {worst:.1e}")
    say(f"  mean chips at the end: {found.chips_mm[:, -1].mean():.1f} mm")


def calibration() -> None:
    """Say how many rows of the evidence lie in their 80 % range: of the rate between places, and of the row itself."""
    fitted = fit()
    inside = [is_within_range(row, fitted) for row in EVIDENCE]
    say(f"evidence inside its 80 % range: {sum(inside)} of {len(inside)} rows")


if __name__ == "__main__":
    main()
    calibration()
