"""Where things lie. Everything that is made at run time is under one folder, `var/` unless told otherwise."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


@dataclass(frozen=True)
class Settings:
    var: Path
    database_url: str | None = None

    @classmethod
    def from_environment(cls) -> Settings:
        """`ARETANE_VAR` moves the folder; `ARETANE_DATABASE_URL` uses another MariaDB."""
        var = Path(os.environ.get("ARETANE_VAR") or ROOT / "var").resolve()
        return cls(var, os.environ.get("ARETANE_DATABASE_URL") or None)

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
