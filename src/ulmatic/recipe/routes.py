"""Routes for practices."""

from pydantic import BaseModel

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.recipe import QUESTIONS, Practice, PracticeChoices
from ulmatic.core.recipe.practice import SchoolQuestion
from ulmatic.platform.routing import api_router
from ulmatic.recipe.service import workspace_practice

router = api_router("recipe")
PRACTICE = "/workspaces/{workspace_id}/practice"


class PracticeQuestions(BaseModel):
    """What practitioners disagree about, and the answers that are shipped."""

    questions: list[SchoolQuestion]
    shipped: Practice


@router.get("/practices", tags=["reference"])
def list_practices() -> PracticeQuestions:
    """List the questions with their schools."""
    return PracticeQuestions(questions=list(QUESTIONS), shipped=Practice())


@router.get(PRACTICE)
def read_practice(scope: ViewerScope) -> PracticeChoices:
    """Return what the workspace chose; null where it keeps what is shipped."""
    return workspace_practice(scope)


@router.put(PRACTICE)
def change_practice(entry: PracticeChoices, scope: CrewScope) -> PracticeChoices:
    """Choose for the whole workspace."""
    scope.member.workspace.practice = entry.model_dump(mode="json", exclude_none=True)
    scope.commit()
    return workspace_practice(scope)
