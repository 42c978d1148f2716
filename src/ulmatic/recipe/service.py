"""The practice of a workspace."""

from ulmatic.accounts.scope import Scope
from ulmatic.core.recipe import PracticeChoices


def workspace_practice(scope: Scope) -> PracticeChoices:
    """Return what the workspace chose."""
    return PracticeChoices.model_validate(scope.member.workspace.practice)
