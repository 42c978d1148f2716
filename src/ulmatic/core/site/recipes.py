"""What each plot of a site gets: its practice, recipe, rule, windows, and the materials that it accepts."""

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from ulmatic.core.decay import heap_stage
from ulmatic.core.materials import Material, Stage
from ulmatic.core.recipe import (
    Accepted,
    PlannedPlot,
    Practice,
    PracticeChoices,
    Recipe,
    Setting,
    accepted,
    practice_of,
    recipe_of,
)
from ulmatic.core.schedule import Rule, WindowKey, proposed_rule, windows_used
from ulmatic.core.site.place import SitePlace
from ulmatic.core.site.site import SitePlot


@dataclass(frozen=True)
class SiteRecipes(SitePlace):
    """What the plots of a site get."""

    @cached_property
    def _settings(self) -> dict[tuple[PracticeChoices, str | None, date | None], Setting]:
        return {}

    @cached_property
    def _recipes(self) -> dict[int, tuple[PlannedPlot, Setting, Recipe]]:
        """By the identity of plots, which are kept with them: to compare plots by value takes longer than all else."""
        return {}

    def _recipe(self, plot: PlannedPlot) -> tuple[PlannedPlot, Setting, Recipe]:
        known = self._recipes.get(id(plot))
        if known is None:
            setting = self.setting_of(plot)
            known = self._recipes[id(plot)] = (plot, setting, recipe_of(plot, setting))
        return known

    def setting(self, plot: PlannedPlot) -> Setting:
        """Return what the recipe of a plot depends on; the same object for plots of the same choices."""
        return self._recipe(plot)[1]

    def planned(self, plot: PlannedPlot) -> Recipe:
        """Return the recipe of a plot, from bare ground."""
        return self._recipe(plot)[2]

    def setting_of(self, plot: PlannedPlot) -> Setting:
        """Return the same of a plot that is not of this site, without remembering it."""
        alike = (plot.recipe.practice, plot.recipe.material, plot.recipe.chipped_on)
        if alike not in self._settings:
            site, own = self.site, self.site.materials.get(plot.recipe.material or "")
            usual = site.material(site.usual or "")
            self._settings[alike] = Setting(
                practice=practice_of([*site.practices, plot.recipe.practice]),
                usual=usual,
                own=own,
                stage=self._stage(plot, own or usual),
                fire_district=site.fire_district,
                parameters=site.parameters,
            )
        return self._settings[alike]

    def _stage(self, plot: PlannedPlot, material: Material) -> Stage | None:
        chipped = plot.recipe.chipped_on
        if chipped is None:
            return None
        return heap_stage(material, min(chipped, self.day), self.clocks[0], self.day)

    def practice(self, plot: PlannedPlot) -> Practice:
        """Return the practice that holds for a plot."""
        return self.setting(plot).practice

    def rule(self, plot: SitePlot) -> Rule:
        """Return the rule by which a plot is laid: its own, or the proposed one."""
        return plot.rule or proposed_rule(plot.plot.use, self.practice(plot.plot), plot.plot.wanted_mm)

    def windows_used(self, plot: SitePlot) -> frozenset[WindowKey]:
        """Return the windows that a plot uses, by its practice and rule."""
        if self.rule(plot).kind == "thin":
            return frozenset(window.key for window in self.windows)
        return windows_used(self.practice(plot.plot).season, self.windows)

    @cached_property
    def offered(self) -> list[Material]:
        """All materials that lie here, are coming, or can be had."""
        keys = [supplier.source.material for supplier in self.site.suppliers]
        keys += [delivery.material for delivery in self.site.deliveries if delivery.state != "cancelled"]
        return [self.site.materials[key] for key in sorted(set(keys)) if key in self.site.materials]

    @cached_property
    def _accepts(self) -> dict[int, Accepted]:
        return {}

    def accepts(self, plot: PlannedPlot) -> Accepted:
        """Return what may be laid on a plot as mulch."""
        setting = self.setting(plot)
        if id(plot) not in self._accepts:
            self._accepts[id(plot)] = accepted(plot, setting, self.offered)
        return self._accepts[id(plot)]
