"""What each plot of a site gets: its practice, recipe, rule and windows."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from ulmatic.core.decay import pile_stage
from ulmatic.core.materials import Material, Stage
from ulmatic.core.recipe import PlannedPlot, Setting, practice_of, recipe_of
from ulmatic.core.schedule import Window, WindowKey, proposed_rule, windows_used
from ulmatic.core.site import Assumed, PlotRecipe, Site, SiteClimate, SitePlot, SiteState, material_of


def setting_of(plot: PlannedPlot, site: Site, assumed: Assumed, climate: SiteClimate) -> Setting:
    """Return what the recipe of a plot depends on, of the site already or not.

    Parameters
    ----------
    plot : PlannedPlot
    site : Site
    assumed : Assumed
    climate : SiteClimate

    Returns
    -------
    Setting
    """
    usual = material_of(site.usual or "", assumed.materials, site.usual, assumed.parameters)
    chosen = assumed.materials.get(plot.recipe.material or "")
    return Setting(
        practice=practice_of([*site.practices, plot.recipe.practice]),
        usual=usual,
        given_material=chosen,
        stage=_stage(plot.recipe.chipped_on, chosen or usual, assumed.day, climate),
        fire_district=site.fire_district,
        parameters=assumed.parameters,
    )


def setting_in(state: SiteState, plot: PlannedPlot) -> Setting:
    """Return what the recipe of a plot depends on that is not of the site yet, or typed anew.

    Parameters
    ----------
    state : SiteState
    plot : PlannedPlot

    Returns
    -------
    Setting
    """
    return setting_of(plot, state.site, state.assumed, state.climate)


def _stage(chipped_on: date | None, material: Material, day: date, climate: SiteClimate) -> Stage | None:
    return None if chipped_on is None else pile_stage(material, min(chipped_on, day), climate.clocks[0], day)


def recipes_of(site: Site, assumed: Assumed, climate: SiteClimate) -> dict[UUID, PlotRecipe]:
    """Return what each plot of a site gets; plots of the same choices share one setting.

    Parameters
    ----------
    site : Site
    assumed : Assumed
    climate : SiteClimate

    Returns
    -------
    dict of plot id to PlotRecipe
    """
    settings: dict[object, Setting] = {}
    recipes: dict[UUID, PlotRecipe] = {}
    for plot in site.plots:
        edits = plot.plot.recipe
        choices = (edits.practice, edits.material, edits.chipped_on)
        if choices not in settings:
            settings[choices] = setting_of(plot.plot, site, assumed, climate)
        recipes[plot.id] = plot_recipe(plot, settings[choices], climate.windows)
    return recipes


def plot_recipe(plot: SitePlot, setting: Setting, windows: Sequence[Window]) -> PlotRecipe:
    """Return what a plot gets: by its own rule, or the proposed one.

    Parameters
    ----------
    plot : SitePlot
    setting : Setting
    windows : sequence of Window
        Of the site.

    Returns
    -------
    PlotRecipe
    """
    practice = setting.practice
    rule = plot.rule or proposed_rule(plot.plot.use, practice, plot.plot.wanted_mm)
    used: frozenset[WindowKey] = (
        frozenset(window.key for window in windows) if rule.kind == "thin" else windows_used(practice.season, windows)
    )
    return PlotRecipe(setting, recipe_of(plot.plot, setting), rule, used)
