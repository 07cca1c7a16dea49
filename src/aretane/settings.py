"""Where things lie. Everything that is made at run time is under one folder, `var/` unless told otherwise."""

from __future__ import annotations

import hashlib
import os
from dataclasses import dataclass
from pathlib import Path

from aretane.core.errors import CannotStart

ROOT = Path(__file__).resolve().parents[2]


@dataclass(frozen=True)
class Settings:
    var: Path
    database_url: str | None = None
    dask: str | None = None
    room: int = 500_000_000_000
    judges: bool = True

    @classmethod
    def from_environment(cls) -> Settings:
        """`ARETANE_VAR` moves the folder; `ARETANE_DATABASE_URL` uses another MariaDB, `ARETANE_DASK` a cluster's
        scheduler for long work; `ARETANE_ROOM` is how many gigabytes of recordings a club may keep;
        `ARETANE_JUDGE=asked` judges a match only when somebody opens its verdict, not after each rack.

        Raises `CannotStart` for what cannot be meant.
        """
        told = os.environ
        room = told.get("ARETANE_ROOM") or "500"
        if not room.isdigit() or not 0 < int(room) < 1_000_000:
            raise CannotStart("ARETANE_ROOM must be a number of gigabytes, such as 500")
        judge = told.get("ARETANE_JUDGE") or "finished"
        if judge not in ("finished", "asked"):
            raise CannotStart("ARETANE_JUDGE must be finished or asked")
        return cls(
            judges=judge == "finished",
            var=Path(told.get("ARETANE_VAR") or ROOT / "var").resolve(),
            database_url=told.get("ARETANE_DATABASE_URL") or None,
            dask=told.get("ARETANE_DASK") or None,
            room=int(room) * 1_000_000_000,
        )

    @property
    def database(self) -> Path:
        return self.var / "database"

    @property
    def recordings(self) -> Path:
        return self.var / "recordings"

    @property
    def log(self) -> Path:
        return self.var / "log"

    @property
    def front_end(self) -> Path:
        return ROOT / "frontend" / "dist"


def use_kernel_cache() -> None:
    """Keep compiled kernels under var/, by the source that they came from. The package calls it
    first of all, because the compiler reads it once.

    The compiler's own cache looks at the file of the entry point alone and would miss a change in another one.
    """
    found = hashlib.sha256()
    core = ROOT / "src" / "aretane" / "core"
    kernels = [
        *(core / "physics").glob("*.py"),
        *(core / "planning").rglob("*_kernel.py"),
        core / "skill" / "effort.py",
    ]
    for file in sorted(kernels):
        found.update(file.read_bytes())
    os.environ.setdefault("NUMBA_CACHE_DIR", str(ROOT / "var" / "kernels" / found.hexdigest()[:16]))
