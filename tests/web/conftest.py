"""The real application with its own private MariaDB, and the built page in headless Chromium."""

from __future__ import annotations

import multiprocessing
import os
import re
import shutil
import sys
from collections.abc import Callable, Iterator
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

import pymysql
import pytest
from playwright.sync_api import Page, expect
from sqlalchemy import select
from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import kept
from elderberry.services.cooking.folder import Folder
from elderberry.services.who import Who
from elderberry.store import Batch, Person
from elderberry.store.queries import NO
from elderberry.trial.installation import (
    STOPS_WITHIN_S,
    Installation,
    Running,
    in_memory,
    laid_out,
)
from tests.web.hands import watch

ROOT = Path(__file__).resolve().parents[2]
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
PATIENCE_MS = 30_000
"""How long something is waited for: long enough for a machine that does other work besides."""
expect.set_options(timeout=PATIENCE_MS)
VIOLATIONS = """axe.run({
    runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'best-practice'],
    resultTypes: ['violations'],
    elementRef: false,
}).then(({ violations }) => violations.map(({ id, help, nodes }) => `${id}: ${help} ` + nodes
    .slice(0, 3)
    .map(({ html, any }) => `${html.slice(0, 160)} ${JSON.stringify(any[0]?.data)}`)
    .join(', ')))"""
"""What is wrong with a screen, with the figures that say so, and not also all that is right."""
SIZES = {"wide": (1280, 800), "phone": (390, 844)}


TOLD = (
    "INSERT INTO event (household_id, kind, at, person_id, data) "
    "SELECT household_id, 'changed', UTC_TIMESTAMP(6), id, '{}' FROM person LIMIT 1"
)
"""Whoever looks on is told that something is otherwise than it was."""


FORKED = multiprocessing.get_context("forkserver")
FORKED.set_forkserver_preload(["elderberry.api.app", "elderberry.demo.household"])
"""Where the application has been imported once for all that start, which takes longest of it."""


def _serve(words: list[str], home: str, said: Connection) -> None:
    """The command, in a process that knows the application already."""
    os.environ.pop("DATABASE_URL", None)
    os.environ["ELDERBERRY_HOME"] = home
    os.dup2(said.fileno(), sys.stdout.fileno())
    from elderberry.cli import main

    sys.exit(main(words))


class Application(Installation):
    """`./elderberry demo`, or serve, whose data a test looks into and whose clock it moves."""

    def _run(self, words: list[str]) -> Running:
        hears, says = FORKED.Pipe(duplex=False)
        process = FORKED.Process(target=_serve, args=(words, str(self.home), says))
        process.start()
        says.close()

        def ended() -> int:
            process.join(STOPS_WITHIN_S)
            assert process.exitcode is not None
            return process.exitcode

        return Running(process, os.fdopen(os.dup(hears.fileno())), ended)

    def sql(self, statement: str, *values: Any) -> list[tuple[Any, ...]]:
        """Look into its database, or move its clock."""
        connection = pymysql.connect(
            unix_socket=str(self.database.socket), user="root", database="elderberry_demo",
            autocommit=True,
        )  # fmt: skip
        with connection, connection.cursor() as cursor:
            cursor.execute(statement, values)
            found = list(cursor.fetchall())
            if not statement.startswith("SELECT"):
                cursor.execute(TOLD)
            return found

    def rewrite(self, statement: str) -> None:
        """Change what happened to what is not finished; what it amounts to is found anew."""
        with self.engine() as engine:
            with Orm(engine) as orm:
                ids = orm.scalars(select(Batch.id).where(Batch.finished == NO)).all()
            self.sql(statement)
            with Orm(engine) as orm, orm.begin():
                for row in orm.scalars(select(Batch).where(Batch.id.in_(ids))):
                    who = Who.of(orm.get_one(Person, row.started_by))
                    kept.batch(Folder(orm, who, row))

    def pass_time(self, minutes: float) -> None:
        """Let so many minutes go by: everything that happened is that much longer ago."""
        moments = {"event": ("at",), "reading": ("at",), "jar": ("filled_at", "placed_at")}
        for table, columns in moments.items():
            for column in columns:
                self.sql(
                    f"UPDATE {table} SET {column} = {column} - INTERVAL %s SECOND", minutes * 60
                )


@pytest.fixture(params=SIZES, scope="module")
def size(request: pytest.FixtureRequest) -> str:
    """A laptop beside the flour jar, and a phone against it."""
    return str(request.param)


@pytest.fixture(scope="module")
def command() -> str:
    """The command that starts it."""
    return "demo"


@pytest.fixture(scope="module")
def home(size: str, command: str) -> Iterator[Path]:
    """A data folder in memory, one for each size, so that each makes its own journey."""
    folder = in_memory()
    with laid_out(command) as like:
        shutil.copytree(like, folder, dirs_exist_ok=True)
    yield folder
    shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="module")
def application(home: Path, command: str) -> Iterator[Application]:
    """The running application."""
    running = Application(home, command)
    running.start()
    yield running
    running.stop()


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    """Debian's Chromium."""
    return launch_arguments()


def launch_arguments() -> dict[str, Any]:
    """How Debian's Chromium is started, quietly and without asking anybody anything.

    Its headless shell draws the same pages in a third of the machine's time.
    """
    shell = shutil.which("chromium-headless-shell")
    return {
        "executable_path": shell or shutil.which("chromium"),
        "args": [
            "--no-sandbox",
            "--disable-dev-shm-usage",
            "--disable-gpu",
            "--font-render-hinting=none",
            "--disable-background-networking",
            "--disable-component-update",
            "--no-first-run",
        ],
    }


@pytest.fixture
def browser_context_args(size: str) -> dict[str, Any]:
    """A window of that size; motion is off, so that a screen stands still to be looked at."""
    width, height = SIZES[size]
    return {"viewport": {"width": width, "height": height}, "reduced_motion": "reduce"}


@pytest.fixture
def kitchen(application: Application, page: Page) -> Page:
    """The page of somebody who is signed in already."""
    return come_in(application, page)


def come_in(application: Application, page: Page) -> Page:
    """Open the page, signed in already: how one signs in has a journey of its own."""
    watch(page)
    page.request.post(f"{application.url}api/session/demo")
    page.goto(application.url)
    page.get_by_role("button", name="sign out").wait_for()
    return page


@pytest.fixture
def sound(page: Page) -> Callable[[], None]:
    """Scans the screen as it stands with axe, that nothing sticks out sideways or has no words."""

    def scan() -> None:
        page.locator("h1").first.wait_for(state="attached")
        expect(page.locator("[aria-busy=true]")).to_have_count(0)
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE.read_text())
        assert page.evaluate(VIOLATIONS) == []
        wide = page.evaluate("[document.documentElement.scrollWidth, window.innerWidth]")
        assert wide[0] <= wide[1], f"{wide[0]} px in a window of {wide[1]}"
        assert re.findall(r".*\b(?:undefined|NaN)\b.*", page.inner_text("body")) == []

    return scan
