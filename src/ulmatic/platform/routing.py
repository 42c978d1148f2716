"""Where routes of the API are put: each is built once, with its address and what it may answer."""

import warnings
from typing import Any

from fastapi import APIRouter
from fastapi.routing import APIRoute
from pydantic.warnings import UnsupportedFieldAttributeWarning

# FastAPI says nothing of it either, where it builds what checks a body at once and not when it is first used.
warnings.simplefilter("ignore", UnsupportedFieldAttributeWarning)

PROBLEM: dict[str, Any] = {
    "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/ProblemDetails"}}},
}
_STATUSES = {
    400: "The request could not be read",
    401: "Not signed in",
    403: "Not allowed",
    404: "Not found",
    409: "Does not fit",
    412: "Changed in the meantime",
    413: "Too much at once",
    422: "Entries need correction",
    428: "If-Match is missing",
    429: "Too many attempts",
    503: "The database does not answer",
}


def name_of(route: APIRoute) -> str:
    """Return what an operation is called in the description of the API."""
    return route.name


def api_router(tag: str) -> APIRouter:
    """Return where the routes of a word are put.

    Parameters
    ----------
    tag : str
        The word, under which they stand in the description of the API.
    """
    return APIRouter(
        prefix="/api/v1",
        tags=[tag],
        responses={status: {**PROBLEM, "description": words} for status, words in _STATUSES.items()},
        generate_unique_id_function=name_of,
    )
