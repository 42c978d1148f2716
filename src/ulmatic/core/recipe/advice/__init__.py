"""Advice on a recipe: what goes wrong with it, why, who says so, and what to change."""

from collections.abc import Iterable

from ulmatic.core.recipe.advice import ground_rules, material_rules, people, plant_rules
from ulmatic.core.recipe.advice.model import ACT, NOTE, RULES, STOP, WATCH, Advice, Case, Fix, Rule, Severity

_ROOMS = (material_rules, plant_rules, ground_rules, people)
"""Importing them fills `RULES`."""
_WEIGHT = {STOP: 0, ACT: 1, WATCH: 2, NOTE: 3}


def advise(case: Case, rules: Iterable[Rule] = RULES) -> tuple[Advice, ...]:
    """Return the advice that fits, the gravest first.

    Parameters
    ----------
    case : Case
        A plot with its recipe.
    rules : iterable of Rule

    Returns
    -------
    tuple of Advice
    """
    fired = [rule for rule in rules if rule.when(case)]
    fired.sort(key=lambda rule: _WEIGHT[rule.severity])
    return tuple(
        Advice(
            rule=advice.key,
            severity=advice.severity,
            says=advice.says,
            because=advice.because,
            change=advice.change,
            school=advice.school,
            source=advice.source,
            fix=advice.fix,
        )
        for advice in fired
    )


def advice_table() -> str:
    """Return every rule as a Markdown table.

    Returns
    -------
    str
    """
    rows = ["| rule | weight | says | because | source | school |", "|---|---|---|---|---|---|"]
    rows += [
        f"| {rule.key} | {rule.severity.value} | {rule.says} | {rule.because} | {rule.source.text} | {rule.school or ''} |"
        for rule in RULES
    ]
    return "\n".join(rows).replace("{", "").replace("}", "") + "\n"
