"""The API's own description: every answer that a route can give is in it."""

from __future__ import annotations

from http import HTTPStatus
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from elderberry.api.gate import CHANGES

PROBLEM: dict[str, Any] = {
    "type": "object",
    "description": "What was refused and why, after RFC 9457.",
    "required": ["type", "title", "status", "code", "detail"],
    "properties": {
        "type": {"type": "string"},
        "title": {"type": "string"},
        "status": {"type": "integer"},
        "code": {"type": "string"},
        "detail": {"type": "string"},
        "errors": {
            "type": "array",
            "items": {
                "type": "object",
                "required": ["pointer", "detail"],
                "properties": {"pointer": {"type": "string"}, "detail": {"type": "string"}},
            },
        },
    },
}
ALWAYS = (421, 500, 503)
"""Another host's name, our mistake, or no room and no store just now."""
OF_A_CHANGE = (400, 403, 404, 409, 413, 422, 429, 507)
OPEN = {
    "/api/ready",
    "/api/session",
    "/api/session/demo",
    "/api/session/household",
    "/api/session/archive",
}
"""Where nobody has to be signed in."""


def document(app: FastAPI) -> None:
    """Describe an application with every answer of its routes."""

    def described() -> dict[str, Any]:
        if app.openapi_schema is None:
            app.openapi_schema = _described(app)
        return app.openapi_schema

    app.openapi = described  # type: ignore[method-assign]


def _described(app: FastAPI) -> dict[str, Any]:
    found = get_openapi(
        title=app.title, version=app.version, description=app.description, routes=app.routes
    )
    schemas = found["components"]["schemas"]
    for unused in ("HTTPValidationError", "ValidationError"):
        schemas.pop(unused, None)
    schemas["Problem"] = PROBLEM
    found["components"]["responses"] = {
        str(status): _refusal(status) for status in {*ALWAYS, *OF_A_CHANGE, 401}
    }
    for path, verbs in found["paths"].items():
        for verb, operation in verbs.items():
            for status in _statuses(path, verb.upper(), "parameters" in operation):
                operation["responses"][str(status)] = {"$ref": f"#/components/responses/{status}"}
    return found


def _refusal(status: int) -> dict[str, Any]:
    problem = {"schema": {"$ref": "#/components/schemas/Problem"}}
    return {
        "description": HTTPStatus(status).phrase,
        "content": {"application/problem+json": problem},
    }


def _statuses(path: str, verb: str, asks: bool) -> list[int]:
    """What a route can answer besides what it is for."""
    statuses = [*ALWAYS]
    if path not in OPEN or (path, verb) == ("/api/session", "POST"):
        statuses.append(401)
    if verb in CHANGES:
        statuses += OF_A_CHANGE
    elif asks:
        statuses += [404, 422]
    return sorted(set(statuses))
