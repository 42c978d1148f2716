"""What the errand routes answer."""

from typing import Literal
from uuid import UUID

from pydantic import BaseModel

from ulmatic.platform.problems import FieldError
from ulmatic.records.errands import ErrandRow
from ulmatic.site.schemas import Import, SiteOut


class ErrandProblem(BaseModel):
    """Why an errand could not be done, as a request would have been refused."""

    status: int
    detail: str
    errors: list[FieldError]


class ErrandOut(BaseModel):
    """Something that is done after a request; `done` of `of` pieces, where it has pieces."""

    id: UUID
    kind: str
    state: Literal["waiting", "running", "done", "refused"]
    done: int
    of: int
    problem: ErrandProblem | None
    result: Import | SiteOut | None


def errand_out(row: ErrandRow) -> ErrandOut:
    """Return how far an errand is."""
    return ErrandOut.model_validate(row, from_attributes=True)
