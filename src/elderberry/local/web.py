"""The web application: its packages from the lock file, built again only when sources changed."""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
from pathlib import Path

LEAST_NODE = (20, 19)
BUILT_FROM = ("src", "public", "index.html", "package-lock.json", "vite.config.ts", "tsconfig.json")


class WebFailed(Exception):
    """The web application could not be built; the message says what to do."""


def build(root: Path) -> Path:
    """The built page's folder, made anew where its sources changed since it was built."""
    web, dist = root / "web", root / "web" / "dist"
    stamp, wanted = dist / ".stamp", _hash(web)
    if stamp.exists() and stamp.read_text() == wanted:
        return dist
    packages(root)
    run(root, "Building the page", ["npm", "run", "build"], web, "see the messages above it")
    stamp.write_text(wanted)
    return dist


def packages(root: Path) -> None:
    """The web packages as the lock file has them."""
    web = root / "web"
    stamp = web / "node_modules" / ".stamp"
    wanted = hashlib.sha256((web / "package-lock.json").read_bytes()).hexdigest()
    if stamp.exists() and stamp.read_text() == wanted:
        return
    retry = "check the network connection and try again"
    run(root, "Installing the web packages, a minute", ["npm", "ci"], web, retry)
    stamp.write_text(wanted)


def run(root: Path, name: str, command: list[str], folder: Path, remedy: str) -> None:
    """Run one long step with node in reach; its output goes to a log.

    Raises:
        WebFailed: with the end of the log and what to do.
    """
    print(f"  {name} …", flush=True)
    log = root / ".local" / "log" / f"{command[-1]}.log"
    log.parent.mkdir(parents=True, exist_ok=True)
    with log.open("wb") as out:
        done = subprocess.run(
            command, cwd=folder, env=environment(root), stdout=out, stderr=out,
            stdin=subprocess.DEVNULL, check=False,
        )  # fmt: skip
    if done.returncode != 0:
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-15:])
        raise WebFailed(f"{tail}\nStopped at: {name}. What to do: {remedy} (whole log: {log})")


def environment(root: Path) -> dict[str, str]:
    """The environment with a new enough node first on the path, brought by a wheel if need be."""
    if _node_version() >= LEAST_NODE:
        return dict(os.environ)
    home = root / ".local" / "node"
    if not (home / "bin" / "npm").exists():
        print("  Installing Node.js …", flush=True)
        uv = root / ".local" / "uv" / "bin" / "uv"
        lock = root / "locks" / "node.lock"
        subprocess.run([str(uv), "venv", "-q", "--clear", str(home)], check=True)
        subprocess.run(
            [str(uv), "pip", "sync", "-q", "--require-hashes", str(lock)],
            env={**os.environ, "VIRTUAL_ENV": str(home)},
            check=True,
        )
    return {**os.environ, "PATH": f"{home / 'bin'}:{os.environ.get('PATH', '')}"}


def _node_version() -> tuple[int, int]:
    node = shutil.which("node")
    if node is None or shutil.which("npm") is None:
        return (0, 0)
    said = subprocess.run([node, "--version"], capture_output=True, text=True, check=False).stdout
    major, minor, *_ = (*said.strip().lstrip("v").split("."), "0", "0")
    return (int(major or 0), int(minor or 0))


def _hash(web: Path) -> str:
    """A hash of everything the built page is made from."""
    digest = hashlib.sha256()
    for name in BUILT_FROM:
        top = web / name
        for file in sorted(top.rglob("*")) if top.is_dir() else [top]:
            if file.is_file():
                digest.update(f"{file.relative_to(web)}\0".encode())
                digest.update(file.read_bytes())
    return digest.hexdigest()
