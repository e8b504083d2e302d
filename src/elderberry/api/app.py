"""The application: routers, error bodies, security headers, and the built page."""

from __future__ import annotations

import threading
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from pathlib import Path
from urllib.parse import urlsplit

from fastapi import FastAPI, HTTPException, Request, Response
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles

from elderberry import __doc__ as about
from elderberry.api import (
    batches,
    events,
    flows,
    furnishing,
    intake,
    kitchen,
    plans,
    problems,
    session,
    shelf,
)
from elderberry.api.settings import Settings

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
CHANGES = {"POST", "PUT", "PATCH", "DELETE"}
LARGEST_BODY = 256 * 1024


def create_app(settings: Settings) -> FastAPI:
    """The application on a database."""

    @asynccontextmanager
    async def life(app: FastAPI) -> AsyncIterator[None]:
        yield
        app.state.stopping.set()
        settings.engine.dispose()

    app = FastAPI(
        title="Elderberry",
        description=about or "",
        version="0.1.0",
        lifespan=life,
        openapi_url="/api/openapi.json",
        docs_url=None,
        redoc_url=None,
        generate_unique_id_function=lambda route: route.name,
    )
    app.state.settings = settings
    app.state.stopping = threading.Event()
    problems.install(app)
    app.middleware("http")(_guard)
    for module in (session, kitchen, furnishing, plans, flows, intake, batches, shelf, events):
        app.include_router(module.router)

    @app.get("/api/ready", tags=["ready"])
    def ready() -> dict[str, bool]:
        """Whether the database answers."""
        with settings.engine.connect() as connection:
            connection.exec_driver_sql("SELECT 1")
        return {"ready": True}

    if settings.web:
        _serve_page(app, settings.web)
    return app


async def _guard(request: Request, call: Callable[[Request], Awaitable[Response]]) -> Response:
    """Refuse changes from other sites and bodies beyond reason; add the security headers."""
    refused = _refusal(request)
    response = refused or await call(request)
    for name, value in HEADERS.items():
        response.headers.setdefault(name, value)
    if request.url.path.startswith("/api/"):
        response.headers.setdefault("Cache-Control", "no-store")
    return response


def _refusal(request: Request) -> Response | None:
    if request.method not in CHANGES:
        return None
    origin = request.headers.get("origin")
    foreign = origin is not None and urlsplit(origin).netloc != request.headers.get("host")
    if foreign or request.headers.get("sec-fetch-site", "same-origin") not in {
        "same-origin",
        "none",
    }:
        return problems.problem(403, "other-site", "Changes are only taken from Elderberry's page.")
    if int(request.headers.get("content-length") or 0) > LARGEST_BODY:
        return problems.problem(413, "too-large", "That is more than Elderberry takes at once.")
    return None


def _serve_page(app: FastAPI, web: Path) -> None:
    """The built page: its files under their hashed names, index.html for every other address."""
    app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise HTTPException(404, "There is nothing at this address.")
        file = (web / path).resolve()
        inside = path and file.is_file() and file.is_relative_to(web.resolve())
        return FileResponse(
            file if inside else web / "index.html", headers={"Cache-Control": "no-cache"}
        )
