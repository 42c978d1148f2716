"""The proposal: depth, material and layers that follow from use, ground and practice, and the recipe with its edits."""

import math
from enum import StrEnum

from ulmatic.core.figures import Parameter
from ulmatic.core.materials import CATALOGUE, Material, Size, Stage
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.recipe.planned import PlannedPlot
from ulmatic.core.recipe.practice import Living, NitrogenView, Practice, Rhythm, Trunks, Underlay, Vegetables
from ulmatic.core.recipe.usual_depths import GROWING, USUAL_DEPTH
from ulmatic.core.survey import ExistingCover
from ulmatic.core.survey.shapes import Ring, trees_of
from ulmatic.core.survey.uses import Use
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value

COMPOST = read_parameter("recipe.compost")
THIN = read_parameter("recipe.thin")
BUILDING = read_parameter("recipe.building")
OVER_RUNNERS = read_parameter("recipe.runners")
FINE = read_parameter("recipe.fine")
LEAST = read_parameter("recipe.least")
LEAST_VEHICLE = read_parameter("recipe.least.vehicle_path")
LEAST_PLAY = read_parameter("recipe.least.play")
HUMUS_TO_PLANT = read_parameter("recipe.humus_to_plant")
LEAST_BY_USE = {Use.PLAY: LEAST_PLAY, Use.VEHICLE_PATH: LEAST_VEHICLE}
LEAST_SHARE = 0.6
"""Of the target, where the least depth of the use would be more: common practice, no source."""
COLLAR = read_parameter("recipe.collar")
GREEN_PART = 0.25
HOLDS_FROM_DEG = math.degrees(math.atan(1 / 4))
"""From this slope on shredded material is proposed: common practice, no source."""
GAPS_M = {
    Trunks.COUPLE_OF_INCHES: (0.05, 0.05),
    Trunks.HAND_AND_GUARD: (0.10, 0.10),
    Trunks.FOOT_WHILE_FRESH: (0.10, 0.30),
}
"""Kept clear at trunks, and while chips are fresh, by school: common practice, no source."""


class LayerRole(StrEnum):
    """What a layer is there for."""

    SHEET = "sheet"
    COMPOST = "compost"
    BIOCHAR = "biochar"
    MULCH = "mulch"
    GUARD = "guard"


class Layer(Value):
    """One layer; `settled_mm` is 0 for a sheet."""

    role: LayerRole
    material: Material
    settled_mm: float
    stage: Stage


class Proposal(Value):
    """What follows from use, ground and practice, with a reason for each part."""

    material: Material
    depth: Parameter
    cardboard: bool
    compost_mm: float
    laid_share: float
    reasons: tuple[str, ...]


class Recipe(Value):
    """Layers from the soil up, with the proposal they were edited from.

    Attributes
    ----------
    layers : tuple of Layer
        From the soil up.
    material : Material
        Of its mulch.
    target_mm, least_mm : float
        Settled depth wanted, and below which it is topped up.
    growing_mm : float
        Settled depth in rows with growing plants; the target but on vegetable beds.
    laid_share : float
        Share of the ground that is laid.
    gap_m, gap_least_m : float or None
        Clear at trunks, and what it should be at least; None without trunks.
    guards : int
        Trunk guards that are still to be put on.
    builds_up : bool
        Whether poor ground is built up here before anything is planted.
    overridden : tuple of str
        What differs from the proposal.
    """

    material: Material
    layers: tuple[Layer, ...]
    target_mm: float
    least_mm: float
    growing_mm: float
    laid_share: float
    gap_m: float | None
    gap_least_m: float | None
    guards: int
    builds_up: bool
    proposal: Proposal
    overridden: tuple[str, ...]
    practice: Practice


def least_depth(use: Use, target_mm: float, parameters: Parameters) -> float:
    """Return the settled depth in mm below which a plot is due.

    That of the use, or `LEAST_SHARE` of the target where this is less; a play area keeps the depth that is required.
    0 where nothing is laid.

    Parameters
    ----------
    use : Use
    target_mm : float
        Settled; of vegetable beds that round growing plants.
    parameters : Parameters

    Returns
    -------
    float
    """
    least = parameters.of(LEAST_BY_USE.get(use, LEAST)).value
    return min(least, target_mm if use is Use.PLAY else LEAST_SHARE * target_mm)


def builds_up(plot: PlannedPlot) -> bool:
    """Say whether a bed is poor ground that is built up before anything is planted: sand, clay, dead soil.

    Parameters
    ----------
    plot : PlannedPlot

    Returns
    -------
    bool
    """
    ground = plot.site_conditions
    poor = ground.soil == "dead" or (ground.soil in ("sand", "clay") and bool(ground.build_up or ground.compacted))
    return plot.use.record.bed and poor


def _proposed_depth(
    plot: PlannedPlot, practice: Practice, material: Material, parameters: Parameters, reasons: list[str]
) -> Parameter:
    usual, use, ground = USUAL_DEPTH[plot.use].proposed, plot.use, plot.site_conditions
    bare = usual.model_copy(update={"value": 0.0, "low": 0.0, "high": 0.0})
    cases = (
        (usual.value <= 0, usual, "Kept bare: nothing is laid here."),
        (
            use is Use.VEGETABLES and practice.vegetables is Vegetables.PATHS_ONLY,
            bare,
            "Your practice lays chips on paths only, not on vegetable beds.",
        ),
        (material.size is Size.FINE and material.woody, FINE, "Fine material packs: use a thin layer."),
        (
            ground.cover is ExistingCover.RUNNING_GRASS and not use.record.bed,
            OVER_RUNNERS,
            "Running grass needs a deep layer and more than one round.",
        ),
        (builds_up(plot), BUILDING, "Poor ground is built up first and left for some months before planting."),
        (
            (use.record.bed or use is Use.BANK) and practice.rhythm is Rhythm.THIN_OFTEN,
            THIN,
            "Thin and often: laid twice a year.",
        ),
        (True, usual, f"Usual depth for {use.label.lower()}."),
    )
    depth, reason = next((depth, reason) for holds, depth, reason in cases if holds)
    reasons.append(reason)
    return parameters.of(depth)


def _proposed_material(
    plot: PlannedPlot, practice: Practice, usual: Material, parameters: Parameters, reasons: list[str]
) -> Material:
    if plot.use is Use.VEGETABLES and practice.vegetables is Vegetables.STRAW:
        reasons.append("Your practice lays straw round vegetables.")
        return CATALOGUE["straw"].with_parameters(parameters)
    steep = plot.slope is not None and plot.slope.angle_deg >= HOLDS_FROM_DEG
    if steep and usual.size not in (Size.SHREDDED, Size.FIBROUS):
        reasons.append("On this slope shredded bark holds; chips slide.")
        return CATALOGUE["bark_shredded"].with_parameters(parameters)
    return usual


def propose(plot: PlannedPlot, practice: Practice, usual: Material, parameters: Parameters = SHIPPED) -> Proposal:
    """Propose a recipe.

    Parameters
    ----------
    plot : PlannedPlot
        Its edits are not looked at.
    practice : Practice
    usual : Material
        What the site lays where nothing speaks against it.
    parameters : Parameters

    Returns
    -------
    Proposal
    """
    reasons: list[str] = []
    material = _proposed_material(plot, practice, usual, parameters, reasons)
    depth = _proposed_depth(plot, practice, material, parameters, reasons)
    living = plot.use is Use.LAWN_TO_CONVERT or (
        plot.site_conditions.cover is not None and plot.site_conditions.cover.living
    )
    cardboard = living and practice.cover is Underlay.CARDBOARD and depth.value > 0
    if cardboard:
        reasons.append("Cardboard over existing growth, overlapped, so that it gets no light.")
    compost = practice.nitrogen is NitrogenView.CAUTIOUS and plot.use.record.bed and depth.value > 0
    if compost:
        reasons.append("Compost beneath, because your practice expects chips to tie up nitrogen.")
    share = 1.0
    is_whole = not isinstance(plot.shape, Ring) or plot.shape.part >= 1
    if plot.use.record.trees and is_whole and practice.rhythm is Rhythm.QUARTER:
        reasons.append("A quarter of the ring this year, the next quarter next year.")
    elif plot.use.record.trees and is_whole and practice.living is Living.KEEP_GREEN:
        share = 1 - GREEN_PART
        reasons.append("A quarter of the ring stays green.")
    return Proposal(
        material=material,
        depth=depth,
        cardboard=cardboard,
        compost_mm=parameters.of(COMPOST).value if compost else 0.0,
        laid_share=share,
        reasons=tuple(reasons),
    )


def recipe(
    plot: PlannedPlot,
    practice: Practice,
    usual: Material,
    own_material: Material | None = None,
    stage: Stage | None = None,
    existing_mm: float = 0.0,
    parameters: Parameters = SHIPPED,
) -> Recipe:
    """Return the recipe of a plot: the proposal with what was decided otherwise.

    Parameters
    ----------
    plot, practice, usual
        As for `propose`.
    own_material : Material, optional
        The material chosen for this plot.
    stage : Stage, optional
        How far it has rotted, where that follows from its age; else as edited, else fresh.
    existing_mm : float
        Settled depth of the mulch that lies there.
    parameters : Parameters

    Returns
    -------
    Recipe
    """
    proposal, edits = propose(plot, practice, usual, parameters), plot.recipe
    material = own_material or proposal.material
    cardboard = proposal.cardboard if edits.cardboard is None else edits.cardboard
    compost_mm = proposal.compost_mm if edits.compost_mm is None else edits.compost_mm
    share = proposal.laid_share if edits.laid_share is None or not plot.use.record.trees else edits.laid_share
    laid_stage = stage or edits.stage or Stage.FRESH
    layers = []
    if cardboard:
        layers.append(Layer(role=LayerRole.SHEET, material=CATALOGUE["cardboard"], settled_mm=0.0, stage=Stage.FRESH))
    if compost_mm > 0:
        compost = CATALOGUE["compost"].with_parameters(parameters)
        layers.append(Layer(role=LayerRole.COMPOST, material=compost, settled_mm=compost_mm, stage=Stage.DECOMPOSED))
    if edits.biochar_mm:
        char = CATALOGUE["biochar"].with_parameters(parameters)
        layers.append(Layer(role=LayerRole.BIOCHAR, material=char, settled_mm=edits.biochar_mm, stage=Stage.AGED))
    mulch_mm = max(0.0, plot.wanted_mm - existing_mm)
    if mulch_mm > 0:
        layers.append(Layer(role=LayerRole.MULCH, material=material, settled_mm=mulch_mm, stage=laid_stage))
    differs = {
        "material": material.key != proposal.material.key,
        "wanted_mm": abs(plot.wanted_mm - proposal.depth.value) > 3,
        "cardboard": cardboard != proposal.cardboard,
        "compost_mm": compost_mm != proposal.compost_mm,
        "laid_share": share != proposal.laid_share,
    }
    trees = trees_of(plot.shape)
    growing_mm = _growing_depth(plot, parameters)
    guarded = (
        practice.trunks is Trunks.HAND_AND_GUARD and plot.use is Use.YOUNG_TREE and not plot.site_conditions.guarded
    )
    return Recipe(
        material=material,
        layers=tuple(layers),
        target_mm=plot.wanted_mm,
        least_mm=least_depth(plot.use, growing_mm, parameters),
        growing_mm=growing_mm,
        laid_share=share,
        gap_m=getattr(plot.shape, "gap_m", None) if trees else None,
        gap_least_m=GAPS_M[practice.trunks][laid_stage is Stage.FRESH and material.woody] if trees else None,
        guards=trees if guarded and plot.wanted_mm > 0 else 0,
        builds_up=builds_up(plot),
        proposal=proposal,
        overridden=tuple(key for key, different in differs.items() if different),
        practice=practice,
    )


def _growing_depth(plot: PlannedPlot, parameters: Parameters) -> float:
    """Return the settled depth round growing plants: on vegetable beds as said or as usual, never above the target.

    Returns
    -------
    float
    """
    if plot.use is not Use.VEGETABLES:
        return plot.wanted_mm
    growing_mm = plot.recipe.growing_mm
    return min(plot.wanted_mm, parameters.of(GROWING).value if growing_mm is None else growing_mm)
