"""What readings taught, as figures: prior, readings alone and result, with a working whose formula holds."""

import math

from ulmatic.core.decay.layers import NORMAL_90
from ulmatic.core.decay.learning import LogRate, readings_counted
from ulmatic.core.figures import Figure, Mark, Source, Term, Working
from ulmatic.core.materials import Material


def rate_figure(material: Material, prior: LogRate, posterior: LogRate, readings: int) -> Figure:
    """Return the factor on a material's rate after its readings, with prior, data and posterior as its working.

    Parameters
    ----------
    material : Material
    prior : LogRate
    posterior : LogRate
    readings : int

    Returns
    -------
    Figure
    """

    def factor(name: str, rate: LogRate, text: str) -> Figure:
        value, edge = math.exp(rate.mean), math.exp(NORMAL_90 * rate.spread)
        source = Source(mark=Mark.COMPUTED, text=text)
        return Figure(name=name, value=value, unit="factor", low=value / edge, high=value * edge, source=source)

    before = factor("Prior", prior, "Before any reading of this site: what is shipped, and what other sites teach.")
    data = posterior.less(prior)
    evidence = None if data is None else factor("Readings alone", data, "What the readings say by themselves.")
    after = factor(
        f"Decay of {material.name.lower()}, against the shipped rate",
        posterior,
        "Mode of the posterior with its 80 % interval (Laplace): log-normal prior, normal reading errors.",
    )
    working = weighing(
        before, evidence, posterior.variance / prior.variance, f"{readings_counted(readings)} used.", powers=True
    )
    return after.model_copy(update={"working": working})


def weighing(prior: Figure, data: Figure | None, weight: float, note: str, *, powers: bool) -> Working:
    """Return the working of a figure in which prior and readings are weighed by their certainty.

    Parameters
    ----------
    prior : Figure
    data : Figure or None
        What the readings say by themselves; None where they say nothing.
    weight : float
        Of the prior, 0 to 1.
    note : str
    powers : bool
        Whether logarithms are weighed: the figures then are powers of each other.

    Returns
    -------
    Working
    """
    terms = [Term(symbol="x₀", figure=prior)]
    if data is None:
        return Working(formula=("x₀",), terms=tuple(terms), note=note)
    source = Source(mark=Mark.COMPUTED, text="Certainty (one over the variance) of the prior, as a share of both.")
    share = Figure(name="Weight of the prior", value=weight, unit="1", source=source)
    terms += [Term(symbol="w", figure=share), Term(symbol="xᵣ", figure=data)]
    formula = (
        ("x₀", " ^ ", "w", " × ", "xᵣ", " ^ (1 − ", "w", ")")
        if powers
        else ("w", " × ", "x₀", " + (1 − ", "w", ") × ", "xᵣ")
    )
    return Working(formula=formula, terms=tuple(terms), note=note)
