"""The private MariaDB: loopback only, its own folder, back after a kill, gone after a stop."""

from __future__ import annotations

import gc
import os
import signal
import socket
import stat
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pymysql
import pytest
from sqlalchemy import text

from elderberry.local import mariadb
from elderberry.local.mariadb import (
    QUICK_AND_FORGETFUL,
    MariadbFailed,
    PrivateMariadb,
)
from elderberry.store.database import connect


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[PrivateMariadb]:
    running = PrivateMariadb(tmp_path_factory.mktemp("db") / "mariadb", QUICK_AND_FORGETFUL)
    running.start()
    yield running
    running.stop()


def test_it_listens_on_loopback_only_and_its_password_is_its_owners(server: PrivateMariadb) -> None:
    assert server.url("one").startswith("mariadb+pymysql://elderberry:")
    mode = stat.S_IMODE((server.folder / "password").stat().st_mode)
    assert mode == 0o600
    with pytest.raises(OSError), socket.create_connection(("127.0.0.2", server.port), 1):  # noqa: PT011
        pass


def test_the_socket_path_stays_short_however_deep_the_checkout(tmp_path: Path) -> None:
    deep = PrivateMariadb(tmp_path / ("very-long-name-" * 12) / "mariadb")
    assert len(str(deep.socket)) < 100


def test_the_application_user_reaches_one_database(server: PrivateMariadb) -> None:
    engine = connect(server.url("mine"))
    with engine.connect() as connection:
        seen = set(connection.scalars(text("SHOW DATABASES")))
        assert connection.scalar(text("SELECT @@time_zone")) == "+00:00"
    engine.dispose()
    assert "mine" in seen
    assert "mysql" not in seen


def test_one_that_hangs_from_before_is_ended(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(mariadb, "STOP_SECONDS", 0.5)
    server = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    deaf = "import signal, time; signal.signal(signal.SIGTERM, signal.SIG_IGN); time.sleep(600)"
    with subprocess.Popen([sys.executable, "-c", deaf, f"--datadir={server.data}"]) as hangs:
        time.sleep(1.0)
        server.start()
        try:
            assert hangs.wait(5) == -signal.SIGKILL
            assert server.running
        finally:
            server.stop()


@pytest.mark.filterwarnings("ignore:unclosed <socket:ResourceWarning")
def test_a_committed_row_survives_a_kill_and_the_watch_brings_it_back(tmp_path: Path) -> None:
    server = PrivateMariadb(tmp_path / "mariadb")
    server.start()
    server.keep_alive()
    engine = connect(server.url("kept"))
    try:
        with engine.begin() as connection:
            connection.execute(text("CREATE TABLE jar (code varchar(20)) ENGINE=InnoDB"))
            connection.execute(text("INSERT INTO jar VALUES ('DM-26-01-01')"))
        first = server.pid
        assert first is not None
        os.kill(first, signal.SIGKILL)
        deadline = time.monotonic() + 20
        while time.monotonic() < deadline:
            try:
                with engine.connect() as connection:
                    assert connection.scalar(text("SELECT code FROM jar")) == "DM-26-01-01"
                break
            except Exception:
                time.sleep(0.1)
        else:
            pytest.fail("MariaDB did not come back")
        assert server.pid not in {None, first}
    finally:
        engine.dispose()
        server.stop()
    gc.collect()  # what waited for a server that was killed closes its sockets as it pleases
    assert server.pid is None
    assert not server.run.exists()


def test_a_left_over_server_is_ended_before_its_folder_is_used_again(tmp_path: Path) -> None:
    orphan = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    orphan.start()
    heir = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    heir.start()
    try:
        assert orphan.pid is None
        assert heir.pid is not None
    finally:
        heir.stop()


def test_one_that_is_only_coming_up_is_seen_and_ended_before_its_folder_is_used_again(
    tmp_path: Path,
) -> None:
    first = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    first.start()
    first.stop()
    assert not first.running
    coming = threading.Thread(target=first.start)
    coming.start()
    while (pid := first.holder) is None:
        time.sleep(0.001)
    os.kill(pid, signal.SIGSTOP)  # before it has written down that it is there
    heir = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    assert heir.holder == pid
    os.kill(pid, signal.SIGCONT)
    coming.join()
    heir.start()
    try:
        assert first.pid is None
        assert heir.pid not in {None, pid}
    finally:
        heir.stop()


def test_stale_files_of_a_killed_server_do_not_matter(tmp_path: Path) -> None:
    killed = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    killed.start()
    assert killed.pid is not None
    os.kill(killed.pid, signal.SIGKILL)
    while killed.pid is not None:
        time.sleep(0.02)
    assert killed.pid_file.exists()
    again = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    again.start()
    assert again.pid is not None
    again.stop()


def test_a_failure_says_that_the_data_is_untouched(tmp_path: Path) -> None:
    broken = PrivateMariadb(tmp_path / "mariadb", ["--no-such-option"])
    with pytest.raises(MariadbFailed, match="is untouched"):
        broken.start()


def test_nobody_else_may_come_in(server: PrivateMariadb) -> None:
    with pytest.raises(pymysql.err.OperationalError):
        pymysql.connect(host="127.0.0.1", port=server.port, user="root", password="")


def test_a_lost_password_is_made_anew_and_lets_in(tmp_path: Path) -> None:
    server = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    server.start()
    try:
        first = server.url("ours")
        for wrong in (None, ""):
            (server.folder / "password").unlink()
            if wrong is not None:
                (server.folder / "password").write_text(wrong)
            again = server.url("ours")
            assert again != first
            engine = connect(again)
            with engine.connect() as connection:
                assert connection.scalar(text("SELECT 1")) == 1
            engine.dispose()
    finally:
        server.stop()


def test_a_first_start_that_was_killed_is_begun_anew(tmp_path: Path) -> None:
    server = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    half = server.folder / "data.new" / "mysql"
    half.mkdir(parents=True)
    (half / "half_a_table.frm").write_bytes(b"\0")
    server.start()
    assert server.pid is not None
    server.stop()
    assert not half.exists()


def test_it_has_a_temporary_folder_of_its_own(server: PrivateMariadb) -> None:
    engine = connect(server.url("mine"))
    with engine.connect() as connection:
        assert connection.scalar(text("SELECT @@tmpdir")) == str(server.tmp)
    engine.dispose()


def test_damaged_data_says_what_to_do(tmp_path: Path) -> None:
    server = PrivateMariadb(tmp_path / "mariadb", QUICK_AND_FORGETFUL)
    server.start()
    server.stop()
    (server.data / "ibdata1").write_bytes(b"not a table space at all" * 1000)
    with pytest.raises(MariadbFailed, match=r"untouched.*damaged.*kept"):
        server.start()
