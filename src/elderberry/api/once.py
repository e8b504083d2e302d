"""Routes whose changes are made once: who asks again under the same key gets the same answer."""

from __future__ import annotations

from collections.abc import Callable, Coroutine
from dataclasses import dataclass, is_dataclass
from datetime import datetime
from typing import Any, get_type_hints

from fastapi import Request, Response
from fastapi.routing import APIRoute
from pydantic import ConfigDict
from sqlalchemy.orm import Session as Orm
from starlette.concurrency import run_in_threadpool

from elderberry.api.answers import Answers, Question
from elderberry.services import once
from elderberry.services.journal import newest, noted
from elderberry.services.once import Answered, Asked
from elderberry.services.who import Who

OK = 200


class Repeated(Exception):
    """It was asked before and still holds; carries what was answered then."""

    def __init__(self, answered: Answered) -> None:
        self.answered = answered
        super().__init__()


@dataclass
class Changing:
    """A change under way in its transaction, which holds its household."""

    orm: Orm
    who: Who
    now: datetime
    asked: Asked | None
    """What it would be known by again; None where no key was sent."""
    what: str

    def begin(self) -> None:
        """Before anything is done.

        Raises:
            Repeated: it was made before.
            Conflict: its key was used for something else.
        """
        before = once.answered(self.orm, self.who, self.asked) if self.asked else None
        if before is not None:
            raise Repeated(before)

    def end(self, response: Response) -> None:
        """After it, before the transaction is committed: the household hears of it."""
        noted(self.orm, self.who, self.now, self.what)
        response.headers[LAST_EVENT] = str(newest(self.orm, self.who))
        if self.asked is not None:
            answer = Answered(response.status_code, bytes(response.body))
            once.keep(self.orm, self.who, self.asked, answer, self.now)


JSON = "application/json"
LAST_EVENT = "Last-Event"
"""Names the newest event of the household as a change left it: what its page has seen by itself."""


def _made_ready_later(endpoint: Callable[..., Any]) -> None:
    """What a route answers with is made ready as it is first asked for, not once for each route of
    the many that answer with the same, before the first of them can be.
    """
    view = get_type_hints(endpoint).get("return")
    if is_dataclass(view) and isinstance(view, type):
        view.__pydantic_config__ = ConfigDict(defer_build=True)  # type: ignore[attr-defined]


class ChangeRoute(APIRoute):
    """A route that keeps what it answered: to a change in its transaction, else for a moment."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **more: Any) -> None:
        _made_ready_later(endpoint)
        super().__init__(path, endpoint, **more)

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """The handler of the framework, with the change begun and ended around it."""
        handle = super().get_route_handler()

        async def made_once(request: Request) -> Response:
            try:
                response = await handle(request)
            except Repeated as before:
                answered = before.answered
                return Response(answered.body, answered.status, media_type=JSON)
            changing: Changing | None = getattr(request.state, "changing", None)
            if changing is not None:
                await run_in_threadpool(changing.end, response)
            question: Question | None = getattr(request.state, "question", None)
            plain = response.status_code == OK and response.media_type == JSON
            if question is not None and plain:  # a file is made anew
                answers: Answers = request.app.state.answers
                answers.keep(question, Answered(OK, bytes(response.body)))
            return response

        return made_once
