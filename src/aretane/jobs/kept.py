"""What a worker keeps between parts: a large input goes there once, and what is found out on it is not lost.

A part says by its key what it needs. A worker that does not have it says so, and is sent it with the next try; so
it makes no difference which of them, of this machine or of a cluster, takes a part.
"""

from __future__ import annotations

import pickle
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

K = TypeVar("K")
T = TypeVar("T")

MOST = 3  # that a worker keeps; the one that was not used for longest is forgotten

_here: OrderedDict[str, Any] = OrderedDict()


@dataclass(frozen=True)
class Kept(Generic[K]):
    """Something that workers keep: its key, and itself for a worker that lacks it; or here, its `value`."""

    key: str
    packed: bytes = b""
    value: K | None = None


class Missing(Exception):
    """This worker does not have it."""


def made(key: str, make: Callable[..., tuple[K, T]], *arguments: Any) -> tuple[Kept[K], T]:
    """In a worker: make something to be kept, and what is told about it."""
    value, told = make(*arguments)
    _note(key, value)
    return Kept(key, pickle.dumps(value)), told


def used(key: str, packed: bytes | None, work: Callable[..., T], *arguments: Any) -> T:
    """In a worker: `work` on what is kept under `key`. Raises `Missing` if it is neither here nor sent along."""
    if key not in _here:
        if packed is None:
            raise Missing(key)
        _note(key, pickle.loads(packed))
    _here.move_to_end(key)
    return work(_here[key], *arguments)


def _note(key: str, value: Any) -> None:
    _here[key] = value
    while len(_here) > MOST:
        _here.popitem(last=False)
