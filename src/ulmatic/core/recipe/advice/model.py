"""What advice is made of: rules, the case they look at, and what they then say."""

from collections.abc import Callable
from enum import StrEnum

from pydantic import ConfigDict

from ulmatic.core.figures import Mark, Source
from ulmatic.core.materials import Hazard, Material, Stage
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import Practice
from ulmatic.core.recipe.proposal import LayerRole, Recipe
from ulmatic.core.survey.uses import Use
from ulmatic.core.value import Value


class Severity(StrEnum):
    """How much it matters: stop (do not do this), act (change it), watch (keep an eye on it), note (good to know)."""

    STOP = "stop"
    ACT = "act"
    WATCH = "watch"
    NOTE = "note"


class Fix(Value):
    """A change that answers the advice: the recipe field and its new value, as it would be typed."""

    field: str
    value: str | bool
    label: str


class Advice(Value):
    """One piece of advice.

    `says`, `because` and `change` may hold lengths and depths as ``{75 mm}`` or ``{0.3 m}``, to be shown in the
    reader's units.
    """

    rule: str
    severity: Severity
    says: str
    because: str
    change: str
    school: str | None
    source: Source
    fix: Fix | None


class Case(Value):
    """What rules look at: the plot, its recipe, what the site knows, and what is feared of loads that lie there."""

    plot: PlannedPlot
    recipe: Recipe
    material: Material
    stage: Stage
    existing_mm: float = 0.0
    fire_district: bool = False
    worries: frozenset[Hazard] = frozenset()

    @property
    def practice(self) -> Practice:
        """The practice here."""
        return self.recipe.practice

    @property
    def use(self) -> Use:
        """The plot's use."""
        return self.plot.use

    @property
    def laid_mm(self) -> float:
        """Depth of mulch that is laid now."""
        return sum(layer.settled_mm for layer in self.recipe.layers if layer.role is LayerRole.MULCH)

    @property
    def lays(self) -> bool:
        """Whether anything is laid."""
        return self.laid_mm > 0

    @property
    def slope_deg(self) -> float:
        """The plot's slope."""
        return self.plot.slope.angle_deg if self.plot.slope else 0.0

    def has(self, role: LayerRole) -> bool:
        """Whether the recipe has a layer of that role.

        Returns
        -------
        bool
        """
        return any(layer.role is role for layer in self.recipe.layers)

    def brings(self, hazard: Hazard) -> bool:
        """Whether the mulch may bring that.

        Returns
        -------
        bool
        """
        return self.lays and hazard in self.material.hazards

    def near_building(self, metres: float) -> bool:
        """Whether a building is known to be nearer than that.

        Returns
        -------
        bool
        """
        distance_m = self.plot.site_conditions.to_building_m
        return distance_m is not None and distance_m < metres


Test = Callable[[Case], bool]


class Rule(Value):
    """A rule: when it fires, and what it then says."""

    model_config = ConfigDict(arbitrary_types_allowed=True)
    key: str
    severity: Severity
    when: Test
    says: str
    because: str
    change: str
    source: Source
    school: str | None = None
    fix: Fix | None = None


PRACTICE = Source(mark=Mark.COMMON_PRACTICE, text="Common practice, no published source.")


def from_memory(text: str) -> Source:
    """Return a named source that was not looked up again.

    Parameters
    ----------
    text : str
        Author, year, title.

    Returns
    -------
    Source
    """
    return Source(mark=Mark.FROM_MEMORY, text=f"{text}; from memory.")


RULES: list[Rule] = []
"""All rules, in the order in which they are looked at."""


def rule(
    severity: Severity,
    key: str,
    says: str,
    because: str,
    change: str,
    *,
    source: Source = PRACTICE,
    school: str | None = None,
    fix: Fix | None = None,
) -> Callable[[Test], Test]:
    """Return a decorator that makes a rule of a test: when it holds, the rule says so.

    Parameters
    ----------
    severity : Severity
    key : str
        Identifier.
    says : str
        What it says.
    because : str
        Why.
    change : str
        What to do.
    source : Source
        Where it comes from.
    school : str or None
        Who says so, where schools differ.
    fix : Fix or None

    Returns
    -------
    callable
    """

    def keep(when: Test) -> Test:
        RULES.append(
            Rule(
                key=key,
                severity=severity,
                when=when,
                says=says,
                because=because,
                change=change,
                source=source,
                school=school,
                fix=fix,
            )
        )
        return when

    return keep


def fix_of(field: str, value: str | bool, label: str) -> Fix:
    """Return a change that answers the advice.

    Parameters
    ----------
    field : str
    value : str or bool
    label : str
        Of the button.

    Returns
    -------
    Fix
    """
    return Fix(field=field, value=value, label=label)


STOP, ACT, WATCH, NOTE = Severity.STOP, Severity.ACT, Severity.WATCH, Severity.NOTE
