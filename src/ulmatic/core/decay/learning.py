"""What depth readings teach: the rate of each plot, and of the site's materials that its plots share.

A rate is the material's shipped one times e^(g + w): g is the material's at the site, w the plot's own. Both are normal
around zero, or around what the workspace's other sites teach. A reading is normal around the depth that the rates give,
with the reading's own error and the unevenness of what was laid. The mode is found by Gauss–Newton steps, all plots at
once; the interval is Laplace's, from the curvature there.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay.layers import NORMAL_90, modes_of
from ulmatic.core.decay.readings import Reading
from ulmatic.core.decay.yasso import VALUES
from ulmatic.core.figures import Mark, Parameter, Source
from ulmatic.core.materials import Material
from ulmatic.core.tables import read_parameter

Array = NDArray[np.float64]
PLOT_SPREAD = read_parameter("decay.plot_spread")
SITE_SPREAD = read_parameter("decay.site_spread")
PARAMETERS = (PLOT_SPREAD, SITE_SPREAD)
MOST_STEPS = 8
CLOSE = 1e-4
LEAST_VARIANCE = 0.05**2
UNLIKELY = 2.8
"""A reading so many standard errors off what the prior allows is asked about: one in two hundred of good ones."""
SPECK = 1e-9
PLOT_ALONE = ""
"""Stands for a plot's own part among its materials."""
FURTHEST = 2.5
"""No rate is learned beyond e^2.5 times the shipped one: steps are held within it."""


@dataclass(frozen=True)
class LogRate:
    """Mean and variance of the logarithm of a rate's factor."""

    mean: float = 0.0
    variance: float = 0.0

    @property
    def spread(self) -> float:
        """Standard deviation."""
        return math.sqrt(self.variance)

    def on_a_plot(self) -> "LogRate":
        """Return the same for a plot of which nothing was read.

        Returns
        -------
        LogRate
        """
        return LogRate(self.mean, self.variance + PLOT_SPREAD.value**2)

    def less(self, prior: "LogRate") -> "LogRate | None":
        """Return what readings say by themselves, where this is known with them and a prior; None where nothing.

        Returns
        -------
        LogRate or None
        """
        precision = 1 / self.variance - 1 / prior.variance
        if precision <= SPECK:
            return None
        return LogRate((self.mean / self.variance - prior.mean / prior.variance) / precision, 1 / precision)


class ReadingCheck(NamedTuple):
    """A reading beside what the prior expects, with the standard error of their difference.

    It is `used` where the prior can have produced it, or somebody has confirmed it.
    """

    plot_id: UUID
    entry_id: UUID
    depth_mm: float
    expected_mm: float
    error_mm: float
    used: bool


@dataclass
class RatePosterior:
    """What the readings of a site teach.

    Attributes
    ----------
    prior : mapping of material key to LogRate
        Of the material at the site.
    pooled : mapping of material key to LogRate
        The same with the site's readings.
    by_plot : mapping of plot id to mapping of material key to LogRate
        Of each plot that was read: material's and plot's parts together.
    message : mapping of material key to LogRate
        What the site's readings say by themselves, for the workspace's other sites.
    readings : mapping of material key to number of readings
    misfits : sequence of Lesson
        Those that are not used: they are asked about.
    elsewhere : mapping of material key to sequence of LogRate
        What readings of other sites say.
    """

    prior: Mapping[str, LogRate] = field(default_factory=dict)
    pooled: Mapping[str, LogRate] = field(default_factory=dict)
    by_plot: Mapping[UUID, Mapping[str, LogRate]] = field(default_factory=dict)
    message: Mapping[str, LogRate] = field(default_factory=dict)
    readings: Mapping[str, int] = field(default_factory=dict)
    plot_readings: Mapping[UUID, int] = field(default_factory=dict)
    checks: Mapping[UUID, ReadingCheck] = field(default_factory=dict)
    misfits: Sequence[ReadingCheck] = ()
    elsewhere: Mapping[str, Sequence[LogRate]] = field(default_factory=dict)

    @property
    def teaches(self) -> bool:
        """Whether anything is known beyond what is shipped."""
        return bool(self.pooled or self.elsewhere)

    def of(self, plot_id: UUID | None, material: Material) -> LogRate | None:
        """Return what is known of a material on a plot; None where no reading says anything of it.

        Returns
        -------
        LogRate or None
        """
        known = self.by_plot.get(plot_id) if plot_id else None
        if known is not None:
            on_plot_alone, site = known[PLOT_ALONE], prior_of(material, self.elsewhere)
            return known.get(material.key) or LogRate(
                on_plot_alone.mean + site.mean, on_plot_alone.variance + site.variance
            )
        pooled = self.pooled.get(material.key)
        if pooled is None and material.key in self.elsewhere:
            pooled = prior_of(material, self.elsewhere)
        return None if pooled is None else pooled.on_a_plot()

    def material_on(self, plot_id: UUID, material: Material) -> Material:
        """Return a material with the rate that was learned for a plot.

        Returns
        -------
        Material
        """
        known = self.of(plot_id, material)
        if known is None:
            return material
        return material.model_copy(update={"rate": self.rate(material, known, self.plot_readings.get(plot_id, 0))})

    def rate(self, material: Material, posterior: LogRate, plot_readings: int) -> Parameter:
        """Return the learned rate of a material, with its range, prior and readings as its working.

        Returns
        -------
        Parameter
        """
        shipped, value = material.rate, material.rate.value * math.exp(posterior.mean)
        edge = math.exp(NORMAL_90 * posterior.spread)
        every = self.readings.get(material.key, 0)
        others = ", and from your other sites" if material.key in self.elsewhere else ""
        text = (
            f"Learned from {readings_counted(plot_readings)} of this plot and {readings_counted(every)} of this "
            f"material on this site{others}; "
            f"the shipped rate is {shipped.value:g} ({_end(shipped.low):g} to {_end(shipped.high):g})."
        )
        return shipped.model_copy(
            update={
                "value": value,
                "low": value / edge,
                "high": value * edge,
                "source": Source(mark=Mark.COMPUTED, text=text),
            }
        )


def _end(end: float | None) -> float:
    return 0.0 if end is None else end


def readings_counted(count: int) -> str:
    """Return a number of readings in words.

    Parameters
    ----------
    count : int

    Returns
    -------
    str
    """
    return f"{count} reading" if count == 1 else f"{count} readings"


def prior_of(material: Material, elsewhere: Mapping[str, Sequence[LogRate]]) -> LogRate:
    """Return what is known of a material's rate at a site before anything is read there.

    Parameters
    ----------
    material : Material
        Its rate's low and high are the 10th and 90th percentile of all plots of all sites.
    elsewhere : mapping of material key to sequence of LogRate
        What the readings of each other site of the workspace say by themselves.

    Returns
    -------
    LogRate
    """
    rate, site = material.rate, SITE_SPREAD.value**2
    spread = math.log((rate.high or rate.value) / (rate.low or rate.value)) / (2 * NORMAL_90)
    variance = max(LEAST_VARIANCE, spread**2 - PLOT_SPREAD.value**2)
    everywhere = max(LEAST_VARIANCE, variance - site)
    precision, weighted = 1 / everywhere, 0.0
    for message in elsewhere.get(material.key, ()):
        precision += 1 / (message.variance + site)
        weighted += message.mean / (message.variance + site)
    return LogRate(weighted / precision, 1 / precision + min(site, variance / 2))


class _Curves:
    """ln of what is left of a portion after a decay time, and its slope in ln rate; for many portions at once."""

    def __init__(self, materials: Sequence[Material], which: NDArray[np.int_]) -> None:
        awen, awe, _ = modes_of([material.fractions() for material in materials])
        self.awen, self.awe = awen[which], awe[which]
        self.rate = np.array([material.rate.value for material in materials])[which]

    def evaluate(self, theta: Array, passed: Array) -> tuple[Array, Array]:
        """Return both, (portions,).

        Returns
        -------
        (ndarray, ndarray)
            By portion: the logarithm of what is left of it, and the slope of that by θ.
        """
        exponent = VALUES[None, :] * (self.rate * np.exp(theta) * passed)[:, None]
        decays = np.exp(exponent)
        total, soluble = (self.awen * decays).sum(axis=1), (self.awe * decays).sum(axis=1)
        slope = (self.awen * decays * exponent).sum(axis=1) / total
        slope += (self.awe * decays * exponent).sum(axis=1) / soluble
        return np.log(np.maximum(total * soluble, 1e-300)), slope


class _Evidence:
    """The readings of all plots as padded arrays: plots × readings, and the portions they consist of."""

    def __init__(self, plots: Sequence[Sequence[Reading]], materials: Sequence[Material]) -> None:
        self.plots, self.most = len(plots), max(len(readings) for readings in plots)
        self.materials = len(materials)
        keys = {material.key: number for number, material in enumerate(materials)}
        places: list[tuple[int, int, int, int]] = []
        values: list[tuple[float, float, float, float]] = []
        read: list[tuple[float, float]] = []
        self.events = 1
        for plot, readings in enumerate(plots):
            numbers: dict[int, int] = {}
            for index, reading in enumerate(readings):
                read.append((reading.depth_mm, reading.error_mm))
                for portion, passed, factor in reading.parts:
                    event = numbers.setdefault(portion.event, len(numbers))
                    places.append((plot, index, keys[portion.material.key], event))
                    values.append((portion.depth_mm * factor, portion.passed, passed, portion.cv))
            self.events = max(self.events, len(numbers))
        counts = np.array([len(readings) for readings in plots])
        self.used = np.arange(self.most)[None, :] < counts[:, None]
        """Readings that count; those that do not, and what only fills the rows up, have no weight."""
        self.depth, self.error = np.zeros((self.plots, self.most)), np.ones((self.plots, self.most))
        self.depth[self.used], self.error[self.used] = np.array(read).T
        self.plot, self.at, self.key, self.event = np.array(places, dtype=int).T
        self.amount, self.before, self.passed, self.cv = np.array(values).T
        self.curves = _Curves(materials, self.key)

    def depths(self, theta: Array) -> tuple[Array, Array, Array]:
        """Return expected depths, their slopes by material, and the covariance of readings.

        Shapes (plots, readings), (plots, readings, materials) and (plots, readings, readings).

        Returns
        -------
        (ndarray, ndarray, ndarray)
        """
        begin, begin_slope = self.curves.evaluate(theta, self.before)
        end, end_slope = self.curves.evaluate(theta, self.passed)
        left = self.amount * np.exp(end - begin)
        cell, cells = self.plot * self.most + self.at, self.plots * self.most
        depth = np.bincount(cell, weights=left, minlength=cells).reshape(self.plots, self.most)
        slope = np.zeros((self.plots, self.most, self.materials))
        np.add.at(slope, (self.plot, self.at, self.key), left * (end_slope - begin_slope))
        uneven = np.zeros((self.plots, self.most, self.events))
        np.add.at(uneven, (self.plot, self.at, self.event), left * self.cv)
        uneven[~self.used] = 0.0
        covariance = uneven @ uneven.transpose(0, 2, 1)
        covariance[:, np.arange(self.most), np.arange(self.most)] += np.where(self.used, self.error**2, 1.0)
        return np.asarray(depth, dtype=float), slope, covariance

    def readings_by_material(self, keys: Sequence[str]) -> dict[str, int]:
        """Return how many of the readings that count are of each material.

        Returns
        -------
        dict of str to int
        """
        pairs = np.unique(np.stack([self.plot, self.at, self.key]), axis=1)
        counted = pairs[2][self.used[pairs[0], pairs[1]]]
        return dict(zip(keys, np.bincount(counted, minlength=len(keys)).tolist(), strict=True))


def learn(
    plots: Mapping[UUID, Sequence[Reading]],
    confirmed: frozenset[UUID] = frozenset(),
    elsewhere: Mapping[str, Sequence[LogRate]] | None = None,
) -> RatePosterior:
    """Return what readings teach.

    Parameters
    ----------
    plots : mapping of plot id to sequence of Reading
        In any order of plots and of readings.
    confirmed : frozenset of UUID
        Entries that teach however unlikely they are.
    elsewhere : mapping of material key to sequence of LogRate
        What other sites say.

    Returns
    -------
    RatePosterior
    """
    read = {plot_id: readings for plot_id, readings in plots.items() if readings}
    materials = {
        portion.material.key: portion.material
        for readings in read.values()
        for reading in readings
        for portion, _, _ in reading.parts
    }
    shelf = [materials[key] for key in sorted(materials)]
    prior = {material.key: prior_of(material, elsewhere or {}) for material in shelf}
    if not read:
        return RatePosterior(elsewhere=elsewhere or {})
    evidence = _Evidence(list(read.values()), shelf)
    checks, used = _compare(read, evidence, shelf, prior, confirmed)
    misfits = tuple(check for check in checks.values() if not check.used)
    if len(misfits) == len(checks):
        return RatePosterior(checks=checks, misfits=misfits, elsewhere=elsewhere or {})
    evidence.used &= used
    return replace(_posterior(read, evidence, shelf, prior, checks, misfits), elsewhere=elsewhere or {})


def _compare(
    read: Mapping[UUID, Sequence[Reading]],
    evidence: _Evidence,
    shelf: Sequence[Material],
    prior: Mapping[str, LogRate],
    confirmed: frozenset[UUID],
) -> tuple[dict[UUID, ReadingCheck], NDArray[np.bool_]]:
    """Compare each reading with what the prior expects; say which of them are used.

    Returns
    -------
    (dict of UUID to ReadingCheck, ndarray of bool)
    """
    mean = np.array([prior[material.key].mean for material in shelf])
    spread = np.array([prior[material.key].variance for material in shelf])
    depth, slope, covariance = evidence.depths(mean[evidence.key])
    by_rate = (slope**2 * spread).sum(axis=2) + slope.sum(axis=2) ** 2 * PLOT_SPREAD.value**2
    error = np.sqrt(by_rate + np.diagonal(covariance, axis1=1, axis2=2))
    used = np.abs(evidence.depth - depth) <= UNLIKELY * error
    checks: dict[UUID, ReadingCheck] = {}
    for row, (plot_id, readings) in enumerate(read.items()):
        rows = zip(readings, depth[row].tolist(), error[row].tolist(), strict=False)
        for index, (reading, expected_mm, error_mm) in enumerate(rows):
            if reading.entry_id in confirmed:
                used[row, index] = True
            checks[reading.entry_id] = ReadingCheck(
                plot_id, reading.entry_id, reading.depth_mm, expected_mm, error_mm, used=bool(used[row, index])
            )
    return checks, used


def _posterior(
    read: Mapping[UUID, Sequence[Reading]],
    evidence: _Evidence,
    shelf: Sequence[Material],
    prior: Mapping[str, LogRate],
    checks: Mapping[UUID, ReadingCheck],
    misfits: Sequence[ReadingCheck],
) -> RatePosterior:
    mean = np.array([prior[material.key].mean for material in shelf])
    precision = np.diag([1 / prior[material.key].variance for material in shelf])
    plot_precision = 1 / PLOT_SPREAD.value**2
    shared, plot = mean.copy(), np.zeros(evidence.plots)
    used = evidence.used[:, :, None]
    for _ in range(MOST_STEPS):
        depth, slope, covariance = evidence.depths(shared[evidence.key] + plot[evidence.plot])
        # Columns: the slopes by material, and their sum, which is the plot's own.
        jacobian = np.where(used, np.concatenate([slope, slope.sum(axis=2, keepdims=True)], axis=2), 0.0)
        residual = np.where(evidence.used, evidence.depth - depth, 0.0)
        weighed = np.linalg.solve(covariance, np.concatenate([jacobian, residual[:, :, None]], axis=2))
        curvature = jacobian.transpose(0, 2, 1) @ weighed[:, :, :-1]
        pull = (jacobian.transpose(0, 2, 1) @ weighed[:, :, -1:])[:, :, 0]
        corner, cross = curvature[:, -1, -1] + plot_precision, curvature[:, :-1, -1]
        pull_plot = pull[:, -1] - plot_precision * plot
        # The plots' own parts are eliminated; what is left is one equation for each material.
        eliminated = (cross[:, :, None] * (cross / corner[:, None])[:, None, :]).sum(axis=0)
        reduced = curvature[:, :-1, :-1].sum(axis=0) - eliminated
        pull_shared = pull[:, :-1].sum(axis=0) - (cross * (pull_plot / corner)[:, None]).sum(axis=0)
        step = np.linalg.solve(reduced + precision, pull_shared - precision @ (shared - mean))
        step_plot = (pull_plot - cross @ step) / corner
        shared = np.clip(shared + step, -FURTHEST, FURTHEST)
        plot = np.clip(plot + step_plot, -FURTHEST, FURTHEST)
        if max(np.abs(step).max(), np.abs(step_plot).max()) < CLOSE:
            break
    shared_covariance = np.linalg.inv(reduced + precision)
    lever = -cross / corner[:, None]
    of_plot = 1 / corner + np.einsum("pm,mn,pn->p", lever, shared_covariance, lever)
    with_plot = lever @ shared_covariance
    keys = [material.key for material in shelf]
    pooled = {
        key: LogRate(float(shared[index]), float(shared_covariance[index, index])) for index, key in enumerate(keys)
    }
    messages = {key: known.less(prior[key]) for key, known in pooled.items()}
    counts = evidence.used.sum(axis=1).tolist()
    by_plot = {
        plot_id: {
            key: LogRate(
                float(shared[index] + plot[row]),
                float(shared_covariance[index, index] + of_plot[row] + 2 * with_plot[row, index]),
            )
            for index, key in enumerate(keys)
        }
        | {PLOT_ALONE: LogRate(float(plot[row]), float(of_plot[row]))}
        for row, plot_id in enumerate(read)
        if counts[row]
    }
    return RatePosterior(
        prior=prior,
        by_plot=by_plot,
        checks=checks,
        misfits=misfits,
        pooled=pooled,
        message={key: message for key, message in messages.items() if message is not None},
        readings=evidence.readings_by_material(keys),
        plot_readings={plot_id: counts[row] for row, plot_id in enumerate(read) if counts[row]},
    )
