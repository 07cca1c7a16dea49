"""Starting and stopping: the private database, the migrations, the web server."""

from __future__ import annotations

import logging
import shutil
import signal
import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import TYPE_CHECKING, Any

from aretane.core.errors import CannotStart

if TYPE_CHECKING:
    from aretane.desk.keeper import Backups
    from aretane.settings import Settings
    from aretane.store.database import Address, Database

HOST = "127.0.0.1"
PORT = 8765
PORTS_TRIED = 20
THREADS = 8
CONNECTIONS, IDLE = 3000, 30  # open at once, and seconds after which a silent one is closed
ROOM_NEEDED = 300_000_000  # bytes that the database and its log may need while running


@contextmanager
def opened_store(settings: Settings, *, alone: bool = False) -> Iterator[Database]:
    """The store, migrated. A private database that was started for this is stopped at the end. With `alone` nobody
    else may be using it.
    """
    import pymysql

    from aretane.store.database import Database, migrate
    from aretane.store.private_server import PrivateServer

    own: PrivateServer | None = None
    try:
        if settings.database_url:
            database = Database(_address(settings.database_url))
        else:
            _check_room(settings.var)
            own = PrivateServer(settings.database)
            if alone and own.in_use:
                raise CannotStart("Aretane is running on this store; stop it first")
            database = Database(own.ensure(), own.revive)
        migrate(database.address)
        yield database
    except pymysql.err.MySQLError as problem:
        raise CannotStart(f"the database refuses: {problem.args[-1]}") from problem
    except OSError as problem:
        raise CannotStart(f"{problem.filename or settings.var}: {problem.strerror or problem}") from problem
    finally:
        if own is not None:
            own.stop()


def run(port: int | None, *, demo: bool, backups: Backups | None = None) -> None:
    """Serve until Ctrl-C. What was started here is stopped here, and nothing else."""
    from aretane.settings import Settings
    from aretane.web.app import create_app, open_log

    settings = Settings.from_environment()
    signal.signal(signal.SIGTERM, _interrupt)
    with suppress(KeyboardInterrupt), opened_store(settings) as database:
        open_log(settings.log)
        if backups:
            backups.folder.mkdir(parents=True, exist_ok=True)
        app = create_app(settings, database)
        house = app.extensions["aretane"].house
        if demo:
            from aretane.demo.load import load_demo

            load_demo(database, house.files)
        listener = _listen(port)
        logging.getLogger("waitress").setLevel(logging.ERROR)
        server = wired(app, listener)
        address = f"http://{HOST}:{listener.getsockname()[1]}/"
        print(f"Aretane is at {address}   (Ctrl-C ends it)", flush=True)
        threading.Thread(target=_load_simulator, daemon=True).start()
        house.resume(alone=settings.database_url is None, backups=backups)
        try:
            server.run()
        finally:
            house.close()


def wired(app: Any, listener: socket.socket) -> Any:
    """The web server: many connections, of which those that are silent or slow hold nobody up."""
    from waitress.server import create_server

    from aretane.web.app import LARGEST_BODY

    return create_server(
        app, sockets=[listener], threads=THREADS, ident=None, connection_limit=CONNECTIONS, asyncore_use_poll=True,
        channel_timeout=IDLE, max_request_body_size=LARGEST_BODY, trusted_proxy=HOST,
        trusted_proxy_headers={"x-forwarded-proto"}, clear_untrusted_proxy_headers=True,
    )  # fmt: skip


def _address(url: str) -> Address:
    from aretane.store.database import Address

    try:
        return Address.from_url(url)
    except ValueError as problem:
        raise CannotStart(str(problem)) from problem


def _load_simulator() -> None:
    """So that the first shot in the lab does not wait for it."""
    import aretane.core.planning.pots.pots  # noqa: F401


def interface_description() -> dict[str, Any]:
    """The OpenAPI document, without a database."""
    import tempfile

    from aretane.settings import Settings
    from aretane.store.database import Address, Database
    from aretane.web.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        nowhere = Database(Address(HOST, 1, "", "", ""))
        spec = create_app(Settings(Path(folder)), nowhere).spec
        assert isinstance(spec, dict)
        return spec


def _listen(port: int | None) -> socket.socket:
    """A listening socket: the asked-for port or none, else the first free one from the usual on."""
    for number in [port] if port else range(PORT, PORT + PORTS_TRIED):
        listener = socket.socket()
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind((HOST, number))
        except OSError:
            listener.close()
            continue
        return listener
    taken = f"port {port} is" if port else f"ports {PORT} to {PORT + PORTS_TRIED - 1} are"
    raise CannotStart(f"{taken} taken by another program; choose one with --port")


def _check_room(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    free = shutil.disk_usage(folder).free
    if free < ROOM_NEEDED:
        raise CannotStart(f"the disk is full: {free / 1e6:.0f} MB are free under {folder}")


def _interrupt(*_: object) -> None:
    sys.stdout.flush()
    raise KeyboardInterrupt
