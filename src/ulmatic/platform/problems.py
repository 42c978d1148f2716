"""Errors as people and programs read them: RFC 9457 problem details with a plain sentence, and the field meant."""

from collections.abc import Sequence
from http import HTTPStatus
from typing import Any, ClassVar

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeoutError
from starlette.exceptions import HTTPException

log = structlog.get_logger()


class FieldError(BaseModel):
    """What is wrong with one field; `field` is its dotted path, such as ``shape.length_m``."""

    field: str
    detail: str


class ProblemDetails(BaseModel):
    """An RFC 9457 problem."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldError] = []
    request_id: str | None = None


class Problem(Exception):
    """Raised anywhere in the application to answer with a problem.

    Parameters
    ----------
    status : int
        HTTP status.
    detail : str
        A sentence a gardener understands.
    field : str, optional
        The field it is about.
    headers : dict, optional
        Added to the answer.
    fault : str, optional
        What is wrong on our side, as the log says it: ``busy``, ``database``, ``program``.
    """

    def __init__(
        self,
        status: int,
        detail: str,
        field: str | None = None,
        headers: dict[str, str] | None = None,
        fault: str | None = None,
    ) -> None:
        super().__init__(detail)
        self.status, self.detail, self.headers, self.fault = status, detail, headers, fault
        self.errors = [FieldError(field=field, detail=detail)] if field else []


def not_found(noun: str = "page") -> Problem:
    """Return the one answer for what does not exist and for what belongs to somebody else."""
    return Problem(404, f"There is no such {noun} here.")


def answer(
    request: Request,
    status: int,
    detail: str,
    errors: Sequence[FieldError] = (),
    headers: dict[str, str] | None = None,
) -> JSONResponse:
    """Return a problem as a response."""
    problem = ProblemDetails(
        title=HTTPStatus(status).phrase,
        status=status,
        detail=detail,
        errors=list(errors),
        request_id=getattr(request.state, "request_id", None),
    )
    return JSONResponse(
        problem.model_dump(exclude_none=True), status, headers=headers, media_type="application/problem+json"
    )


class Sentences:
    """Plain sentences for what Pydantic finds."""

    TAGGED: ClassVar[set[str]] = {"shape", "landmark", "climate", "source", "measured", "entry", "rule"}
    """Fields of several kinds, which Pydantic follows with the tag of the kind."""
    BY_TYPE: ClassVar[dict[str, str]] = {
        "missing": "This is needed.",
        "string_too_short": "This is needed.",
        "string_too_long": "This is too long: {max_length} characters at most.",
        "string_type": "Please type text.",
        "string_unicode": "This contains a character that cannot be stored. Please type it again.",
        "int_parsing": "Please type a whole number.",
        "int_from_float": "Please type a whole number.",
        "int_type": "Please type a whole number.",
        "float_parsing": "Please type a number.",
        "float_type": "Please type a number.",
        "finite_number": "Please type a number.",
        "greater_than_equal": "This must be at least {ge}.",
        "less_than_equal": "This must be at most {le}.",
        "greater_than": "This must be more than {gt}.",
        "enum": "Please choose one from the list.",
        "literal_error": "Please choose one from the list.",
        "union_tag_not_found": "Please choose one from the list.",
        "extra_forbidden": "This field is not expected here.",
        "union_tag_invalid": "Please choose one from the list.",
        "too_short": "At least {min_length} is needed.",
        "too_long": "At most {max_length} are possible.",
        "uuid_parsing": "This address is not complete.",
        "json_invalid": "The request could not be read.",
    }

    @classmethod
    def _path(cls, loc: Sequence[str | int]) -> list[str]:
        """Return a location without the tags that Pydantic puts behind fields of several kinds."""
        path: list[str] = []
        tag_follows = False
        for step in loc:
            if not tag_follows:
                path.append(str(step))
            tag_follows = not tag_follows and (
                step in cls.TAGGED or (isinstance(step, int) and path[-2:-1] == ["cut_outs"])
            )
        return path

    @classmethod
    def of(cls, error: dict[str, Any]) -> FieldError:
        """Return the sentence for one of Pydantic's findings, with the path of its field."""
        context = error.get("ctx", {})
        path = cls._path(error["loc"][1:])
        if context.get("field"):
            path.append(str(context["field"]))
        if path[-1:] == ["[key]"]:
            path.pop()
        sentence = cls.BY_TYPE.get(error["type"])
        if sentence is None:
            detail = error["msg"] if error["type"] in ("measure", "text", "value") else "This is not valid."
        else:
            bounds = {
                name: f"{bound:,.12g}" if isinstance(bound, float | int) else bound for name, bound in context.items()
            }
            detail = sentence.format(**bounds)
        return FieldError(field=".".join(path), detail=detail)


def install(app: FastAPI) -> None:
    """Make `app` answer every error as a problem."""

    @app.exception_handler(Problem)
    def _problem(request: Request, error: Problem) -> JSONResponse:
        if error.fault:
            request.state.fault = error.fault
        return answer(request, error.status, error.detail, error.errors, error.headers)

    @app.exception_handler(HTTPException)
    def _http(request: Request, error: HTTPException) -> Response:
        if error.status_code == HTTPStatus.NOT_MODIFIED:
            return Response(status_code=error.status_code)
        details = {
            404: "There is nothing at this address.",
            405: "This is not possible here.",
            400: "The request could not be read.",
        }
        return answer(
            request,
            error.status_code,
            details.get(error.status_code, str(error.detail)),
            headers=dict(error.headers or {}),
        )

    @app.exception_handler(RequestValidationError)
    def _invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        # What is wrong within a list leaves it too short for Pydantic; that is no second fault.
        places = [finding["loc"] for finding in error.errors()]
        faults = [
            finding
            for finding in error.errors()
            if finding["type"] != "too_short"
            or not any(place != finding["loc"] and place[: len(finding["loc"])] == finding["loc"] for place in places)
        ]
        # A body that two readers of a route ask for is by_words wrong twice.
        by_words = {(sentence.field, sentence.detail): sentence for sentence in map(Sentences.of, faults)}
        sentences = list(by_words.values())
        detail = sentences[0].detail if len(sentences) == 1 else f"{len(sentences)} entries need correction."
        unreadable = any(finding["type"] == "json_invalid" for finding in error.errors())
        return answer(request, 400 if unreadable else 422, detail, sentences)

    def _no_database(request: Request, error: Exception) -> JSONResponse:
        cause = getattr(error, "orig", None) or error
        # Class and first line say which fault: no server, no place in it, a full disk, no free connection.
        log.warning("database_unavailable", error=type(cause).__name__, words=str(cause).partition("\n")[0][:200])
        request.state.fault = "database"
        return answer(
            request,
            503,
            "The server cannot reach its database. Nothing you typed is lost. Ulmatic tries again automatically.",
            headers={"Retry-After": "2"},
        )

    for kind in (OperationalError, InterfaceError, PoolTimeoutError):
        app.add_exception_handler(kind, _no_database)

    @app.exception_handler(DBAPIError)
    def _database_refused(request: Request, error: DBAPIError) -> JSONResponse:
        if error.connection_invalidated:
            return _no_database(request, error)
        log.error("database_refused", error=str(error.orig))
        return answer(request, 409, "This conflicts with existing data. Reload and try again.")
