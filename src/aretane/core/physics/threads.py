"""Several threads at once: the kernels let go of the interpreter."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

T = TypeVar("T")
R = TypeVar("R")


def in_threads(work: Callable[[T], R], items: Sequence[T], threads: int) -> list[R]:
    """What `work` makes of each of the items, in their order."""
    if threads == 1 or len(items) < 2:
        return [work(item) for item in items]
    with ThreadPoolExecutor(threads) as pool:
        return list(pool.map(work, items))
