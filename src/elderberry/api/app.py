"""The application: routers, error bodies, security headers, and the built page."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI, HTTPException
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles

from elderberry import __doc__ as about
from elderberry.api import (
    batches,
    bench,
    documented,
    events,
    flows,
    furnishing,
    intake,
    keeping,
    kitchen,
    notes,
    plans,
    problems,
    session,
    shelf,
)
from elderberry.api.answers import Answers
from elderberry.api.gate import Gate
from elderberry.api.live import Live
from elderberry.api.settings import Settings
from elderberry.store.memory import Memory

ROUTES = (
    session, kitchen, furnishing, plans, flows, intake, batches, shelf, notes, bench, keeping,
    events,
)  # fmt: skip


def create_app(settings: Settings) -> FastAPI:
    """The application on a database."""

    @asynccontextmanager
    async def life(app: FastAPI) -> AsyncIterator[None]:
        async with app.state.live.running():
            yield
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
    app.state.live = Live(settings.engine)
    app.state.answers = Answers()
    app.state.memory = Memory()
    problems.install(app)
    app.add_middleware(Gate, hosts=settings.hosts)
    for module in ROUTES:
        app.include_router(module.router)
    app.include_router(keeping.files)

    @app.get("/api/ready", tags=["ready"])
    def ready() -> dict[str, bool]:
        """Whether the database answers."""
        with settings.engine.connect() as connection:
            connection.exec_driver_sql("SELECT 1")
        return {"ready": True}

    documented.document(app)
    if settings.web:
        _serve_page(app, settings.web)
    return app


def _serve_page(app: FastAPI, web: Path) -> None:
    """The built page: its files under their hashed names, index.html for every other address.

    What there is was looked up once: no address is ever looked for among the files of the machine.
    """
    app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")
    there = {
        str(file.relative_to(web)): file
        for file in web.rglob("*")
        if file.is_file() and not any(part.startswith(".") for part in file.relative_to(web).parts)
    }

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise HTTPException(404, "There is nothing at this address.")
        return FileResponse(
            there.get(path, web / "index.html"), headers={"Cache-Control": "no-cache"}
        )
