"""A private MariaDB on loopback, with its data in a folder of ours. Started and stopped by us only."""

from __future__ import annotations

import fcntl
import getpass
import hashlib
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
ANSWER = 1.0  # seconds for a ping
STOPPING = 5.0  # seconds that it may take to stop in order
SHORT = 3.0  # seconds that a request waits for a database that died: others must not be shut out meanwhile
NAME = "aretane"


class PrivateServer:
    """One data folder and the server on it. The process that started it stops it."""

    def __init__(self, folder: Path, *, durable: bool = True) -> None:
        self.folder = folder
        self.durable = durable
        self._started = False
        self._process: subprocess.Popen[bytes] | None = None

    @property
    def _pid_file(self) -> Path:
        return self.folder / "pid"

    @property
    def _socket(self) -> Path:
        """A socket's path may not exceed about 100 characters, so a deep folder gets one in /tmp."""
        near = self.folder / "s.sock"
        if len(str(near)) < 95:
            return near
        name = hashlib.sha256(str(self.folder).encode()).hexdigest()[:16]
        return Path("/tmp") / f"aretane-{os.getuid()}-{name}.sock"

    def address(self) -> Address:
        return Address("127.0.0.1", self._port() or 0, NAME, (self.folder / "password").read_text(), NAME)

    def ensure(self, patience: float = PATIENCE) -> Address:
        """A running server with the application's own database, whatever state the folder was in.

        Raises `CannotStart` when it does not run within so many seconds; one that others start is waited for.
        """
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            with self._lock():
                new = not (self.folder / "ready").exists()
                if new:
                    self._make_folder()
                if self._pid() is None:
                    self._begin()
                elif not _alive(self._owner()):
                    self._take_over()
            self._await(patience)
            if new or not (self.folder / "password").exists():
                self._let_in()
        except OSError as problem:
            raise CannotStart(f"{problem.filename or self.folder}: {problem.strerror}") from problem
        return self.address()

    def revive(self) -> Address:
        """The same for a request, which cannot wait for long."""
        return self.ensure(SHORT)

    def stop(self) -> None:
        """Stop the server if this object started it."""
        if not self._started:
            return
        pid = self._pid()
        if pid is None:
            return
        os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + STOPPING
        while _alive(pid) and time.monotonic() < deadline:
            if self._process is not None:
                self._process.poll()
            time.sleep(0.05)
        if _alive(pid):  # frozen; what it has acknowledged is on the disk
            os.kill(pid, signal.SIGKILL)

    @property
    def in_use(self) -> bool:
        """Whether another process has started it and still runs."""
        return self._pid() is not None and self._owner() != os.getpid() and _alive(self._owner())

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
        """The server's process, also while it is starting and has not written its own file yet."""
        for file in (self._pid_file, self.folder / "starting"):
            try:
                pid = int(file.read_text())
            except (OSError, ValueError):
                continue
            if _alive(pid):
                return pid
        return None

    def _port(self) -> int | None:
        try:
            return int((self.folder / "port").read_text())
        except (OSError, ValueError):
            return None

    def _answers(self) -> bool:
        ping = ["mariadb-admin", "--no-defaults", f"--socket={self._socket}", f"--user={_user()}", "ping"]
        try:
            return subprocess.run(ping, capture_output=True, check=False, timeout=ANSWER).returncode == 0
        except subprocess.TimeoutExpired:  # it is frozen
            return False

    def _make_folder(self) -> None:
        """Create the data folder. One that an earlier attempt left half finished is made anew."""
        if shutil.which("mariadbd") is None and not Path("/usr/sbin/mariadbd").exists():
            raise CannotStart("MariaDB is missing; run ./aretane setup")
        data, temporary = self.folder / "data", self.folder / "tmp"
        shutil.rmtree(data, ignore_errors=True)
        temporary.mkdir(exist_ok=True)
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
            env={**os.environ, "TMPDIR": str(temporary)},  # two that share one remove each other's tables
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode != 0:
            raise CannotStart(f"the database folder could not be made: {_reason(done.stderr or done.stdout)}")

    def _let_in(self) -> None:
        """Make the application's own user and database, with a password that nobody else has read."""
        password = secrets.token_urlsafe(24)
        _write_private(self.folder / "password", password)
        self._as_root(
            f"CREATE DATABASE IF NOT EXISTS {NAME};"
            f"CREATE OR REPLACE USER '{NAME}'@'127.0.0.1' IDENTIFIED BY '{password}';"
            f"GRANT ALL ON {NAME}.* TO '{NAME}'@'127.0.0.1';"
        )
        (self.folder / "ready").write_text("1")

    def _begin(self) -> None:
        """Start the server's process, without waiting for it."""
        port = self._port()
        if port is None or _taken(port):  # lost, or somebody else has it by now
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
                    "--innodb-buffer-pool-size=512M",
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
        (self.folder / "starting").write_text(str(process.pid))
        self._process = process
        self._take_over()

    def _await(self, patience: float) -> None:
        """Wait until it answers. One that does not within a whole start's time is not left running."""
        deadline = time.monotonic() + patience
        log = self.folder / "error.log"
        while not self._answers():
            if self._process is not None:
                self._process.poll()  # so that an ended one is no zombie
            if self._pid() is None:
                raise CannotStart(f"the database did not start: {_complaint(log)} (see {log})")
            if time.monotonic() > deadline:
                if patience >= PATIENCE:
                    self.stop()
                raise CannotStart(f"the database has not answered for {patience:.0f} s (see {log})")
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
            raise CannotStart(f"the database could not be prepared: {_reason(done.stderr)}")


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


def _complaint(log: Path) -> str:
    try:
        return _reason(log.read_text(errors="replace"))
    except OSError:
        return "no reason given"


def _reason(text: str) -> str:
    """The last error that MariaDB told, without its time stamp; that it ends therefore is no reason."""
    errors = [line.partition("ERROR")[2].strip("]: ") for line in text.splitlines() if "ERROR" in line]
    return next((error for error in reversed(errors) if error != "Aborting"), "no reason given")
