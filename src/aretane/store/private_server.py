"""A private MariaDB on loopback, with its data in a folder of ours. Started and stopped by us only."""

from __future__ import annotations

import fcntl
import getpass
import os
import secrets
import shutil
import signal
import socket
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from aretane.core.errors import CannotStart
from aretane.store.database import Address

PATIENCE = 60.0  # seconds that a start may take; crash recovery of a large store included
NAME = "aretane"


class PrivateServer:
    """One data folder and the server on it. The process that started it stops it."""

    def __init__(self, folder: Path, *, durable: bool = True) -> None:
        self.folder = folder
        self.durable = durable
        self._started = False

    @property
    def _pid_file(self) -> Path:
        return self.folder / "pid"

    @property
    def _socket(self) -> Path:
        """A socket's path may not exceed about 100 characters, so a deep folder gets one in /tmp."""
        near = self.folder / "s.sock"
        if len(str(near)) < 95:
            return near
        return Path("/tmp") / f"aretane-{os.getuid()}-{abs(hash(str(self.folder))) % 10**8}.sock"

    def address(self) -> Address:
        port = int((self.folder / "port").read_text())
        return Address("127.0.0.1", port, NAME, (self.folder / "password").read_text(), NAME)

    def ensure(self) -> Address:
        """A running server with the application's own database, whatever state the folder was in."""
        self.folder.mkdir(parents=True, exist_ok=True)
        with self._lock():
            if not (self.folder / "ready").exists():
                self._initialise()
            if not self._running():
                self._start()
            elif not _alive(self._owner()):
                self._take_over()
        return self.address()

    def stop(self) -> None:
        """Stop the server if this object started it."""
        if not self._started:
            return
        pid = self._pid()
        if pid is None:
            return
        os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + PATIENCE
        while _alive(pid) and time.monotonic() < deadline:
            time.sleep(0.05)

    def _owner(self) -> int:
        """The process that started the server and will stop it."""
        try:
            return int((self.folder / "owner").read_text())
        except (OSError, ValueError):
            return 0

    def _take_over(self) -> None:
        """Become the one that stops the server: its owner was killed, or there was none yet."""
        (self.folder / "owner").write_text(str(os.getpid()))
        self._started = True

    @contextmanager
    def _lock(self) -> Iterator[None]:
        with (self.folder / "lock").open("w") as file:
            fcntl.flock(file, fcntl.LOCK_EX)
            yield

    def _pid(self) -> int | None:
        try:
            pid = int(self._pid_file.read_text())
        except (OSError, ValueError):
            return None
        return pid if _alive(pid) else None

    def _running(self) -> bool:
        return self._pid() is not None and self._answers()

    def _answers(self) -> bool:
        done = subprocess.run(
            ["mariadb-admin", "--no-defaults", f"--socket={self._socket}", f"--user={_user()}", "ping"],
            capture_output=True,
            check=False,
        )
        return done.returncode == 0

    def _initialise(self) -> None:
        """Create the data folder. One that an earlier attempt left half finished is made anew."""
        if shutil.which("mariadbd") is None and not Path("/usr/sbin/mariadbd").exists():
            raise CannotStart("MariaDB is missing; run ./aretane setup")
        data = self.folder / "data"
        shutil.rmtree(data, ignore_errors=True)
        done = subprocess.run(
            [
                "mariadb-install-db",
                "--no-defaults",
                *([f"--user={_user()}"] if os.getuid() == 0 else []),
                f"--datadir={data}",
                "--auth-root-authentication-method=socket",
                f"--auth-root-socket-user={_user()}",
                "--skip-test-db",
                "--skip-name-resolve",
            ],
            cwd=self.folder,
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode != 0:
            raise CannotStart(f"the database folder could not be made: {_last_line(done.stderr or done.stdout)}")
        password = secrets.token_urlsafe(24)
        _write_private(self.folder / "password", password)
        (self.folder / "port").write_text(str(_free_port()))
        self._start()
        self._as_root(
            f"CREATE DATABASE IF NOT EXISTS {NAME};"
            f"CREATE OR REPLACE USER '{NAME}'@'127.0.0.1' IDENTIFIED BY '{password}';"
            f"GRANT ALL ON {NAME}.* TO '{NAME}'@'127.0.0.1';"
        )
        (self.folder / "ready").write_text("1")

    def _start(self) -> None:
        port = int((self.folder / "port").read_text())
        if _taken(port):  # somebody else has our port by now: take another
            port = _free_port()
            (self.folder / "port").write_text(str(port))
        (self.folder / "tmp").mkdir(exist_ok=True)
        self._socket.unlink(missing_ok=True)
        with (self.folder / "out.log").open("ab") as log:
            process = subprocess.Popen(
                [
                    shutil.which("mariadbd") or "/usr/sbin/mariadbd",
                    "--no-defaults",
                    *([f"--user={_user()}"] if os.getuid() == 0 else []),
                    f"--datadir={self.folder / 'data'}",
                    f"--tmpdir={self.folder / 'tmp'}",
                    f"--socket={self._socket}",
                    f"--pid-file={self._pid_file}",
                    "--bind-address=127.0.0.1",
                    f"--port={port}",
                    "--skip-name-resolve",
                    "--character-set-server=utf8mb4",
                    "--collation-server=utf8mb4_unicode_ci",
                    "--innodb-flush-log-at-trx-commit=1",
                    "--innodb-buffer-pool-size=128M",
                    f"--log-error={self.folder / 'error.log'}",
                    "--skip-log-bin",
                    "--performance-schema=off",
                    *([] if self.durable else ["--skip-innodb-doublewrite"]),
                ],
                cwd=self.folder,
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                start_new_session=True,  # Ctrl-C in the terminal reaches us first; we stop it in order
            )
        self._take_over()
        deadline = time.monotonic() + PATIENCE
        while not self._answers():
            if process.poll() is not None or time.monotonic() > deadline:
                raise CannotStart(
                    f"the database did not start: {_complaint(self.folder / 'error.log')} "
                    f"(see {self.folder / 'error.log'})"
                )
            time.sleep(0.05)

    def _as_root(self, statements: str) -> None:
        done = subprocess.run(
            ["mariadb", "--no-defaults", f"--socket={self._socket}", f"--user={_user()}"],
            input=statements,
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode != 0:
            raise CannotStart(f"the database could not be prepared: {_last_line(done.stderr)}")


def _user() -> str:
    return getpass.getuser()


def _alive(pid: int) -> bool:
    """Whether that process runs; one that has ended but was not waited for does not."""
    try:
        state = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
    except OSError:
        return False
    return state != "Z"


def _taken(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return True
    return False


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _write_private(path: Path, text: str) -> None:
    path.unlink(missing_ok=True)
    descriptor = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(descriptor, "w") as file:
        file.write(text)


def _last_line(text: str) -> str:
    lines = [line for line in text.strip().splitlines() if line.strip()]
    return lines[-1] if lines else "no reason given"


def _complaint(log: Path) -> str:
    """The last error in a MariaDB log, without its time stamp."""
    try:
        errors = [line for line in log.read_text(errors="replace").splitlines() if "[ERROR]" in line]
    except OSError:
        errors = []
    return errors[-1].partition("[ERROR]")[2].strip() if errors else "no reason given"
