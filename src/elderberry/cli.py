"""The one command, behind ./elderberry, once Python and Debian's programs are there."""

from __future__ import annotations

import argparse
import errno
import fcntl
import json
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from types import FrameType
from typing import IO, Any

from elderberry.local import web
from elderberry.local.mariadb import MariadbFailed, PrivateMariadb

ROOT = Path(__file__).resolve().parents[2]
LOCAL = Path(os.environ.get("ELDERBERRY_HOME") or ROOT / ".local")
USUAL_PORT = 8585
RUNNING = LOCAL / "running.json"


class CannotRun(Exception):
    """A command cannot go on; the message says why and what to do."""


def main(arguments: list[str]) -> int:
    """Run a command; returns the exit code."""
    parser = argparse.ArgumentParser(prog="./elderberry", add_help=False)
    parser.add_argument("command", choices=[*COMMANDS])
    parser.add_argument("--port", type=int, default=None)
    parser.add_argument("--minutes", type=float, default=10.0)
    parser.add_argument("--into", default="")
    parser.add_argument("--over", action="store_true")
    chosen, rest = parser.parse_known_args(arguments)
    try:
        return COMMANDS[chosen.command](chosen, rest)
    except (CannotRun, MariadbFailed, web.WebFailed) as failed:
        print(f"  {failed}", file=sys.stderr)
    except OSError as failed:
        print(f"  {_of_the_disk(failed)}", file=sys.stderr)
    return 1


def _of_the_disk(failed: OSError) -> str:
    """What is said where a folder or its disk does not take what is to be written."""
    why = {errno.ENOSPC: "the disk is full", errno.EDQUOT: "there is no room left for you"}
    said = why.get(failed.errno or 0, f"{failed.filename or LOCAL}: {failed.strerror or failed}")
    return (
        f"Elderberry cannot write where it keeps its data: {said}. Nothing was changed. Make "
        f"room, make {LOCAL} writable, or name another folder in ELDERBERRY_HOME, then try again."
    )


def setup(_: argparse.Namespace, __: list[str]) -> int:
    """Install and build everything; start nothing."""
    web.build(ROOT)
    print("  Everything is ready. ./elderberry demo starts it.")
    return 0


def demo(chosen: argparse.Namespace, _: list[str]) -> int:
    """Serve the made-up household."""
    return _serve(chosen.port, demonstrate=True)


def serve(chosen: argparse.Namespace, _: list[str]) -> int:
    """Serve this installation's own household."""
    return _serve(chosen.port, demonstrate=False)


def stop(_: argparse.Namespace, __: list[str]) -> int:
    """Stop a running Elderberry."""
    try:
        pid = int(json.loads(RUNNING.read_text())["pid"])
        with (LOCAL / "lock").open() as lock:
            if _held(lock):
                os.kill(pid, signal.SIGTERM)
                _wait_for_release(lock)
                print("  Stopped.")
                return 0
    except (OSError, ValueError, KeyError):
        pass
    print("  Nothing is running.")
    return 0


def _held(lock: IO[str]) -> bool:
    """Whether an Elderberry runs: only then is the number that it left behind its own."""
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    fcntl.flock(lock, fcntl.LOCK_UN)
    return False


def _wait_for_release(lock: IO[str]) -> None:
    deadline = time.monotonic() + 30
    while time.monotonic() < deadline and _held(lock):
        time.sleep(0.05)


def test(_: argparse.Namespace, rest: list[str]) -> int:
    """Every check there is; arguments go to pytest and skip the others."""
    from elderberry.trial.installation import sharing  # noqa: PLC0415  only what is needed for it

    if rest:
        web.build(ROOT)
    else:
        with ThreadPoolExecutor() as beside:
            page = beside.submit(_check_page)
            code = _check_sources()
            page.result()
        if code:
            return code
    with sharing():
        for chosen in (rest,) if rest else (ON_EVERY_CORE, IN_THE_PAGE):
            pytest = [sys.executable, "-m", "pytest", *chosen]
            code = subprocess.run(pytest, cwd=ROOT, check=False).returncode
            if code:
                return code
        return 0 if rest else _trial(SHORT_TRIAL_S, by_the_clock=False)


ON_EVERY_CORE = ("-n", "auto", "--dist", "worksteal", "--durations=12", "--ignore=tests/web")
"""Those of a file mostly after one another, but nobody is idle while another has some left."""
IN_THE_PAGE = ("tests/web", "-n", "auto", "--dist", "loadscope", "--durations=12")
"""Journeys come by themselves, those of a file and a size one after the other."""
SHORT_TRIAL_S = 90.0
"""How long the check is that every test run ends with."""


def _check_sources() -> int:
    """What can be known of the Python without running it."""
    python = Path(sys.executable).parent
    checks = {
        "Ruff": [str(python / "ruff"), "check", "--quiet", "."],
        "Format": [str(python / "ruff"), "format", "--check", "--quiet", "."],
        "Import contract": [str(python / "lint-imports")],
        "Mypy": [sys.executable, "-m", "mypy"],
    }
    for name, command in checks.items():
        print(f"  {name} …", flush=True)
        code = subprocess.run(command, cwd=ROOT, check=False).returncode
        if code:
            print(f"  Stopped at: {name}. Correct what it says above, then try again.")
            return code
    return 0


def _check_page() -> None:
    """The page's sources and its own functions; then it is built."""
    web.packages(ROOT)
    wrong = "correct what it says above"
    web.run(ROOT, "Checking the page's sources", ["npm", "run", "check"], ROOT / "web", wrong)
    web.run(ROOT, "Trying the page's own functions", ["npm", "test"], ROOT / "web", wrong)
    web.build(ROOT)


def bench(_: argparse.Namespace, __: list[str]) -> int:
    """How fast it is, against its limits."""
    from elderberry.bench import measure  # noqa: PLC0415  numpy only where it is needed

    web.build(ROOT)
    figures = measure()
    print("\n".join(figure.line() for figure in figures))
    return 0 if all(figure.holds for figure in figures) else 1


def plan(_: argparse.Namespace, rest: list[str]) -> int:
    """A plan of what was said, without a household."""
    from elderberry.at_the_prompt import run  # noqa: PLC0415  only what is needed for it

    return run(rest)


def check(chosen: argparse.Namespace, _: list[str]) -> int:
    """Ten minutes of bad days, or as long as asked."""
    web.build(ROOT)
    return _trial(60.0 * chosen.minutes)


def _trial(seconds: float, *, by_the_clock: bool = True) -> int:
    from elderberry import trial  # noqa: PLC0415  only what is needed for it

    print(f"  Bad days, {seconds / 60:.3g} minutes …", flush=True)
    return 0 if trial.run(seconds, by_the_clock=by_the_clock) else 1


def backup(_: argparse.Namespace, rest: list[str]) -> int:
    """Write everything into one file, also while Elderberry runs."""
    from elderberry.local import backup as backups  # noqa: PLC0415  only what is needed for it
    from elderberry.store.database import connect, lives  # noqa: PLC0415

    now = datetime.now(UTC)
    with _as_it_is("elderberry") as url:
        engine = connect(url)
        try:
            if not lives(engine):
                raise CannotRun("There is no household of your own here yet: nothing to back up.")
            made = (
                backups.make(engine, Path(rest[0]), now) if rest
                else backups.into(LOCAL / "backups", engine, now)
            )  # fmt: skip
        except backups.NoBackup as wrong:
            raise CannotRun(str(wrong)) from wrong
        finally:
            engine.dispose()
    print(f"  {made.file} is whole: {made.size / 1e6:.1f} MB, read again to its end.")
    return 0


@contextmanager
def _as_it_is(name: str) -> Iterator[str]:
    """The address of a database, whether Elderberry runs or not."""
    server = PrivateMariadb(LOCAL / "mariadb")
    if not os.environ.get("DATABASE_URL"):
        if not server.data.is_dir():
            raise CannotRun(f"There is nothing in {LOCAL} yet. ./elderberry serve begins.")
        if server.running:
            yield server.url(name)
            return
    with _only_one(), _database(name) as url:
        yield url


def restore(chosen: argparse.Namespace, rest: list[str]) -> int:
    """Put a backup, or a household's archive, where there is nothing yet, or over what there is."""
    from elderberry.formats.archive import NoArchive  # noqa: PLC0415  only what is needed for it
    from elderberry.local import backup as backups  # noqa: PLC0415
    from elderberry.services.cooking import kept  # noqa: PLC0415
    from elderberry.services.household.hashing import Hashing  # noqa: PLC0415
    from elderberry.store.database import connect, lives  # noqa: PLC0415

    if len(rest) != 1:
        raise CannotRun("Say which file: ./elderberry restore FILE")
    home, file, now = Path(chosen.into) if chosen.into else LOCAL, Path(rest[0]), datetime.now(UTC)
    with _only_one(home), _database("elderberry", home) as url:
        engine = connect(url)
        try:
            if lives(engine) and not chosen.over:
                raise CannotRun(
                    "There is a household here already. Nothing was changed. Put it into another "
                    "folder (--into FOLDER), or in its place (--over)."
                )
            if file.suffix == ".zip":
                said = backups.take_in(
                    engine, home / "kept", file, now, Hashing(), kept.everything
                ).in_words()
            else:
                found = backups.restore(engine, home / "kept", file, now, kept.everything)
                said = f"Everything of {found.made:%-d %B %Y, %H:%M} is back."
        except (backups.NoBackup, NoArchive) as wrong:
            raise CannotRun(str(wrong)) from wrong
        finally:
            engine.dispose()
    start = "./elderberry serve" if home == LOCAL else f"ELDERBERRY_HOME={home} ./elderberry serve"
    print(f"  {said} {start} starts it.")
    return 0


def types(_: argparse.Namespace, __: list[str]) -> int:
    """Write the page's types anew from the API."""
    (ROOT / ".local" / "openapi.json").write_text(json.dumps(openapi()))
    web.run(ROOT, "Writing types", ["npm", "run", "types"], ROOT / "web", "see its messages")
    return 0


def openapi() -> dict[str, Any]:
    """The API's own description; needs no database."""
    from sqlalchemy import create_engine  # noqa: PLC0415

    from elderberry.api.app import create_app  # noqa: PLC0415
    from elderberry.api.settings import Settings  # noqa: PLC0415

    engine = create_engine("mariadb+pymysql://", pool_size=1)
    return create_app(Settings(engine)).openapi()


COMMANDS: dict[str, Callable[[argparse.Namespace, list[str]], int]] = {
    "backup": backup,
    "bench": bench,
    "check": check,
    "demo": demo,
    "plan": plan,
    "restore": restore,
    "serve": serve,
    "setup": setup,
    "stop": stop,
    "test": test,
    "types": types,
}


def _serve(port: int | None, demonstrate: bool) -> int:
    _when_told(_interrupted)
    try:
        with _only_one():
            page = web.build(ROOT)
            with _database("elderberry_demo" if demonstrate else "elderberry") as url:
                _listen(url, page, port, demonstrate)
    except KeyboardInterrupt:
        pass
    return 0


def _interrupted(_: int, __: FrameType | None) -> None:
    TOLD.set()
    raise KeyboardInterrupt


TOLD = threading.Event()
"""Set once it is told to stop while it starts: what a signal raises is lost in a callback."""


def _when_told(act: Callable[[int, FrameType | None], None]) -> None:
    """What is done when we are told to stop, by `./elderberry stop` or Ctrl-C."""
    for told in (signal.SIGTERM, signal.SIGINT):
        signal.signal(told, act)


@contextmanager
def _only_one(folder: Path | None = None) -> Iterator[None]:
    """One Elderberry a data folder; a second one is told where the first is."""
    home = folder or LOCAL
    home.mkdir(parents=True, exist_ok=True)
    running = RUNNING if home == LOCAL else home / RUNNING.name
    with (home / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            where = json.loads(running.read_text())["url"] if running.exists() else "this machine"
            raise CannotRun(
                f"Elderberry is already running at {where}. Open that, or run ./elderberry stop"
            ) from None
        try:
            yield
        finally:
            running.unlink(missing_ok=True)


@contextmanager
def _database(name: str, folder: Path | None = None) -> Iterator[str]:
    """The address of the database: yours by DATABASE_URL, else the private server's."""
    own = os.environ.get("DATABASE_URL")
    if own:
        yield own
        return
    server = PrivateMariadb((folder or LOCAL) / "mariadb")
    try:
        server.start()
        server.keep_alive()
        yield server.url(name)
    finally:
        server.stop()


def _listen(url: str, page: Path, port: int | None, demonstrate: bool) -> None:
    """Migrate, load the demo, and serve page and API on loopback until told to stop."""
    import uvicorn  # noqa: PLC0415  only when serving
    from sqlalchemy.orm import Session  # noqa: PLC0415

    from elderberry.api.app import create_app  # noqa: PLC0415
    from elderberry.api.settings import Settings  # noqa: PLC0415
    from elderberry.demo import household  # noqa: PLC0415
    from elderberry.local.backup import Kept  # noqa: PLC0415
    from elderberry.local.upgrade import UpgradeFailed, bring_up  # noqa: PLC0415
    from elderberry.services.cooking import kept  # noqa: PLC0415
    from elderberry.services.household.hashing import Hashing  # noqa: PLC0415
    from elderberry.store.database import connect  # noqa: PLC0415

    engine, hashing = connect(url), Hashing()
    try:
        bring_up(engine, LOCAL / "kept", datetime.now(UTC), kept.everything)
    except UpgradeFailed as failed:
        raise CannotRun(str(failed)) from failed
    if demonstrate:
        with Session(engine) as orm, orm.begin():
            household.load(orm, hashing, datetime.now(UTC))
    kept_in = LOCAL / ("backups-demo" if demonstrate else "backups")
    backups = (
        None
        if os.environ.get("DATABASE_URL")
        else Kept(engine, kept_in, LOCAL / "kept", kept.everything)
    )
    if backups:
        backups.begin()
    app = create_app(Settings(engine, demo=demonstrate, web=page, hashing=hashing, backups=backups))

    class Server(uvicorn.Server):
        def handle_exit(self, sig: int, frame: FrameType | None) -> None:
            app.state.live.stop()  # live streams end first, so that nothing waits for them
            super().handle_exit(sig, frame)

    config = uvicorn.Config(
        app, log_level="warning", access_log=False, timeout_graceful_shutdown=1,
        server_header=False,
    )  # fmt: skip
    server = Server(config)
    _when_told(server.handle_exit)
    if TOLD.is_set():
        return
    with _listening_socket(port) as listening:
        address = f"http://127.0.0.1:{listening.getsockname()[1]}/"
        RUNNING.write_text(json.dumps({"pid": os.getpid(), "url": address}))
        print(f"  Elderberry is at {address}   (Ctrl-C stops it)", flush=True)
        server.run(sockets=[listening])


def _listening_socket(port: int | None) -> socket.socket:
    """A loopback socket on the port asked for, else the usual one or the next that is free."""
    candidates = [port] if port is not None else [*range(USUAL_PORT, USUAL_PORT + 50)]
    for candidate in candidates:
        listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind(("127.0.0.1", candidate))
            listening.listen(128)  # whoever opens the address at once is kept waiting, not refused
        except OSError:
            listening.close()
            continue
        return listening
    raise CannotRun(f"Port {candidates[0]} is taken. Choose another: --port N")


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
