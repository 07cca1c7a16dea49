"""What a request is answered with: the house, and for whom it asks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import cast

from flask import current_app

from aretane.desk.house import House
from aretane.settings import Settings
from aretane.store.club import coach
from aretane.store.database import Db
from aretane.store.scope import Scope


@dataclass(frozen=True)
class Context:
    """`who` tells for whom a request asks: the one coach of this installation (loopback only: nobody else gets
    here).
    """

    settings: Settings
    house: House
    who: Callable[[Db], Scope] = coach


def context() -> Context:
    return cast(Context, current_app.extensions["aretane"])


def house() -> House:
    return context().house


def asking() -> Scope:
    """For whom this request asks."""
    return house().database.write(context().who)
