"""What the recipes of a workspace depend on: materials, practices, climate and today."""

from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from typing import Any

from ulmatic.accounts.scope import Scope
from ulmatic.core.climate.normals import ClimateClass, GenericClimate, Normals
from ulmatic.core.decay import climate_factor, stage_after
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Material, Stage
from ulmatic.core.recipe import PlannedPlot, PracticeChoices, Setting, practice_of
from ulmatic.materials import service as materials

NO_CLIMATE = GenericClimate(name=ClimateClass.COOL_MARITIME).normals()
"""Stands in where a site names no climate, to tell the stage of a material by its age."""


@dataclass(frozen=True)
class Around:
    """What plots of one site share."""

    shelf: materials.Shelf
    practices: tuple[PracticeChoices, ...]
    usual: Material
    fire_district: bool
    normals: Normals
    today: date
    _settings: dict[tuple[PracticeChoices, str | None, date | None], Setting] = field(default_factory=dict)

    def setting(self, plot: PlannedPlot) -> Setting:
        """Return what the recipe of `plot` depends on; the same object for plots of the same choices."""
        alike = (plot.recipe.practice, plot.recipe.material, plot.recipe.chipped_on)
        if alike not in self._settings:
            own = self.shelf.get(plot.recipe.material or "")
            self._settings[alike] = Setting(
                practice=practice_of([*self.practices, plot.recipe.practice]),
                usual=self.usual,
                own=own,
                stage=self._stage(plot, own or self.usual),
                fire_district=self.fire_district,
            )
        return self._settings[alike]

    def _stage(self, plot: PlannedPlot, material: Material) -> Stage | None:
        chipped = plot.recipe.chipped_on
        if chipped is None:
            return None
        return stage_after(material, max(0, (self.today - chipped).days), climate_factor(self.normals))


def workspace_practice(scope: Scope) -> PracticeChoices:
    """Return what the workspace chose."""
    return PracticeChoices.model_validate(scope.member.workspace.practice)


def around(
    scope: Scope, practice: dict[str, Any], material: str | None, fire_district: bool, normals: Normals | None
) -> Around:
    """Return what plots of a site share, from the site's own choices."""
    shelf = materials.shelf(scope)
    return Around(
        shelf=shelf,
        practices=(workspace_practice(scope), PracticeChoices.model_validate(practice)),
        usual=shelf.get(material or "") or CATALOGUE[USUAL_MATERIAL],
        fire_district=fire_district,
        normals=normals or NO_CLIMATE,
        today=datetime.now(UTC).date(),
    )
