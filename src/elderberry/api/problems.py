"""Errors as RFC 9457 problem bodies. This is the one place that maps them to a status.

Each says what happened, that nothing was half-written, and what to do.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import asdict
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DBAPIError, IntegrityError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from starlette.exceptions import HTTPException

from elderberry.core import errors as core
from elderberry.services import errors as services

CHECK_VIOLATED = 4025
LOST = {2002, 2003, 2006, 2013, 1053, 1205, 1213}
"""MariaDB's numbers for a connection that is gone, a wait that was too long and a deadlock."""
IMPOSSIBLE = {CHECK_VIOLATED, 1264, 1292, 1366, 1406}
"""A figure out of range, a moment that is none, letters that are none, words that are too long."""
NO_ROOM = {3, 20, 1021, 1026, 1114, 1290, 1836}
"""The disk is full, or nothing may be written on it."""
FULL = "(28 "
"""How the system's "no space left" stands in an error that names only its number."""
COME_AGAIN_S = 2

STATUS: Mapping[type[Exception], int] = {
    services.NotFound: 404,
    services.Conflict: 409,
    services.FieldError: 422,
    services.SignInFailed: 401,
    services.TooManyTries: 429,
    services.Busy: 503,
    services.NotAllowed: 403,
    core.Refusal: 409,
    core.IllegalStep: 409,
    core.OutOfRange: 422,
    core.Unknown: 422,
    core.CannotTell: 422,
    core.DoesNotFit: 422,
    core.DoesNotConnect: 422,
    core.Unreachable: 422,
    core.CoreError: 422,
}
FIELD_OF_QUANTITY = {
    "fruit": "/inputs/0/grams",
    "Brix of a juice": "/brix",
    "pH of a juice": "/ph",
    "loads": "/loads",
    "altitude": "/altitude_m",
}
FIELD_OF_KIND = {
    "fruit": "/inputs/0/material",
    "material": "/inputs/0/material",
    "form": "/inputs/0/form",
    "kind of jar": "/ends/0/jar_kinds",
    "ending": "/ends/0/keep",
    "method": "/method_key",
}


def problem(
    status: int, code: str, detail: str, *, after_s: int | None = None, **more: Any
) -> JSONResponse:
    """A problem body; code is stable, detail is for the person at the hob.

    after_s: in how many seconds it is worth trying again, where that helps.
    """
    body = {
        "type": f"urn:elderberry:{code}",
        "title": HTTPStatus(status).phrase,
        "status": status,
        "code": code,
        "detail": detail,
        **more,
    }
    headers = {} if after_s is None else {"Retry-After": str(after_s)}
    return JSONResponse(body, status, headers, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Answer every error of ours, of the framework and of the database as a problem."""
    for error in STATUS:
        app.add_exception_handler(error, _ours)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(DBAPIError, _database)
    app.add_exception_handler(PoolTimeout, _busy)
    app.add_exception_handler(Exception, _unforeseen)


def _ours(_: Request, error: Exception) -> JSONResponse:
    status = next(s for kind, s in STATUS.items() if isinstance(error, kind))
    if isinstance(error, core.Refusal):
        return problem(
            status, error.finding.id, f"{error.finding.message} {error.finding.remedy}",
            finding=asdict(error.finding),
        )  # fmt: skip
    if isinstance(error, (core.IllegalStep, services.Conflict)):
        return problem(status, error.code, str(error))
    pointer = _pointer(error)
    errors = [{"pointer": pointer, "detail": _sentence(str(error))}] if pointer else []
    after_s = error.after_s if isinstance(error, services.Later) else None
    return problem(status, _code(error), _sentence(str(error)), after_s=after_s, errors=errors)


def told(error: Exception) -> dict[str, Any]:
    """An error as the body of a problem, for an answer that has begun already."""
    answer: Callable[[Any, Exception], JSONResponse] = _unforeseen
    if isinstance(error, tuple(STATUS)):
        answer = _ours
    elif isinstance(error, DBAPIError):
        answer = _database
    elif isinstance(error, PoolTimeout):
        answer = _busy
    found: dict[str, Any] = json.loads(bytes(answer(None, error).body))
    return found


def _pointer(error: Exception) -> str:
    if isinstance(error, services.FieldError):
        return error.pointer
    if isinstance(error, core.OutOfRange):
        return FIELD_OF_QUANTITY.get(error.quantity, "")
    if isinstance(error, core.Unknown):
        return FIELD_OF_KIND.get(error.kind, "")
    if isinstance(error, core.DoesNotFit):
        return "/loads"
    return "/inputs/0/material" if isinstance(error, core.CannotTell) else ""


def _code(error: Exception) -> str:
    words = "".join(f"-{c.lower()}" if c.isupper() else c for c in type(error).__name__)
    return words.lstrip("-")


def _sentence(words: str) -> str:
    """Capital first, full stop last."""
    if not words.startswith("pH"):
        words = words[:1].upper() + words[1:]
    return words if words.endswith((".", "?")) else f"{words}."


def _invalid(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    found = [
        {"pointer": "/" + "/".join(str(p) for p in e["loc"][1:]), "detail": _plainly(e)}
        for e in error.errors()
    ]
    first = found[0]["detail"] if found else "Something in it cannot be read."
    return problem(
        422, "not-valid", f"{first} Nothing was recorded; correct it and try again.", errors=found
    )


def _plainly(error: Mapping[str, Any]) -> str:
    """A validation error in kitchen words."""
    limits = error.get("ctx", {})
    words = {
        "missing": "This is needed.",
        "greater_than": f"This has to be more than {_limit(limits.get('gt'))}.",
        "greater_than_equal": f"This has to be at least {_limit(limits.get('ge'))}.",
        "less_than_equal": f"This can be at most {_limit(limits.get('le'))}.",
        "finite_number": "This has to be a number.",
        "float_parsing": "This has to be a number.",
        "float_type": "This has to be a number.",
        "int_parsing": "This has to be a whole number.",
        "int_from_float": "This has to be a whole number.",
        "int_type": "This has to be a whole number.",
        "string_too_short": "This may not be empty.",
        "string_too_long": f"This can be at most {limits.get('max_length')} characters.",
        "extra_forbidden": "Elderberry does not know this field.",
    }
    return words.get(error["type"], f"{error['msg']}.")


def _limit(limit: object) -> str:
    """A limit as a sentence holds it: a figure, or a day."""
    return f"{limit:g}" if isinstance(limit, (int, float)) else str(limit)


def _http(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    return problem(error.status_code, HTTPStatus(error.status_code).name.lower().replace("_", "-"),
                   str(error.detail))  # fmt: skip


def _database(_: Request, error: Exception) -> JSONResponse:
    number = _number(error)
    if isinstance(error, IntegrityError):
        return problem(
            409, "just-changed",
            "Somebody changed this at the same moment. Nothing of yours was half-written; "
            "look at how it stands and try again.",
        )  # fmt: skip
    if number in IMPOSSIBLE:
        return problem(422, "not-possible", "One of these figures cannot be. Nothing was recorded.")
    if number in NO_ROOM or FULL in str(error):
        return problem(
            507, "no-room",
            "Nothing can be written just now: the disk is full or may not be written to. What was "
            "recorded before is safe; this last entry is not in it yet. Make room and press again.",
            after_s=COME_AGAIN_S,
        )  # fmt: skip
    if number in LOST or isinstance(error, OperationalError):
        return problem(
            503, "store-away",
            "The store does not answer just now. Everything already recorded is safe; this last "
            "entry is not in it yet. It is tried again by itself in a moment.",
            after_s=COME_AGAIN_S,
        )  # fmt: skip
    return _unforeseen(_, error)


def busy() -> JSONResponse:
    """More ask at once than there is room for."""
    return problem(503, "busy", BUSY, after_s=COME_AGAIN_S)


def _busy(_: Request, __: Exception) -> JSONResponse:
    return busy()


BUSY = (
    "Many ask at this moment. Nothing is lost; this entry is not recorded yet and is tried again "
    "by itself in a moment."
)


def _number(error: Exception) -> int | None:
    original = getattr(error, "orig", None)
    arguments = getattr(original, "args", ())
    return arguments[0] if arguments and isinstance(arguments[0], int) else None


def _unforeseen(_: Request, __: Exception) -> JSONResponse:
    return problem(
        500, "our-mistake",
        "Something went wrong on our side. What was recorded before is safe; this last entry is "
        "not. Note it on paper and try once more.",
    )  # fmt: skip
