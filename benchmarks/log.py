"""Learning from 500 plots with 20 readings each, beside plot after plot by a general minimiser in the same run."""

import sys
import time
import tracemalloc
from datetime import date, timedelta
from uuid import UUID

import numpy as np
from scipy.optimize import minimize_scalar

from ulmatic.core.decay import learn
from ulmatic.core.decay.layers import chips_left
from ulmatic.core.decay.learning import PLOT_SPREAD, prior_of
from ulmatic.core.decay.readings import EvidencePart, Reading
from ulmatic.core.materials import CATALOGUE

PLOTS, READINGS, RUNS = 500, 20, 7
MATERIALS = [CATALOGUE[key] for key in ("arborist_leafy", "clean_coarse", "bark_shredded")]
LAID_ON = date(2022, 1, 1)


def drawn() -> dict[UUID, list[Reading]]:
    """Return readings of beds whose rates are drawn from the prior."""
    random = np.random.default_rng(1)
    plots = {}
    for plot in range(PLOTS):
        material = MATERIALS[plot % len(MATERIALS)]
        rate = material.rate.value * np.exp(random.normal(0, 0.3))
        true = material.model_copy(update={"rate": material.rate.model_copy(update={"value": rate})})
        portion = EvidencePart(
            material=material, depth_mm=100.0, passed=0.0, on=LAID_ON, settling=0.22, event=0, cv=0.1
        )
        plots[UUID(int=plot)] = [
            Reading(
                UUID(int=plot * 100 + number),
                LAID_ON + timedelta(days=60 * number),
                max(0.0, 100 * chips_left(true, 0.0, 0.2 * number) + random.normal(0, 8)),
                8.0,
                ((portion, 0.2 * number, 1.0),),
            )
            for number in range(1, READINGS + 1)
        ]
    return plots


def plainly(plots: dict[UUID, list[Reading]]) -> list[float]:
    """Return each plot's rate by itself, by a general minimiser."""
    rates = []
    for readings in plots.values():
        portion = readings[0].parts[0][0]
        material = portion.material
        spread = np.sqrt(prior_of(material, {}).variance + PLOT_SPREAD.value**2)

        def misfit(theta: float, readings=readings, portion=portion, material=material, spread=spread) -> float:
            faster = material.rate.model_copy(update={"value": material.rate.value * np.exp(theta)})
            other = material.model_copy(update={"rate": faster})
            off = [
                (reading.depth_mm - portion.depth_mm * chips_left(other, 0.0, reading.parts[0][1])) / reading.error_mm
                for reading in readings
            ]
            return sum(value**2 for value in off) + (theta / spread) ** 2

        rates.append(minimize_scalar(misfit, bounds=(-2, 2), method="bounded").x)
    return rates


def main() -> None:
    """Print both, and what they take of memory."""
    plots = drawn()
    times = []
    for _ in range(RUNS):
        began = time.perf_counter()
        learned = learn(plots)
        times.append(time.perf_counter() - began)
    began = time.perf_counter()
    rates = plainly(plots)
    plain = time.perf_counter() - began
    own = [learned.of(plot, plots[plot][0].parts[0][0].material).mean for plot in plots]
    tracemalloc.start()
    learn(plots)
    peak = tracemalloc.get_traced_memory()[1] / 1e6
    sys.stdout.write(
        f"all plots at once: median {np.median(times) * 1000:.0f} ms, best {min(times) * 1000:.0f} ms, {peak:.0f} MB\n"
        f"plot after plot:   {plain * 1000:.0f} ms\n"
        f"correlation of their rates {np.corrcoef(own, rates)[0, 1]:.3f}\n"
    )


if __name__ == "__main__":
    main()
