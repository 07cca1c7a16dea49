"""The whole store in one file, taken while it is in use, and a store made anew from such a file.

The file is a tar: `data.sql.gz` as of one moment, `recordings/` by content hash, and at its end `manifest.json`
with the version, the migrations that were applied, and size and SHA-256 of every part.
"""

from __future__ import annotations

import gzip
import hashlib
import os
import re
import shutil
import subprocess
import tarfile
import uuid
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from io import BytesIO
from pathlib import Path
from typing import IO, Any

import orjson

from aretane.core.errors import InputError, Refused, Unavailable
from aretane.store.database import MIGRATIONS, Address, Database
from aretane.store.files import RecordingFiles

FORMAT, VERSION = "aretane-backup", 1
DATA, MANIFEST, RECORDINGS = "data.sql.gz", "manifest.json", "recordings/"
ENDING = ".aretane-backup"
PIECE = 1 << 20  # bytes that are read at once
NAME = re.compile(r"data\.sql\.gz|recordings/[0-9a-f]{64}")

Told = Callable[[str], None]


@dataclass(frozen=True)
class Part:
    size: int
    sha256: str


@dataclass(frozen=True)
class Manifest:
    """What a backup holds: its parts by name, and recordings that were removed while it was taken."""

    made_at: str
    migrations: list[str]
    parts: dict[str, Part]
    missing: list[str]


def back_up(database: Database, files: RecordingFiles, target: Path, told: Told = lambda _: None) -> Manifest:
    """Write a backup; `target` appears when it is whole. Raises `Refused` where it cannot be written."""
    part, data = target.with_name(target.name + ".part"), target.with_name(target.name + ".data")
    try:
        _dump(database.address, data)
        manifest = _written(database, files, part, data, told)
        part.replace(target)
    except OSError as problem:
        raise Refused(f"{problem.filename or target}: {problem.strerror}") from problem
    finally:
        part.unlink(missing_ok=True)
        data.unlink(missing_ok=True)
    return manifest


def check(file: Path, told: Told = lambda _: None) -> Manifest:
    """Read a backup to its end. Raises `InputError` for one that is damaged, or that a newer version has made."""
    found: dict[str, Part] = {}
    manifest = None
    with _readable(file):
        for name, size, content in _members(file):
            told(name)
            if name == MANIFEST:
                manifest = _manifest(content.read())
            else:
                found[name] = Part(size, _sum(content, None))
    named = all(name == DATA or name == RECORDINGS + part.sha256 for name, part in found.items())
    if manifest is None or found != manifest.parts or DATA not in found or not named:
        raise InputError("backup", "the file is damaged: not everything in it is as it was written")
    if unknown := sorted(set(manifest.migrations) - {path.stem for path in MIGRATIONS.iterdir()}):
        raise InputError("backup", f"a newer version of Aretane has made it ({unknown[-1]})")
    return manifest


def restore(database: Database, files: RecordingFiles, file: Path, told: Told = lambda _: None) -> None:
    """Put what a backup holds, which `check` has read, in the place of everything in the store. The store is as old
    as the backup then: `migrate` it.
    """
    with _readable(file):
        for name, _, content in _members(file):
            told(name)
            if name == DATA:
                _empty(database)
                _load(database.address, content)
            elif name.startswith(RECORDINGS):
                _take_in(files, name.removeprefix(RECORDINGS), content)


def holds_anything(database: Database) -> bool:
    with database.transaction() as db, db.cursor() as cursor:
        return cursor.execute("SELECT 1 FROM game LIMIT 1") + cursor.execute("SELECT 1 FROM recording LIMIT 1") > 0


def due(folder: Path, every: float) -> Path | None:
    """The file to write a backup to if the newest in the folder is older than so many seconds."""
    kept, now = backups(folder), datetime.now(UTC)
    if kept and now.timestamp() - kept[-1].stat().st_mtime < every:
        return None
    return folder / f"{now:%Y-%m-%d-%H%M}{ENDING}"


def keep_newest(folder: Path, many: int) -> None:
    for old in backups(folder)[:-many]:
        old.unlink(missing_ok=True)


def backups(folder: Path) -> list[Path]:
    """Those of a folder, oldest first."""
    return sorted(folder.glob(f"*{ENDING}"), key=lambda path: path.stat().st_mtime)


def _written(database: Database, files: RecordingFiles, part: Path, data: Path, told: Told) -> Manifest:
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("SELECT DISTINCT sha256 FROM recording ORDER BY sha256")
        wanted = [row["sha256"] for row in cursor.fetchall()]
        cursor.execute("SELECT migration_id FROM _yoyo_migration ORDER BY migration_id")
        migrations = [row["migration_id"] for row in cursor.fetchall()]
    parts: dict[str, Part] = {}
    missing = []
    descriptor = os.open(part, os.O_RDWR | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(descriptor, "wb") as raw:
        with tarfile.open(fileobj=raw, mode="w", format=tarfile.PAX_FORMAT) as tar:
            parts[DATA] = _add(tar, DATA, data)
            for number, sha256 in enumerate(wanted, start=1):
                told(f"recording {number} of {len(wanted)}")
                try:
                    parts[RECORDINGS + sha256] = _add(tar, RECORDINGS + sha256, files.path(sha256))
                except FileNotFoundError:
                    missing.append(sha256)
            manifest = Manifest(f"{datetime.now(UTC):%Y-%m-%dT%H:%M:%SZ}", migrations, parts, missing)
            told_at_end = orjson.dumps({"format": FORMAT, "version": VERSION, **asdict(manifest)})
            tar.addfile(_info(MANIFEST, len(told_at_end)), BytesIO(told_at_end))
        raw.flush()
        os.fsync(raw.fileno())
    return manifest


def _add(tar: tarfile.TarFile, name: str, path: Path) -> Part:
    """One file, read once: its sum is of what goes into the tar."""
    with path.open("rb") as file:
        size = os.fstat(file.fileno()).st_size
        reading = _Summed(file)
        tar.addfile(_info(name, size), reading)
    return Part(size, reading.sum.hexdigest())


class _Summed:
    def __init__(self, file: IO[bytes]) -> None:
        self._file, self.sum = file, hashlib.sha256()

    def read(self, size: int = -1) -> bytes:
        piece = self._file.read(size)
        self.sum.update(piece)
        return piece


def _info(name: str, size: int) -> tarfile.TarInfo:
    info = tarfile.TarInfo(name)
    info.size, info.mode, info.mtime = size, 0o600, int(datetime.now(UTC).timestamp())
    return info


def _members(file: Path) -> Iterator[tuple[str, int, IO[bytes]]]:
    with tarfile.open(file, "r|") as tar:
        for member in tar:
            content = tar.extractfile(member) if member.isreg() else None
            if content is None or not (member.name == MANIFEST or NAME.fullmatch(member.name)):
                raise InputError("backup", "this is no backup of Aretane")
            yield member.name, member.size, content


@contextmanager
def _readable(file: Path) -> Iterator[None]:
    try:
        yield
    except (tarfile.TarError, EOFError, zlib.error):
        raise InputError("backup", "this is no backup of Aretane, or it is cut off") from None
    except OSError as problem:
        raise InputError("backup", f"{file}: {problem.strerror or problem}") from None


def _manifest(raw: bytes) -> Manifest:
    try:
        told = orjson.loads(raw)
        if told["format"] != FORMAT or told["version"] > VERSION:
            raise InputError("backup", "a newer version of Aretane has made it")
        parts = {name: Part(**part) for name, part in told["parts"].items()}
        return Manifest(told["made_at"], told["migrations"], parts, told["missing"])
    except (orjson.JSONDecodeError, KeyError, TypeError, AttributeError):
        raise InputError("backup", "the file is damaged: its manifest cannot be read") from None


def _sum(content: IO[bytes], target: IO[bytes] | None) -> str:
    found = hashlib.sha256()
    while piece := content.read(PIECE):
        found.update(piece)
        if target is not None:
            target.write(piece)
    return found.hexdigest()


def _take_in(files: RecordingFiles, sha256: str, content: IO[bytes]) -> None:
    path = files.incoming / str(uuid.uuid4())
    with path.open("wb") as file:
        _sum(content, file)
    with files.adding(path, sha256):
        pass


def _dump(address: Address, target: Path) -> None:
    """As of one moment, while others write."""
    dump = [
        "mariadb-dump", "--no-defaults", *_login(address), "--single-transaction", "--quick", "--hex-blob",
        "--no-tablespaces", "--skip-comments", "--default-character-set=utf8mb4", address.name,
    ]  # fmt: skip
    descriptor = os.open(target, os.O_RDWR | os.O_CREAT | os.O_TRUNC, 0o600)
    with (
        os.fdopen(descriptor, "wb") as raw,
        gzip.GzipFile(fileobj=raw, mode="wb", compresslevel=6) as packed,
        subprocess.Popen(dump, env=_env(address), stdout=subprocess.PIPE, stderr=subprocess.PIPE) as process,
    ):
        assert process.stdout is not None
        assert process.stderr is not None
        shutil.copyfileobj(process.stdout, packed, PIECE)
        said = process.stderr.read().decode(errors="replace").strip()
    if process.returncode != 0:
        raise Unavailable(f"the data could not be read: {said.splitlines()[-1] if said else 'no reason given'}")


def _load(address: Address, content: IO[bytes]) -> None:
    client = ["mariadb", "--no-defaults", *_login(address), "--default-character-set=utf8mb4", address.name]
    with subprocess.Popen(
        client, env=_env(address), stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE
    ) as process:
        assert process.stdin is not None
        assert process.stderr is not None
        with gzip.GzipFile(fileobj=content) as packed:
            try:
                shutil.copyfileobj(packed, process.stdin, PIECE)
                process.stdin.close()
            except BrokenPipeError:
                pass  # it says why
        said = process.stderr.read().decode(errors="replace").strip()
    if process.returncode != 0:
        raise Unavailable(f"the data could not be written: {said or 'no reason given'}")


def _login(address: Address) -> list[str]:
    return [
        f"--host={address.host}", f"--port={address.port}", f"--user={address.user}",
        *(["--skip-ssl"] if address.local else []),
    ]  # fmt: skip


def _env(address: Address) -> dict[str, str]:
    """The password is in no list of processes."""
    return {**os.environ, "MYSQL_PWD": address.password}


def _empty(database: Database) -> None:
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("SHOW TABLES")
        tables: list[Any] = [next(iter(row.values())) for row in cursor.fetchall()]
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        for table in tables:
            cursor.execute(f"DROP TABLE `{table}`")
        cursor.execute("SET FOREIGN_KEY_CHECKS = 1")
