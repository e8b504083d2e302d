"""An installation of its own that may be killed: server and MariaDB in a folder that goes away."""

from __future__ import annotations

import fcntl
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, NamedTuple, Protocol

import httpx2 as httpx
from sqlalchemy import Engine

from elderberry.local.mariadb import PrivateMariadb, free_port
from elderberry.store.database import connect

ROOT = Path(__file__).resolve().parents[3]
DATABASE = {"demo": "elderberry_demo", "serve": "elderberry"}
STOPS_WITHIN_S = 30


class Process(Protocol):
    """A process that can be ended."""

    def terminate(self) -> None:
        """Ask it to end."""

    def kill(self) -> None:
        """End it at once."""


class Running(NamedTuple):
    """A running command, what it says, and how its exit code is waited for."""

    process: Process
    said: IO[str]
    ended: Callable[[], int]


class Installation:
    """`./elderberry demo`, or serve, on a data folder of its own."""

    def __init__(self, home: Path, command: str = "demo") -> None:
        self.home = home
        self.command = command
        self.url = ""
        self.port = free_port()
        """Its own through every restart, so that whoever knew it never meets another one there."""
        self._process: Running | None = None

    def start(self) -> float:
        """Start it; returns the seconds until it was ready."""
        began = time.monotonic()
        self._process = self._run([self.command, "--port", str(self.port)])
        for line in self._process.said:
            if "Elderberry is at" in line:
                self.url = line.split("at ", 1)[1].split()[0]
                return time.monotonic() - began
        raise AssertionError("the application did not start")

    def _run(self, words: list[str]) -> Running:
        """The command as a process of its own."""
        environment = {k: v for k, v in os.environ.items() if k != "DATABASE_URL"}
        environment |= {"ELDERBERRY_HOME": str(self.home), "PYTHONPATH": str(ROOT / "src")}
        command = [sys.executable, "-m", "elderberry.cli", *words]
        process = subprocess.Popen(
            command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True
        )
        assert process.stdout is not None
        return Running(process, process.stdout, lambda: process.wait(timeout=STOPS_WITHIN_S))

    def kill(self) -> None:
        """End the server and its MariaDB at once, as a power cut would."""
        self.kill_database()
        self.kill_server()

    def kill_server(self) -> None:
        """End the server alone, at once."""
        assert self._process is not None
        self._process.process.kill()
        self._forget()

    def kill_database(self) -> None:
        """End MariaDB alone, at once; one that a kill has ended already is not there."""
        pid = self.database.holder
        if pid is not None:
            os.kill(pid, signal.SIGKILL)

    def stop(self) -> int:
        """Stop it cleanly; returns the exit code."""
        assert self._process is not None
        self._process.process.terminate()
        return self._forget()

    def _forget(self) -> int:
        assert self._process is not None
        code = self._process.ended()
        self._process.said.close()
        return code

    @property
    def database(self) -> PrivateMariadb:
        """Its private MariaDB, to find the socket by."""
        return PrivateMariadb(self.home / "mariadb")

    @contextmanager
    def engine(self) -> Iterator[Engine]:
        """A way into its database."""
        engine = connect(self.database.url(DATABASE[self.command]))
        try:
            yield engine
        finally:
            engine.dispose()

    @contextmanager
    def client(self, timeout_s: float = 30.0) -> Iterator[httpx.Client]:
        """Somebody at its page, signed in by the demo's one button."""
        with httpx.Client(base_url=self.url, timeout=timeout_s) as client:
            client.post("/api/session/demo").raise_for_status()
            yield client


def in_memory() -> Path:
    """A new folder, in memory where there is room for it."""
    memory = Path("/dev/shm")
    return Path(tempfile.mkdtemp(prefix="elder-", dir=memory if memory.is_dir() else None))


LAID_OUT = "ELDERBERRY_LAID_OUT"
"""Where all that begin like a first start share what is laid out; whoever says so clears it."""


@contextmanager
def sharing() -> Iterator[Path]:
    """What is laid out in here is laid out once for all, in whatever process; gone afterwards."""
    if LAID_OUT in os.environ:
        yield Path(os.environ[LAID_OUT])
        return
    folder = in_memory()
    os.environ[LAID_OUT] = str(folder)
    try:
        yield folder
    finally:
        del os.environ[LAID_OUT]
        shutil.rmtree(folder, ignore_errors=True)


@contextmanager
def laid_out(command: str = "demo") -> Iterator[Path]:
    """A data folder as it is after a first start, for all that begin like it."""
    with sharing() as shared:
        there, made = shared / command, shared / f"{command}.new"
        with (shared / f"{command}.lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            if not there.exists():
                shutil.rmtree(made, ignore_errors=True)
                first = Installation(made, command)
                first.start()
                first.stop()
                made.rename(there)
        yield there


@contextmanager
def installed(like: Path) -> Iterator[Installation]:
    """An installation in memory that begins like another, started, and gone afterwards."""
    folder = in_memory()
    running = Installation(folder)
    try:
        shutil.copytree(like, folder, dirs_exist_ok=True)
        running.start()
        yield running
    finally:
        running.stop()
        shutil.rmtree(folder, ignore_errors=True)
