"""The gate: what may not come in is refused before anything reads it; every answer is dressed.

Pure ASGI, so that a stream of events passes through it as it comes.
"""

from __future__ import annotations

import asyncio
import hashlib
import re
from collections.abc import AsyncIterator, Collection
from contextlib import AsyncExitStack, asynccontextmanager
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from elderberry.api.problems import busy, problem

CSP = (
    "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; font-src 'self'; "
    "img-src 'self' data:; connect-src 'self'; manifest-src 'self'; worker-src 'self'; "
    "base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)
"""Everything is our own. Inline styles are allowed for the scroll lock of our dialogs, which sets a
style element; scripts are not."""
HEADERS = {
    "Content-Security-Policy": CSP,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
CHANGES = frozenset({"POST", "PUT", "PATCH", "DELETE"})
LARGEST_BODY = 256 * 1024
FILES = re.compile(
    r"/api/(?:keeping/[a-z-]+\.csv|places/\d+/log|batches/\d+/steps/\d+/trace|session/archive)"
)
"""Where files come in: tables, what loggers have written, archives."""
LARGEST_FILE = 64 * 1024 * 1024
FILES_AT_ONCE = 2
"""Files that are held while they come in."""
LONGEST_ADDRESS = 2048
AT_ONCE = 12
"""Requests that work at a time; each holds one connection while it does."""
CHANGES_AT_ONCE = 4
"""Of these, changes: those of a household wait for each other, and others should not for them."""
WAITS_S = 8.0
"""How long a request waits for room before it is asked to come again."""


Refused = tuple[int, str, str]
"""Status, code and words of a refusal."""


class TooLarge(Exception):
    """More than is taken at once."""


class Gate:
    """Refuses other hosts, other sites' changes, and more than is taken at once.

    hosts: names under which this Elderberry may be asked.
    """

    def __init__(self, app: ASGIApp, hosts: Collection[str]) -> None:
        self.app, self.hosts = app, hosts
        self._room = asyncio.Semaphore(AT_ONCE)
        self._room_to_change = asyncio.Semaphore(CHANGES_AT_ONCE)
        self._room_for_files = asyncio.Semaphore(FILES_AT_ONCE)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or pass it on."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        if FILES.fullmatch(scope["path"]) and scope["method"] in CHANGES:
            try:
                await asyncio.wait_for(self._room_for_files.acquire(), WAITS_S)
            except TimeoutError:
                await busy()(scope, receive, _dressed(scope, send))
                return
            try:
                await self._answer(scope, receive, send, LARGEST_FILE)
            finally:
                self._room_for_files.release()
        else:
            await self._answer(scope, receive, send, LARGEST_BODY)

    async def _answer(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        """Answer a request whose body is at most so many bytes."""
        dressed = _dressed(scope, send)
        answer: ASGIApp = self.app
        refused = self._refusal(scope, Headers(scope=scope), most)
        if refused is not None:
            answer = problem(*refused)
        elif scope["method"] in CHANGES:
            try:
                body, receive = await _read(receive, most)
                scope.setdefault("state", {})["sent"] = hashlib.sha256(body).hexdigest()
            except TooLarge:
                answer = problem(413, "too-large", TOO_LARGE)
        elif scope["method"] == "HEAD":
            scope = {**scope, "method": "GET"}
            dressed = _without_body(dressed)
        if answer is not self.app or not _works(scope):
            await answer(scope, receive, dressed)
            return
        try:
            async with self._let_in(scope["method"] in CHANGES):
                await answer(scope, receive, dressed)
        except TimeoutError:
            await busy()(scope, receive, dressed)

    @asynccontextmanager
    async def _let_in(self, changes: bool) -> AsyncIterator[None]:
        """Room for a request that works: never more at once than there are connections for.

        Raises:
            TimeoutError: none became free.
        """
        async with AsyncExitStack() as held:
            for room in (self._room_to_change, self._room) if changes else (self._room,):
                await asyncio.wait_for(room.acquire(), WAITS_S)
                held.callback(room.release)
            yield

    def _refusal(self, scope: Scope, headers: Headers, most: int) -> Refused | None:
        host = headers.get("host", "")
        if _hostname(host) not in self.hosts:
            return 421, "other-host", "Elderberry does not answer under this name."
        if len(scope["path"]) > LONGEST_ADDRESS or "\0" in scope["path"]:
            return 404, "not-found", "There is nothing at this address."
        changes = scope["method"] in CHANGES
        return _refused_change(headers, host, most) if changes else None


def _refused_change(headers: Headers, host: str, most: int) -> Refused | None:
    origin = headers.get("origin")
    site = headers.get("sec-fetch-site", "same-origin")
    if (origin is not None and _place(origin) != host) or site not in {"same-origin", "none"}:
        return 403, "other-site", "Changes are only taken from Elderberry's page."
    length = headers.get("content-length", "0")
    if not length.isdecimal():
        return 400, "bad-request", "It is not said how long this is. Nothing was recorded."
    if int(length) > most:
        return 413, "too-large", TOO_LARGE
    return None


TOO_LARGE = "That is more than Elderberry takes at once. Nothing was recorded."


def _works(scope: Scope) -> bool:
    """Whether it is work for the database: not a file, and not a page that only looks on."""
    path = str(scope["path"])
    return path.startswith("/api/") and path != "/api/events"


def _hostname(host: str) -> str | None:
    try:
        return urlsplit(f"//{host}").hostname
    except ValueError:
        return None


def _place(origin: str) -> str | None:
    """Host and port of an origin, None where it is none."""
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None


async def _read(receive: Receive, most: int) -> tuple[bytes, Receive]:
    """The whole of what is sent, which is never much, to be received again in one piece.

    Args:
        receive: as it comes.
        most: so many bytes at most.

    Raises:
        TooLarge: it goes on and on.
    """
    pieces, length, more = [], 0, True
    while more:
        message = await receive()
        if message["type"] != "http.request":
            break
        pieces.append(message.get("body", b""))
        length += len(pieces[-1])
        more = message.get("more_body", False)
        if length > most:
            raise TooLarge
    body = b"".join(pieces)
    whole: list[Message] = [{"type": "http.request", "body": body, "more_body": False}]

    async def again() -> Message:
        return whole.pop() if whole else await receive()

    return body, again


def _dressed(scope: Scope, send: Send) -> Send:
    """Sends with the headers that every answer carries."""

    async def dress(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
            if scope["path"].startswith("/api/"):
                headers.setdefault("Cache-Control", "no-store")
        await send(message)

    return dress


def _without_body(send: Send) -> Send:
    """Sends the head of an answer alone, as HEAD asks."""
    over = False

    async def head(message: Message) -> None:
        nonlocal over
        if message["type"] == "http.response.start":
            await send(message)
        elif not over:
            over = True
            await send({"type": "http.response.body", "body": b"", "more_body": False})

    return head
