"""Requests made from the API's own description: none breaks the server, none answers otherwise."""

from __future__ import annotations

import time
from collections import Counter

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis.checks import not_a_server_error
from schemathesis.core.failures import Failure, FailureGroup
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from elderberry.api.deps import COOKIE
from elderberry.trial.figures import Figure
from elderberry.trial.installation import Installation

CHECKS = [
    not_a_server_error, status_code_conformance, content_type_conformance,
    response_schema_conformance,
]  # fmt: skip
LEFT_OUT = r"/api/(events|session.*|kitchen/people/.*/(sessions|password))"
"""The stream never ends, and whoever signs out is out; they are tried elsewhere."""
MOST_SAID = 3
SIGNED_OUT = 401


def fuzz(there: Installation, until: float, each: int) -> list[Figure]:
    """Try each route with so many made-up requests, or until a moment."""
    schema = schemathesis.openapi.from_url(f"{there.url}api/openapi.json").exclude(
        path_regex=LEFT_OUT
    )
    with there.client() as client:
        signed = {"Cookie": f"{COOKIE}={client.cookies[COOKIE]}"}
    tried, wrong = 0, Counter[str]()
    for found in schema.get_all_operations():
        if time.monotonic() > until:
            break
        tried += 1
        operation = found.ok()  # type: ignore[union-attr]
        failure = _try(operation, there.url, signed, each)
        if failure:
            wrong[f"{operation.label}: {failure}"] += 1
    said = "; ".join(list(wrong)[:MOST_SAID])
    return [Figure(f"of {tried} routes, those that answer otherwise", len(wrong), 0, said=said)]


def _try(operation: object, url: str, signed: dict[str, str], each: int) -> str:
    """What is wrong with a route; empty where nothing was found."""

    @settings(
        max_examples=each, deadline=None, database=None, derandomize=False,
        phases=[Phase.explicit, Phase.generate], suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    @given(case=operation.as_strategy())  # type: ignore[attr-defined]
    def ask(case: object) -> None:
        answer = case.call(base_url=url.rstrip("/"), headers=signed, timeout=30)  # type: ignore[attr-defined]
        assert answer.status_code != SIGNED_OUT, "nobody is signed in"
        case.validate_response(answer, checks=CHECKS)  # type: ignore[attr-defined]

    try:
        ask()
    except (AssertionError, Failure, FailureGroup) as failed:
        return " ".join(str(failed).split())[:300]
    except Unsatisfiable:
        return ""
    return ""
