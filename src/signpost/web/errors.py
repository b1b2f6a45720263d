"""Errors of the lower layers as problem details (RFC 9457): one table."""

from __future__ import annotations

import logging
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DataError, InterfaceError, OperationalError, PendingRollbackError
from sqlalchemy.exc import TimeoutError as PoolTimeoutError
from starlette.exceptions import HTTPException

from signpost.core.text.errors import InputError, PlanError, RequestError, SignpostError, StaleError
from signpost.desk.errors import ConflictError, DeskError, NotThereError, TooMuchError, UnsureError
from signpost.store.database import DISK_FULL
from signpost.store.limits import SiteFullError

_log = logging.getLogger(__name__)


class RefusedError(Exception):
    """What another process refused: the status and the message."""

    def __init__(self, status: HTTPStatus, detail: str) -> None:
        self.status = status
        super().__init__(detail)


#: What is raised for values that cannot be stored or sent.
_VALUES = (DataError, UnicodeEncodeError)
#: What SQLAlchemy raises where the database does not answer, was stopped, or has no connection left.
_UNANSWERED = (OperationalError, InterfaceError, PendingRollbackError, PoolTimeoutError)
#: The first class that fits decides.
STATUSES: tuple[tuple[type[Exception], HTTPStatus], ...] = (
    (NotThereError, HTTPStatus.NOT_FOUND),
    (ConflictError, HTTPStatus.CONFLICT),
    (StaleError, HTTPStatus.CONFLICT),
    (TooMuchError, HTTPStatus.REQUEST_ENTITY_TOO_LARGE),
    (InputError, HTTPStatus.UNPROCESSABLE_ENTITY),
    (RequestError, HTTPStatus.UNPROCESSABLE_ENTITY),
    (PlanError, HTTPStatus.INTERNAL_SERVER_ERROR),
    (DataError, HTTPStatus.UNPROCESSABLE_ENTITY),
    (UnicodeEncodeError, HTTPStatus.UNPROCESSABLE_ENTITY),  # of one half of a surrogate pair, which JSON can bring
    *((kind, HTTPStatus.SERVICE_UNAVAILABLE) for kind in _UNANSWERED),
    (UnsureError, HTTPStatus.SERVICE_UNAVAILABLE),
    (SiteFullError, HTTPStatus.INSUFFICIENT_STORAGE),
)

_HIDDEN = {
    HTTPStatus.INTERNAL_SERVER_ERROR: "Something went wrong in the program; nothing was written. It is in the log.",
    HTTPStatus.SERVICE_UNAVAILABLE: "The database does not answer; nothing was written. Try again in a moment.",
}
#: What the database said, by its SQLSTATE (PostgreSQL, appendix A).
_STATES = {
    DISK_FULL: "The disk of the database is full; nothing was written. Make room and try again.",
    "40P01": "Two changes got in each other's way, and this one was not made. Try again.",
    "40001": "Another change came first, and this one was not made. Try again.",
}
_READ_ONLY = "25006"


_PROBLEM_SCHEMA = {
    "type": "object",
    "title": "Problem",
    "required": ["type", "title", "status", "detail"],
    "properties": {
        "type": {"type": "string"},
        "title": {"type": "string"},
        "status": {"type": "integer"},
        "detail": {"type": "string"},
    },
}
#: What any request may be answered with when it is not done, as the application describes itself.
REFUSALS: dict[int | str, dict[str, Any]] = {
    status.value: {
        "description": status.phrase,
        "content": {"application/problem+json": {"schema": _PROBLEM_SCHEMA}},
    }
    for status in (
        HTTPStatus.BAD_REQUEST,
        HTTPStatus.UNAUTHORIZED,
        HTTPStatus.FORBIDDEN,
        HTTPStatus.NOT_FOUND,
        HTTPStatus.CONFLICT,
        HTTPStatus.REQUEST_ENTITY_TOO_LARGE,
        HTTPStatus.UNPROCESSABLE_ENTITY,
        HTTPStatus.SERVICE_UNAVAILABLE,
        HTTPStatus.INSUFFICIENT_STORAGE,
    )
}


def problem(status: HTTPStatus, detail: str) -> JSONResponse:
    """Return a problem-details response."""
    body = {"type": "about:blank", "title": status.phrase, "status": status.value, "detail": detail}
    return JSONResponse(body, status.value, media_type="application/problem+json")


def explain(error: Exception) -> tuple[HTTPStatus, str]:
    """Return the status of an error and its message; one that is no caller's fault goes to the log."""
    if isinstance(error, RefusedError):
        return error.status, str(error)
    if getattr(getattr(error, "orig", None), "sqlstate", None) == _READ_ONLY:
        detail = "This is a copy that only reads; nothing was written. Make the change at the original."
        return HTTPStatus.SERVICE_UNAVAILABLE, detail
    status = next((status for kind, status in STATUSES if isinstance(error, kind)), None)
    status = status or HTTPStatus.INTERNAL_SERVER_ERROR
    if status in _HIDDEN:
        _log.error("request failed", exc_info=error)
    if isinstance(error, UnsureError):
        return status, str(error)
    if isinstance(error, DataError | UnicodeEncodeError):
        return status, "The request contains a number or a text that cannot be stored. Nothing was written."
    if isinstance(error, OperationalError):
        return status, _STATES.get(getattr(error.orig, "sqlstate", None) or "", _HIDDEN[status])
    return status, _HIDDEN.get(status, str(error))


def install_errors(app: FastAPI) -> None:
    """Turn every error into problem details."""

    def answer(_request: Request, error: Exception) -> JSONResponse:
        return problem(*explain(error))

    def refuse(_request: Request, error: Exception) -> JSONResponse:
        errors = error.errors() if isinstance(error, RequestValidationError) else []
        parts = [f"{'.'.join(str(name) for name in found['loc'][1:])}: {found['msg']}" for found in errors]
        return problem(HTTPStatus.UNPROCESSABLE_ENTITY, "; ".join(parts) or "The request cannot be understood.")

    def pass_on(_request: Request, error: Exception) -> JSONResponse:
        assert isinstance(error, HTTPException)  # noqa: S101 - Starlette calls this for no other
        return problem(HTTPStatus(error.status_code), str(error.detail))

    for kind in (SignpostError, DeskError, SiteFullError, RefusedError, *_VALUES, *_UNANSWERED, Exception):
        app.add_exception_handler(kind, answer)
    app.add_exception_handler(RequestValidationError, refuse)
    app.add_exception_handler(HTTPException, pass_on)
