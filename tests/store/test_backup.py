"""A backup holds everything as of one moment, and only a whole one is let in."""

from __future__ import annotations

import os
import random
import tarfile
import threading
import time
import uuid
from dataclasses import replace
from io import BytesIO, StringIO
from pathlib import Path

import orjson
import pytest

from aretane.core.errors import InputError, Refused
from aretane.demo.load import game_of
from aretane.desk.keeper import Backups, Keeper
from aretane.store import backup, games, recordings
from aretane.store.club import coach
from aretane.store.database import Database, migrate
from aretane.store.files import RecordingFiles
from aretane.store.shot_figures import Filter, chosen
from tests.conftest import rack_change, shot_change

OLD = Path(__file__).parent / "old" / "backup-2026-11.aretane-backup"


@pytest.fixture
def house(app):
    return app.extensions["aretane"].house


@pytest.fixture
def elsewhere(server, tmp_path):
    """An empty store beside the tests' own."""
    address = replace(server.address(), name=f"other_{uuid.uuid4().hex[:8]}")
    server._as_root(
        f"CREATE DATABASE {address.name}; GRANT ALL ON {address.name}.* TO '{address.user}'@'127.0.0.1';"
    )
    migrate(address)
    yield Database(address), RecordingFiles(tmp_path / "recordings")
    server._as_root(f"DROP DATABASE {address.name};")


@pytest.fixture(scope="module")
def whole(app, tmp_path_factory):
    house = app.extensions["aretane"].house
    file = tmp_path_factory.mktemp("backup") / "a.aretane-backup"
    backup.back_up(house.database, house.files, file)
    return file


def contents(database, files):
    """Every match as it goes out, its figures, every recording with its times and bytes."""
    with database.transaction() as db:
        scope = coach(db)
        _, lines = games.listed(db, scope, 0, 1000)
        every = recordings.listed(db, scope)
        return (
            {line["id"]: games.load(db, scope, line["id"]).as_document() for line in lines},
            chosen(db, scope, Filter(session=None)),
            {one.sha256: (one, recordings.frame_times(db, scope, one.sha256)) for one in every},
            {one.sha256: files.path(one.sha256).read_bytes() for one in every},
        )


def test_a_store_comes_back_as_it_was(house, elsewhere, whole):
    assert whole.stat().st_mode & 0o777 == 0o600
    before = contents(house.database, house.files)
    backup.check(whole)
    backup.restore(*elsewhere, whole)
    migrate(elsewhere[0].address)
    after = contents(*elsewhere)
    assert len(after[0]) >= 6
    assert after == before


def test_it_takes_the_place_of_everything(house, elsewhere, whole):
    database, files = elsewhere
    with database.transaction() as db:
        coach(db)
    backup.restore(database, files, whole)
    backup.restore(database, files, whole)  # over a store that holds something
    migrate(database.address)
    assert contents(database, files) == contents(house.database, house.files)


def test_it_is_of_one_moment_while_others_write(house, client, elsewhere, tmp_path):
    """Each shot is written with its figures: a backup taken meanwhile has as many of one as of the other."""
    game = client.new_match()
    rack = rack_change(game)
    game = client.change(game, rack).json
    over = threading.Event()

    def write():
        known, seat = game, 0
        while not over.is_set():
            seat += 1
            known = client.change(known, shot_change(rack, seat, player="A", kind="pot")).json

    writer = threading.Thread(target=write)
    writer.start()
    try:
        time.sleep(0.2)
        backup.back_up(house.database, house.files, tmp_path / "b")
    finally:
        over.set()
        writer.join()
    backup.restore(*elsewhere, tmp_path / "b")
    with elsewhere[0].transaction() as db:
        scope = coach(db)
        shots = games.load(db, scope, game["id"]).racks[0][1]
        assert len(chosen(db, scope, Filter(session=None, game_id=game["id"]))) == len(shots) > 0
    client.send("DELETE", f"/games/{game['id']}")


def test_a_damaged_one_is_refused_wherever_it_is_damaged(whole, tmp_path):
    raw = whole.read_bytes()
    dice = random.Random(3)
    with tarfile.open(whole) as tar:
        inside = [(member.offset_data, member.size) for member in tar]
    damaged = tmp_path / "damaged"
    for begin, size in inside:
        for _ in range(6):
            at = begin + dice.randrange(size)
            damaged.write_bytes(raw[:at] + bytes([raw[at] ^ 1 << dice.randrange(8)]) + raw[at + 1 :])
            with pytest.raises(InputError):
                backup.check(damaged)
    for _ in range(12):
        damaged.write_bytes(raw[: dice.randrange(inside[-1][0] + inside[-1][1])])
        with pytest.raises(InputError):
            backup.check(damaged)


def made(path, content, **manifest):
    """A backup made by hand."""
    told = {
        "format": "aretane-backup", "version": 1, "made_at": "", "migrations": [], "parts": {}, "missing": [],
        **manifest,
    }  # fmt: skip
    with tarfile.open(path, "w") as tar:
        for name, data in [*content, ("manifest.json", orjson.dumps(told))]:
            info = tarfile.TarInfo(name)
            info.size = len(data)
            tar.addfile(info, BytesIO(data))
    return path


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda path: path.write_bytes(b"a shopping list" * 100), "no backup"),
        (lambda path: path.touch(), "no backup"),
        (lambda path: None, "No such file"),
        (lambda path: made(path, [("../../etc/passwd", b"x")]), "no backup"),
        (lambda path: made(path, [("recordings/" + "a" * 64, b"x")]), "damaged"),
        (lambda path: made(path, [], version=2), "newer version"),
        (lambda path: made(path, [], parts=[1]), "damaged"),
        (lambda path: made(path, []), "damaged"),
    ],
    ids=["text", "empty", "nothing", "another path", "too much", "newer", "bad manifest", "no data"],
)
def test_what_is_no_backup_is_refused(tmp_path, make, said):
    make(tmp_path / "file")
    with pytest.raises(InputError, match=said):
        backup.check(tmp_path / "file")


def test_one_of_a_newer_version_is_refused(whole, tmp_path):
    """By its migrations: its tables may have what this version does not know."""
    with tarfile.open(whole) as tar:
        parts = [(member.name, tar.extractfile(member).read()) for member in tar if member.name != "manifest.json"]
        manifest = orjson.loads(tar.extractfile("manifest.json").read())
    manifest["migrations"].append("9999.tomorrow")
    with pytest.raises(InputError, match=r"newer version of Aretane has made it \(9999.tomorrow\)"):
        backup.check(made(tmp_path / "newer", parts, **manifest))


def test_where_it_cannot_be_written_nothing_is_left(house, tmp_path):
    with pytest.raises(Refused, match="No such file or directory"):
        backup.back_up(house.database, house.files, tmp_path / "nowhere" / "b")
    assert list(tmp_path.iterdir()) == []


def test_an_older_one_opens_in_a_newer_version(elsewhere):
    """Kept from the first release that made backups, of a store that an older one had made."""
    backup.check(OLD)
    backup.restore(*elsewhere, OLD)
    migrate(elsewhere[0].address)
    with elsewhere[0].transaction() as db:
        scope = coach(db)
        n, (line,) = games.listed(db, scope, 0, 10)
        assert (n, line["document"]["title"], line["shots"]) == (1, "An older store", 5)


def test_once_a_day_as_many_as_are_asked_for(house, tmp_path):
    keeper = Keeper(house.database, house.files)
    (tmp_path / "nightly").mkdir()
    keeper._backups = Backups(tmp_path / "nightly", 2)
    for day in range(4, 0, -1):
        keeper.back_up()
        keeper.back_up()  # of today there is one already
        for number, file in enumerate(reversed(backup.backups(tmp_path / "nightly"))):
            then = time.time() - (day + number) * 24 * 3600
            file.rename(file.with_name(f"{day}-{number}{backup.ENDING}"))
            os.utime(tmp_path / "nightly" / f"{day}-{number}{backup.ENDING}", (then, then))
    assert len(backup.backups(tmp_path / "nightly")) == 2
    backup.check(backup.backups(tmp_path / "nightly")[-1])


def test_by_the_command_line(here, app, database, settings, monkeypatch, tmp_path):
    """Out of one store, into another; asked twice where there is something already."""
    monkeypatch.setenv("ARETANE_VAR", str(settings.var))
    monkeypatch.setenv("ARETANE_DATABASE_URL", database.address.url())
    file = tmp_path / "all"
    done = here("backup", file)
    assert (done.returncode, "recordings" in done.stdout) == (0, True), done.stderr
    assert "is there already" in here("backup", file).stderr
    monkeypatch.delenv("ARETANE_DATABASE_URL")
    monkeypatch.setenv("ARETANE_VAR", str(tmp_path / "new"))
    cut = tmp_path / "cut"
    cut.write_bytes(file.read_bytes()[:-30_000])
    assert here("restore", cut).returncode == 2
    assert not (tmp_path / "new").exists(), "a damaged file touches nothing"
    assert here("restore", file).returncode == 0
    assert (
        game_of("snooker") in here("export", "Thursday frame").stdout or here("export", "Thursday").returncode == 0
    )
    refused = here("restore", file)
    assert (refused.returncode, "--replace" in refused.stderr) == (2, True)
    monkeypatch.setattr("sys.stdin", StringIO(""))
    assert here("restore", file, "--replace").returncode == 130, "nobody there to say yes"
    assert here("restore", file, "--replace", "--yes").returncode == 0
