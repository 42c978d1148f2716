"""What several words say of a plan in few words: its seasons, what plots accept, how loads stand on tips."""

from collections.abc import Mapping, Sequence
from uuid import UUID

from ulmatic.core.materials.material import Material, Stage
from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.recipe.acceptance import Accepted
from ulmatic.core.stock.pile_shape import TipPlan, tip_plan
from ulmatic.core.survey import Way
from ulmatic.records.survey import LandmarkRow
from ulmatic.site.schemas import AcceptedOut, LandmarkOut, SeasonName


def season_names(plan: SitePlan) -> list[SeasonName]:
    """Return the seasons that can be asked for."""
    return [SeasonName(key=season.key, name=season.name) for season in plan.seasons]


def accepted_out(accepted: Accepted, materials: Mapping[str, Material]) -> AcceptedOut:
    """Return what may be laid, with names."""
    keys = sorted(key for key in accepted.materials if key in materials)
    return AcceptedOut(
        materials=keys,
        names=[materials[key].name for key in keys],
        stages=sorted(accepted.stages, key=list(Stage).index),
    )


def tip_plans(plan: SitePlan, load_m3: float) -> list[TipPlan]:
    """Return how a load stands on each tip."""
    names = {landmark.id: landmark.name for landmark in plan.state.site.landmarks}
    return [
        tip_plan(names[key], load_m3, tip.length_m, tip.width_m, tip.to_wall_m)
        for key, tip in plan.state.ground.tips.items()
    ]


def stands(landmarks: Sequence[LandmarkRow], landmark_id: UUID | None, volume_m3: float) -> TipPlan | None:
    """Say how a volume stands on a tip or pile place; None where that has no size."""
    row = next((landmark for landmark in landmarks if landmark.id == landmark_id), None)
    if row is None:
        return None
    where = LandmarkOut.model_validate(row).landmark
    if isinstance(where, Way):
        return None
    return tip_plan(row.name, volume_m3, where.length_m, where.width_m, where.to_wall_m)
