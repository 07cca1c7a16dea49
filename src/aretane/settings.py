"""Where things lie. Everything that is made at run time is under one folder, `var/` unless told otherwise."""

from __future__ import annotations

import hashlib
import os
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


@dataclass(frozen=True)
class Settings:
    var: Path
    database_url: str | None = None
    dask: str | None = None

    @classmethod
    def from_environment(cls) -> Settings:
        """`ARETANE_VAR` moves the folder; `ARETANE_DATABASE_URL` uses another MariaDB, `ARETANE_DASK` a cluster's
        scheduler for long work."""
        var = Path(os.environ.get("ARETANE_VAR") or ROOT / "var").resolve()
        return cls(var, os.environ.get("ARETANE_DATABASE_URL") or None, os.environ.get("ARETANE_DASK") or None)

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
